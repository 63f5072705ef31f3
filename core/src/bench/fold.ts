import type { Plan, PlanTask } from '../formats/plan.js';
import type { RunEvent } from './event.js';
import { retimed } from './retimed.js';

export interface TaskRecord {
  readonly begunAtMs: number | null;
  readonly doneAtMs: number | null;
  /** event that made it done, for undo */
  readonly doneBy: string | null;
}

export interface RunState {
  /** the plan as it stands, re-planned as often as it was */
  readonly plan: Plan;
  readonly startedAtMs: number | null;
  readonly pausedAtMs: number | null;
  readonly tasks: ReadonlyMap<string, TaskRecord>;
  /** tasks whose surface was found still wet, and when it is looked at again */
  readonly notBeforeMs: ReadonlyMap<string, number>;
  /** events still standing, in order */
  readonly standing: readonly RunEvent[];
  readonly finished: boolean;
}

const UNTOUCHED: TaskRecord = { begunAtMs: null, doneAtMs: null, doneBy: null };
/** A task that may begin within this of the one before is taken up at once, without a tap of its own. */
export const AT_ONCE_MS = 30_000;

/** Folds a run's events, in the server's order, over its plan. Whole log in, state out: replaying in pieces gives the same. */
export function foldRun(plan: Plan, events: readonly RunEvent[]): RunState {
  const undone = new Set<string>();
  for (const e of events) {
    if (
      e.type === 'undone' &&
      !whyNotUndone(
        plan,
        events.filter((x) => !undone.has(x.id)),
        e.data.eventId,
      )
    )
      undone.add(e.data.eventId);
  }
  const standing = events.filter((e) => !undone.has(e.id));
  const known = new Map(plan.tasks.map((t) => [t.id, t]));
  const tasks = new Map<string, TaskRecord>();
  let startedAtMs: number | null = null;
  let pausedAtMs: number | null = null;
  let current = plan;
  const notBeforeMs = new Map<string, number>();
  const epochMs = Date.parse(plan.epoch ?? '') || 0;
  const record = (id: string) => tasks.get(id) ?? UNTOUCHED;
  const takeUp = (atMs: number) => {
    const next = current.tasks.find((t) => record(t.id).doneAtMs === null);
    if (next && record(next.id).begunAtMs === null && readyAtMs(current, next, tasks, notBeforeMs) <= atMs + AT_ONCE_MS)
      tasks.set(next.id, { ...record(next.id), begunAtMs: atMs });
  };
  for (const e of standing) {
    switch (e.type) {
      case 'runStarted':
        if (startedAtMs === null) {
          startedAtMs = e.atMs;
          takeUp(e.atMs);
        }
        break;
      case 'taskBegun':
        if (known.has(e.data.taskId) && record(e.data.taskId).begunAtMs === null) tasks.set(e.data.taskId, { ...record(e.data.taskId), begunAtMs: e.atMs });
        break;
      case 'taskDone': {
        const task = known.get(e.data.taskId);
        const r = record(e.data.taskId);
        // Done is done: a second tap, or another device's, changes nothing.
        if (!task || r.doneAtMs !== null) break;
        tasks.set(task.id, {
          begunAtMs: r.begunAtMs ?? Math.max(startedAtMs ?? e.atMs, e.atMs - (task.endS - task.startS) * 1000),
          doneAtMs: e.atMs,
          doneBy: e.id,
        });
        takeUp(e.atMs);
        break;
      }
      case 'paused':
        pausedAtMs ??= e.atMs;
        break;
      case 'resumed':
        pausedAtMs = null;
        break;
      case 'stillWet': {
        const r = record(e.data.taskId);
        if (!known.has(e.data.taskId) || r.doneAtMs !== null) break;
        notBeforeMs.set(e.data.taskId, epochMs + e.data.untilS * 1000);
        // What was taken up is put down again.
        if (r.begunAtMs !== null) tasks.set(e.data.taskId, { ...r, begunAtMs: null });
        break;
      }
      case 'planRevised': {
        // What was done meanwhile stands; a re-plan speaks only of what is open.
        const open = Object.entries(e.data.starts).filter(([id]) => known.has(id) && record(id).doneAtMs === null);
        current = retimed(current, Object.fromEntries(open));
        break;
      }
      case 'undone':
        break;
    }
  }
  return {
    plan: current,
    startedAtMs,
    pausedAtMs,
    tasks,
    notBeforeMs,
    standing,
    finished: plan.tasks.length > 0 && plan.tasks.every((t) => record(t.id).doneAtMs !== null),
  };
}

/** Earliest moment the waits behind a task are over, from what was really done; Infinity while something before it is open. */
export function readyAtMs(plan: Plan, task: PlanTask, tasks: ReadonlyMap<string, TaskRecord>, notBeforeMs: ReadonlyMap<string, number>): number {
  let ready = notBeforeMs.get(task.id) ?? Number.NEGATIVE_INFINITY;
  for (const w of plan.waits) {
    if (w.to !== task.id) continue;
    const from = plan.tasks.find((t) => t.id === w.from);
    const doneAtMs = tasks.get(w.from)?.doneAtMs ?? null;
    if (!from) continue;
    if (doneAtMs === null) return Number.POSITIVE_INFINITY;
    // Lags run from start to start; a visit that took longer dries from when its last cookie was left.
    ready = Math.max(ready, doneAtMs - (from.endS - from.startS) * 1000 + w.minS * 1000);
  }
  return ready;
}

/** Why an event cannot be undone; null where it can. */
export function whyNotUndone(
  plan: Plan,
  standing: readonly RunEvent[],
  eventId: string,
): { code: 'unknown' | 'undo-of-undo' | 'built-upon'; facts: Record<string, string> } | null {
  const index = standing.findIndex((e) => e.id === eventId);
  const target = standing[index];
  if (!target) return { code: 'unknown', facts: { eventId } };
  if (target.type === 'undone') return { code: 'undo-of-undo', facts: { eventId } };
  const later = standing.slice(index + 1);
  if (target.type === 'runStarted') {
    const first = later.find((e) => e.type === 'taskDone' || e.type === 'taskBegun');
    return first ? { code: 'built-upon', facts: { taskId: first.type === 'taskDone' || first.type === 'taskBegun' ? first.data.taskId : '' } } : null;
  }
  if (target.type !== 'taskDone') return null;
  for (const e of later) {
    if (e.type !== 'taskDone' && e.type !== 'taskBegun') continue;
    if (plan.waits.some((w) => w.from === target.data.taskId && w.to === e.data.taskId)) return { code: 'built-upon', facts: { taskId: e.data.taskId } };
  }
  return null;
}

/** The event a plain "undo" takes back: this device's last standing step. */
export function lastToUndo(state: RunState, deviceId: string): RunEvent | null {
  return (
    [...state.standing]
      .reverse()
      .find((e) => e.deviceId === deviceId && (e.type === 'taskDone' || e.type === 'taskBegun' || e.type === 'paused' || e.type === 'stillWet')) ?? null
  );
}
