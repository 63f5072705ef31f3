import type { DropWay } from '../design/technique-names.js';
import type { DryingState, Region } from '../drying/state.js';
import type { StepId } from '../units/id.js';
import type { TechniqueId, TechniqueKind } from './techniques/index.js';
import type { Why } from './why.js';

/** A piping bag: one colour at one consistency. */
export interface Bag {
  /** #rrggbb */
  readonly colour: string;
  /** reference seconds */
  readonly seconds: number;
}
export const bagKey = (bag: Bag): string => `${bag.colour}-${bag.seconds}`;
/** Several bags taken up together. */
export const bagsKey = (bags: readonly Bag[]): string => bags.map(bagKey).join('+');

/** One motion (or a run of like motions) on ONE cookie. */
export interface Step {
  readonly id: StepId;
  readonly technique: TechniqueId;
  readonly kind: TechniqueKind;
  /** section, line or mark it works on; `cookie` for the whole */
  readonly part: string;
  /** every part it covers */
  readonly parts: readonly string[];
  readonly label: string;
  /** round of drying it belongs to; 0 before any icing */
  readonly round: number;
  /** floods of one round that must come one after the other: small pools a few at a time, what is to follow grains */
  readonly batch: number;
  /** hands-on seconds for one cookie, without picking it up */
  readonly seconds: number;
  /** the icing it uses; null for tools */
  readonly bag: Bag | null;
  /** the section (for a drop into a bead: the bead) that is wet while this is done, if any */
  readonly sectionId: string | null;
  /** everything wet it lies in, {@link sectionId} first; a drag may cross several that are flush */
  readonly inside: readonly string[];
  /** what its icing leaves the bag through: as the part says, else the nearest of the kitchen's tips, else a snip */
  readonly tip?: string;
  readonly openingMm?: number;
  /** icing it lays on one cookie, ml; absent for tools */
  readonly ml?: number;
  /** how it is laid, where there is more than one way */
  readonly way?: DropWay;
  /** how far short of its line a flood stops; rings of a dam */
  readonly edgeMm?: number;
  readonly rings?: 1 | 2;
  /** the body of icing it leaves to dry, if any */
  readonly region: Region | null;
}

/** Whether wet work goes into a body of icing, adds to it and breaks its skin: only then is it left alone to dry. */
export const disturbs = (s: Step, body: Step): boolean =>
  s.kind === 'mark' && body.kind !== 'dam' && s.inside.some((id) => body.parts.includes(id));

/** A wait or a window between two steps on one cookie. States and losses are those of the body that `from` left. */
export interface Gap extends Why {
  readonly from: StepId;
  readonly to: StepId;
  readonly minState?: DryingState;
  /** water (kg/m²) lost by then, at the median */
  readonly minLossKgPerM2?: number;
  /** water by which the same body is firm, at the median: a wait for a lesser state asks for no more */
  readonly firmLossKgPerM2?: number;
  readonly minSeconds?: number;
  /** the later step must END before this */
  readonly maxState?: DryingState;
  readonly maxLossKgPerM2?: number;
  readonly maxSeconds?: number;
  /** where a neighbour that has dried through is feared: water by which it has; the later step ends before that if it can */
  readonly ratherBeforeLossKgPerM2?: number;
  /** both ends are one body's own: they share one factor, so the window is planned at the medians, shrunk */
  readonly oneBody?: true;
  /** held to the careful quantile whatever the order's margin: pens and stencils */
  readonly careful?: true;
}
