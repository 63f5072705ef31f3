import { cookieKey } from '../formats/ids.js';
import type { Lot, PlanWait } from '../formats/plan.js';
import { type PlanIndex, planIndex } from '../formats/plan-index.js';
import type { LotId, TaskId } from '../units/id.js';
import type { RunTask } from './run-plan.js';
import type { RunState, TaskRecord } from './run-state.js';

/** What is known of tasks: a run's own log, or one that was thought on from it. */
export type Records = ReadonlyMap<TaskId, TaskRecord>;

/** Earliest moment the waits behind a task are over, from what was really done; Infinity while something before it is open. */
export function readyMsOf(
  index: PlanIndex<RunTask>,
  task: RunTask,
  records: Records,
  notBeforeMs: number | undefined,
  waits = index.waitsInto(task.id),
): number {
  let ready = notBeforeMs ?? Number.NEGATIVE_INFINITY;
  for (const w of waits) {
    const ms = endsMs(index, w, records, w.minS);
    if (ms !== null) ready = Math.max(ready, ms);
  }
  return ready;
}

/** When a lag of so many seconds behind a task ends; null where the task is not in the plan any more, Infinity while it is open. */
function endsMs(index: PlanIndex<RunTask>, wait: PlanWait, records: Records, lagS: number): number | null {
  const from = index.task(wait.from);
  if (!from) return null;
  const doneAtMs = records.get(from.id)?.doneAtMs ?? null;
  if (doneAtMs === null) return Number.POSITIVE_INFINITY;
  // Lags run from start to start; a visit that took longer dries from when its last cookie was left.
  return doneAtMs - (from.endS - from.startS) * 1000 + lagS * 1000;
}

/** A run and its plan, asked in one place: what is done, what is ready, what shuts. Moments in milliseconds unless they end in S. */
export class RunIndex {
  readonly plan: PlanIndex<RunTask>;
  private stillOpen: readonly RunTask[] | null = null;

  constructor(readonly state: RunState) {
    this.plan = planIndex(state.plan);
  }

  record(id: TaskId): TaskRecord | undefined {
    return this.state.tasks.get(id);
  }
  readonly isDone = (of: { readonly id: TaskId }): boolean => this.doneMs(of.id) !== null;
  readonly isBegun = (of: { readonly id: TaskId }): boolean => this.begunMs(of.id) !== null;
  readonly isInHand = (of: { readonly id: TaskId }): boolean => this.isBegun(of) && !this.isDone(of);
  doneMs(id: TaskId): number | null {
    return this.record(id)?.doneAtMs ?? null;
  }
  begunMs(id: TaskId): number | null {
    return this.record(id)?.begunAtMs ?? null;
  }
  /** the same in the plan's seconds */
  doneS(id: TaskId): number | null {
    const ms = this.doneMs(id);
    return ms === null ? null : this.plan.sOf(ms);
  }
  begunS(id: TaskId): number | null {
    const ms = this.begunMs(id);
    return ms === null ? null : this.plan.sOf(ms);
  }
  /** Tasks that are not done, in the plan's order. */
  get open(): readonly RunTask[] {
    this.stillOpen ??= this.state.plan.tasks.filter((t) => !this.isDone(t));
    return this.stillOpen;
  }

  /** Earliest moment a task may begin, by the waits behind it and what was found; Infinity while something before it is open. */
  readyMs(task: RunTask): number {
    return readyMsOf(this.plan, task, this.state.tasks, this.state.notBeforeMs.get(task.id));
  }
  /** The moment by which a task must have begun, since what it works on hardens meanwhile; Infinity where nothing is known to. */
  openUntilMs(task: RunTask): number {
    let closesMs = Number.POSITIVE_INFINITY;
    for (const w of this.plan.waitsInto(task.id)) {
      if (w.maxS !== null) closesMs = Math.min(closesMs, endsMs(this.plan, w, this.state.tasks, w.maxS) ?? Number.POSITIVE_INFINITY);
    }
    return closesMs;
  }
  /** The wait that ends last of those behind a task, among what is done; null where none is. */
  slowestWait(task: RunTask): { readonly wait: PlanWait; readonly readyMs: number } | null {
    let last: { readonly wait: PlanWait; readonly readyMs: number } | null = null;
    for (const wait of this.plan.waitsInto(task.id)) {
      const readyMs = endsMs(this.plan, wait, this.state.tasks, wait.minS);
      if (readyMs === null || !Number.isFinite(readyMs) || wait.rule === 'prepared-first') continue;
      if (!last || readyMs > last.readyMs) last = { wait, readyMs };
    }
    return last;
  }

  /** Cookies of a lot that have not left the run. */
  cookiesOf(lot: Lot): number[] {
    return cookiesOf(lot).filter((c) => !this.isOut(lot.id, c));
  }
  isOut(lotId: LotId, cookie: number): boolean {
    return this.state.out.has(cookieKey(lotId, cookie));
  }
}

export const cookiesOf = (lot: Pick<Lot, 'cookies'>): number[] => Array.from({ length: lot.cookies }, (_, c) => c);

const known = new WeakMap<RunState, RunIndex>();

/** The index of a run as it stands; a state is never changed, so it is made once. */
export function runIndex(state: RunState): RunIndex {
  let index = known.get(state);
  if (!index) {
    index = new RunIndex(state);
    known.set(state, index);
  }
  return index;
}
