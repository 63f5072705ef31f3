import { type DesignEdit, editsOnTop } from '@kestfog/core/design';
import { canonicalText } from '@kestfog/core/units';
import type { DesignView, KitchenView, OrderInput, OrderView, SchoolView } from '@kestfog/core/wire';
import { api } from '../api/client.js';
import { KITCHEN_WORDS, type KitchenChange } from '../api/kitchen-change.js';
import { changedFields } from '../api/order-input.js';
import type { Entry } from './outbox.js';

/** A change that was refused because somebody else's had come first: where the two differ, and mine as it would be sent over theirs. */
export interface Choice {
  readonly differs: readonly string[];
  readonly mine: unknown;
}

const idIn = (path: string): string => path.split('/')[2] ?? '';

/** Looks up what is there now. Throws what the server says where it is gone, or does not answer. */
export async function choiceOf({ request: { path, body } }: Entry): Promise<Choice> {
  if (path.startsWith('/designs/')) {
    const { document } = await api<DesignView>(path);
    const { edits } = body as { edits: readonly DesignEdit[] };
    const mine = editsOnTop(edits, document.edits);
    const own = mine.length - document.edits.length;
    return { differs: [own === 1 ? 'one edit of mine' : `${own} edits of mine`], mine: { edits: mine } };
  }
  if (path === '/kitchen') {
    const { revision, ...now } = await api<KitchenView>(path);
    const { revision: _, ...mine } = body as KitchenChange;
    const fields = (Object.keys(mine) as (keyof typeof now)[]).filter((f) => canonicalText(mine[f]) !== canonicalText(now[f]));
    return { differs: fields.map((f) => KITCHEN_WORDS[f]), mine: { ...mine, revision } };
  }
  if (path.startsWith('/schools/')) {
    const now = (await api<SchoolView[]>('/schools')).find((s) => s.id === idIn(path));
    const { school } = body as { school: SchoolView };
    return { differs: [`${school.label} and ${now?.label ?? 'a school that is gone'}`], mine: { school, ...(now ? { basedOn: now.revision } : {}) } };
  }
  const now = await api<OrderView>(path);
  const mine = body as OrderInput;
  return { differs: changedFields(mine, now), mine: { ...mine, basedOn: now.revision } };
}
