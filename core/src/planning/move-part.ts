import { bodiesOfMark, type Design, partById } from '../design/design.js';
import type { DesignDocument, DesignEdit } from '../design/document/document.js';
import { foldDesign } from '../design/document/fold.js';
import { deriveSteps, type StepGraph } from '../steps/derive.js';
import type { School } from '../steps/school.js';
import type { Gap } from '../steps/step.js';
import { type Why, whyOf } from '../steps/why.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';

/** What moving a part in the stack does: the edits that do it and what follows, or why it is refused. */
export type Moved =
  | { readonly ok: true; readonly edits: readonly DesignEdit[]; readonly effect: MoveEffect }
  | { readonly ok: false; readonly refused: BadInput };

export interface MoveEffect {
  /** name of the part that was moved, or the two parts whose order is kept as the user's own word */
  readonly moved: string | { readonly first: string; readonly next: string };
  /** rounds of drying it takes more than before; fewer where negative */
  readonly moreRounds: number;
  /** the first wait that came, else the first that went */
  readonly now: Why | null;
  readonly noLonger: Why | null;
}

const refused = (sentence: string): Moved => ({ ok: false, refused: new BadInput('move', sentence) });

/**
 * A part (with all that is piped in one go with it) put before another of the stack, or at the end. Where the stack's
 * order says nothing of the two, since they lie side by side, the order is kept as the user's own word.
 */
export function movePart(doc: DesignDocument, school: School, parts: readonly string[], before: string | null): Moved {
  const design = foldDesign(doc);
  const [first] = parts;
  const own = first === undefined ? undefined : partById(design, first);
  if (!own) return refused(msg`It is not there any more.`);
  const target = before === null ? undefined : partById(design, before);
  if (own.role === 'mark') {
    const shares = target?.role === 'mark' && bodiesOfMark(target).some((id) => bodiesOfMark(own).includes(id));
    if (before !== null && !shares)
      return refused(msg`${own.name} is laid while ${nameOf(design, own.sectionId)} is wet, so it stays with it.`);
  }
  const names = [...new Set(parts.map((id) => (own.role === 'mark' ? id.replace(/\.\d+$/, '') : id)))];
  const to = before === null ? null : target?.role === 'mark' ? before.replace(/\.\d+$/, '') : before;
  const moves = names.map((part): DesignEdit => ({ type: 'move', part, before: to }));
  const graph = deriveSteps(design, school);
  const stacked = tried(doc, school, design, moves);
  if (stacked instanceof BadInput) return { ok: false, refused: stacked };
  const effect = effectOf(own.name, graph, stacked);
  if (effect) return { ok: true, edits: moves, effect };
  if (own.role === 'mark') return refused(msg`Nothing follows from moving ${own.name}: it is laid in the same order all the same.`);
  // Side by side the stack says nothing: what was meant is an order of one's own.
  const next = target ?? design.parts.filter((p) => p.role === own.role && !parts.includes(p.id)).at(-1);
  if (!next || next.role === 'mark') return refused(msg`Nothing follows from moving ${own.name}: it meets nothing that it was moved past.`);
  const order: DesignEdit =
    before === null ? { type: 'first', first: next.id, next: own.id } : { type: 'first', first: own.id, next: next.id };
  const said = tried(doc, school, design, [order]);
  if (said instanceof BadInput) return { ok: false, refused: said };
  const [a, b] = before === null ? [next.name, own.name] : [own.name, next.name];
  const follows = effectOf({ first: a, next: b }, graph, said);
  return follows ? { ok: true, edits: [order], effect: follows } : refused(msg`Nothing follows from that: ${a} comes before ${b} already.`);
}

const nameOf = (design: Design, id: string) => partById(design, id)?.name ?? id;

function tried(doc: DesignDocument, school: School, was: Design, edits: readonly DesignEdit[]): StepGraph | BadInput {
  try {
    const design = foldDesign({ ...doc, edits: [...doc.edits, ...edits] });
    const hidden = was.parts.find((p) => !partById(design, p.id));
    if (hidden) return new BadInput('move', msg`It cannot go there: ${hidden.name} would be wholly covered by what is laid over it.`);
    return deriveSteps(design, school);
  } catch (error) {
    if (error instanceof BadInput) return error;
    throw error;
  }
}

/** What changed between two orders of one cookie; null where nothing did. */
function effectOf(moved: MoveEffect['moved'], was: StepGraph, is: StepGraph): MoveEffect | null {
  const keyOf = (g: Gap) => `${g.from} > ${g.to} ${g.minState ?? ''} ${g.minLossKgPerM2 ?? ''} ${g.minSeconds ?? ''} ${g.maxState ?? ''}`;
  const old = new Set(was.gaps.map(keyOf));
  const now = new Set(is.gaps.map(keyOf));
  const come = is.gaps.filter((g) => !old.has(keyOf(g)) && g.rule !== 'prepared-first');
  const gone = was.gaps.filter((g) => !now.has(keyOf(g)) && g.rule !== 'prepared-first');
  const more = is.rounds - was.rounds;
  if (come.length === 0 && gone.length === 0 && more === 0) return null;
  return { moved, moreRounds: more, now: come[0] ? whyOf(come[0]) : null, noLonger: gone[0] ? whyOf(gone[0]) : null };
}
