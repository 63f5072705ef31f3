import type { Design } from '../design/design.js';
import type { Air } from '../drying/air.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { StepGraph } from '../steps/derive.js';
import type { Bag, Gap } from '../steps/step.js';
import type { TechniqueId, TechniqueKind } from '../steps/techniques/index.js';
import type { StayPlace, StayReason, Why } from '../steps/why.js';
import type { DesignId, LotId, StayId, StepId, TaskId, TrayId } from '../units/id.js';
import type { OrderFile } from './order.js';

/** `kestfog-plan/4`: every task with its time, tray, cookies and bags, and why it waits. Seconds since the epoch. */
export interface Plan {
  readonly format: 'kestfog-plan/4';
  readonly modelVersion: string;
  readonly epoch: string | null;
  readonly school: string;
  readonly margin: Margin;
  /** what was believed of the kitchen's thresholds when it was planned */
  readonly factors: Factors;
  readonly air: Air;
  readonly fanAir: Air | null;
  readonly dehydratorAir: Air | null;
  /** what it was planned from */
  readonly order: OrderFile;
  /** how the cookies were put on the trays, and what else was tried */
  readonly arrangement: Arrangement;
  readonly openingHours: readonly (readonly [number, number])[];
  readonly packBy: number | null;
  readonly endS: number;
  /** what is packed after it is due; null where all is in time */
  readonly late: Late | null;
  /** trays on which a flood ends after its neighbour has dried through, though that is feared; left out where there is none */
  readonly driedThrough?: readonly DriedThrough[];
  readonly proven: boolean;
  /** no plan for this problem can end earlier */
  readonly lowerBoundS: number;
  readonly handsOnS: number;
  readonly designs: readonly PlanDesign[];
  readonly trays: readonly { readonly id: TrayId; readonly places: number | null; readonly lots: readonly Lot[] }[];
  readonly tasks: readonly PlanTask[];
  readonly stays: readonly Stay[];
  readonly waits: readonly PlanWait[];
}

/** By how much the latest cookies miss the time they are due. */
export interface Late {
  readonly designId: DesignId;
  readonly byS: number;
  /** the bench closes for the last time, the order is due, or the design on its own */
  readonly after: 'closing' | 'due' | 'own-due';
  /** no plan with the cookies on these trays packs everything in time, whatever stays are chosen */
  readonly proven: boolean;
}

/** The worst of a lot: how long after its neighbour has dried through a flood ends, reckoned as the plan does. */
export interface DriedThrough {
  readonly trayId: TrayId;
  readonly lotId: LotId;
  readonly byS: number;
}

export interface PlanDesign {
  readonly id: DesignId;
  readonly file: string;
  readonly count: number;
  readonly spares: number;
  readonly packBy: number | null;
  readonly for: string | null;
  readonly pieces: boolean;
  readonly graph: StepGraph;
  /** the drawing as it was planned with */
  readonly drawing: Design;
}

export type { StayPlace, StayReason };

/** Ways to put cookies on trays: as they were listed, laborious designs begun first, or laborious beside easy on each tray. */
export const arrangementWays = ['as-listed', 'laborious-first', 'mixed'] as const;
export type ArrangementWay = (typeof arrangementWays)[number];
export interface Arrangement {
  readonly way: ArrangementWay;
  /** when a quick plan with each way would end, seconds; null where it does not fit the trays, or leaves a tray empty that is insisted on */
  readonly tried: readonly { readonly way: ArrangementWay; readonly endS: number | null }[];
}

/** Where a cookie lies on its tray: the middle of its outline's bounding box, mm from the tray's corner; turned by a right angle or not. */
export interface CookieAt {
  readonly xMm: number;
  readonly yMm: number;
  readonly turned: boolean;
}

/** Cookies of one design on one tray. */
export interface Lot {
  readonly id: LotId;
  readonly trayId: TrayId;
  readonly designId: DesignId;
  readonly cookies: number;
  /** place on the tray of its first cookie */
  readonly firstPlace: number;
  /** where each cookie lies, on a tray that is given by its size */
  readonly at?: readonly CookieAt[];
}

export interface PlanTask {
  readonly id: TaskId;
  /** whose hands */
  readonly by: string;
  readonly kind: 'prepare' | 'outline' | 'wet' | 'detail' | 'pack' | 'carry' | 'take-out';
  readonly trayId: TrayId;
  readonly lotId: LotId | null;
  /** half-open range of cookies of the lot */
  readonly cookies: readonly [number, number];
  readonly round: number;
  /** where it comes among what is done in that round before its tray goes to dry */
  readonly batch: number;
  readonly title: string;
  readonly startS: number;
  readonly endS: number;
  readonly bags: readonly Bag[];
  readonly way: 'colour-by-colour' | 'cookie-by-cookie';
  /** a large flood and its outline take turns, part by part, in so many; left out where they are done in one go */
  readonly parts?: number;
  /** bags that had been put away, since only so many may lie open, and how long opening them takes before the first motion */
  readonly opening?: { readonly bags: readonly Bag[]; readonly seconds: number };
  readonly motions: readonly Motion[];
  readonly because: Because;
}

/** One step of a task on all its cookies; seconds from the task's start, one entry a cookie. */
export interface Motion {
  readonly stepId: StepId;
  readonly technique: TechniqueId;
  readonly kind: TechniqueKind;
  readonly label: string;
  readonly startS: readonly number[];
  readonly endS: readonly number[];
  /** of a flood worked in parts: when its first part, which thickens first, was laid */
  readonly firstPartS?: readonly number[];
  /** must have ended this long after the flood of the same cookie ended; null where nothing closes */
  readonly windowS: number | null;
  /** the step whose end opens that window */
  readonly windowFrom: StepId | null;
}

/** Why a task does not begin earlier. */
export type Because =
  | { readonly kind: 'first' }
  | ({ readonly kind: 'drying'; readonly fromTask: TaskId; readonly waitS: number } & Why)
  /** its pieces cannot be lifted earlier */
  | { readonly kind: 'pieces' }
  | { readonly kind: 'hands'; readonly fromTask: TaskId }
  /** the same tray is worked on until then */
  | { readonly kind: 'tray'; readonly fromTask: TaskId }
  /** the place before the fan or in the dehydrator is taken until then */
  | { readonly kind: 'place'; readonly where: StayPlace; readonly fromTask: TaskId }
  /** no more bags may be open meanwhile */
  | { readonly kind: 'bags'; readonly fromTask: TaskId }
  /** all trays have their floods of a round before any gets the next, as the school works */
  | { readonly kind: 'round'; readonly fromTask: TaskId }
  /** said by hand: nothing on this tray before then, or nobody at the bench (`label` says why) */
  | { readonly kind: 'pin'; readonly label: string | null }
  /** nothing would be won by doing it sooner */
  | { readonly kind: 'unhurried' }
  | { readonly kind: 'opening-hours' };

/** A tray before the fan, or in the dehydrator until hands take it out. */
export interface Stay {
  readonly id: StayId;
  readonly where: StayPlace;
  readonly trayId: TrayId;
  readonly round: number;
  /** where only some batches of that round are laid by then: the last of them; null after the whole round */
  readonly batch: number | null;
  /** to save time, to quick-set small pools, or because it was asked for */
  readonly why: StayReason;
  readonly startS: number;
  readonly endS: number;
  /** how long it needs; in the dehydrator it may stay a little longer until hands are free */
  readonly forS: number;
}

/** A lag between two tasks, start to start: the least wait, the greatest where a window shuts, and why. */
export interface Lag extends Why {
  readonly from: TaskId;
  readonly to: TaskId;
  readonly minS: number;
  readonly maxS: number | null;
}

/** A lag as the plan keeps it, with the time to spare beyond its wait. */
export interface PlanWait extends Lag {
  readonly slackS: number;
}

/** Gap of a cookie's steps with its wait or window in seconds of the bench's air at the plan's margin. */
export interface TimedGap {
  readonly gap: Gap;
  readonly minS: number;
  readonly maxS: number | null;
  /** the later step ends before this if it can */
  readonly ratherBeforeS?: number;
}
