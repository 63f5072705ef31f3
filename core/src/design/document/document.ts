import { canonicalText } from '../../units/canonical.js';
import type { Division } from '../divide.js';
import type { PatternAsk, PatternId } from '../patterns/index.js';
import type { DetailTechnique, MarkTechnique, Ordering, SectionTechnique } from '../technique-names.js';

/** One thing done to a design, kept for good: undo and redo are events too. */
export type DesignEdit =
  | { readonly type: 'rename'; readonly name: string }
  /** real width of the baked cookie */
  | { readonly type: 'resize'; readonly widthMm: number }
  /** attributes of a part, as a drawing's data- attributes; an empty string takes one back */
  | { readonly type: 'say'; readonly part: string; readonly said: Readonly<Record<string, string>> }
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
      readonly technique: SectionTechnique | MarkTechnique | DetailTechnique;
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
  ...['tip', 'opening-mm', 'edge-mm', 'fill', 'drop', 'wash-after', 'tool'],
] as const;
