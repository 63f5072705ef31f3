import type { Air } from '../drying/air.js';
import { type DryingRate, dryingRate } from '../drying/front.js';
import { stayIdOf } from '../formats/ids.js';
import type { CappedLag, OptionalSpan, ShortenedLag } from '../scheduling/search-spans.js';
import { fearedWithinS, handsId, sentAtOnce } from './build-problem.js';
import { roundsByWaiting, shutsWindow } from './given-stays.js';
import { isFasterEarly, leastLag, slowest, type Wait } from './least-lag.js';
import type { Arranged } from './planning.js';
import { leftToDryS, separation } from './separation.js';
import { byPoint, FETCHED_WITHIN_S, isBeforeStay, type StayChoice, staysBetween } from './stays.js';
import { lossNeeded } from './timed-gap.js';
import type { Visit } from './visit.js';

/** Every stay there may be, as the engine decides it: whether, how long, and between what; and every wait they make shorter. */
export interface EveryStay {
  readonly stays: ReadonlyMap<string, StayChoice>;
  readonly spans: readonly OptionalSpan[];
  readonly lags: readonly ShortenedLag[];
  /** until when a neighbour has not dried through, where that is feared: a wish of plans, which the search may be asked to keep */
  readonly feared: readonly CappedLag[];
}

/** Every stay there may be: the given ones, and after each other round of each tray one at either place. */
export function possibleStays(arranged: Arranged, given: readonly StayChoice[]): StayChoice[] {
  const { visits, timedByLot } = arranged;
  const shuts = shutsWindow(visits, timedByLot);
  const places = placesOf(arranged);
  const free = roundsByWaiting(visits).filter(
    ([t, r]) => !shuts(t, { round: r, batch: null }) && !given.some((s) => s.trayId === t && s.round === r && isWholeRound(arranged, s)),
  );
  const optional = free.flatMap(([trayId, round]) =>
    places.map((where): StayChoice => ({ where, trayId, round, batch: null, seconds: 0, why: 'time', waitS: 0 })),
  );
  return [...given, ...optional].sort(byPoint);
}

const placesOf = ({ planning }: Arranged) => (['dehydrator', 'fan'] as const).filter((where) => planning.airAt[where] !== null);

/**
 * Every set of stays there may be beside the given ones: after each round of each tray, at either place, for any time. null where there is
 * no place to go, or where what dries there does not do so faster than on the bench, and most while wet, which the waits count on.
 */
export function everyStay(arranged: Arranged, given: readonly StayChoice[]): EveryStay | null {
  const { planning, visits, handsOf } = arranged;
  const { airAt, air, pace } = planning;
  const places = placesOf(arranged);
  const bench = dryingRate(air);
  const rates = new Map(places.map((where) => [where, dryingRate(airAt[where] as Air)]));
  if (places.length === 0 || ![...rates.values()].every((r) => isFasterEarly(r, bench))) return null;
  const all = possibleStays(arranged, given);
  const onTray = new Map(arranged.lots.map((l) => [l.trayId, visits.filter((v) => v.lot.trayId === l.trayId)]));
  const spans = all.map((s): OptionalSpan => {
    const own = onTray.get(s.trayId) as readonly Visit[];
    const isGiven = s.why !== 'time';
    const mayBeLonger = s.why !== 'asked' && (!isGiven || isWholeRound(arranged, s));
    return {
      id: stayIdOf(s),
      worker: handsId(handsOf.get(s.trayId) as string),
      place: s.where,
      strokeS: pace.traySwapS,
      before: own.flatMap((v) => (isBeforeStay(v.bundle, s) ? [v.id] : [])),
      after: own.flatMap((v) => (isBeforeStay(v.bundle, s) ? [] : [v.id])),
      leastS: s.why === 'dries' ? 0 : s.seconds,
      mostS: mayBeLonger ? Number.MAX_SAFE_INTEGER : s.seconds + FETCHED_WITHIN_S,
      always: isGiven,
      soonAfter: sentAtOnce(s, visits, pace).map(({ visit, mostS }) => ({ task: visit.id, mostS })),
      excludes: isGiven ? [] : all.filter((o) => o !== s && o.why === 'time' && o.trayId === s.trayId && o.round === s.round).map(stayIdOf),
    };
  });
  const lags = visits.flatMap((from) =>
    visits.flatMap((to): ShortenedLag[] => {
      if (from === to || from.lot.id !== to.lot.id) return [];
      const between = staysBetween(all, from, to);
      const waits = waitsBetween(arranged, from, to);
      if (between.length === 0 || waits.length === 0) return [];
      const own = onTray.get(from.lot.trayId) as readonly Visit[];
      // What is worked on the tray between two stays lies on the bench meanwhile.
      const workS = between.map((s) =>
        between.map((t) =>
          own.filter((v) => !isBeforeStay(v.bundle, s) && isBeforeStay(v.bundle, t)).reduce((sum, v) => sum + v.times.durationS, 0),
        ),
      );
      const lag = leastLag(
        from.times.durationS,
        slowest(waits),
        bench,
        between.map((s) => rates.get(s.where) as DryingRate),
        workS,
        pace.traySwapS,
        onBenchS(arranged, from, to),
      );
      return [{ from: from.id, to: to.id, spans: between.map(stayIdOf), leastS: lag }];
    }),
  );
  return { stays: new Map(all.map((s) => [stayIdOf(s), s])), spans, lags, feared: fearedLags(arranged, all) };
}

/** What is feared between two visits, by the stays between them: reckoned as plans reckon it ({@link fearedWithinS}). */
function fearedLags({ planning, visits, timedByLot }: Arranged, all: readonly StayChoice[]): CappedLag[] {
  const { order, air, airAt } = planning;
  return visits.flatMap((from) =>
    visits.flatMap((to): CappedLag[] => {
      if (from === to || from.lot.id !== to.lot.id) return [];
      const between = staysBetween(all, from, to);
      const within = (timedByLot.get(from.lot.id) ?? []).flatMap((timed) => {
        const most = fearedWithinS(from, to, timed, order);
        return most ? [most] : [];
      });
      if (within.length === 0) return [];
      const airs = between.map((s) => airAt[s.where] as Air);
      const mostS = (lengthsS: readonly number[]) => {
        const pieces = [...airs.map((a, k) => ({ air: a, seconds: lengthsS[k] as number })), { air, seconds: 0 }];
        return Math.min(...within.map((most) => most(pieces)));
      };
      return [{ from: from.id, to: to.id, spans: between.map(stayIdOf), mostS }];
    }),
  );
}

/** Whether a given stay takes the place of any other in its round: it was asked for, or is the last there is and may be longer. */
function isWholeRound({ visits }: Arranged, s: StayChoice): boolean {
  if (s.why !== 'pools') return true;
  const wet = visits.filter((v) => v.lot.trayId === s.trayId && v.bundle.kind === 'wet' && v.bundle.round === s.round);
  return s.batch === Math.max(...wet.map((v) => v.bundle.batch));
}

/** The least lag there is between two visits where the tray stays on the bench. */
const onBenchS = ({ timedByLot }: Arranged, from: Visit, to: Visit): number =>
  Math.max(
    ...(timedByLot.get(from.lot.id) ?? [])
      .filter(({ gap }) => from.times.endS.has(gap.from) && to.times.endS.has(gap.to))
      .map((timed) => separation(from, to, timed)?.minS ?? Number.NEGATIVE_INFINITY),
  );

/** What bodies lose between two visits: of the first and the last cookie of both, for the one waits longest before, the other after. */
function waitsBetween({ planning, timedByLot }: Arranged, from: Visit, to: Visit): Wait[] {
  const { margin, factors } = planning.order;
  const [a, b] = [Math.max(from.cookies[0], to.cookies[0]), Math.min(from.cookies[1], to.cookies[1])];
  if (a >= b) return [];
  return (timedByLot.get(from.lot.id) ?? []).flatMap(({ gap }) => {
    const needM = from.times.endS.has(gap.from) && to.times.startS.has(gap.to) ? lossNeeded(gap, margin, factors) : 0;
    if (needM <= 0) return [];
    return [...new Set([a, b - 1])].map((cookie) => ({
      needM,
      restS: from.times.durationS - leftToDryS(from, gap.from, cookie),
      beginsS: (to.times.startS.get(gap.to) as readonly number[])[cookie - to.cookies[0]] as number,
    }));
  });
}
