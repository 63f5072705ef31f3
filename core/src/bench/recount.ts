import { type Airs, momentOfLoss } from '../drying/airs.js';
import { type Asked, type Body, lostAt, lostBy, readyAfterLook, type UnseenBody } from '../drying/body.js';
import { type AirPiece, type DryingRate, dryingRate, lossThrough, secondsToLose, secondsToLoseThrough } from '../drying/front.js';
import { TOO_SLOW_S } from '../drying/outlook.js';
import type { Region } from '../drying/state.js';
import type { Motion, PlanWait, Stay } from '../formats/plan.js';
import { type PlanIndex, planIndex } from '../formats/plan-index.js';
import { atOwnPace, paceOfHands } from '../planning/own-pace.js';
import { leftToDryS } from '../planning/separation.js';
import { byPoint, isBeforeStay } from '../planning/stays.js';
import { lossAllowed, lossNeeded, marginOf } from '../planning/timed-gap.js';
import { opensWindow } from '../planning/to-plan.js';
import type { Visit } from '../planning/visit.js';
import { brokenWindow, firstPartLeadS, type InnerWindow, largestVisit, openingFirst } from '../planning/visit.js';
import type { StepGraph } from '../steps/derive.js';
import type { Gap } from '../steps/step.js';
import type { LotId, StepId, TaskId, TrayId } from '../units/id.js';
import { looksAt } from './looked.js';
import { airsAround, awayAir, roomAt } from './room.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { Carry, RoomAir, TaskLook, TaskRecord } from './run-state.js';
import { sharedCookies, visitOf } from './visit-of.js';

/** What really happened by a moment, seconds since the epoch. */
export interface Happened {
  readonly plan: RunPlan;
  readonly tasks: ReadonlyMap<TaskId, TaskRecord>;
  readonly room: readonly RoomAir[];
  readonly carries: readonly Carry[];
  readonly looks: readonly TaskLook[];
  readonly atS: number;
}

/** What a finger found not to be there yet is never looked at again sooner than this. */
const AT_LEAST_S = 120;

/**
 * Waits and windows of open work counted anew through the air as it was and is: what already dries goes on from what it has lost,
 * what is still to be piped dries in today's air. Cookie by cookie, at the plan's margin.
 */
export class Recount {
  private readonly index: PlanIndex<RunTask>;
  private readonly around = new Map<TrayId, Airs>();

  /**
   * `onBench` is what a tray that never left the bench stood in, where it is known already. `stays`: those still to come are counted on
   * wherever they may be, or only as the plan has them: exact, and true for that plan alone.
   */
  constructor(
    private readonly now: Happened,
    private readonly onBench: Airs = airsAround(now.plan, now.room, []),
    private readonly stays: 'wherever' | 'as-planned' = 'wherever',
  ) {
    this.index = planIndex(now.plan);
  }

  /** The whole plan so. */
  plan(): RunPlan {
    const tasks = this.now.plan.tasks.map((t) => (this.isDone(t) ? t : this.worked(t)));
    const changed = new Recount({ ...this.now, plan: { ...this.now.plan, tasks } }, this.onBench, this.stays);
    return { ...changed.now.plan, waits: this.now.plan.waits.map((w) => changed.wait(w)) };
  }

  /** The lags a task waits behind so. */
  waitsInto(task: RunTask): PlanWait[] {
    return this.index.waitsInto(task.id).map((w) => this.wait(w));
  }

  /** One lag so. */
  private wait(w: PlanWait): PlanWait {
    const [from, to] = [this.index.task(w.from), this.index.task(w.to)];
    if (!from || !to || this.isDone(to) || w.rule === 'away-drying') return w;
    const { minS, maxS } = this.measured(from, to);
    // However fast it dries there, its tray is not back before its time.
    const stay = this.index.stayBehind(from);
    const awayS = stay ? from.endS - from.startS + stay.forS : Number.NEGATIVE_INFINITY;
    const wait = { ...w, minS: Math.max(minS ?? w.minS, awayS), maxS: w.maxS === null ? null : (maxS ?? w.maxS) };
    return { ...wait, slackS: to.startS - from.startS - wait.minS };
  }

  /**
   * Whether a lag is over by a moment even if everything had dried in the slowest air there was: quickly said, and sure where it says so.
   * `slowest` dries no faster than any air since the bodies were laid.
   */
  isOverForSure(w: PlanWait, slowest: DryingRate, atS: number): boolean {
    const [from, to] = [this.index.task(w.from), this.index.task(w.to)];
    if (!from || !to || !this.isDone(from) || from.kind === 'carry') return false;
    const graph = this.index.graphOf(to);
    if (!graph || this.staysOf(from.trayId).begun.length > 0) return false;
    // From the end of the whole task on: no cookie of it was left later.
    const endS = this.startOf(from) + (from.endS - from.startS);
    const gaps = gapsBetween(graph, from, to).filter((gap) => gap.minState || gap.minSeconds);
    return (
      gaps.length > 0 &&
      gaps.every((gap) => {
        const need = lossNeeded(gap, this.now.plan.margin, this.now.plan.factors);
        return endS + Math.max(need > 0 ? secondsToLose(slowest, 0, need) : 0, gap.minSeconds ?? 0) <= atS;
      })
    );
  }

  private isDone(t: RunTask): boolean {
    return (this.now.tasks.get(t.id)?.doneAtMs ?? null) !== null;
  }
  private isBegun(t: RunTask): boolean {
    return (this.now.tasks.get(t.id)?.begunAtMs ?? null) !== null;
  }

  /** When a task began, or is meant to; done, so that it ended when it did. */
  private startOf(t: RunTask): number {
    const r = this.now.tasks.get(t.id);
    if (r?.doneAtMs != null) return this.index.sOf(r.doneAtMs) - (t.endS - t.startS);
    return r?.begunAtMs != null ? this.index.sOf(r.begunAtMs) : t.startS;
  }

  /** A tray's stays: where it was or is by now, and those still to come, in order. */
  private staysOf(trayId: TrayId) {
    const own = this.now.plan.stays.filter((s) => s.trayId === trayId);
    const isUnderWay = (s: Stay) => {
      const carry = this.index.carryOf(s);
      return carry !== undefined && this.isBegun(carry);
    };
    const begun = own.flatMap((s) => {
      const [carry, out] = [this.index.carryOf(s), this.index.takeOutOf(s)];
      if (!carry || !isUnderWay(s)) return [];
      const startS = this.startOf(carry) + (carry.endS - carry.startS);
      // Until hands have taken it out, only what it needs there is counted on.
      const endS = out && this.isBegun(out) ? this.startOf(out) : Math.max(startS + s.forS, out ? this.now.atS : 0);
      return [{ where: s.where, startS, endS }];
    });
    // Said at the bench: while it is still there, only what has passed is counted on, and before the fan its minutes.
    for (const c of this.now.carries.filter((x) => x.trayId === trayId))
      begun.push({ where: c.where, startS: c.startS, endS: c.endS ?? Math.max(this.now.atS, c.startS + c.forS) });
    const ahead = own.filter((s) => !isUnderWay(s)).sort(byPoint);
    if (this.stays === 'wherever') return { begun, ahead };
    return { begun: [...begun, ...ahead.map((s) => ({ where: s.where, startS: s.startS, endS: s.endS }))], ahead: [] };
  }

  /** What stood round a tray so far, and the room as it is now from here on. */
  private stood(trayId: TrayId): Airs {
    let around = this.around.get(trayId);
    if (!around) {
      const { begun } = this.staysOf(trayId);
      around = begun.length === 0 ? this.onBench : airsAround(this.now.plan, this.now.room, begun);
      this.around.set(trayId, around);
    }
    return around;
  }

  /** The icing one step of a task left, or will leave, on a cookie: from `leftS` into the task. */
  private bodyLeft(task: RunTask, region: Region, leftS: number): UnseenBody {
    // What is not begun dries from some moment to come, whatever its planned time, and after whatever stay is under way.
    const leftAtS = this.isBegun(task) ? this.startOf(task) + leftS : Math.max(this.now.atS, this.startOf(task) + leftS);
    return { region, leftAtS, airs: this.isDone(task) || this.stays === 'as-planned' ? this.stood(task.trayId) : this.onBench };
  }

  /** Start-to-start wait and window between two tasks; null where no drying lies between them. */
  private measured(from: RunTask, to: RunTask): { minS: number | null; maxS: number | null } {
    const { plan } = this.now;
    const later = visitOf(plan, to);
    const graph = this.index.graphOf(to);
    if (!later || !graph) return { minS: null, maxS: null };
    const carriesAhead = from.kind === 'carry' && !this.isBegun(from) && this.stays === 'wherever';
    // Behind a stay the plan's wait hangs on the carrying: what dries is whatever was laid on that tray before it.
    const sources =
      from.kind === 'carry'
        ? this.index
            .tasksOnLot(to.lotId)
            .filter(
              (t) => t.trayId === from.trayId && isBeforeStay(t, from) && (carriesAhead || this.stays === 'as-planned' || this.isDone(t)),
            )
        : [from];
    let minS: number | null = null;
    let maxS: number | null = null;
    for (const source of sources) {
      const earlier = source.id === to.id ? null : visitOf(plan, source);
      if (!earlier) continue;
      const gaps = gapsBetween(graph, source, to);
      if (gaps.length === 0) continue;
      const ahead = this.stillAhead(source, to);
      const offsetS = this.startOf(source) - this.startOf(from);
      for (const gap of gaps) {
        const need = lossNeeded(gap, plan.margin, plan.factors);
        const allowed = lossAllowed(gap, plan.margin, plan.factors);
        const region = this.index.step(source, gap.from)?.region;
        for (const cookie of sharedCookies(source, to)) {
          const at = (list: ReadonlyMap<string, readonly number[]>, step: string, of: RunTask) =>
            (list.get(step) as readonly number[])[cookie - of.cookies[0]] as number;
          const left = leftToDryS(earlier, gap.from, cookie);
          if (need > 0 && region) {
            const body = this.bodyLeft(source, region, left);
            const dryS = carriesAhead
              ? from.endS - from.startS + this.fromCarry(source, body, ahead, need)
              : offsetS + left + Math.max(this.fromLeft(source, body, ahead, need), gap.minSeconds ?? 0);
            minS = Math.max(minS ?? Number.NEGATIVE_INFINITY, Math.ceil(dryS - at(later.times.startS, gap.to, to)));
          } else if (gap.minSeconds) {
            const sinceS = offsetS + left + gap.minSeconds;
            minS = Math.max(minS ?? Number.NEGATIVE_INFINITY, Math.ceil(sinceS - at(later.times.startS, gap.to, to)));
          }
          if (Number.isFinite(allowed) && region) {
            const since = gap.oneBody ? left : at(earlier.times.endS, gap.from, source);
            const shutS = this.fromLeft(source, this.bodyLeft(source, region, since), ahead, allowed);
            maxS = Math.min(maxS ?? Number.POSITIVE_INFINITY, Math.floor(offsetS + since + shutS - at(later.times.endS, gap.to, to)));
          }
        }
      }
    }
    return { minS, maxS };
  }

  /** Of what is planned only a stay that must come between the two can be counted on, and not when in between. */
  private stillAhead(source: RunTask, to: RunTask): Ahead {
    const bench = roomAt(this.now.plan, this.now.room, this.now.atS);
    const stays = this.staysOf(to.trayId)
      .ahead.filter((s) => isBeforeStay(source, s) && !isBeforeStay(to, s))
      .map((s): AirPiece => ({ air: awayAir(this.now.plan, s.where, bench), seconds: s.forS }));
    return { stays, staysS: stays.reduce((sum, p) => sum + p.seconds, 0), bench: { air: bench, seconds: Number.POSITIVE_INFINITY } };
  }

  /** Seconds from when a body is left alone until so much is lost, with the stays ahead wherever they help least. */
  private fromLeft(source: RunTask, body: UnseenBody, { stays, staysS, bench }: Ahead, loss: number): number {
    const { atS } = this.now;
    const alone = () => Math.min(TOO_SLOW_S, lostBy(body, loss) - body.leftAtS);
    if (stays.length === 0) return alone();
    const lost = this.isDone(source) ? lostAt(body, atS) : 0;
    if (lost >= loss) return alone();
    const first = secondsToLoseThrough([...stays, bench], loss, lost);
    // A fan helps most while the surface is wet: at the very end it helps least.
    const last = staysS + benchBefore(stays, bench, loss, lost);
    return Math.min(TOO_SLOW_S, Math.max(0, atS - body.leftAtS) + Math.max(first, last));
  }

  /** The same from when the tray stands where it is carried to. */
  private fromCarry(source: RunTask, body: UnseenBody, { stays, bench }: Ahead, loss: number): number {
    return Math.min(TOO_SLOW_S, secondsToLoseThrough([...stays, bench], loss, this.isDone(source) ? lostAt(body, this.now.atS) : 0));
  }

  /** Everything laid that a task waits for, cookie by cookie, as it dries, with how far into the task that cookie is touched. */
  private bodiesBehind(task: RunTask): BodyBehind[] {
    const looks = this.now.looks.filter((l) => l.taskId === task.id);
    const later = visitOf(this.now.plan, task);
    const graph = this.index.graphOf(task);
    if (!later || !graph) return [];
    return this.index.tasksOnLot(task.lotId).flatMap((from) => {
      const earlier = from === task || !this.isDone(from) ? null : visitOf(this.now.plan, from);
      if (!earlier) return [];
      return gapsBetween(graph, from, task).flatMap((gap) => {
        const region = this.index.step(from, gap.from)?.region;
        if (!region || !gap.minState || gap.minLossKgPerM2 === undefined) return [];
        const asked: Asked = { state: gap.minState, lossKgPerM2: gap.minLossKgPerM2, firmKgPerM2: gap.firmLossKgPerM2 };
        return sharedCookies(from, task).map((cookie): BodyBehind => {
          const unseen = this.bodyLeft(from, region, leftToDryS(earlier, gap.from, cookie));
          const { region: of, leftAtS } = unseen;
          const looked = looksAt(this.index, looks, { lotId: from.lotId as LotId, cookie, stepId: gap.from, region: of, leftAtS });
          const touchedS = (later.times.startS.get(gap.to) as readonly number[])[cookie - task.cookies[0]] as number;
          return { gap, asked, touchedS, body: { ...unseen, looked } };
        });
      });
    });
  }

  /**
   * When to look again at what a finger found not to be ready for a task, seconds since the epoch: each body by what was found of it.
   * null where nothing was, or the task waits for no drying.
   */
  lookAgainS(task: RunTask): number | null {
    const { margin, factors } = this.now.plan;
    const lookedS = this.now.looks.findLast((l) => l.taskId === task.id)?.atS ?? Number.NEGATIVE_INFINITY;
    let againS: number | null = null;
    for (const { gap, asked, touchedS, body } of this.bodiesBehind(task)) {
      const readyS = readyAfterLook(body, asked, AT_LEAST_S, marginOf(gap, margin), factors);
      if (readyS === null) continue;
      // A later cookie is touched later.
      againS = Math.max(againS ?? 0, Math.ceil(Math.max(lookedS + AT_LEAST_S, readyS - touchedS)));
    }
    return againS;
  }

  /** A task with the windows inside it as today's air makes them, and worked another way where they no longer hold. */
  worked(task: RunTask): RunTask {
    const { plan, atS } = this.now;
    if (!task.motions.some((m) => m.windowS !== null)) return task;
    const visit = visitOf(plan, task);
    const graph = this.index.graphOf(task);
    if (!visit || !graph) return task;
    const rate = dryingRate(roomAt(plan, this.now.room, atS));
    const inHand = this.isBegun(task);
    // In hand, what is left of a window is counted from when its body was laid, through the air it had since: the soonest of its cookies.
    const windowOf = (gap: Gap): number => {
      const allowed = lossAllowed(gap, plan.margin, plan.factors);
      const fresh = secondsToLose(rate, 0, allowed);
      const laid = inHand ? (visit.times.firstPartS?.get(gap.from) ?? visit.times.endS.get(gap.from) ?? []) : [];
      const leftAt = (endS: number) => this.startOf(task) + endS;
      return Math.min(
        fresh,
        ...laid.filter((endS) => leftAt(endS) < atS).map((endS) => momentOfLoss(this.onBench, leftAt(endS), allowed) - leftAt(endS)),
      );
    };
    const inner = gapsBetween(graph, task, task)
      .filter((g) => opensWindow(g.rule) && Number.isFinite(lossAllowed(g, plan.margin, plan.factors)))
      .map((gap): InnerWindow => ({ from: gap.from, to: gap.to, maxS: Math.floor(windowOf(gap)), gap }));
    const windowed = (m: Motion): Motion => {
      const gap = m.windowS === null ? undefined : gapsInto(graph, m.stepId).find((g) => g.from === m.windowFrom);
      return gap ? { ...m, windowS: Math.floor(windowOf(gap) - firstPartLeadS(visit.times, gap.from)) } : m;
    };
    const motions = task.motions.map(windowed);
    if (inHand || !brokenWindow(visit.times, inner)) return { ...task, motions };
    return this.reworked({ ...task, motions }, visit, graph.gaps, inner) ?? { ...task, motions };
  }

  /**
   * The same work in a way that keeps its windows: one cookie after the other where colour by colour took too long. null where none
   * does.
   */
  private reworked(task: RunTask, visit: Visit, gaps: readonly Gap[], inner: readonly InnerWindow[]): RunTask | null {
    const hands = this.now.plan.order.decorators.find((d) => d.id === task.by);
    const pace = paceOfHands(hands);
    const cookies = task.cookies[1] - task.cookies[0];
    const largest = largestVisit({ ...visit.bundle, steps: atOwnPace(visit.bundle.steps, hands) }, cookies, pace, gaps, inner);
    // Another number of parts would be another piece of work than the one its title tells.
    if (!largest.fits || largest.k < cookies || largest.times.parts > 1 || task.without) return null;
    const { times } = openingFirst({ ...visit, times: largest.times }, task.opening?.seconds ?? 0);
    return {
      ...task,
      way: times.way,
      endS: task.startS + times.durationS,
      motions: task.motions.map((m) => ({
        ...m,
        startS: times.startS.get(m.stepId) as readonly number[],
        endS: times.endS.get(m.stepId) as readonly number[],
      })),
    };
  }
}

/** Stays a body still has before it, their seconds together, and the bench afterwards. */
interface Ahead {
  readonly stays: readonly AirPiece[];
  readonly staysS: number;
  readonly bench: AirPiece;
}

/** A body that a task waits for, on one cookie. */
interface BodyBehind {
  readonly gap: Gap;
  readonly asked: Asked;
  readonly body: Body;
  /** seconds into the task at which that cookie is touched */
  readonly touchedS: number;
}

const gapsByTarget = new WeakMap<StepGraph, ReadonlyMap<StepId, readonly Gap[]>>();

/** Gaps of a design by the step that waits. */
function gapsInto(graph: StepGraph, stepId: StepId): readonly Gap[] {
  let into = gapsByTarget.get(graph);
  if (!into) {
    const made = new Map<StepId, Gap[]>();
    for (const g of graph.gaps) made.set(g.to, [...(made.get(g.to) ?? []), g]);
    into = made;
    gapsByTarget.set(graph, into);
  }
  return into.get(stepId) ?? [];
}

/** Gaps of a design from what one task does to what another does. */
function gapsBetween(graph: StepGraph, from: RunTask, to: RunTask): Gap[] {
  const own = new Set(from.motions.map((m) => m.stepId));
  return [...new Set(to.motions.map((m) => m.stepId))].flatMap((stepId) => gapsInto(graph, stepId).filter((g) => own.has(g.from)));
}

/** Seconds on the bench before the stays, so that with them at the end so much is lost; by halving. */
function benchBefore(stays: readonly AirPiece[], bench: AirPiece, loss: number, lost: number): number {
  const enough = (s: number) => lossThrough([{ ...bench, seconds: s }, ...stays], lost) >= loss;
  if (enough(0)) return 0;
  let [lo, hi] = [0, TOO_SLOW_S];
  while (hi - lo > 0.5) {
    const mid = (lo + hi) / 2;
    if (enough(mid)) hi = mid;
    else lo = mid;
  }
  return hi;
}
