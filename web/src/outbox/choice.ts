import { commonEdits, type DesignEdit, editsOnTop } from '@kestfog/core/design';
import { type School, schoolParameters } from '@kestfog/core/steps';
import { canonicalText } from '@kestfog/core/units';
import type { BagRecord, ColourMix, DesignView, KitchenView, OrderInput, OrderView, SchoolView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
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
    return { differs: differsIn<School>(SCHOOL_ROWS, school, now), mine: { school, ...(now ? { basedOn: now.revision } : {}) } };
  }
  if (path.endsWith('/bags')) {
    const mine = body as BagRecord;
    const now = (await api<OrderView>(path.replace(/\/bags$/, ''))).bags.find(
      (b) => b.colour === mine.colour && b.seconds === mine.seconds,
    );
    return { differs: differsIn(BAG_ROWS, mine, now), mine: { ...mine, revision: now?.revision ?? 0 } };
  }
  if (path === '/colour-mixes') {
    const mine = body as ColourMix;
    const now = (await api<ColourMix[]>(path)).find((m) => m.recipe === mine.recipe && m.colour === mine.colour);
    return { differs: differsIn(MIX_ROWS, mine, now), mine: { ...mine, revision: now?.revision ?? 0 } };
  }
  const now = await api<OrderView>(path);
  const mine = body as OrderInput;
  const differs = changedFields(mine, now).map(({ key, what }) => ({ what, mine: mine[key], theirs: now[key] }));
  return { differs, mine: { ...mine, basedOn: now.revision } };
}

type Rows<T> = readonly (readonly [what: string, key: keyof T])[];
const SCHOOL_ROWS: Rows<School> = [[msg`its name`, 'label'], ...schoolParameters.map((p) => [p.label, p.key] as const)];
const BAG_ROWS: Rows<BagRecord> = [
  [msg`mixed, g`, 'mixedG'],
  [msg`counted, s`, 'countedS'],
  [msg`your word for it`, 'word'],
];
const MIX_ROWS: Rows<ColourMix> = [
  [msg`parts of gel`, 'parts'],
  [msg`gel in 100 g, g`, 'gelGPer100G'],
  ['note', 'note'],
];
const differsIn = <T>(rows: Rows<T>, mine: T, theirs: T | undefined): Difference[] =>
  rows.flatMap(([what, key]) =>
    canonicalText(mine[key]) === canonicalText(theirs?.[key] ?? null) ? [] : [{ what, mine: mine[key], theirs: theirs?.[key] }],
  );
