import { ASSUMED_PACE } from '../steps/pace.js';
import { bagKey } from '../steps/step.js';
import { openCookies, readyAtMs } from './fold.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { RunState, TaskRecord } from './run-state.js';

/** A task with when it can be taken up and will be done, as things stand. */
export interface Expected {
  readonly task: RunTask;
  readonly startMs: number;
  readonly endMs: number;
}

/** A window that is running out. */
export interface Closing {
  readonly taskId: string;
  readonly trayId: string;
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
  /** what it waits for, as things stand; null where nothing dries */
  readonly waitingFor: string | null;
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

/** A window that hands are not at yet is told so long before it shuts. */
const TOLD_MS = 15 * 60_000;

/**
 * What the bench shows at `nowMs`: the plan's order shifted right by what really happened. `who` is the pair of hands that
 * looks; null where one device speaks for all, and shows first what is in hand.
 */
export function benchView(plan: RunPlan, state: RunState, epochMs: number, nowMs: number, who: string | null = null): BenchView {
  const open = plan.tasks.filter((t) => (state.tasks.get(t.id)?.doneAtMs ?? null) === null);
  const expected: Expected[] = [];
  const imagined = new Map<string, TaskRecord>(state.tasks);
  const hands = new Map<string, { freeMs: number; family: string }>();
  for (const task of open) {
    const begunAtMs = state.tasks.get(task.id)?.begunAtMs ?? null;
    const durationMs = (task.endS - task.startS) * 1000;
    const family = task.bags.map(bagKey).join('+');
    const own = hands.get(task.by);
    const handsMs = own?.freeMs ?? nowMs;
    const changeMs = own && family !== '' && own.family !== '' && family !== own.family ? ASSUMED_PACE.changeoverS * 1000 : 0;
    let startMs: number;
    if (begunAtMs !== null) startMs = begunAtMs;
    else {
      const ready = readyAtMs(plan, task, imagined, state.notBeforeMs);
      startMs = openAt(plan, epochMs, Math.max(handsMs + changeMs, Number.isFinite(ready) ? ready : handsMs), durationMs, nowMs);
    }
    const endMs = begunAtMs !== null ? Math.max(nowMs, begunAtMs + durationMs) : startMs + durationMs;
    expected.push({ task, startMs, endMs });
    imagined.set(task.id, { begunAtMs: startMs, doneAtMs: endMs, doneBy: null });
    hands.set(task.by, { freeMs: Math.max(handsMs, endMs), family });
  }
  const own = expected.filter((e) => who === null || e.task.by === who);
  const isBegun = (e: Expected) => (state.tasks.get(e.task.id)?.begunAtMs ?? null) !== null;
  const now = own.find(isBegun) ?? own[0] ?? null;
  const mine = who ?? now?.task.by;
  const later = own.filter((e) => e !== now && (e.task.by === mine || !isBegun(e)));
  const closesMs = epochMs + closingS(plan, (nowMs - epochMs) / 1000) * 1000;
  const inHandSinceMs = now ? (state.tasks.get(now.task.id)?.begunAtMs ?? null) : null;
  return {
    now,
    inHandSinceMs,
    waiting: now !== null && inHandSinceMs === null && now.startMs > nowMs,
    waitingFor: now ? slowestWait(plan, now.task, state) : null,
    next: later.slice(0, 2),
    beside: [...new Set(open.map((t) => t.by))]
      .filter((by) => by !== mine)
      .flatMap((by) => expected.find((e) => e.task.by === by && isBegun(e)) ?? expected.find((e) => e.task.by === by) ?? []),
    closing: [
      ...(now && inHandSinceMs !== null && !state.shutAtMs.has(now.task.id) ? closingWindows(now.task, state, inHandSinceMs, nowMs) : []),
      ...own.flatMap((e) => shutting(plan, e.task, state, nowMs, isBegun(e))),
    ].sort((a, b) => a.closesAtMs - b.closesAtMs),
    done: plan.tasks.length - open.length,
    total: plan.tasks.length,
    expectedEndMs: Math.max(nowMs, ...expected.map((e) => e.endMs)),
    handsFreeMs: Math.max(nowMs, ...expected.filter((e) => e.startMs < closesMs).map((e) => e.endMs)),
  };
}

/** The wait that ends last of those behind a task, counted from when things were really done. */
function slowestWait(plan: RunPlan, task: RunTask, state: RunState): string | null {
  let last: { readonly readyMs: number; readonly reason: string } | null = null;
  const seen = state.notBeforeMs.get(task.id);
  if (seen !== undefined) last = { readyMs: seen, reason: 'it was found still wet' };
  for (const w of plan.waits) {
    const doneAtMs = w.to === task.id ? (state.tasks.get(w.from)?.doneAtMs ?? null) : null;
    const from = plan.tasks.find((t) => t.id === w.from);
    if (doneAtMs === null || !from || w.rule === 'prepared-first') continue;
    const readyMs = doneAtMs - (from.endS - from.startS) * 1000 + w.minS * 1000;
    if (!last || readyMs > last.readyMs) last = { readyMs, reason: w.reason };
  }
  return last?.reason ?? null;
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
    if (!known || closesAtMs < known.closesAtMs) soonest.set(m.label, { taskId: task.id, trayId: task.trayId, label: m.label, cookie: cookie + 1, closesAtMs });
  }
  return [...soonest.values()];
}

/** The moment by which a task must have begun, since what it works on hardens meanwhile; Infinity where nothing is known to. */
export function openUntilMs(plan: RunPlan, task: RunTask, tasks: RunState['tasks']): number {
  let closesAtMs = Number.POSITIVE_INFINITY;
  for (const w of plan.waits) {
    const doneAtMs = w.to === task.id && w.maxS !== null ? (tasks.get(w.from)?.doneAtMs ?? null) : null;
    const from = plan.tasks.find((t) => t.id === w.from);
    if (doneAtMs === null || !from) continue;
    closesAtMs = Math.min(closesAtMs, doneAtMs - (from.endS - from.startS) * 1000 + (w.maxS as number) * 1000);
  }
  return closesAtMs;
}

/** That moment, or once in hand the one by which it must have ended, where it is soon. */
function shutting(plan: RunPlan, task: RunTask, state: RunState, nowMs: number, inHand: boolean): Closing[] {
  const closesAtMs = openUntilMs(plan, task, state.tasks) + (inHand ? (task.endS - task.startS) * 1000 : 0);
  return closesAtMs - nowMs <= TOLD_MS ? [{ taskId: task.id, trayId: task.trayId, label: task.title, cookie: null, closesAtMs }] : [];
}

/** When the bench closes on the day of a moment: the end of the opening it lies in, or of the next one. */
export const closingS = (plan: RunPlan, atS: number): number => plan.bench.find(([, to]) => atS < to)?.[1] ?? Number.POSITIVE_INFINITY;

function openAt(plan: RunPlan, epochMs: number, fromMs: number, durationMs: number, nowMs: number): number {
  if (fromMs <= nowMs + STAYS_OPEN_MS) return fromMs;
  for (const [from, to] of plan.bench) {
    const startMs = Math.max(fromMs, epochMs + from * 1000);
    if (startMs + durationMs <= epochMs + to * 1000) return startMs;
  }
  return fromMs;
}
