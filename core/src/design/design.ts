import type { Point } from '../geometry/point.js';
import type { Shape } from '../geometry/shape.js';
import type { DetailTechnique, MarkTechnique, SectionTechnique } from './technique-names.js';

/** A cookie's decoration in millimetres, read from a drawing. Plain data: it travels between server and page as it is. */
export interface Design {
  readonly name: string;
  /** outline of the baked cookie */
  readonly cookie: Shape;
  /** in the order of layers, behind before in front */
  readonly sections: readonly Section[];
  readonly lines: readonly PipedLine[];
  readonly marks: readonly WetMark[];
  /** every guess made and everything skipped, in words */
  readonly notes: readonly DesignNote[];
  /** sections the user wants flooded before others: [first, then] */
  readonly before?: readonly (readonly [string, string])[];
  /** true for a piece piped on parchment, to be lifted and glued or laid in later */
  readonly transfer?: boolean;
}

/** An area flooded with icing. */
export interface Section {
  readonly id: string;
  readonly name: string;
  /** after inlays lying on it were knocked out */
  readonly shape: Shape;
  /** #rrggbb */
  readonly colour: string;
  /** consistency the drawing asks for, reference seconds; undefined leaves it to the school */
  readonly seconds?: number;
  readonly depthMm: number;
  /** sections this one lies on as a second layer */
  readonly layerOn: readonly string[];
  /** how it is covered; a flood where nothing is said */
  readonly technique?: SectionTechnique;
  /** touching sections it is meant to lie level with: flooded together, while both are wet */
  readonly flushWith?: readonly string[];
}

/** Something done on what is there already: a bead, a pen line, a stencilled or dusted area, a crackled one. */
export interface PipedLine {
  readonly id: string;
  readonly name: string;
  readonly points: readonly Point[];
  readonly closed: boolean;
  readonly colour: string;
  readonly widthMm: number;
  readonly seconds?: number;
  readonly technique: DetailTechnique;
  /** the points go round an area that is filled, not along a line */
  readonly area?: boolean;
  /** sections it rests on; empty on the bare cookie */
  readonly restsOn: readonly string[];
}

/** Something done on a section while it is wet. */
export interface WetMark {
  readonly id: string;
  readonly name: string;
  readonly technique: MarkTechnique;
  readonly sectionId: string;
  /** outline of a drop (closed) or the way of a line or a scribe */
  readonly points: readonly Point[];
  readonly closed: boolean;
  readonly colour: string;
  readonly widthMm: number;
  readonly seconds?: number;
}

export interface DesignNote {
  readonly code: 'guessed' | 'skipped' | 'repaired';
  /** id of the element, or its tag */
  readonly place: string;
  readonly text: string;
}

/** The same design with some colours taken from another's bag. */
export function recoloured(design: Design, merges: readonly { readonly from: string; readonly to: string }[]): Design {
  if (merges.length === 0) return design;
  const as = <T extends { readonly colour: string }>(x: T): T => {
    const merge = merges.find((m) => m.from === x.colour);
    return merge ? { ...x, colour: merge.to } : x;
  };
  return { ...design, sections: design.sections.map(as), lines: design.lines.map(as), marks: design.marks.map(as) };
}
