import type { Air } from '../drying/air.js';
import { dryingRate, lossThrough, secondsToLose } from '../drying/front.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { OrderFile } from '../formats/order.js';
import type { TimedGap } from '../formats/plan.js';
import type { Link, Problem, Task } from '../scheduling/problem.js';
import type { Pace } from '../steps/pace.js';
import type { RuleId } from '../steps/step.js';
import { complementIntervals, END_OF_TIME_S } from '../time/interval.js';
import { separation } from './separation.js';
import { lossNeeded } from './timed-gap.js';
import type { Visit } from './visits.js';

/** A tray goes before the fan after this round for so long. */
export interface StayChoice {
  readonly trayId: string;
  readonly afterRound: number;
  readonly seconds: number;
}
export const STAY_LENGTHS_S = [180, 600, 1200, 1800, 2700] as const;

export const stayId = (s: StayChoice): string => `${s.trayId}.fan.r${s.afterRound}`;
export const carryId = (s: StayChoice): string => `${stayId(s)}.carry`;

/** A lag of the problem with the gap it came from. */
export interface Lag {
  readonly from: string;
  readonly to: string;
  /** start to start */
  readonly minS: number;
  readonly maxS: number | null;
  readonly rule: RuleId;
  readonly reason: string;
  readonly consequence: string;
}

export interface Built {
  readonly problem: Problem;
  readonly lags: readonly Lag[];
  /** pairs of visits whose wait was shortened by a stay, by {@link lagKey} */
  readonly behindStay: ReadonlySet<string>;
}

export interface BuildInput {
  readonly order: OrderFile;
  readonly visits: readonly Visit[];
  readonly timedByLot: ReadonlyMap<string, readonly TimedGap[]>;
  readonly stays: readonly StayChoice[];
  readonly air: Air;
  readonly fanAir: Air | null;
  readonly margin: Margin;
  readonly factors: Factors;
  readonly pace: Pace;
  /** exact start-to-start waits that replace the cautious ones behind a stay, by {@link lagKey} */
  readonly measured?: ReadonlyMap<string, number>;
}

export const lagKey = (from: string, to: string): string => `${from} > ${to}`;

/** The bench's open hours with the last opening left open-ended: what spills over is late, and told as such. */
function closedHours(bench: OrderFile['bench']): [number, number][] {
  const open = bench.map(([fromS, toS], i) => ({ fromS, toS: i === bench.length - 1 ? END_OF_TIME_S : toS }));
  return complementIntervals(open).map((c) => [c.fromS, c.toS]);
}

export function buildProblem(input: BuildInput): Built {
  const { order, visits, stays, air, fanAir, margin, pace } = input;
  const lastClose = Math.max(...order.bench.map(([, to]) => to));
  const due = Math.min(order.packBy ?? END_OF_TIME_S, lastClose);
  const tasks: Task[] = visits.map((v) => ({
    id: v.id,
    duration: v.times.durationS,
    uses: { hands: 1 },
    family: v.bundle.family,
    release: 0,
    due: v.bundle.kind === 'pack' ? due : lastClose,
  }));
  const links: Link[] = [];
  const lags: Lag[] = [];
  const behindStay = new Set<string>();
  for (const s of stays) {
    tasks.push({ id: carryId(s), duration: pace.traySwapS, uses: { hands: 1 }, family: null, release: 0, due: null });
    tasks.push({ id: stayId(s), duration: s.seconds, uses: { fan: 1 }, family: null, release: 0, due: null });
    links.push({ from: carryId(s), to: stayId(s), anchor: 'end', min: 0, max: 0 });
    for (const v of visits.filter((x) => x.lot.trayId === s.trayId)) {
      // A tray being worked wet is never before the fan, and nothing is piped on a tray that stands there.
      if (v.bundle.round <= s.afterRound && v.bundle.kind !== 'pack') links.push({ from: v.id, to: carryId(s), anchor: 'end', min: 0, max: null });
      else {
        links.push({ from: stayId(s), to: v.id, anchor: 'end', min: 0, max: null });
        lags.push({
          from: carryId(s),
          to: v.id,
          minS: pace.traySwapS + s.seconds,
          maxS: null,
          rule: 'before-the-fan',
          reason: `tray ${s.trayId} stands before the fan for ${s.seconds / 60} min`,
          consequence: 'it has not dried as far as the plan counts on',
        });
      }
    }
  }
  const byLot = new Map<string, Visit[]>();
  for (const v of visits) byLot.set(v.lot.id, [...(byLot.get(v.lot.id) ?? []), v]);
  for (const [lotId, own] of byLot) {
    for (const timed of input.timedByLot.get(lotId) ?? []) {
      for (const earlier of own.filter((v) => v.times.endS.has(timed.gap.from))) {
        for (const later of own.filter((v) => v !== earlier && v.times.endS.has(timed.gap.to))) {
          const s = separation(earlier, later, timed);
          if (!s || s.minS === null) continue;
          const between = fanAir
            ? stays.filter(
                (x) =>
                  x.trayId === earlier.lot.trayId &&
                  earlier.bundle.round <= x.afterRound &&
                  (later.bundle.round > x.afterRound || later.bundle.kind === 'pack'),
              )
            : [];
          const last = between.reduce<StayChoice | null>((a, b) => (a && a.afterRound >= b.afterRound ? a : b), null);
          const need = lossNeeded(timed.gap, margin, input.factors);
          const { rule, reason, consequence } = timed.gap;
          const key = lagKey(earlier.id, later.id);
          if (!last || !fanAir || need === 0) {
            links.push({ from: earlier.id, to: later.id, anchor: 'start', min: s.minS, max: s.maxS });
            lags.push({ from: earlier.id, to: later.id, minS: s.minS, maxS: s.maxS, rule, reason, consequence });
            continue;
          }
          behindStay.add(key);
          const known = input.measured?.get(key);
          if (known !== undefined) {
            links.push({ from: earlier.id, to: later.id, anchor: 'start', min: known, max: null });
            lags.push({ from: earlier.id, to: later.id, minS: known, maxS: null, rule, reason, consequence });
            continue;
          }
          // What dries on the bench before the stay is not counted: the stay may begin at once, and waits must never be short.
          const lost = lossThrough(between.map((x) => ({ air: fanAir, seconds: x.seconds })));
          const rest = Math.max(0, Math.ceil(secondsToLose(dryingRate(air), lost, need)) - firstTouchS(later, timed));
          links.push({ from: stayId(last), to: later.id, anchor: 'end', min: rest, max: null });
          lags.push({ from: carryId(last), to: later.id, minS: pace.traySwapS + last.seconds + rest, maxS: null, rule, reason, consequence });
        }
      }
    }
  }
  const problem: Problem = {
    format: 'kestfog-problem/1',
    resources: [
      { id: 'hands', capacity: 1, closed: closedHours(order.bench), changeover: pace.changeoverS },
      ...(stays.length > 0 && order.fan ? [{ id: 'fan', capacity: order.fan.places, closed: [], changeover: 0 }] : []),
    ],
    tasks,
    links: strongest(links),
    objective: 'tardiness',
  };
  return { problem, lags, behindStay };
}

/** Seconds into a visit before the first cookie is touched by the step that had to wait. */
function firstTouchS(later: Visit, timed: TimedGap): number {
  return Math.floor(Math.min(...(later.times.startS.get(timed.gap.to) as readonly number[])));
}

/** Of several links between the same two tasks only the strongest minimum and maximum matter. */
function strongest(links: readonly Link[]): Link[] {
  const best = new Map<string, Link>();
  for (const l of links) {
    const key = `${l.from}|${l.to}|${l.anchor}`;
    const known = best.get(key);
    if (!known) best.set(key, l);
    else {
      const maxes = [known.max, l.max].filter((x): x is number => x !== null && x !== undefined);
      best.set(key, { ...l, min: Math.max(known.min, l.min), max: maxes.length > 0 ? Math.min(...maxes) : null });
    }
  }
  return [...best.values()];
}
