import type { Air } from '../drying/air.js';
import { type AirPiece, dryingRate, lossAfter, lossBefore, lossThrough, secondsToLose, secondsToLoseThrough } from '../drying/front.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import { carryIdOf, lagKey, stayIdOf, takeOutIdOf } from '../formats/ids.js';
import type { OrderFile } from '../formats/order.js';
import type { Lag, StayPlace, TimedGap } from '../formats/plan.js';
import type { Link, Problem, Task } from '../scheduling/problem.js';
import type { Pace } from '../steps/pace.js';
import { type Why, whyOf } from '../steps/why.js';
import { complementIntervals, END_OF_TIME_S } from '../time/interval.js';
import { leftToDryS, separation } from './separation.js';
import { byPoint, FETCHED_WITHIN_S, isBeforeStay, type StayChoice, staysBetween } from './stays.js';
import { lossFeared, lossNeeded } from './timed-gap.js';
import type { Visit } from './visit.js';

/**
 * Small pools are on their way so soon after their batch: before they skin by themselves (4 to 8 min, common practice, no published
 * source).
 */
const QUICK_SET_WITHIN_S = 240;

export const carryId = (s: StayChoice): string => carryIdOf(stayIdOf(s));
export const takeOutId = (s: StayChoice): string => takeOutIdOf(stayIdOf(s));

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
  readonly airAt: Readonly<Record<StayPlace, Air | null>>;
  /** whose hands a tray has */
  readonly handsOf: ReadonlyMap<string, string>;
  /** lots whose cookies are pieces for the others */
  readonly pieceLots: readonly string[];
  /** when the cookies of a lot must be packed */
  readonly dueOf: ReadonlyMap<string, number>;
  /** nothing is begun before */
  readonly notBeforeS: number;
  readonly margin: Margin;
  readonly factors: Factors;
  readonly pace: Pace;
  /** for a bound: every wait as short as the best air there is allows, wherever one of these stays might be */
  readonly atBest?: readonly StayChoice[];
  /** exact start-to-start waits that replace the cautious ones behind a stay, by {@link lagKey} */
  readonly measured?: ReadonlyMap<string, number>;
}

/** What puts a piece made beforehand on or into a cookie. */
export const PIECE_TECHNIQUES: readonly string[] = ['glued-transfer', 'lay-in', 'assembly'];

/** Name of the hands as a resource. */
export const handsId = (who: string) => `hands of ${who}`;

/** When someone's hands are not at the bench. The last opening is left open-ended: what spills over is late, and shown as such. */
function awayHours(order: OrderFile, who: string): [number, number][] {
  const open = order.openingHours.map(([fromS, toS], i) => ({ fromS, toS: i === order.openingHours.length - 1 ? END_OF_TIME_S : toS }));
  const pinned = order.pins.flatMap((p): [number, number][] =>
    p.kind === 'away' && (p.who === null || p.who === who) ? [[p.from, p.to]] : [],
  );
  return [...complementIntervals(open).map((c): [number, number] => [c.fromS, c.toS]), ...pinned];
}

const whyStay = (s: StayChoice, until: 'out' | 'worked'): Why => ({
  rule: 'away-drying',
  facts: { kind: 'stay', trayId: s.trayId, where: s.where, minutes: Math.round(s.seconds / 60), why: s.why, until },
});

export function buildProblem(input: BuildInput): Built {
  const { order, visits, stays, air, airAt, margin, pace } = input;
  const firstOpen = Math.min(...order.openingHours.map(([from]) => from));
  const lastClose = Math.max(...order.openingHours.map(([, to]) => to));
  const hands = (trayId: string) => handsId(input.handsOf.get(trayId) as string);
  const usesPieces = (v: Visit) => v.bundle.steps.some((s) => PIECE_TECHNIQUES.includes(s.technique));
  const piecesS = (v: Visit) => (order.piecesFrom !== null && usesPieces(v) ? order.piecesFrom : 0);
  const releaseOf = (trayId: string) =>
    Math.max(input.notBeforeS, ...order.pins.map((p) => (p.kind === 'not-before' && p.tray === trayId ? p.at : 0)));
  const sharesBags = order.openBags !== null && order.decorators.length > 1;
  const tasks: Task[] = visits.map((v) => ({
    id: v.id,
    duration: v.times.durationS,
    uses: { [hands(v.lot.trayId)]: 1, ...(sharesBags && v.bundle.bags.length > 0 ? { bags: v.bundle.bags.length } : {}) },
    family: v.bundle.family,
    release: Math.max(releaseOf(v.lot.trayId), piecesS(v)),
    due: v.bundle.kind === 'pack' ? (input.dueOf.get(v.lot.id) as number) : lastClose,
  }));
  const links: Link[] = [];
  const rather = new Map<string, Link>();
  const lags: Lag[] = [];
  const behindStay = new Set<string>();
  for (const p of order.pins) {
    if (p.kind !== 'tray-first') continue;
    // The first visit of that tray begins before any other tray is begun.
    const firstOf = (own: readonly Visit[]) => own.filter((v) => v.bundle.kind === 'prepare');
    const lead = firstOf(visits.filter((v) => v.lot.trayId === p.tray))[0];
    for (const v of lead ? firstOf(visits.filter((x) => x.lot.trayId !== p.tray)) : [])
      links.push({ from: (lead as Visit).id, to: v.id, anchor: 'start', min: 0, max: null });
  }
  for (const s of stays) {
    tasks.push({ id: carryId(s), duration: pace.traySwapS, uses: { [hands(s.trayId)]: 1 }, family: null, release: 0, due: null });
    const waitS = s.waitS ?? FETCHED_WITHIN_S;
    // Its place is kept until hands have taken it out.
    tasks.push({
      id: stayIdOf(s),
      duration: s.seconds + waitS + pace.traySwapS,
      uses: { [s.where]: 1 },
      family: null,
      release: 0,
      due: null,
    });
    links.push({ from: carryId(s), to: stayIdOf(s), anchor: 'end', min: 0, max: 0 });
    tasks.push({ id: takeOutId(s), duration: pace.traySwapS, uses: { [hands(s.trayId)]: 1 }, family: null, release: 0, due: null });
    links.push({ from: stayIdOf(s), to: takeOutId(s), anchor: 'start', min: s.seconds, max: s.seconds + waitS });
    const backS = pace.traySwapS + s.seconds;
    // Before the fan it may stand on; in the dehydrator it dries harder than was counted on.
    lags.push({
      from: carryId(s),
      to: takeOutId(s),
      minS: backS,
      maxS: s.where === 'fan' ? null : backS + FETCHED_WITHIN_S,
      ...whyStay(s, 'out'),
    });
    for (const { visit: v, mostS } of sentAtOnce(s, visits, pace)) {
      links.push({ from: v.id, to: carryId(s), anchor: 'end', min: 0, max: mostS });
      lags.push({
        from: v.id,
        to: carryId(s),
        minS: v.times.durationS,
        maxS: v.times.durationS + mostS,
        rule: 'few-pools',
        facts: { kind: 'sent-at-once', why: s.why },
      });
    }
    for (const v of visits.filter((x) => x.lot.trayId === s.trayId)) {
      // A tray being worked wet is never away, and nothing is piped on a tray that is.
      if (isBeforeStay(v.bundle, s)) links.push({ from: v.id, to: carryId(s), anchor: 'end', min: 0, max: null });
      else {
        links.push({ from: takeOutId(s), to: v.id, anchor: 'end', min: 0, max: null });
        lags.push({
          from: carryId(s),
          to: v.id,
          minS: pace.traySwapS + s.seconds,
          maxS: null,
          ...whyStay(s, 'worked'),
        });
      }
    }
  }
  if (order.school.working === 'round-a-visit') roundByRound(visits, input.timedByLot, tasks, links);
  // Made on this bench, they are lifted before the first of them is put on.
  const pieceLots = new Set(input.pieceLots);
  const lifts = visits.filter((v) => v.bundle.kind === 'pack' && pieceLots.has(v.lot.id));
  for (const lift of lifts)
    for (const v of visits.filter((x) => !pieceLots.has(x.lot.id) && usesPieces(x))) {
      links.push({ from: lift.id, to: v.id, anchor: 'end', min: 0, max: null });
      lags.push({
        from: lift.id,
        to: v.id,
        minS: lift.times.durationS,
        maxS: null,
        rule: 'pieces-first',
        facts: { kind: 'lifted-pieces' },
      });
    }
  const byLot = new Map<string, Visit[]>();
  for (const v of visits) byLot.set(v.lot.id, [...(byLot.get(v.lot.id) ?? []), v]);
  for (const [lotId, own] of byLot) {
    for (const timed of input.timedByLot.get(lotId) ?? []) {
      for (const earlier of own.filter((v) => v.times.endS.has(timed.gap.from))) {
        for (const later of own.filter((v) => v !== earlier && v.times.endS.has(timed.gap.to))) {
          const s = separation(earlier, later, timed);
          if (!s || s.minS === null) continue;
          const between = staysBetween(stays, earlier, later).filter((x) => airAt[x.where] !== null);
          const last = between.reduce<StayChoice | null>((a, b) => (a && byPoint(a, b) >= 0 ? a : b), null);
          const need = lossNeeded(timed.gap, margin, input.factors);
          const why = whyOf(timed.gap);
          const link = input.atBest ? null : ratherLink(earlier, later, timed, between, input);
          if (link) {
            const known = rather.get(lagKey(earlier.id, later.id));
            // What cannot come true within all openings needs no asking.
            if ((link.max as number) < lastClose - firstOpen && (known?.max == null || (link.max as number) < known.max))
              rather.set(lagKey(earlier.id, later.id), link);
          }
          if (input.atBest) {
            const mayGo = staysBetween(input.atBest, earlier, later).length > 0;
            const min = mayGo ? soonestS(earlier, later, timed, s.minS, input) : s.minS;
            links.push({ from: earlier.id, to: later.id, anchor: 'start', min, max: s.maxS });
            continue;
          }
          const key = lagKey(earlier.id, later.id);
          if (!last || need === 0) {
            links.push({ from: earlier.id, to: later.id, anchor: 'start', min: s.minS, max: s.maxS });
            lags.push({ from: earlier.id, to: later.id, minS: s.minS, maxS: s.maxS, ...why });
            continue;
          }
          behindStay.add(key);
          const known = input.measured?.get(key);
          if (known !== undefined) {
            links.push({ from: earlier.id, to: later.id, anchor: 'start', min: known, max: null });
            lags.push({ from: earlier.id, to: later.id, minS: known, maxS: null, ...why });
            continue;
          }
          // What dries on the bench before the stay is not counted: the stay may begin at once, and waits must never be short.
          const lost = lossThrough(between.map((x) => ({ air: airAt[x.where] as Air, seconds: x.seconds })));
          const rest = Math.max(0, Math.ceil(secondsToLose(dryingRate(air), lost, need)) - firstTouchS(later, timed));
          links.push({ from: stayIdOf(last), to: later.id, anchor: 'start', min: last.seconds + rest, max: null });
          lags.push({ from: carryId(last), to: later.id, minS: pace.traySwapS + last.seconds + rest, maxS: null, ...why });
        }
      }
    }
  }
  const problem: Problem = {
    format: 'kestfog-problem/1',
    resources: [
      ...order.decorators.map((d) => ({ id: handsId(d.id), capacity: 1, closed: awayHours(order, d.id), changeover: pace.changeoverS })),
      ...(['fan', 'dehydrator'] as const).flatMap((where) => {
        const places = order[where]?.places;
        return places && stays.some((s) => s.where === where) ? [{ id: where, capacity: places, closed: [], changeover: 0 }] : [];
      }),
      ...(sharesBags ? [{ id: 'bags', capacity: order.openBags as number, closed: [], changeover: 0 }] : []),
    ],
    tasks,
    links: [...strongest(links), ...rather.values()],
    // What is feared counts for more than an early end, and less than a due time.
    objective: rather.size > 0 ? ['tardiness', 'soft', 'makespan'] : 'tardiness',
  };
  return { problem, lags, behindStay };
}

/**
 * Floods that a stay comes at once after, hands allowing, and how long after the end of each it begins at the latest: small pools are sent
 * there as they begin to set, and a round that was asked for likewise.
 */
export function sentAtOnce(s: StayChoice, visits: readonly Visit[], pace: Pace): { readonly visit: Visit; readonly mostS: number }[] {
  if (s.why !== 'pools' && s.why !== 'asked') return [];
  const pools = visits.filter(
    (v) => v.lot.trayId === s.trayId && v.bundle.kind === 'wet' && v.bundle.round === s.round && v.bundle.batch === s.batch,
  );
  const batchS = pools.reduce((sum, v) => sum + v.times.durationS + pace.changeoverS, 0);
  return pools.map((visit) => ({ visit, mostS: batchS + QUICK_SET_WITHIN_S }));
}

/** A flood should end before its neighbour has dried through, in the air it has with these stays; soft, so that there is always a plan. */
function ratherLink(earlier: Visit, later: Visit, timed: TimedGap, between: readonly StayChoice[], input: BuildInput): Link | null {
  // How long hands take to fetch it counts once it is known.
  const stays = between.map((x) => ({ air: input.airAt[x.where] as Air, seconds: x.seconds + (x.waitS ?? 0) }));
  const max = fearedWithinS(earlier, later, timed, input)?.([...stays, { air: input.air, seconds: 0 }]);
  return max === undefined ? null : { from: earlier.id, to: later.id, anchor: 'start', min: 0, max, soft: 1 };
}

/**
 * The greatest start-to-start lag at which a flood ends before its neighbour has dried through, by what it dries in, as if its stays came
 * first; never sooner than it may be laid at all. null where nothing is feared between the two.
 */
export function fearedWithinS(
  earlier: Visit,
  later: Visit,
  timed: TimedGap,
  { margin, factors }: Pick<BuildInput, 'margin' | 'factors'>,
): ((pieces: readonly AirPiece[]) => number) | null {
  if (timed.ratherBeforeS === undefined || !earlier.times.endS.has(timed.gap.from) || !later.times.endS.has(timed.gap.to)) return null;
  const at = separation(earlier, later, { ...timed, gap: { ...timed.gap, oneBody: true }, maxS: 0 });
  if (!at) return null;
  const [leastS, atOnceS] = [at.minS as number, at.maxS as number];
  const feared = lossFeared(timed.gap, margin, factors);
  return (pieces) => Math.max(leastS, atOnceS + Math.floor(secondsToLoseThrough(pieces, feared)));
}

/**
 * One round a visit to the bench: all trays have their floods of a round before any gets the next. Left out where a window
 * joins the floods of two rounds, since other trays' rounds would close it.
 */
function roundByRound(visits: readonly Visit[], timedByLot: ReadonlyMap<string, readonly TimedGap[]>, tasks: Task[], links: Link[]): void {
  const wet = visits.filter((v) => v.bundle.kind === 'wet');
  const floodRound = new Map<string, number>(
    wet.flatMap((v) => v.bundle.steps.map((s) => [`${v.lot.id} ${s.id}`, v.bundle.round] as const)),
  );
  const joined = [...timedByLot].some(([lotId, gaps]) =>
    gaps.some(
      (t) =>
        t.maxS !== null &&
        roundOf(lotId, t.gap.from) !== undefined &&
        roundOf(lotId, t.gap.to) !== undefined &&
        roundOf(lotId, t.gap.from) !== roundOf(lotId, t.gap.to),
    ),
  );
  if (joined) return;
  const rounds = [...new Set(wet.map((v) => v.bundle.round))].sort((a, b) => a - b);
  for (const [i, round] of rounds.entries()) {
    const next = rounds[i + 1];
    if (next === undefined) continue;
    const id = `round ${round} done`;
    tasks.push({ id, duration: 0, release: 0 });
    for (const v of wet) {
      if (v.bundle.round === round) links.push({ from: v.id, to: id, anchor: 'end', min: 0, max: null });
      if (v.bundle.round === next) links.push({ from: id, to: v.id, anchor: 'end', min: 0, max: null });
    }
  }
  function roundOf(lotId: string, stepId: string): number | undefined {
    return floodRound.get(`${lotId} ${stepId}`);
  }
}

/**
 * The least start-to-start wait there can be, whatever stays are chosen: on the bench, or carried at once to the best place, dried there
 * until it is ready, and fetched.
 */
function soonestS(
  earlier: Visit,
  later: Visit,
  timed: TimedGap,
  onBenchS: number,
  { air, airAt, margin, factors, pace }: BuildInput,
): number {
  const need = lossNeeded(timed.gap, margin, factors);
  if (need === 0) return onBenchS;
  const awayS = earlier.times.durationS + pace.traySwapS;
  const bench = dryingRate(air);
  const ways = (['fan', 'dehydrator'] as const).flatMap((where) => {
    const there = airAt[where];
    if (!there) return [];
    const rate = dryingRate(there);
    let least = awayS + pace.traySwapS;
    for (let cookie = Math.max(earlier.cookies[0], later.cookies[0]); cookie < Math.min(earlier.cookies[1], later.cookies[1]); cookie++) {
      const lost = lossAfter(bench, 0, awayS - leftToDryS(earlier, timed.gap.from, cookie));
      const begins = (later.times.startS.get(timed.gap.to) as readonly number[])[cookie - later.cookies[0]] as number;
      // Fetched, it dries on the bench again: while it is carried, and until this cookie is touched.
      const asFetched = lossBefore(bench, need, pace.traySwapS + begins);
      least = Math.max(least, awayS + secondsToLose(rate, lost, asFetched) + pace.traySwapS);
    }
    return [Math.floor(least)];
  });
  return Math.min(onBenchS, ...ways);
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
