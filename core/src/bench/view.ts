import type { PlanWait } from '../formats/plan.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import type { TaskId, TrayId } from '../units/id.js';

import { type RunIndex, readyMsOf } from './run-index.js';
import { openCookies, type RunTask } from './run-plan.js';
import type { RunState, TaskRecord } from './run-state.js';

/** A task with when it can be taken up and will be done, as things stand. */
export interface Expected {
  readonly task: RunTask;
  readonly startMs: number;
  readonly endMs: number;
}

/** A window that is running out. */
export interface Closing {
  readonly taskId: TaskId;
  readonly trayId: TrayId;
  readonly label: string;
  /** of the lot, from 1: the one whose wet work should be under way by now; null where the window is the whole visit's */
  readonly cookie: number | null;
  readonly closesAtMs: number;
}

export interface BenchView {
  /** in hand, or to be taken up next; null when all is done */
  readonly now: Expected | null;
  readonly inHandSinceMs: number | null;
  /** true while the next step still has to wait */
  readonly waiting: boolean;
  /** what it waits for, as things stand: that it was found wet, or a lag of the plan; null where nothing dries */
  readonly waitingFor: 'found-wet' | PlanWait | null;
  readonly next: readonly Expected[];
  /** what the other pairs of hands are at, or come to next */
  readonly beside: readonly Expected[];
  /** soonest first */
  readonly closing: readonly Closing[];
  readonly done: number;
  readonly total: number;
  readonly expectedEndMs: number;
  /** when the hands are free for the day, if what is planned for it is just shifted */
  readonly handsFreeMs: number;
}

/** Being at the bench makes it open, whatever its hours say. */
const STAYS_OPEN_MS = 600_000;

/** A window that hands are not at yet is shown so long before it shuts. */
const SHOWN_MS = 15 * 60_000;

/**
 * What the bench shows at `nowMs`: the plan's order shifted right by what really happened. `who` is the pair of hands that
 * looks; null where one device speaks for all, and shows first what is in hand.
 */
export function benchView(run: RunIndex, nowMs: number, who: string | null = null): BenchView {
  const { plan: index, state, open } = run;
  const { plan } = state;
  const expected: Expected[] = [];
  const imagined = new Map<TaskId, TaskRecord>(state.tasks);
  const hands = new Map<string, { freeMs: number; family: string | null }>();
  for (const task of open) {
    const begunAtMs = run.begunMs(task.id);
    const durationMs = (task.endS - task.startS) * 1000;
    const family = index.familyOf(task);
    const own = hands.get(task.by);
    const handsMs = own?.freeMs ?? nowMs;
    const changeMs = own?.family && family && family !== own.family ? ASSUMED_PACE.changeoverS * 1000 : 0;
    let startMs: number;
    if (begunAtMs !== null) startMs = begunAtMs;
    else {
      const ready = readyMsOf(index, task, imagined, state.notBeforeMs.get(task.id));
      const fromMs = Math.max(handsMs + changeMs, Number.isFinite(ready) ? ready : handsMs);
      startMs = fromMs <= nowMs + STAYS_OPEN_MS ? fromMs : index.msOf(index.openFrom(index.sOf(fromMs), durationMs / 1000));
    }
    const endMs = begunAtMs !== null ? Math.max(nowMs, begunAtMs + durationMs) : startMs + durationMs;
    expected.push({ task, startMs, endMs });
    imagined.set(task.id, { begunAtMs: startMs, doneAtMs: endMs, doneBy: null });
    hands.set(task.by, { freeMs: Math.max(handsMs, endMs), family });
  }
  const own = expected.filter((e) => who === null || e.task.by === who);
  const isBegun = (e: Expected) => run.isBegun(e.task);
  const now = own.find(isBegun) ?? own[0] ?? null;
  const mine = who ?? now?.task.by;
  const later = own.filter((e) => e !== now && (e.task.by === mine || !isBegun(e)));
  const closesMs = index.msOf(index.closesAfter(index.sOf(nowMs)));
  const inHandSinceMs = now ? run.begunMs(now.task.id) : null;
  return {
    now,
    inHandSinceMs,
    waiting: now !== null && inHandSinceMs === null && now.startMs > nowMs,
    waitingFor: now ? waitedFor(run, now.task) : null,
    next: later.slice(0, 2),
    beside: [...new Set(open.map((t) => t.by))]
      .filter((by) => by !== mine)
      .flatMap((by) => expected.find((e) => e.task.by === by && isBegun(e)) ?? expected.find((e) => e.task.by === by) ?? []),
    closing: [
      ...(now && inHandSinceMs !== null && !state.shutAtMs.has(now.task.id) ? closingWindows(now.task, state, inHandSinceMs, nowMs) : []),
      ...own.flatMap((e) => shutting(run, e.task, nowMs)),
    ].sort((a, b) => a.closesAtMs - b.closesAtMs),
    done: plan.tasks.length - open.length,
    total: plan.tasks.length,
    expectedEndMs: Math.max(nowMs, ...expected.map((e) => e.endMs)),
    handsFreeMs: Math.max(nowMs, ...expected.filter((e) => e.startMs < closesMs).map((e) => e.endMs)),
  };
}

/** What a task waits for longest, counted from when things were really done. */
function waitedFor(run: RunIndex, task: RunTask): BenchView['waitingFor'] {
  const slowest = run.slowestWait(task);
  const againMs = run.state.notBeforeMs.get(task.id);
  if (againMs !== undefined && (!slowest || againMs >= slowest.readyMs)) return 'found-wet';
  return slowest?.wait ?? null;
}

/**
 * Windows of the visit in hand: wet work has to end before its flood thickens, on the cookie that the planned pace, or
 * who ticks them one by one, has reached. One for each kind of work.
 */
function closingWindows(task: RunTask, state: RunState, begunAtMs: number, nowMs: number): Closing[] {
  const elapsedS = (nowMs - begunAtMs) / 1000;
  const ticked = state.tasks.get(task.id)?.ticked ?? [];
  const left = openCookies(task, ticked);
  const soonest = new Map<string, Closing>();
  for (const m of task.motions) {
    const from = task.motions.find((x) => x.stepId === m.windowFrom);
    if (m.windowS === null || !from || left.length === 0) continue;
    const at = (list: readonly number[], cookie: number) => list[cookie - task.cookies[0]] as number;
    const reached = ticked.length > 0 ? left[0] : left.find((c) => at(m.endS, c) > elapsedS);
    const cookie = reached ?? (left.at(-1) as number);
    const closesAtMs = begunAtMs + (at(from.endS, cookie) + m.windowS) * 1000;
    const known = soonest.get(m.label);
    if (!known || closesAtMs < known.closesAtMs)
      soonest.set(m.label, { taskId: task.id, trayId: task.trayId, label: m.label, cookie: cookie + 1, closesAtMs });
  }
  return [...soonest.values()];
}

/** The moment by which a task must have begun, or once in hand the one by which it must have ended, where it is soon. */
function shutting(run: RunIndex, task: RunTask, nowMs: number): Closing[] {
  const closesAtMs = run.openUntilMs(task) + (run.isBegun(task) ? (task.endS - task.startS) * 1000 : 0);
  return closesAtMs - nowMs <= SHOWN_MS ? [{ taskId: task.id, trayId: task.trayId, label: task.title, cookie: null, closesAtMs }] : [];
}
