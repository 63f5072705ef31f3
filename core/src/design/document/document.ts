import { canonicalText } from '../../units/canonical.js';
import type { Movement } from '../arrange.js';
import type { Division } from '../divide.js';
import type { PatternAsk, PatternId } from '../patterns/index.js';
import type { DetailTechnique, MarkTechnique, Ordering, SectionTechnique } from '../technique-names.js';

/** What is done to a design, kept for good: undo and redo are events too. Several things done at once are undone at once. */
export type DesignEdit = SingleEdit | { readonly type: 'together'; readonly edits: readonly SingleEdit[] };

export type SingleEdit =
  | { readonly type: 'rename'; readonly name: string }
  /** real width of the baked cookie */
  | { readonly type: 'resize'; readonly widthMm: number }
  /** attributes of a part, as a drawing's data- attributes; an empty string takes one back */
  | {
      readonly type: 'say';
      readonly part: string;
      readonly said: Readonly<Record<string, string>>;
      /** of a pattern only the layer that has this colour */
      readonly ofColour?: string | undefined;
    }
  /** a part goes to another place of the stack: before another part, or to the end */
  | { readonly type: 'move'; readonly part: string; readonly before: string | null }
  | { readonly type: 'remove'; readonly part: string }
  | {
      readonly type: 'pattern';
      readonly id: string;
      readonly sectionId: string;
      readonly pattern: PatternId;
      readonly ask: PatternAsk;
      /** main colour first, then those of patterns that stack */
      readonly colours: readonly string[];
      readonly seconds: number | null;
    }
  | { readonly type: 'divide'; readonly sectionId: string; readonly division: Division; readonly colours: readonly string[] }
  | {
      readonly type: 'detail';
      readonly id: string;
      readonly name: string;
      readonly technique: DetailTechnique;
      readonly points: readonly { readonly x: number; readonly y: number }[];
      readonly closed: boolean;
      readonly area: boolean;
      readonly colour: string;
      readonly widthMm: number;
    }
  /** piped by hand on the screen: one operation, in as many strokes as its symmetry or its letters make of it */
  | {
      readonly type: 'draw';
      readonly id: string;
      readonly name: string;
      /** a guide is followed by the hands later, and is no piping itself */
      readonly technique: SectionTechnique | MarkTechnique | DetailTechnique | 'guide';
      readonly strokes: readonly DrawnStroke[];
      /** the strokes go round areas that are filled */
      readonly area: boolean;
      /** a flood laid on others as a second layer, not let into them */
      readonly layer: boolean;
      readonly colour: string;
      readonly widthMm: number;
      /** the words it spells, where it is lettering */
      readonly spells?: string | undefined;
    }
  /** a pattern laid before gets other numbers, colours or marks, and stays where it was in the order of things done */
  | {
      readonly type: 'pattern-again';
      readonly id: string;
      readonly pattern: PatternId;
      readonly ask: PatternAsk;
      readonly colours: readonly string[];
      readonly seconds: number | null;
    }
  /** a part divided before is divided otherwise; its pieces keep their names and what was said of them */
  | { readonly type: 'divide-again'; readonly sectionId: string; readonly division: Division }
  /** the marks of a pattern become parts of their own */
  | { readonly type: 'set-free'; readonly part: string }
  /** parts go elsewhere, larger or smaller, turned or mirrored, with what lies wet in them */
  | { readonly type: 'arrange'; readonly moves: readonly Movement[] }
  /** a part once more, elsewhere, with what lies wet in it */
  | { readonly type: 'copy'; readonly part: string; readonly id: string; readonly matrix: Movement['matrix'] }
  /** the islands of an area become parts of their own, under its name with a number */
  | { readonly type: 'part-islands'; readonly part: string }
  /** areas become one, named and coloured as the first */
  | { readonly type: 'unite'; readonly parts: readonly string[] }
  /** what others cover is taken out of an area, with a gap round it */
  | { readonly type: 'cut-out'; readonly part: string; readonly by: readonly string[]; readonly gapMm: number }
  | { readonly type: 'first'; readonly first: string; readonly next: string }
  | { readonly type: 'either'; readonly a: string; readonly b: string }
  | { readonly type: 'recolour'; readonly from: string; readonly to: string }
  | { readonly type: 'transfer'; readonly on: boolean }
  /** which parts come first where the order is free */
  | { readonly type: 'ordering'; readonly ordering: Ordering }
  | { readonly type: 'undo' }
  | { readonly type: 'redo' };

export interface DrawnStroke {
  readonly points: readonly { readonly x: number; readonly y: number }[];
  readonly closed: boolean;
}

/** `kestfog-design/3`: a drawing and everything said and done to it since. */
export interface DesignDocument {
  readonly format: 'kestfog-design/3';
  readonly name: string;
  readonly svg: string;
  readonly edits: readonly DesignEdit[];
}

export const MAX_EDITS = 5000;
/** So many things are done at once, at most. */
export const MOST_TOGETHER = 400;

/** Things done at once as one edit, so that they are undone at once; as several where they are more than one edit holds. */
export function doneTogether(edits: readonly SingleEdit[]): DesignEdit[] {
  if (edits.length < 2) return [...edits];
  const out: DesignEdit[] = [];
  for (let i = 0; i < edits.length; i += MOST_TOGETHER) out.push({ type: 'together', edits: edits.slice(i, i + MOST_TOGETHER) });
  return out;
}

/** The edits that stand once undo and redo are counted, and how many can still be redone. */
export function standingEdits(edits: readonly DesignEdit[]): { readonly standing: readonly DesignEdit[]; readonly redoable: number } {
  const standing: DesignEdit[] = [];
  let undone: DesignEdit[] = [];
  for (const e of edits) {
    if (e.type === 'undo') {
      const last = standing.pop();
      if (last) undone.push(last);
    } else if (e.type === 'redo') {
      const again = undone.pop();
      if (again) standing.push(again);
    } else {
      standing.push(e);
      undone = [];
    }
  }
  return { standing, redoable: undone.length };
}

/**
 * The edits one by one, with every later change of a pattern or a division written into the edit that made it. What was done
 * in between is done to what it has become.
 */
export function amended(standing: readonly DesignEdit[]): readonly SingleEdit[] {
  const singles = standing.flatMap((e) => (e.type === 'together' ? e.edits : [e]));
  if (!singles.some((e) => e.type === 'pattern-again' || e.type === 'divide-again')) return singles;
  const out: SingleEdit[] = [];
  for (const e of singles) {
    const made = out.findLastIndex((x) =>
      e.type === 'pattern-again'
        ? x.type === 'pattern' && x.id === e.id
        : e.type === 'divide-again' && x.type === 'divide' && x.sectionId === e.sectionId,
    );
    const before = out[made];
    if (e.type === 'pattern-again' && before?.type === 'pattern') out[made] = { ...e, type: 'pattern', sectionId: before.sectionId };
    else if (e.type === 'divide-again' && before?.type === 'divide') out[made] = { ...before, division: e.division };
    else out.push(e);
  }
  return out;
}

/** How many edits two lists begin with alike. */
export function commonEdits(one: readonly DesignEdit[], other: readonly DesignEdit[]): number {
  const differs = one.findIndex((e, i) => canonicalText(e) !== canonicalText(other[i]));
  return differs < 0 ? one.length : differs;
}
/** Whether `more` begins with all of `edits`. */
export const editsGoOn = (more: readonly DesignEdit[], edits: readonly DesignEdit[]): boolean => commonEdits(edits, more) === edits.length;

/** Edits of one device on top of another's, where both went on from the same: what stands of the first follows all of the second. */
export const editsOnTop = (mine: readonly DesignEdit[], theirs: readonly DesignEdit[]): DesignEdit[] => [
  ...theirs,
  ...standingEdits(mine.slice(commonEdits(mine, theirs))).standing,
];

/** What may be said of a part: the names of a drawing's attributes without "data-". */
export const SAYABLE = [
  ...['name', 'colour', 'seconds', 'grade', 'depth-mm', 'technique', 'part', 'over', 'flush'],
  ...['needs', 'wait-min', 'within-min', 'after', 'first', 'guide', 'guides', 'dam', 'dam-colour'],
  ...['tip', 'opening-mm', 'edge-mm', 'fill', 'drop', 'wash-after', 'tool', 'group'],
] as const;
