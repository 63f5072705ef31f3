import type { Air } from '../drying/air.js';
import { airsWith, momentOfLoss, type StayAir } from '../drying/airs.js';
import { dryingRate, secondsToLose } from '../drying/front.js';
import { type DryingState, dryingStates } from '../drying/state.js';
import { lossAsked, PACE_SPREAD, SPREAD } from '../drying/uncertainty.js';
import type { Plan, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import { gauss, type Rng } from '../time/rng.js';
import type { LotId } from '../units/id.js';
import type { Edge } from './chance-edges.js';
import { airOfStay } from './verify.js';

/** Share of a threshold's variance that all surfaces of an evening have in common, and each state's own. */
const ALL = SPREAD.common ** 2 + SPREAD.state ** 2 + SPREAD.day ** 2 + SPREAD.cookie ** 2;
const COMMON_SHARE = (SPREAD.common ** 2 + SPREAD.day ** 2) / ALL;
const STATE_SHARE = SPREAD.state ** 2 / ALL;
/** Someone with icing in hand stays this long past closing. */
const STAYS_S = 600;
/** A start this much later than planned needs an explanation. */
const NOTED_S = 60;

/** How one evening went. */
export interface Evening {
  readonly lateS: number;
  readonly missed: readonly Edge[];
  /** the drying that pushed what was packed late */
  readonly blamed: readonly Edge[];
}

type Cause = { readonly kind: 'drying'; readonly edge: Edge } | { readonly kind: 'after'; readonly task: PlanTask };

/** One evening lived: paces and drying drawn, the plan's order kept and shifted right. */
export function live(plan: Plan, tasks: readonly PlanTask[], edges: readonly Edge[], rng: Rng): Evening {
  const index = planIndex(plan);
  const family = (t: PlanTask) => index.familyOf(t);
  const normal = () => gauss(rng);
  const factor = factorsOfAnEvening(plan, normal);
  const evening = normal() * PACE_SPREAD.evening;
  const start = new Map<string, number>();
  const scale = new Map<string, number>();
  const cause = new Map<string, Cause>();
  const handsFree = new Map<string, { atS: number; task: PlanTask }>();
  const stays = new Map<string, (StayAir & { forS: number })[]>();
  const rates = new Map<Air, ReturnType<typeof dryingRate>>([[plan.air, dryingRate(plan.air)]]);
  const missed: Edge[] = [];
  const into = new Map<string, Edge[]>();
  for (const e of edges) if (e.from !== e.to) into.set(e.to.id, [...(into.get(e.to.id) ?? []), e]);
  let lateS = Number.NEGATIVE_INFINITY;
  let latest: PlanTask | null = null;
  for (const task of tasks) {
    const pace = Math.exp(evening + normal() * PACE_SPREAD.visit);
    scale.set(task.id, pace);
    let at = task.startS;
    let why: Cause | null = null;
    const push = (s: number, by: Cause) => {
      if (s <= at) return;
      at = s;
      why = by;
    };
    const before = handsFree.get(task.by);
    if (before) {
      const change = family(before.task) && family(task) && family(before.task) !== family(task) ? ASSUMED_PACE.changeoverS : 0;
      push(before.atS + Math.min(change, Math.max(0, task.startS - before.task.endS)), { kind: 'after', task: before.task });
    }
    const away = stays.get(task.trayId) ?? [];
    if (task.kind === 'take-out') push((away.at(-1)?.startS ?? 0) + (away.at(-1)?.forS ?? 0), { kind: 'after', task });
    else if (task.kind !== 'carry') for (const s of away) if (s.endS > at) push(s.endS, { kind: 'after', task });
    for (const e of into.get(task.id) ?? []) {
      const from = start.get(e.from.id) as number;
      const fromPace = scale.get(e.from.id) as number;
      for (const end of e.ends) {
        const left = from + end.leftS * fromPace;
        let ready = left;
        if (e.gap.minState && e.gap.minLossKgPerM2 !== undefined) {
          const need = lossAsked(e.gap.minLossKgPerM2, e.gap.minState, e.gap.firmLossKgPerM2, (s) =>
            factor(s, task.lotId as string, 'slowest'),
          );
          ready =
            left +
            (away.length === 0
              ? secondsToLose(rates.get(plan.air) as ReturnType<typeof dryingRate>, 0, need)
              : momentOfLoss(airsWith(plan.air, away), left, need) - left);
        }
        ready = Math.max(ready, from + end.endS * fromPace + (e.gap.minSeconds ?? 0));
        push(ready - end.beginsS * pace, { kind: 'drying', edge: e });
      }
    }
    const duration = (task.endS - task.startS) * pace;
    at = openAt(plan, task.by, at, duration);
    start.set(task.id, at);
    if (why && at > task.startS + NOTED_S) cause.set(task.id, why);
    handsFree.set(task.by, { atS: at + duration, task });
    if (task.kind === 'carry') {
      const stay = index.stayBehind(task);
      if (stay) {
        const startS = at + duration;
        stays.set(task.trayId, [...away, { startS, endS: startS + stay.forS, air: airOfStay(plan, stay.where), forS: stay.forS }]);
      }
    } else if (task.kind === 'take-out' && away.length > 0) {
      const last = away.at(-1) as StayAir & { forS: number };
      stays.set(task.trayId, [...away.slice(0, -1), { ...last, endS: at }]);
    } else if (task.kind === 'pack') {
      const due = index.dueOf(task) ?? Number.POSITIVE_INFINITY;
      if (at + duration - due > lateS) {
        lateS = at + duration - due;
        latest = task;
      }
    }
  }
  for (const e of edges) {
    if (!e.closes) continue;
    const [a, b] = [start.get(e.from.id) as number, start.get(e.to.id) as number];
    const [pa, pb] = [scale.get(e.from.id) as number, scale.get(e.to.id) as number];
    // A body's own window opens and shuts by one factor; any other by that of the state that shuts it.
    const state = e.gap.oneBody ? e.gap.minState : e.gap.maxState;
    const shuts =
      e.gap.maxLossKgPerM2 !== undefined && state
        ? secondsToLose(
            rates.get(plan.air) as ReturnType<typeof dryingRate>,
            0,
            e.gap.maxLossKgPerM2 * factor(state, e.to.lotId as string, 'fastest'),
          )
        : (e.gap.maxSeconds ?? Number.POSITIVE_INFINITY);
    if (e.ends.some((x) => b + x.doneS * pb - (a + (e.gap.oneBody ? x.leftS : x.endS) * pa) > shuts)) missed.push(e);
  }
  return { lateS, missed, blamed: lateS > 0 && latest ? dryingBehind(latest, cause) : [] };
}

/** The waits that led, one by one, to a late task. */
function dryingBehind(task: PlanTask, cause: ReadonlyMap<string, Cause>): Edge[] {
  const out = new Set<Edge>();
  const seen = new Set<string>();
  let at: PlanTask | undefined = task;
  while (at && !seen.has(at.id)) {
    seen.add(at.id);
    const c = cause.get(at.id);
    if (c?.kind === 'drying') out.add(c.edge);
    at = c?.kind === 'drying' ? c.edge.from : c?.kind === 'after' ? c.task : undefined;
  }
  return [...out];
}

/**
 * What multiplies each threshold this evening, by state and lot: common to all, each state's own, each cookie's own. Hands wait for the
 * slowest cookie of a lot, and a window has shut on the fastest first.
 */
function factorsOfAnEvening(plan: Plan, normal: () => number): (state: DryingState, lotId: string, of: 'slowest' | 'fastest') => number {
  const surface = normal();
  const whole = normal();
  const own = new Map(dryingStates.map((s) => [s, normal()]));
  const index = planIndex(plan);
  const lots = new Map<string, { readonly slowest: number; readonly fastest: number }>();
  return (state, lotId, of) => {
    const key = `${state} ${lotId}`;
    let ends = lots.get(key);
    if (!ends) {
      const each = Array.from({ length: Math.max(1, index.lot(lotId as LotId)?.cookies ?? 1) }, normal);
      ends = { slowest: Math.max(...each), fastest: Math.min(...each) };
      lots.set(key, ends);
    }
    const z = ends[of];
    const { mean, sigma } = plan.factors[state];
    const isWhole = state === 'firm' || state === 'dry';
    const shared = isWhole
      ? Math.SQRT1_2 * whole + Math.SQRT1_2 * z
      : Math.sqrt(COMMON_SHARE) * surface +
        Math.sqrt(STATE_SHARE) * (own.get(state) as number) +
        Math.sqrt(1 - COMMON_SHARE - STATE_SHARE) * z;
    return Math.exp(mean + sigma * shared);
  };
}

/** First moment from `fromS` at which someone is at the bench for so long, a little overtime allowed. */
function openAt(plan: Plan, who: string, fromS: number, durationS: number): number {
  let at = fromS;
  for (let moved = true; moved; ) {
    moved = false;
    const opening = plan.openingHours.find(([, to]) => at + durationS <= to + STAYS_S);
    if (!opening) return at;
    if (at < opening[0]) {
      at = opening[0];
      moved = true;
    }
    for (const p of plan.order.pins)
      if (p.kind === 'away' && (p.who === null || p.who === who) && at < p.to && at + durationS > p.from) {
        at = p.to;
        moved = true;
      }
  }
  return at;
}
