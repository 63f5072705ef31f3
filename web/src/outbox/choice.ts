import { commonEdits, type DesignEdit, editsOnTop } from '@kestfog/core/design';
import { type School, schoolParameters } from '@kestfog/core/steps';
import { canonicalText } from '@kestfog/core/units';
import type { DesignView, KitchenView, OrderInput, OrderView, SchoolView } from '@kestfog/core/wire';
import { api } from '../api/client.js';
import { KITCHEN_WORDS, type KitchenChange } from '../api/kitchen-change.js';
import { changedFields } from '../api/order-input.js';
import type { Entry } from './outbox.js';

/** A change that was refused because somebody else's had come first: where the two differ, and mine as it would be sent over theirs. */
export interface Choice {
  readonly differs: readonly Difference[];
  readonly mine: unknown;
}
export interface Difference {
  readonly what: string;
  readonly mine: unknown;
  readonly theirs: unknown;
}

const idIn = (path: string): string => path.split('/')[2] ?? '';

/** Looks up what is there now. Throws what the server says where it is gone, or does not answer. */
export async function choiceOf({ request: { path, body } }: Entry): Promise<Choice> {
  if (path.startsWith('/designs/')) {
    const { document } = await api<DesignView>(path);
    const { edits } = body as { edits: readonly DesignEdit[] };
    const mine = editsOnTop(edits, document.edits);
    const own = mine.length - document.edits.length;
    const theirs = document.edits.length - commonEdits(document.edits, edits);
    return { differs: [{ what: 'edits', mine: own, theirs }], mine: { edits: mine } };
  }
  if (path === '/kitchen') {
    const { revision, ...now } = await api<KitchenView>(path);
    const { revision: _, ...mine } = body as KitchenChange;
    const fields = (Object.keys(mine) as (keyof typeof now)[]).filter((f) => canonicalText(mine[f]) !== canonicalText(now[f]));
    return { differs: fields.map((f) => ({ what: KITCHEN_WORDS[f], mine: mine[f], theirs: now[f] })), mine: { ...mine, revision } };
  }
  if (path.startsWith('/schools/')) {
    const now = (await api<SchoolView[]>('/schools')).find((s) => s.id === idIn(path));
    const { school } = body as { school: SchoolView };
    return { differs: differsInSchool(school, now), mine: { school, ...(now ? { basedOn: now.revision } : {}) } };
  }
  const now = await api<OrderView>(path);
  const mine = body as OrderInput;
  const differs = changedFields(mine, now).map(({ key, what }) => ({ what, mine: mine[key], theirs: now[key] }));
  return { differs, mine: { ...mine, basedOn: now.revision } };
}

function differsInSchool(mine: SchoolView, theirs: SchoolView | undefined): Difference[] {
  const rows: readonly (readonly [string, keyof School])[] = [['its name', 'label'], ...schoolParameters.map((p) => [p.label, p.key] as const)];
  return rows.flatMap(([what, key]) => (mine[key] === theirs?.[key] ? [] : [{ what, mine: mine[key], theirs: theirs?.[key] }]));
}
