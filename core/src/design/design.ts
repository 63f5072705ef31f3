import type { Point } from '../geometry/point.js';
import type { Shape } from '../geometry/shape.js';
import type { DetailTechnique, GuideKind, MarkTechnique, Ordering, SectionTechnique } from './technique-names.js';
import type { Words } from './words.js';

/** A flood is as deep where the drawing does not say. */
export const DEFAULT_FLOOD_DEPTH_MM = 2.5;

/** A cookie's decoration in millimetres, read from a drawing. Plain data: it travels between server and page as it is. */
export interface Design {
  readonly name: string;
  /** outline of the baked cookie */
  readonly cookie: Shape;
  /** one stack, in the order of laying: behind before in front */
  readonly parts: readonly Part[];
  /** every guess made and everything skipped, in words */
  readonly notes: readonly DesignNote[];
  /** parts the user wants done before others: [first, then] */
  readonly before?: readonly (readonly [string, string])[];
  /** which parts come first where the order is free; extremities where nothing is said */
  readonly ordering?: Ordering;
  /** true for a piece piped on parchment, to be lifted and glued or laid in later */
  readonly transfer?: boolean;
}

/** Anything done at a place of the cookie. */
export type Part = Section | PipedLine | WetMark | Guide;

interface AnyPart {
  readonly id: string;
  readonly name: string;
  /** #rrggbb */
  readonly colour: string;
  /** consistency the drawing asks for, reference seconds; undefined leaves it to the school */
  readonly seconds?: number;
  readonly words?: Words;
  /** parts chosen and moved together */
  readonly group?: string;
}

/** An area flooded with icing. */
export interface Section extends AnyPart {
  readonly role: 'section';
  /** after inlays lying on it were knocked out */
  readonly shape: Shape;
  /** as it was drawn; what lies over it in the drawing comes after it */
  readonly drawn: Shape;
  readonly depthMm: number;
  /** sections this one lies on as a second layer */
  readonly layerOn: readonly string[];
  /** how it is covered; a flood where nothing is said */
  readonly technique?: SectionTechnique;
  /** touching sections it is meant to lie level with: flooded together, while both are wet */
  readonly flushWith?: readonly string[];
}

/** Something done on what is there already: a bead, a pen line, a stencilled or dusted area, a crackled one. */
export interface PipedLine extends AnyPart {
  readonly role: 'line';
  readonly points: readonly Point[];
  readonly closed: boolean;
  readonly widthMm: number;
  readonly technique: DetailTechnique;
  /** the points go round an area that is filled, not along a line */
  readonly area?: boolean;
  /** what is cut out of that area */
  readonly holes?: Shape;
  /** sections it rests on; empty on the bare cookie */
  readonly restsOn: readonly string[];
  /** parts it guides, where it is a template traced */
  readonly guides?: readonly string[];
}

/** Something done in icing while that is wet. */
export interface WetMark extends AnyPart {
  readonly role: 'mark';
  readonly technique: MarkTechnique;
  /** the section, or the bead, it lies in */
  readonly sectionId: string;
  /** further sections it lies in, flush with that one */
  readonly alsoIn?: readonly string[];
  /** outline of a drop (closed) or the way of a line or a scribe */
  readonly points: readonly Point[];
  readonly closed: boolean;
  readonly widthMm: number;
}

/** What the hands follow later: traced, scratched, ruled, projected. */
export interface Guide extends AnyPart {
  readonly role: 'guide';
  readonly kind: GuideKind;
  readonly points: readonly Point[];
  readonly closed: boolean;
  /** parts it guides; where nobody is named, every later part that overlaps it */
  readonly guides?: readonly string[];
  /** sections that bear it; empty on the bare cookie */
  readonly restsOn: readonly string[];
}

export interface DesignNote {
  readonly code: 'guessed' | 'skipped' | 'repaired';
  /** id of the element, or its tag */
  readonly place: string;
  readonly text: string;
  /** of a guess: what is said of the part if it was right, and what if it was not, in words */
  readonly answers?: {
    readonly right: Readonly<Record<string, string>>;
    readonly otherwise: { readonly label: string; readonly said: Readonly<Record<string, string>> };
  };
}

/** What has parts in the order of laying. */
export type Stack = Pick<Design, 'parts'>;
/** The flooded areas of a stack, in its order. */
export const sectionsOf = (d: Stack): readonly Section[] => d.parts.filter((p): p is Section => p.role === 'section');
/** What is done on what is there already, in the stack's order. */
export const linesOf = (d: Stack): readonly PipedLine[] => d.parts.filter((p): p is PipedLine => p.role === 'line');
/** What is done in wet icing, in the stack's order. */
export const marksOf = (d: Stack): readonly WetMark[] => d.parts.filter((p): p is WetMark => p.role === 'mark');
const partsByIdKnown = new WeakMap<readonly Part[], ReadonlyMap<string, Part>>();
/** A part by its id, through an index that is made once for each list of parts. */
export function partById({ parts }: Stack, id: string): Part | undefined {
  let index = partsByIdKnown.get(parts);
  if (!index) {
    index = new Map(parts.map((p) => [p.id, p]));
    partsByIdKnown.set(parts, index);
  }
  return index.get(id);
}
export function sectionById(d: Stack, id: string): Section | undefined {
  const part = partById(d, id);
  return part?.role === 'section' ? part : undefined;
}

/** Everything wet a mark lies in. */
export const bodiesOfMark = (m: WetMark): readonly string[] => [m.sectionId, ...(m.alsoIn ?? [])];

/** The same design with some colours taken from another's bag. */
export function recoloured(design: Design, merges: readonly { readonly from: string; readonly to: string }[]): Design {
  if (merges.length === 0) return design;
  const as = <T extends Part>(x: T): T => {
    const of = (colour: string) => merges.find((m) => m.from === colour)?.to ?? colour;
    const damColour = x.words?.damColour;
    return { ...x, colour: of(x.colour), ...(damColour === undefined ? {} : { words: { ...x.words, damColour: of(damColour) } }) };
  };
  return { ...design, parts: design.parts.map(as) };
}
