import type { Plan, PlanTask } from '../formats/plan.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import { bagKey } from '../steps/step.js';
import { type RunState, readyAtMs, type TaskRecord } from './fold.js';

/** A task with when it can be taken up and will be done, as things stand. */
export interface Expected {
  readonly task: PlanTask;
  readonly startMs: number;
  readonly endMs: number;
}

/** A window that is running out. */
export interface Closing {
  readonly taskId: string;
  readonly trayId: string;
  readonly label: string;
  /** of the lot, from 1: the one whose wet work should be under way by now */
  readonly cookie: number;
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
  readonly closing: readonly Closing[];
  readonly done: number;
  readonly total: number;
  readonly expectedEndMs: number;
  /** when the hands are free for the day, if what is planned for it is just shifted */
  readonly handsFreeMs: number;
}

/** Being at the bench makes it open, whatever its hours say. */
const STAYS_OPEN_MS = 600_000;

/** What the bench shows at `nowMs`: the plan's order shifted right by what really happened. */
export function benchView(plan: Plan, state: RunState, epochMs: number, nowMs: number): BenchView {
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
  const now = expected[0] ?? null;
  const closesMs = epochMs + closingS(plan, (nowMs - epochMs) / 1000) * 1000;
  const inHandSinceMs = now ? (state.tasks.get(now.task.id)?.begunAtMs ?? null) : null;
  return {
    now,
    inHandSinceMs,
    waiting: now !== null && inHandSinceMs === null && now.startMs > nowMs,
    waitingFor: now ? slowestWait(plan, now.task, state) : null,
    next: expected.slice(1, 3),
    closing: now && inHandSinceMs !== null ? closingWindows(now.task, inHandSinceMs, nowMs) : [],
    done: plan.tasks.length - open.length,
    total: plan.tasks.length,
    expectedEndMs: Math.max(nowMs, ...expected.map((e) => e.endMs)),
    handsFreeMs: Math.max(nowMs, ...expected.filter((e) => e.startMs < closesMs).map((e) => e.endMs)),
  };
}

/** The wait that ends last of those behind a task, counted from when things were really done. */
function slowestWait(plan: Plan, task: PlanTask, state: RunState): string | null {
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
 * Windows of the visit in hand: wet work has to end before its flood thickens, on the cookie that the planned pace has
 * reached. Soonest first, one for each kind of work.
 */
function closingWindows(task: PlanTask, begunAtMs: number, nowMs: number): Closing[] {
  const elapsedS = (nowMs - begunAtMs) / 1000;
  const soonest = new Map<string, Closing>();
  for (const m of task.motions) {
    const from = task.motions.find((x) => x.stepId === m.windowFrom);
    if (m.windowS === null || !from) continue;
    const reached = m.endS.findIndex((end) => end > elapsedS);
    const i = reached < 0 ? m.endS.length - 1 : reached;
    const closesAtMs = begunAtMs + ((from.endS[i] as number) + m.windowS) * 1000;
    const known = soonest.get(m.label);
    if (!known || closesAtMs < known.closesAtMs)
      soonest.set(m.label, { taskId: task.id, trayId: task.trayId, label: m.label, cookie: task.cookies[0] + i + 1, closesAtMs });
  }
  return [...soonest.values()].sort((a, b) => a.closesAtMs - b.closesAtMs);
}

/** When the bench closes on the day of a moment: the end of the opening it lies in, or of the next one. */
export const closingS = (plan: Plan, atS: number): number => plan.bench.find(([, to]) => atS < to)?.[1] ?? Number.POSITIVE_INFINITY;

function openAt(plan: Plan, epochMs: number, fromMs: number, durationMs: number, nowMs: number): number {
  if (fromMs <= nowMs + STAYS_OPEN_MS) return fromMs;
  for (const [from, to] of plan.bench) {
    const startMs = Math.max(fromMs, epochMs + from * 1000);
    if (startMs + durationMs <= epochMs + to * 1000) return startMs;
  }
  return fromMs;
}
