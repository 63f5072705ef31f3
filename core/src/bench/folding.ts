import { GrowingAirs } from '../drying/airs.js';
import { cookieKey, TIE_DYE } from '../formats/ids.js';
import type { PlanWait } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { bagKey } from '../steps/step.js';
import type { LotId, TaskId } from '../units/id.js';
import { endOfCarry } from './actual-stays.js';
import { inRelief, leftOutOf, withNewCookie, withoutCookie } from './amend.js';
import { stepsAsCounted } from './counted-steps.js';
import { withCover, withCovers } from './cover.js';
import { type CookieOutcome, type DefectReport, type RunEvent, takesOut } from './event.js';
import { impliedBy, inferredTimes } from './here.js';
import { Recount } from './recount.js';
import { retimed } from './retimed.js';
import { readyMsOf } from './run-index.js';
import { openCookies, type RunPlan, type RunTask } from './run-plan.js';
import type { Carry, RoomAir, RunState, TaskLook, TaskRecord } from './run-state.js';

const UNTOUCHED: TaskRecord = { begunAtMs: null, doneAtMs: null, doneBy: null };
/** A task that may begin within this of the one before is taken up at once, without a tap of its own. */
export const AT_ONCE_MS = 30_000;

/** A run while its log is folded: events are applied one after the other, and it can say how things stand behind each. */
export class Folding {
  private readonly tasks = new Map<TaskId, TaskRecord>();
  /** what each pair of hands has begun and not done, and its tasks in the plan's order */
  private readonly inHand = new Map<string, Set<TaskId>>();
  private readonly queues = new Map<string, { readonly of: readonly RunTask[]; readonly own: readonly RunTask[]; at: number }>();
  private readonly shutAtMs = new Map<TaskId, number>();
  private readonly room: RoomAir[] = [];
  private readonly looks: TaskLook[] = [];
  /** the latest moment anything was said of */
  private latestMs = Number.NEGATIVE_INFINITY;
  private carries: Carry[] = [];
  private readonly toolCounts: RunState['toolCounts'][number][] = [];
  private readonly counted = new Map<string, number>();
  private readonly defects: DefectReport[] = [];
  private readonly out = new Map<string, CookieOutcome>();
  private startedAtMs: number | null = null;
  private pausedAtMs: number | null = null;
  private dehydratorOffAtMs: number | null = null;

  /** the same readings as what a tray on the bench stands in */
  private readonly onBench: GrowingAirs;

  /** `plan` is the plan as it was amended; its waits are counted anew only when they are asked for */
  constructor(private plan: RunPlan) {
    this.onBench = new GrowingAirs(plan.air);
  }

  state(standing: readonly RunEvent[]): RunState {
    const { startedAtMs, pausedAtMs, looks, room, carries, defects, toolCounts, dehydratorOffAtMs } = this;
    const finished = this.plan.tasks.length > 0 && this.plan.tasks.every(this.isDone);
    return {
      plan: this.asItIs(),
      startedAtMs,
      pausedAtMs,
      tasks: new Map(this.tasks),
      looks: [...looks],
      notBeforeMs: new Map(
        [...new Set(looks.map((l) => l.taskId))].flatMap((id) => {
          const task = this.open(id);
          const ms = task && this.lookAgainMs(task);
          return ms === undefined ? [] : [[id, ms] as const];
        }),
      ),
      shutAtMs: new Map(this.shutAtMs),
      room: [...room],
      carries,
      counted: new Map(this.counted),
      defects: [...defects],
      out: new Map(this.out),
      toolCounts: [...toolCounts],
      dehydratorOffAtMs,
      standing,
      finished,
    };
  }

  /** The plan as it was amended, with the waits it was given then. */
  get amended(): RunPlan {
    return this.plan;
  }
  private get epochMs(): number {
    return planIndex(this.plan).epochMs;
  }
  private readonly sOf = (ms: number): number => (ms - this.epochMs) / 1000;

  /** Whether anything is otherwise than the plan took it to be, so that its waits and windows have to be counted anew. */
  private get differs(): boolean {
    return this.room.length > 0 || this.carries.length > 0 || this.counted.size > 0;
  }
  private recount(tasks: ReadonlyMap<TaskId, TaskRecord> = this.tasks): Recount {
    const { plan, room, carries, looks, onBench } = this;
    return new Recount({ plan, tasks, room, carries, looks, atS: this.sOf(this.latestMs) }, onBench);
  }

  /** The plan with its waits as they are by now. */
  private asItIs(): RunPlan {
    const plan = this.differs ? this.recount().plan() : this.plan;
    if (this.looks.length === 0) return plan;
    const index = planIndex(plan);
    return { ...plan, waits: plan.waits.map((w) => this.endFound(w, index.task(w.from))) };
  }

  /** A wait of what was found ready ends when it was found, however it is counted since. */
  private endFound(w: PlanWait, from: RunTask | undefined): PlanWait {
    const last = this.lastLook(w.to);
    if (last?.found !== 'reached' || !from) return w;
    const doneAtMs = this.record(w.from).doneAtMs;
    // What was laid since then was not looked at.
    if (doneAtMs === null || this.sOf(doneAtMs) > last.atS) return w;
    return { ...w, minS: Math.min(w.minS, Math.floor(last.atS - this.sOf(doneAtMs) + from.endS - from.startS)) };
  }
  private lastLook(id: TaskId): TaskLook | undefined {
    return this.looks.findLast((l) => l.taskId === id && l.found !== 'past');
  }
  /** When what was found not to be there yet is looked at again; undefined where nothing was. */
  private lookAgainMs(task: RunTask): number | undefined {
    if (this.lastLook(task.id)?.found !== 'not-yet') return undefined;
    const againS = this.recount().lookAgainS(task);
    return againS === null ? undefined : this.epochMs + againS * 1000;
  }
  private isReadyBy(task: RunTask, atMs: number): boolean {
    const index = planIndex(this.plan);
    const lags = index.waitsInto(task.id).filter((w) => index.task(w.from));
    if (lags.some((w) => this.record(w.from).doneAtMs === null)) return false;
    if (this.differs && !this.lastLook(task.id)) {
      const recount = this.recount();
      const isOver = (w: PlanWait) =>
        w.rule === 'prepared-first' || w.rule === 'away-drying'
          ? readyMsOf(index, task, this.tasks, undefined, [w]) <= atMs
          : recount.isOverForSure(w, this.onBench.slowest, this.sOf(atMs));
      if (lags.every(isOver)) return true;
    }
    return this.readyMs(task) <= atMs;
  }
  private readyMs(task: RunTask): number {
    const index = planIndex(this.plan);
    const waits = (this.differs ? this.recount().waitsInto(task) : index.waitsInto(task.id)).map((w) =>
      this.endFound(w, index.task(w.from)),
    );
    return readyMsOf(index, task, this.tasks, this.lookAgainMs(task), waits);
  }

  apply(e: RunEvent): void {
    if (e.type !== 'undone') this.latestMs = Math.max(this.latestMs, e.atMs);
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
        if (!task) return;
        const { begunAtMs } = this.record(task.id);
        if (begunAtMs === null) this.set(task.id, { guessed: true });
        this.done(task, e, begunAtMs ?? e.atMs - (task.endS - task.startS) * 1000);
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
      case 'touched':
        this.looks.push({ ...e.data, atS: this.sOf(e.atMs) });
        if (e.data.found === 'not-yet') this.putDown(e.data.taskId);
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
        this.deriveAnew();
        return;
      case 'defect':
        this.defects.push(e.data);
        if (takesOut(e.data.outcome)) this.takeOut(e.data, e.atMs);
        if (e.data.outcome === 'to-cover') this.plan = withCover(this.plan, e.data, this.sOf(e.atMs));
        return;
      case 'airRead': {
        const { tempC, humidityPct } = e.data;
        const read: RoomAir = { fromS: this.sOf(e.atMs), air: { ...this.plan.air, tempC, humidityFrac: humidityPct / 100 } };
        this.room.push(read);
        this.onBench.read(read.fromS, read.air);
        return;
      }
      case 'carried':
        this.bringBack(e.data.trayId, e.atMs);
        this.carries = [
          ...this.carries,
          { trayId: e.data.trayId, where: e.data.where, startS: this.sOf(e.atMs), forS: Math.round(e.data.minutes * 60), endS: null },
        ];
        return;
      case 'broughtBack':
        this.bringBack(e.data.trayId, e.atMs);
        return;
      case 'toolsCounted':
        this.toolCounts.push({ ...e.data, atMs: e.atMs });
        return;
      case 'dehydratorOff':
        this.dehydratorOffAtMs = e.atMs;
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

  /** A tray that was carried away stands on the bench again. */
  private bringBack(trayId: string, atMs: number): void {
    const atS = this.sOf(atMs);
    this.carries = this.carries.map((c) => (c.trayId === trayId && endOfCarry(c) > atS ? { ...c, endS: atS } : c));
  }

  private readonly record = (id: string): TaskRecord => this.tasks.get(id) ?? UNTOUCHED;
  private readonly isDone = (t: RunTask): boolean => this.record(t.id).doneAtMs !== null;
  private readonly isBegun = (t: RunTask): boolean => this.record(t.id).begunAtMs !== null;
  private set(id: TaskId, more: Partial<TaskRecord>): void {
    const before = this.record(id);
    const now = { ...before, ...more };
    this.tasks.set(id, now);
    const by = planIndex(this.plan).task(id)?.by;
    if (by !== undefined) {
      const held = this.inHand.get(by) ?? new Set();
      this.inHand.set(by, held);
      if (now.begunAtMs !== null && now.doneAtMs === null) held.add(id);
      else held.delete(id);
    }
    // What is taken up is worked the way it is shown then, whatever the air does afterwards.
    if (before.begunAtMs === null && now.begunAtMs !== null && this.differs) this.workAs(id, before);
  }
  private workAs(id: TaskId, before: TaskRecord): void {
    const task = planIndex(this.plan).task(id);
    if (!task?.motions.some((m) => m.windowS !== null)) return;
    const tasks = new Map(this.tasks).set(id, before);
    const worked = this.recount(tasks).worked(task);
    if (worked.way !== task.way || worked.endS !== task.endS)
      this.plan = { ...this.plan, tasks: this.plan.tasks.map((t) => (t.id === id ? worked : t)) };
  }
  /** The task, while it is not done: done is done, a second tap or another device's changes nothing. */
  private open(id: string): RunTask | undefined {
    const task = planIndex(this.plan).task(id);
    return task && !this.isDone(task) ? task : undefined;
  }
  private putDown(id: string): void {
    if (this.open(id) && this.record(id).begunAtMs !== null) this.set(id, { begunAtMs: null });
  }

  private takeUp(by: string, atMs: number): void {
    for (const id of this.inHand.get(by) ?? []) if (this.open(id)) return;
    const next = this.firstOpenOf(by);
    if (!next) return;
    if (this.isReadyBy(next, atMs + AT_ONCE_MS)) this.set(next.id, { begunAtMs: atMs });
  }

  /** The next of someone's tasks in the plan's order. */
  private firstOpenOf(by: string): RunTask | undefined {
    let queue = this.queues.get(by);
    if (queue?.of !== this.plan.tasks) {
      queue = { of: this.plan.tasks, own: this.plan.tasks.filter((t) => t.by === by), at: 0 };
      this.queues.set(by, queue);
    }
    // What is done stays done while a log is folded, so nothing before this place has to be looked at again.
    for (let t = queue.own[queue.at]; t && this.isDone(t); t = queue.own[queue.at]) queue.at += 1;
    return queue.own[queue.at];
  }

  private done(task: RunTask, e: RunEvent, begunAtMs: number): void {
    this.set(task.id, { begunAtMs: Math.max(this.startedAtMs ?? begunAtMs, begunAtMs), doneAtMs: e.atMs, doneBy: e.id });
    this.takeUp(task.by, e.atMs);
  }

  private tick(taskId: TaskId, cookie: number, e: RunEvent): void {
    const task = this.open(taskId);
    const before = this.record(taskId);
    if (!task || cookie < task.cookies[0] || cookie >= task.cookies[1] || before.ticked?.includes(cookie)) return;
    const ticked = [...(before.ticked ?? []), cookie];
    const share = (task.endS - task.startS) / Math.max(1, task.cookies[1] - task.cookies[0]);
    const begunAtMs = before.begunAtMs ?? e.atMs - share * 1000;
    this.set(taskId, { ticked, begunAtMs, ...(before.begunAtMs === null ? { guessed: true as const } : {}) });
    if (openCookies(task, ticked).length === 0) this.done(task, e, begunAtMs);
  }

  private here(taskId: TaskId, e: RunEvent): void {
    const task = this.open(taskId);
    if (!task) return;
    const now = this.asItIs();
    const implied = impliedBy(now, task, this.isDone);
    for (const [id, when] of inferredTimes(now, task, implied, e.atMs)) this.set(id, { ...when, doneBy: e.id, inferred: true });
    for (const t of this.plan.tasks) if (t.by === task.by && t.id !== taskId) this.putDown(t.id);
    this.set(taskId, { begunAtMs: e.atMs });
  }

  private shut(taskId: TaskId, cookies: readonly number[], choice: 'skip' | 'relief' | 'again', atMs: number): void {
    const task = planIndex(this.plan).task(taskId);
    if (!task) return;
    this.shutAtMs.set(taskId, atMs);
    const settled = (c: number) => this.out.has(cookieKey(task.lotId ?? '', c)) || task.leftOut?.some((l) => l.cookies.includes(c));
    const own = cookies.filter((c) => c >= task.cookies[0] && c < task.cookies[1] && !settled(c));
    if (choice === 'again') for (const c of own) this.begin(task.lotId as string, c, 'again', atMs);
    else {
      this.plan = leftOutOf(this.plan, taskId, own);
      if (choice === 'relief') this.plan = inRelief(this.plan, taskId, own, this.isBegun);
    }
  }

  private takeOut({ lotId, cookie, outcome }: DefectReport, atMs: number): void {
    // Two devices that report the same cookie at once make one.
    if (this.out.has(cookieKey(lotId, cookie))) return;
    if (outcome === 'again' || outcome === TIE_DYE) this.begin(lotId, cookie, outcome, atMs);
    else this.leave(lotId, cookie, outcome, atMs);
  }

  private begin(lotId: LotId, cookie: number, as: 'again' | typeof TIE_DYE, atMs: number): void {
    this.leave(lotId, cookie, as, atMs);
    this.plan = withNewCookie(this.plan, lotId, cookie, as, this.sOf(atMs), this.isBegun);
  }

  private leave(lotId: LotId, cookie: number, outcome: CookieOutcome, atMs: number): void {
    this.out.set(cookieKey(lotId, cookie), outcome);
    const inHand = this.plan.tasks.filter((t) => !this.isDone(t) && this.record(t.id).begunAtMs !== null);
    this.plan = withoutCookie(this.plan, lotId, cookie, this.isDone);
    // The task in hand may have been for that cookie alone.
    for (const t of inHand) if (!this.plan.tasks.some((x) => x.id === t.id)) this.takeUp(t.by, atMs);
  }

  /** With a bag counted anew its icing dries otherwise: the steps follow from the count. */
  private deriveAnew(): void {
    const { order } = this.plan;
    const counted = new Map([...order.bags.map((b) => [bagKey(b), b.countedS] as const), ...this.counted]);
    this.plan = {
      ...this.plan,
      designs: this.plan.designs.map((d) => ({ ...d, graph: withCovers(stepsAsCounted(d.drawing, order, counted), d.graph) })),
    };
  }
}
