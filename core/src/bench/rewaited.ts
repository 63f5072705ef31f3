import { type AirPiece, dryingRate, lossThrough, secondsToLose, secondsToLoseThrough } from '../drying/front.js';
import { TOO_SLOW_S } from '../drying/outlook.js';
import type { Motion, PlanWait, Stay } from '../formats/plan.js';
import { leftToDryS } from '../planning/separation.js';
import { byPoint, isBeforeStay } from '../planning/stays.js';
import { lossAllowed, lossNeeded } from '../planning/timed-gap.js';
import { opensWindow } from '../planning/to-plan.js';
import { airPieces } from '../planning/verify.js';
import { brokenWindow, type InnerWindow, largestVisit } from '../planning/visit.js';
import type { Visit } from '../planning/visits.js';
import { ASSUMED_PACE, scaledPace } from '../steps/pace.js';
import type { Gap } from '../steps/step.js';
import { awayAir, roomAt, surroundings } from './room.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { Carry, RoomAir, TaskRecord } from './run-state.js';
import { stayTasks } from './stay-tasks.js';
import { sharedCookies, visitOf } from './visit-of.js';

/** What every wait and window of open work comes to in the air that is, from what was really done. */
interface Now {
  readonly plan: RunPlan;
  readonly tasks: ReadonlyMap<string, TaskRecord>;
  readonly room: readonly RoomAir[];
  readonly carries: readonly Carry[];
  readonly epochMs: number;
  readonly atS: number;
}

/**
 * The plan with the waits and windows of its open work counted anew through the air as it was and is: what already dries
 * goes on from what it has lost, what is still to be piped dries in today's air. Cookie by cookie, at the plan's margin.
 */
export function rewaited(now: Now): RunPlan {
  const tasks = now.plan.tasks.map((t) => (isDone(now, t) ? t : withWindows(now, t)));
  const byId = new Map(tasks.map((t) => [t.id, t]));
  const changed = { ...now, plan: { ...now.plan, tasks } };
  const waits = now.plan.waits.map((w): PlanWait => {
    const [from, to] = [byId.get(w.from), byId.get(w.to)];
    if (!from || !to || isDone(now, to) || w.rule === 'away-drying') return w;
    const { minS, maxS } = measured(changed, from, to);
    // However fast it dries there, its tray is not back before its time.
    const stay = from.kind === 'carry' ? now.plan.stays.find((s) => stayTasks(now.plan, s).carry?.id === from.id) : undefined;
    const awayS = stay ? from.endS - from.startS + stay.forS : Number.NEGATIVE_INFINITY;
    const wait = { ...w, minS: Math.max(minS ?? w.minS, awayS), maxS: w.maxS === null ? null : (maxS ?? w.maxS) };
    return { ...wait, slackS: to.startS - from.startS - wait.minS };
  });
  return { ...changed.plan, waits };
}

const isDone = (now: Now, t: RunTask): boolean => (now.tasks.get(t.id)?.doneAtMs ?? null) !== null;
const isBegun = (now: Now, t: RunTask): boolean => (now.tasks.get(t.id)?.begunAtMs ?? null) !== null;

/** When a task began, or is meant to; done, so that it ended when it did. */
function startOf({ tasks, epochMs }: Now, t: RunTask): number {
  const r = tasks.get(t.id);
  if (r?.doneAtMs != null) return (r.doneAtMs - epochMs) / 1000 - (t.endS - t.startS);
  return r?.begunAtMs != null ? (r.begunAtMs - epochMs) / 1000 : t.startS;
}

/** A tray's stays: where it was or is by now, and those still to come, in order. */
function staysOf(now: Now, trayId: string) {
  const { plan } = now;
  const own = plan.stays.filter((s) => s.trayId === trayId);
  const isUnderWay = (s: Stay) => {
    const { carry } = stayTasks(plan, s);
    return carry !== undefined && isBegun(now, carry);
  };
  const begun = own.flatMap((s) => {
    const { carry, out } = stayTasks(plan, s);
    if (!carry || !isUnderWay(s)) return [];
    const startS = startOf(now, carry) + (carry.endS - carry.startS);
    // Until hands have taken it out, only what it needs there is counted on.
    const endS = out && isBegun(now, out) ? startOf(now, out) : Math.max(startS + s.forS, out ? now.atS : 0);
    return [{ where: s.where, startS, endS }];
  });
  // Said at the bench: while it is still there, only what has passed is counted on, and before the fan its minutes.
  for (const c of now.carries.filter((x) => x.trayId === trayId))
    begun.push({ where: c.where, startS: c.startS, endS: c.endS ?? Math.max(now.atS, c.startS + c.forS) });
  return { begun, ahead: own.filter((s) => !isUnderWay(s)).sort(byPoint) };
}

/** Start-to-start wait and window between two tasks; null where no drying lies between them. */
function measured(now: Now, from: RunTask, to: RunTask): { minS: number | null; maxS: number | null } {
  const { plan } = now;
  const later = visitOf(plan, to);
  const graph = plan.designs.find((d) => d.id === later?.lot.designId)?.graph;
  if (!later || !graph) return { minS: null, maxS: null };
  const carriesAhead = from.kind === 'carry' && !isBegun(now, from);
  // Behind a stay the plan's wait hangs on the carrying: what dries is whatever was laid on that tray before it.
  const sources =
    from.kind === 'carry'
      ? plan.tasks.filter((t) => t.trayId === from.trayId && t.lotId === to.lotId && isBeforeStay(t, from) && (carriesAhead || isDone(now, t)))
      : [from];
  let minS: number | null = null;
  let maxS: number | null = null;
  for (const source of sources) {
    const earlier = source.id === to.id ? null : visitOf(plan, source);
    if (!earlier) continue;
    const drying = dryingOf(now, source, to);
    const offsetS = startOf(now, source) - startOf(now, from);
    for (const gap of graph.gaps) {
      if (!earlier.times.endS.has(gap.from) || !later.times.startS.has(gap.to)) continue;
      const need = lossNeeded(gap, plan.margin, plan.factors);
      const allowed = lossAllowed(gap, plan.margin, plan.factors);
      for (const cookie of sharedCookies(source, to)) {
        const at = (list: ReadonlyMap<string, readonly number[]>, step: string, of: RunTask) =>
          (list.get(step) as readonly number[])[cookie - of.cookies[0]] as number;
        const left = leftToDryS(earlier, gap.from, cookie);
        if (need > 0) {
          const dryS = carriesAhead
            ? from.endS - from.startS + drying.fromCarry(left, need)
            : offsetS + left + Math.max(drying.fromLeft(left, need), gap.minSeconds ?? 0);
          minS = Math.max(minS ?? Number.NEGATIVE_INFINITY, Math.ceil(dryS - at(later.times.startS, gap.to, to)));
        }
        if (Number.isFinite(allowed)) {
          const since = gap.oneBody ? left : at(earlier.times.endS, gap.from, source);
          maxS = Math.min(maxS ?? Number.POSITIVE_INFINITY, Math.floor(offsetS + since + drying.fromLeft(since, allowed) - at(later.times.endS, gap.to, to)));
        }
      }
    }
  }
  return { minS, maxS };
}

/** How long a body of one task's icing takes to lose so much water before another task; seconds into the task, kg/m². */
interface Drying {
  readonly fromLeft: (leftS: number, loss: number) => number;
  /** counted from when the tray stands where it is carried to */
  readonly fromCarry: (leftS: number, loss: number) => number;
}

function dryingOf(now: Now, source: RunTask, to: RunTask): Drying {
  const { plan, room, atS } = now;
  const bench = roomAt(plan, room, atS);
  const { begun, ahead } = staysOf(now, to.trayId);
  // Of what is planned only a stay that must come between the two can be counted on, and not when in between.
  const between = ahead
    .filter((s) => isBeforeStay(source, s) && !isBeforeStay(to, s))
    .map((s): AirPiece => ({ air: awayAir(plan, s.where, bench), seconds: s.forS }));
  const stays = between.reduce((sum, p) => sum + p.seconds, 0);
  const forEver: AirPiece = { air: bench, seconds: Number.POSITIVE_INFINITY };
  const done = isDone(now, source);
  // What is still to be piped comes after whatever stay is under way.
  const around = surroundings(plan, room, done ? begun : []);
  // What is not begun dries from some moment to come, whatever its planned time.
  const since = (leftS: number) => (isBegun(now, source) ? startOf(now, source) + leftS : Math.max(atS, startOf(now, source) + leftS));
  const sofar = (leftS: number) => (done ? lossThrough(upTo(airPieces(since(leftS), around, plan.air), atS - since(leftS))) : 0);
  return {
    fromLeft: (leftS, loss) => {
      const lost = sofar(leftS);
      if (between.length === 0 || lost >= loss) return Math.min(TOO_SLOW_S, secondsToLoseThrough(airPieces(since(leftS), around, plan.air), loss));
      const first = secondsToLoseThrough([...between, forEver], loss, lost);
      // A fan helps most while the surface is wet: at the very end it helps least.
      const last = stays + benchBefore(between, forEver, loss, lost);
      return Math.min(TOO_SLOW_S, Math.max(0, atS - since(leftS)) + Math.max(first, last));
    },
    fromCarry: (leftS, loss) => Math.min(TOO_SLOW_S, secondsToLoseThrough([...between, forEver], loss, sofar(leftS))),
  };
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

/** The first so many seconds of a list of airs. */
function upTo(pieces: readonly AirPiece[], seconds: number): AirPiece[] {
  let left = Math.max(0, seconds);
  return pieces.flatMap((p) => {
    const own = Math.min(left, p.seconds);
    left -= own;
    return own > 0 ? [{ air: p.air, seconds: own }] : [];
  });
}

/** A task with the windows inside it as today's air makes them, and worked another way where they no longer hold. */
function withWindows(now: Now, task: RunTask): RunTask {
  const { plan } = now;
  const visit = visitOf(plan, task);
  const graph = plan.designs.find((d) => d.id === visit?.lot.designId)?.graph;
  if (!visit || !graph || !task.motions.some((m) => m.windowS !== null)) return task;
  const rate = dryingRate(roomAt(plan, now.room, now.atS));
  const own = new Set(task.motions.map((m) => m.stepId));
  const inHand = now.tasks.get(task.id)?.begunAtMs != null;
  const around = surroundings(plan, now.room, []);
  // In hand, what is left of a window is counted from when its body was laid, through the air it had since: the soonest of its cookies.
  const windowOf = (gap: Gap): number => {
    const allowed = lossAllowed(gap, plan.margin, plan.factors);
    const fresh = secondsToLose(rate, 0, allowed);
    const laid = inHand ? (visit.times.endS.get(gap.from) ?? []) : [];
    return Math.min(
      fresh,
      ...laid
        .filter((endS) => startOf(now, task) + endS < now.atS)
        .map((endS) => secondsToLoseThrough(airPieces(startOf(now, task) + endS, around, plan.air), allowed)),
    );
  };
  const inner = graph.gaps
    .filter((g) => own.has(g.from) && own.has(g.to) && opensWindow(g.rule) && Number.isFinite(lossAllowed(g, plan.margin, plan.factors)))
    .map((gap): InnerWindow => ({ from: gap.from, to: gap.to, maxS: Math.floor(windowOf(gap)), gap }));
  const windowed = (m: Motion): Motion => {
    const gap = m.windowS === null ? undefined : graph.gaps.find((g) => g.to === m.stepId && g.from === m.windowFrom);
    return gap ? { ...m, windowS: Math.floor(windowOf(gap)) } : m;
  };
  const motions = task.motions.map(windowed);
  if (inHand || !brokenWindow(visit.times, inner)) return { ...task, motions };
  return reworked(now, { ...task, motions }, visit, graph.gaps, inner) ?? { ...task, motions };
}

/** The same work in a way that keeps its windows: one cookie after the other where colour by colour took too long. null where none does. */
function reworked(now: Now, task: RunTask, visit: Visit, gaps: readonly Gap[], inner: readonly InnerWindow[]): RunTask | null {
  const pace = scaledPace(ASSUMED_PACE, now.plan.order.decorators.find((d) => d.id === task.by)?.pace ?? 1);
  const cookies = task.cookies[1] - task.cookies[0];
  const largest = largestVisit(visit.bundle, cookies, pace, gaps, inner);
  if (!largest.fits || largest.k < cookies || task.without) return null;
  const { times } = largest;
  return {
    ...task,
    way: times.way,
    endS: task.startS + times.durationS,
    motions: task.motions.map((m) => ({ ...m, startS: times.startS.get(m.stepId) as readonly number[], endS: times.endS.get(m.stepId) as readonly number[] })),
  };
}
