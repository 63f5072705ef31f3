import type { SurfaceState } from '../drying/state.js';
import type { DefectId } from '../steps/defects/index.js';
import type { TechniqueId } from '../steps/techniques/index.js';
import type { Why } from '../steps/why.js';
import type { LotId, StepId, TaskId } from '../units/id.js';

/** What came wrong on one cookie by one step of one visit, and when it was done; seconds of the plan. */
export interface OnCookie {
  readonly lotId: LotId;
  /** of its lot, from 0 */
  readonly cookie: number;
  readonly stepId: StepId;
  readonly taskId: TaskId;
  readonly technique: TechniqueId;
  readonly seen: DefectId;
  readonly atS: number;
}
/** A step that came too early or too late, and the moment that would have saved it. */
export interface Mistimed extends OnCookie {
  readonly when: 'too-early' | 'too-late';
  /** the step it came onto or into */
  readonly onto: StepId;
  /** what a finger would have found there then; null where minutes were asked for, and no icing */
  readonly state: SurfaceState | null;
  /** the rule that says so */
  readonly why: Why;
  /** when it would have been right: from then on (too early), or until then (too late); null where it never came in this air */
  readonly rightS: number | null;
}

/** What went wrong for no rule that was broken, but for a risk that was let grow: a small pool left wet, a tray shaken beside a crust. */
export interface Flaw extends OnCookie {
  readonly when: 'risk';
  /** how likely it was, and how likely it was as planned, 0 to 1 */
  readonly risk: number;
  readonly plannedRisk: number;
  /** what added to it, the strongest first, and the one change that would have lowered it most */
  readonly reasons: string;
  readonly change: string | null;
}

/** What spoilt a cookie: for a rule, or for a risk that was not the plan's. */
export type Spoilt = Mistimed | Flaw;
export const isMistimed = (s: Spoilt): s is Mistimed => s.when !== 'risk';
