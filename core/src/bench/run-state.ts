import type { Air } from '../drying/air.js';
import type { Finding } from '../drying/body.js';
import type { DryingState } from '../drying/state.js';
import type { StayPlace } from '../formats/plan.js';
import type { StepId, TaskId, TrayId } from '../units/id.js';
import type { CookieOutcome, DefectReport, RunEvent, ToolCount } from './event.js';
import type { RunPlan } from './run-plan.js';

/** The room's air as it was read, from a moment on, seconds since the epoch. */
export interface RoomAir {
  readonly fromS: number;
  readonly air: Air;
}

/** A tray away from the bench unplanned, seconds since the epoch; in the dehydrator until it was brought back. */
export interface Carry {
  readonly trayId: TrayId;
  readonly where: StayPlace;
  readonly startS: number;
  readonly forS: number;
  /** null while nobody has brought it back */
  readonly endS: number | null;
}

/** A finger on what a task waits for, seconds since the epoch; the cookie, the step and the state where they were named. */
export interface TaskLook {
  readonly taskId: TaskId;
  readonly atS: number;
  readonly cookie: number | null;
  readonly part: StepId | null;
  readonly state: DryingState | null;
  readonly found: Finding;
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
  /** nobody saw it begin: only its end was said */
  readonly guessed?: true;
  /** given up */
  readonly skipped?: true;
}

export interface RunState {
  /** the plan as it stands, re-planned as often as it was, with its waits as they are by now */
  readonly plan: RunPlan;
  readonly startedAtMs: number | null;
  readonly pausedAtMs: number | null;
  readonly tasks: ReadonlyMap<TaskId, TaskRecord>;
  /** what was looked at, in order of time */
  readonly looks: readonly TaskLook[];
  /** open tasks whose surface was found not to be there yet, and when it is looked at again */
  readonly notBeforeMs: ReadonlyMap<TaskId, number>;
  /** visits in hand whose flood was found skinning: no wet work on it any more */
  readonly shutAtMs: ReadonlyMap<TaskId, number>;
  /** the room's air as read since the plan was made, in order of time */
  readonly room: readonly RoomAir[];
  /** trays carried away though no plan said so, in order of time */
  readonly carries: readonly Carry[];
  /** what bags count now, by bagKey */
  readonly counted: ReadonlyMap<string, number>;
  readonly defects: readonly DefectReport[];
  /** cookies that left their lot and what became of them, by cookieKey */
  readonly out: ReadonlyMap<string, CookieOutcome>;
  readonly toolCounts: readonly (ToolCount & { readonly atMs: number })[];
  readonly dehydratorOffAtMs: number | null;
  /** events still standing, in the order they count */
  readonly standing: readonly RunEvent[];
  readonly finished: boolean;
}
