import type { Air } from '../drying/air.js';
import type { CookieOutcome, DefectReport, RunEvent } from './event.js';
import type { RunPlan } from './run-plan.js';

/** The room's air as it was read, from a moment on, seconds since the epoch. */
export interface RoomAir {
  readonly fromS: number;
  readonly air: Air;
}

export interface TaskRecord {
  readonly begunAtMs: number | null;
  readonly doneAtMs: number | null;
  /** event that made it done, for undo */
  readonly doneBy: string | null;
  /** cookies ticked one by one, in that order */
  readonly ticked?: readonly number[];
  /** nobody said so: a later step was seen to be under way */
  readonly inferred?: true;
  /** given up */
  readonly skipped?: true;
}

export interface RunState {
  /** the plan as it stands, re-planned as often as it was */
  readonly plan: RunPlan;
  readonly startedAtMs: number | null;
  readonly pausedAtMs: number | null;
  readonly tasks: ReadonlyMap<string, TaskRecord>;
  /** tasks whose surface was found still wet, and when it is looked at again */
  readonly notBeforeMs: ReadonlyMap<string, number>;
  /** visits in hand whose flood was found skinning: no wet work on it any more */
  readonly shutAtMs: ReadonlyMap<string, number>;
  /** the room's air as read since the plan was made */
  readonly room: readonly RoomAir[];
  /** what bags count now, by bagKey */
  readonly counted: ReadonlyMap<string, number>;
  readonly defects: readonly DefectReport[];
  /** cookies that left their lot and what became of them, by cookieKey */
  readonly out: ReadonlyMap<string, CookieOutcome>;
  readonly boxOffAtMs: number | null;
  /** events still standing, in order */
  readonly standing: readonly RunEvent[];
  readonly finished: boolean;
}
