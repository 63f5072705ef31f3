import { isBeforeStay } from '../planning/stays.js';
import { deriveSteps } from '../steps/derive.js';
import { bagKey } from '../steps/step.js';
import { endOfCarry } from './actual-stays.js';
import { inRelief, leftOutOf, TIE_DYE, withNewCookie, withoutCookie } from './amend.js';
import { withCover, withCovers } from './cover.js';
import { type CookieOutcome, changesTasks, type DefectReport, type RunEvent, takesOut } from './event.js';
import { impliedBy, inferredTimes } from './here.js';
import { retimed } from './retimed.js';
import { rewaited } from './rewaited.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { Carry, RoomAir, RunState, TaskRecord } from './run-state.js';
import { stayTasks } from './stay-tasks.js';

const UNTOUCHED: TaskRecord = { begunAtMs: null, doneAtMs: null, doneBy: null };
/** A task that may begin within this of the one before is taken up at once, without a tap of its own. */
export const AT_ONCE_MS = 30_000;

/** Folds a run's events, in the server's order, over its plan. Whole log in, state out: replaying in pieces gives the same. */
export function foldRun(plan: RunPlan, events: readonly RunEvent[]): RunState {
  const standing = standingOf(plan, events);
  const run = new Folding(plan);
  for (const e of standing) run.apply(e);
  return run.state(standing);
}

/** The same, shown step by step: `visit` sees each standing event with the run as it was before it. */
export function replayRun(plan: RunPlan, events: readonly RunEvent[], visit: (event: RunEvent, before: RunState) => void): RunState {
  const standing = standingOf(plan, events);
  const run = new Folding(plan);
  for (const e of standing) {
    visit(e, run.state(standing));
    run.apply(e);
  }
  return run.state(standing);
}

function standingOf(plan: RunPlan, events: readonly RunEvent[]): RunEvent[] {
  const undone = new Set<string>();
  for (const [i, e] of events.entries()) {
    if (e.type !== 'undone') continue;
    // Judged by what had happened by then: what came after it, done anew, does not bring it back.
    const before = events.slice(0, i).filter((x) => !undone.has(x.id));
    if (!whyNotUndone(plan, before, e.data.eventId)) undone.add(e.data.eventId);
  }
  return events.filter((e) => !undone.has(e.id));
}

/** A run while it is folded. */
class Folding {
  private readonly tasks = new Map<string, TaskRecord>();
  private readonly notBeforeMs = new Map<string, number>();
  private readonly shutAtMs = new Map<string, number>();
  private readonly room: RoomAir[] = [];
  /** tasks whose surface a finger found ready, and when: no change of air forgets it */
  private readonly foundReadyMs = new Map<string, number>();
  /** the latest moment anything was said of: what arrives late speaks of the past, not of now */
  private latestMs = Number.NEGATIVE_INFINITY;
  private carries: Carry[] = [];
  private readonly toolCounts: RunState['toolCounts'][number][] = [];
  private readonly counted = new Map<string, number>();
  private readonly defects: DefectReport[] = [];
  private readonly out = new Map<string, CookieOutcome>();
  private startedAtMs: number | null = null;
  private pausedAtMs: number | null = null;
  private boxOffAtMs: number | null = null;
  private readonly epochMs: number;

  constructor(private plan: RunPlan) {
    this.epochMs = Date.parse(plan.epoch ?? '') || 0;
  }

  state(standing: readonly RunEvent[]): RunState {
    const { plan, tasks, startedAtMs, pausedAtMs, notBeforeMs, shutAtMs, room, carries, counted, defects, out, toolCounts, boxOffAtMs } = this;
    const finished = plan.tasks.length > 0 && plan.tasks.every(this.isDone);
    return { plan, startedAtMs, pausedAtMs, tasks, notBeforeMs, shutAtMs, room, carries, counted, defects, out, toolCounts, boxOffAtMs, standing, finished };
  }

  apply(e: RunEvent): void {
    this.latestMs = Math.max(this.latestMs, e.atMs);
    switch (e.type) {
      case 'runStarted':
        if (this.startedAtMs !== null) return;
        this.startedAtMs = e.atMs;
        for (const by of new Set(this.plan.tasks.map((t) => t.by))) this.takeUp(by, e.atMs);
        return;
      case 'taskBegun': {
        const task = this.open(e.data.taskId);
        if (task && this.record(task.id).begunAtMs === null) this.set(task.id, { begunAtMs: e.atMs });
        return;
      }
      case 'taskDone': {
        const task = this.open(e.data.taskId);
        if (task) this.done(task, e, this.record(task.id).begunAtMs ?? e.atMs - (task.endS - task.startS) * 1000);
        return;
      }
      case 'cookieDone':
        this.tick(e.data.taskId, e.data.cookie, e);
        return;
      case 'imHere':
        this.here(e.data.taskId, e);
        return;
      case 'swapped': {
        const task = this.open(e.data.taskId);
        if (!task) return;
        this.putDown(e.data.insteadOf);
        this.set(task.id, { begunAtMs: this.record(task.id).begunAtMs ?? e.atMs });
        return;
      }
      case 'paused':
        this.pausedAtMs ??= e.atMs;
        return;
      case 'resumed':
        this.pausedAtMs = null;
        return;
      case 'stillWet':
        if (!this.open(e.data.taskId)) return;
        this.foundReadyMs.delete(e.data.taskId);
        this.notBeforeMs.set(e.data.taskId, this.epochMs + e.data.untilS * 1000);
        this.putDown(e.data.taskId);
        return;
      case 'crustedAlready':
        this.ready(e.data.taskId, e.atMs);
        return;
      case 'windowShut':
        this.shut(e.data.taskId, e.data.cookies, e.data.choice, e.atMs);
        return;
      case 'skipped': {
        const task = this.open(e.data.taskId);
        if (!task) return;
        this.set(task.id, { begunAtMs: this.record(task.id).begunAtMs ?? e.atMs, doneAtMs: e.atMs, doneBy: e.id, skipped: true });
        // Nothing was laid, so nothing has to dry.
        this.plan = { ...this.plan, waits: this.plan.waits.filter((w) => w.from !== task.id) };
        this.takeUp(task.by, e.atMs);
        return;
      }
      case 'bagCounted':
        this.counted.set(bagKey(e.data), e.data.countedS);
        this.recount(e.atMs);
        return;
      case 'defect':
        this.defects.push(e.data);
        if (takesOut(e.data.outcome)) this.takeOut(e.data, e.atMs);
        if (e.data.outcome === 'to-cover') this.plan = withCover(this.plan, e.data, (e.atMs - this.epochMs) / 1000);
        return;
      case 'airRead': {
        const { tempC, humidityPct } = e.data;
        const fromS = (e.atMs - this.epochMs) / 1000;
        const at = this.room.findIndex((r) => r.fromS > fromS);
        this.room.splice(at < 0 ? this.room.length : at, 0, { fromS, air: { ...this.plan.air, tempC, humidityFrac: humidityPct / 100 } });
        this.rewait(e.atMs);
        return;
      }
      case 'carried':
        this.bringBack(e.data.trayId, e.atMs);
        this.carries = [
          ...this.carries,
          { trayId: e.data.trayId, where: e.data.where, startS: (e.atMs - this.epochMs) / 1000, forS: Math.round(e.data.minutes * 60), endS: null },
        ];
        this.rewait(e.atMs);
        return;
      case 'broughtBack':
        if (this.bringBack(e.data.trayId, e.atMs)) this.rewait(e.atMs);
        return;
      case 'toolsCounted':
        this.toolCounts.push({ ...e.data, atMs: e.atMs });
        return;
      case 'boxOff':
        this.boxOffAtMs = e.atMs;
        return;
      case 'planRevised': {
        // What was done meanwhile stands; a re-plan speaks only of what is open.
        const open = Object.entries(e.data.starts).filter(([id]) => this.open(id));
        this.plan = retimed(this.plan, Object.fromEntries(open));
        return;
      }
      case 'undone':
        return;
    }
  }

  /** A tray that was carried away stands on the bench again; false where it did already. */
  private bringBack(trayId: string, atMs: number): boolean {
    const atS = (atMs - this.epochMs) / 1000;
    const away = (c: Carry) => c.trayId === trayId && endOfCarry(c) > atS;
    if (!this.carries.some(away)) return false;
    this.carries = this.carries.map((c) => (away(c) ? { ...c, endS: atS } : c));
    return true;
  }

  private readonly record = (id: string): TaskRecord => this.tasks.get(id) ?? UNTOUCHED;
  private readonly isDone = (t: RunTask): boolean => this.record(t.id).doneAtMs !== null;
  private readonly isBegun = (t: RunTask): boolean => this.record(t.id).begunAtMs !== null;
  private set(id: string, more: Partial<TaskRecord>): void {
    this.tasks.set(id, { ...this.record(id), ...more });
  }
  /** The task, while it is not done: done is done, a second tap or another device's changes nothing. */
  private open(id: string): RunTask | undefined {
    const task = this.plan.tasks.find((t) => t.id === id);
    return task && !this.isDone(task) ? task : undefined;
  }
  private putDown(id: string): void {
    if (this.open(id) && this.record(id).begunAtMs !== null) this.set(id, { begunAtMs: null });
  }

  private takeUp(by: string, atMs: number): void {
    const own = this.plan.tasks.filter((t) => t.by === by && !this.isDone(t));
    const next = own[0];
    if (!next || own.some(this.isBegun)) return;
    if (readyAtMs(this.plan, next, this.tasks, this.notBeforeMs) <= atMs + AT_ONCE_MS) this.set(next.id, { begunAtMs: atMs });
  }

  private done(task: RunTask, e: RunEvent, begunAtMs: number): void {
    this.set(task.id, { begunAtMs: Math.max(this.startedAtMs ?? begunAtMs, begunAtMs), doneAtMs: e.atMs, doneBy: e.id });
    this.takeUp(task.by, e.atMs);
  }

  private tick(taskId: string, cookie: number, e: RunEvent): void {
    const task = this.open(taskId);
    const before = this.record(taskId);
    if (!task || cookie < task.cookies[0] || cookie >= task.cookies[1] || before.ticked?.includes(cookie)) return;
    const ticked = [...(before.ticked ?? []), cookie];
    const share = (task.endS - task.startS) / Math.max(1, task.cookies[1] - task.cookies[0]);
    const begunAtMs = before.begunAtMs ?? e.atMs - share * 1000;
    this.set(taskId, { ticked, begunAtMs });
    if (openCookies(task, ticked).length === 0) this.done(task, e, begunAtMs);
  }

  private here(taskId: string, e: RunEvent): void {
    const task = this.open(taskId);
    if (!task) return;
    const implied = impliedBy(this.plan, task, this.isDone);
    for (const [id, when] of inferredTimes(this.plan, task, implied, e.atMs)) this.set(id, { ...when, doneBy: e.id, inferred: true });
    for (const t of this.plan.tasks) if (t.by === task.by && t.id !== taskId) this.putDown(t.id);
    this.set(taskId, { begunAtMs: e.atMs });
  }

  /** What it waited for is as dry as it has to be: its waits end now. */
  private ready(taskId: string, atMs: number): void {
    const task = this.open(taskId);
    if (!task) return;
    this.notBeforeMs.delete(taskId);
    this.foundReadyMs.set(taskId, atMs);
    this.endFound();
  }

  /** Waits of what was found ready end when it was found, however they are counted since. */
  private endFound(): void {
    if (this.foundReadyMs.size === 0) return;
    const byId = new Map(this.plan.tasks.map((t) => [t.id, t]));
    this.plan = {
      ...this.plan,
      waits: this.plan.waits.map((w) => {
        const foundMs = this.foundReadyMs.get(w.to);
        const from = byId.get(w.from);
        const doneAtMs = this.record(w.from).doneAtMs;
        // What was laid since then was not looked at.
        if (foundMs === undefined || !from || doneAtMs === null || doneAtMs > foundMs) return w;
        return { ...w, minS: Math.min(w.minS, Math.floor((foundMs - doneAtMs) / 1000 + from.endS - from.startS)) };
      }),
    };
  }

  private shut(taskId: string, cookies: readonly number[], choice: 'skip' | 'relief' | 'again', atMs: number): void {
    const task = this.plan.tasks.find((t) => t.id === taskId);
    if (!task) return;
    this.shutAtMs.set(taskId, atMs);
    const settled = (c: number) => this.out.has(cookieKey(task.lotId ?? '', c)) || task.leftOut?.some((l) => l.cookies.includes(c));
    const own = cookies.filter((c) => c >= task.cookies[0] && c < task.cookies[1] && !settled(c));
    if (choice === 'again') for (const c of own) this.begin(task.lotId as string, c, 'again', atMs);
    else {
      this.plan = leftOutOf(this.plan, taskId, own);
      if (choice === 'relief') this.plan = inRelief(this.plan, taskId, own, this.isBegun);
    }
    if (choice === 'relief' && this.room.length > 0) this.rewait(atMs);
  }

  private takeOut({ lotId, cookie, outcome }: DefectReport, atMs: number): void {
    // Two devices that report the same cookie at once make one.
    if (this.out.has(cookieKey(lotId, cookie))) return;
    if (outcome === 'again' || outcome === TIE_DYE) this.begin(lotId, cookie, outcome, atMs);
    else this.leave(lotId, cookie, outcome, atMs);
  }

  private begin(lotId: string, cookie: number, as: 'again' | typeof TIE_DYE, atMs: number): void {
    this.leave(lotId, cookie, as, atMs);
    this.plan = withNewCookie(this.plan, lotId, cookie, as, (atMs - this.epochMs) / 1000, this.isBegun);
    if (this.room.length > 0) this.rewait(atMs);
  }

  private leave(lotId: string, cookie: number, outcome: CookieOutcome, atMs: number): void {
    this.out.set(cookieKey(lotId, cookie), outcome);
    const inHand = this.plan.tasks.filter((t) => !this.isDone(t) && this.record(t.id).begunAtMs !== null);
    this.plan = withoutCookie(this.plan, lotId, cookie, this.isDone);
    // The task in hand may have been for that cookie alone.
    for (const t of inHand) if (!this.plan.tasks.some((x) => x.id === t.id)) this.takeUp(t.by, atMs);
  }

  private recount(atMs: number): void {
    const { order } = this.plan;
    const counted = new Map([...order.bags.map((b) => [bagKey(b), b.countedS] as const), ...this.counted]);
    this.plan = {
      ...this.plan,
      designs: this.plan.designs.map((d) => ({ ...d, graph: withCovers(deriveSteps(d.drawing, order.school, { counted, tips: order.tips }), d.graph) })),
    };
    this.rewait(atMs);
  }

  private rewait(saidMs: number): void {
    const atMs = Math.max(saidMs, this.latestMs);
    this.plan = rewaited({
      plan: this.plan,
      tasks: this.tasks,
      room: this.room,
      carries: this.carries,
      epochMs: this.epochMs,
      atS: (atMs - this.epochMs) / 1000,
    });
    this.endFound();
  }
}

export const cookieKey = (lotId: string, cookie: number): string => `${lotId} ${cookie}`;

/** Cookies of a task not ticked yet, those that left the run not counted. */
export function openCookies(task: RunTask, ticked: readonly number[] = []): number[] {
  const out: number[] = [];
  for (let c = task.cookies[0]; c < task.cookies[1]; c++) if (!ticked.includes(c) && !task.without?.includes(c)) out.push(c);
  return out;
}

/** Earliest moment the waits behind a task are over, from what was really done; Infinity while something before it is open. */
export function readyAtMs(plan: RunPlan, task: RunTask, tasks: ReadonlyMap<string, TaskRecord>, notBeforeMs: ReadonlyMap<string, number>): number {
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

/** Task an event speaks of, where it speaks of one. */
const taskIn = (e: RunEvent): string | null => ('taskId' in e.data ? e.data.taskId : null);
/** Events that changed what there is to do, not only when. */
const changesWork = (e: RunEvent): boolean =>
  e.type === 'imHere' || e.type === 'skipped' || e.type === 'windowShut' || (e.type === 'defect' && changesTasks(e.data.outcome));

/** Why an event cannot be undone; null where it can. */
export function whyNotUndone(
  plan: RunPlan,
  standing: readonly RunEvent[],
  eventId: string,
): { code: 'unknown' | 'undo-of-undo' | 'built-upon'; facts: Record<string, string> } | null {
  const index = standing.findIndex((e) => e.id === eventId);
  const target = standing[index];
  if (!target) return { code: 'unknown', facts: { eventId } };
  if (target.type === 'undone') return { code: 'undo-of-undo', facts: { eventId } };
  const builtUpon = (e: RunEvent | undefined) => (e ? { code: 'built-upon' as const, facts: { taskId: taskIn(e) ?? '' } } : null);
  const steps = standing.slice(index + 1).filter((e) => e.type === 'taskDone' || e.type === 'taskBegun' || e.type === 'cookieDone' || e.type === 'imHere');
  if (target.type === 'runStarted' || changesWork(target)) return builtUpon(steps[0]);
  if (target.type !== 'taskDone' && target.type !== 'cookieDone') return null;
  const now = standing.some(changesWork) ? asAmended(plan, standing) : plan;
  const after = steps.find((e) => now.waits.some((w) => w.from === target.data.taskId && w.to === taskIn(e)));
  if (after) return builtUpon(after);
  const work = now.tasks.find((t) => t.id === target.data.taskId);
  return work && standing.slice(index + 1).some((e) => carriesOff(now, e, work)) ? { code: 'built-upon', facts: { trayId: work.trayId } } : null;
}

/** Whether an event says that a tray was carried to where it dries, with what a task had laid on it. */
function carriesOff(plan: RunPlan, e: RunEvent, work: RunTask): boolean {
  if (e.type === 'carried') return e.data.trayId === work.trayId;
  if (e.type !== 'taskDone') return false;
  return plan.stays.some((s) => s.trayId === work.trayId && stayTasks(plan, s).carry?.id === e.data.taskId && isBeforeStay(work, s));
}

/** The plan with what came to it at the bench: a cookie begun again has steps and waits of its own. */
function asAmended(plan: RunPlan, standing: readonly RunEvent[]): RunPlan {
  const run = new Folding(plan);
  for (const e of standing) run.apply(e);
  return run.state(standing).plan;
}

/** What a plain "undo" takes back; beginning, re-plans and the air are taken back otherwise or not at all. */
const isStep = (e: RunEvent): boolean => !['runStarted', 'resumed', 'undone', 'planRevised', 'airRead'].includes(e.type);

/** The event a plain "undo" takes back: this device's last standing step. */
export const lastToUndo = (state: RunState, deviceId: string): RunEvent | null => state.standing.findLast((e) => e.deviceId === deviceId && isStep(e)) ?? null;
