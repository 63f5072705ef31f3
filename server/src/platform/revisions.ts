import { canonicalText } from '@kestfog/core/units';
import type { DeepPartial, EntityTarget, FindOptionsWhere, ObjectLiteral, Repository } from 'typeorm';
import { changedElsewhere } from './errors.js';

/**
 * Keeps a row under its key, new or changed, and counts the change. One that goes on from a revision that is there no more is refused with
 * `refusal`, so that nobody else's change is overwritten, unless it is the same; without a revision whatever is there is changed.
 */
export async function keptOnTop<E extends ObjectLiteral & { revision: number }>(
  rows: Repository<E>,
  entity: EntityTarget<E>,
  key: FindOptionsWhere<E>,
  said: object,
  basedOn: number | undefined,
  refusal: string,
): Promise<void> {
  await rows.manager.transaction(async (m) => {
    const known = await m.findOne(entity, { where: key, lock: { mode: 'pessimistic_write' } });
    if (basedOn !== undefined && basedOn !== (known?.revision ?? 0)) {
      // Sent again because its answer was lost, it is there already.
      if (known && Object.entries(said).every(([field, value]) => canonicalText(known[field]) === canonicalText(value))) return;
      throw changedElsewhere(refusal);
    }
    const revision = (known?.revision ?? 0) + 1;
    const row = { ...key, ...said, revision } as unknown as DeepPartial<E>;
    await m.upsert(entity, row as never, Object.keys(key));
  });
}
