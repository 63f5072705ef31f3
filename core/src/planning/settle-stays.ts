import { lagKey, stayIdOf } from '../formats/ids.js';
import type { Stay } from '../formats/plan.js';
import { NoAnswer } from '../units/bad-input.js';
import { takeOutId } from './build-problem.js';
import { type Arranged, type Attempt, type AttemptOptions, attempt, better } from './planning.js';
import { byPoint, FETCHED_WITHIN_S, isBeforeStay, type StayChoice } from './stays.js';
import { staysOf } from './to-plan.js';
import { type MeasuredGap, measureGaps } from './verify.js';
import { changesCutShort } from './whole-changes.js';

/** Passes of a schedule made anew. */
const PASSES = 160;
/** A wait this much longer than the air needs is worth solving again: *assumed*, one part in ten. */
const LONG_BY = 1.1;
const SHORT_BY_S = 5;
const TRIES = 3;
/** A stay is made shorter by no less than this. */
const SHORTER_BY_S = 3;

/**
 * A schedule whose stays were chosen cautiously, as if nothing had dried before them, made exact: places are kept only until hands
 * fetch the tray, stays end when what waits for them is ready, and waits behind them are what the air asks for.
 */
export const settleStays = (first: Attempt, passes = PASSES): Attempt =>
  first.stays.length === 0
    ? checked(first)
    : measureAgain(endedWhenReady(measureAgain(fetchedAsSoon(first, passes), passes), passes), passes);

/** A schedule bettered further with the same stays and waits. */
export function settled(a: Attempt, passes: number, timeUsed?: () => number): Attempt {
  const next = attempt(a.arranged, {
    stays: a.stays,
    passes,
    warm: a.solution.start,
    ...(a.measured ? { measured: a.measured } : {}),
    ...(timeUsed ? { timeUsed } : {}),
  });
  return better(next.score, a.score) ? next : a;
}

/** Whether every change of bag has its time. */
export const hasWholeChanges = (a: Attempt): boolean => changesCutShort(a.built.problem, a.solution.start).length === 0;

/**
 * The same schedule with time for every change of bag, where one is cut short by a tray that is carried in between: at once, and then
 * bettered as long as there is time. `timeUsed`: share of the time that is used up.
 */
export function withWholeChanges(a: Attempt, timeUsed: () => number = () => 0): Attempt {
  if (hasWholeChanges(a)) return a;
  const around = (passes: number) => exactAround(a.arranged, a.stays, staysOf(a), a.solution.start, passes, { timeUsed });
  const atOnce = around(0);
  const longer = timeUsed() < 1 ? around(PASSES) : null;
  if (!atOnce || !longer) return atOnce ?? longer ?? a;
  return better(atOnce.score, longer.score) ? atOnce : longer;
}

/** The stays with their places kept only as long as hands really need to fetch the tray, and what that wins. */
function fetchedAsSoon(first: Attempt, passes: number): Attempt {
  let best = first;
  for (let i = 0; i < TRIES; i++) {
    const { start } = best.solution;
    const stays = best.stays.map((s) => ({ ...s, waitS: (start[takeOutId(s)] as number) - (start[stayIdOf(s)] as number) - s.seconds }));
    if (stays.every((s, k) => s.waitS === (best.stays[k]?.waitS ?? FETCHED_WITHIN_S))) break;
    const next = attempt(best.arranged, { stays, passes, warm: start });
    if (better(best.score, next.score)) break;
    best = next;
  }
  return best;
}

/** Cautious waits behind a stay are measured through the air the plan gives, and solved again where they were too long. */
function measureAgain(first: Attempt, passes: number): Attempt {
  checked(first);
  let best = first;
  const exact = new Map<string, number>(first.measured);
  for (let i = 0; i < TRIES; i++) {
    let changed = false;
    const need = new Map<string, { neededS: number; givenS: number }>();
    for (const g of measuredIn(best)) {
      const key = lagKey(g.from.id, g.to.id);
      if (best.built.behindStay.has(key))
        need.set(key, { neededS: Math.max(need.get(key)?.neededS ?? Number.NEGATIVE_INFINITY, g.neededS), givenS: g.givenS });
    }
    for (const [key, g] of need) {
      if (g.givenS > g.neededS * LONG_BY && g.givenS - g.neededS > SHORT_BY_S) {
        exact.set(key, g.neededS);
        changed = true;
      }
    }
    if (!changed) break;
    const next = attempt(best.arranged, { stays: best.stays, passes, measured: exact, warm: best.solution.start });
    // Moving the stay itself changes what its trays need: a plan with a wait that came out short is not taken.
    if (isShort(next) || !better(next.score, best.score)) break;
    best = next;
  }
  return best;
}

/** Every wait through the air that these stays give, with tasks at these starts. */
export function measured({ planning, visits, timedByLot }: Arranged, stays: readonly Stay[], start: Starts): MeasuredGap[] {
  const { order } = planning;
  const airs = stays.flatMap((s) => {
    const air = planning.airAt[s.where];
    return air ? [{ trayId: s.trayId, startS: s.startS, endS: s.endS, air }] : [];
  });
  return measureGaps(
    visits,
    timedByLot,
    start,
    (trayId) => airs.filter((s) => s.trayId === trayId),
    planning.air,
    order.margin,
    order.factors,
  );
}

const measuredIn = (a: Attempt): MeasuredGap[] => measured(a.arranged, staysOf(a), a.solution.start);

const isShort = (a: Attempt): boolean => measuredIn(a).some((g) => g.neededS > g.givenS);

/** The schedule itself, once no wait in it came out short: that would be an error of ours. */
function checked(a: Attempt): Attempt {
  const short = measuredIn(a).find((g) => g.neededS > g.givenS);
  if (short) throw new Error(`a wait came out short: ${JSON.stringify(short.timed.gap)}`);
  return a;
}

export type Starts = Attempt['solution']['start'];

/**
 * Stays that save time end as soon as what comes next on their tray is ready, reckoned with all that dried before. The first stay of
 * each tray is made shorter first: what dries less in it dries longer in those behind it.
 */
function endedWhenReady(first: Attempt, passes: number): Attempt {
  let best = first;
  const nth = first.stays.map((s) => first.stays.filter((o) => o.trayId === s.trayId && byPoint(o, s) < 0).length);
  for (let sweep = 0; sweep < TRIES; sweep++) {
    const before = best;
    for (let n = 0; n <= Math.max(...nth); n++) {
      const there = staysOf(best);
      const gaps = measuredIn(best);
      const ready = best.stays.map((s, k) =>
        s.why === 'time' && nth[k] === n ? Math.min(s.seconds, secondsUntilReady(best, gaps, there, there[k] as Stay)) : s.seconds,
      );
      if (best.stays.every((s, k) => s.seconds - (ready[k] as number) < SHORTER_BY_S)) continue;
      const next = withShorter(best, there, ready, passes);
      if (next && !better(best.score, next.score)) best = next;
    }
    if (!better(best.score, before.score)) break;
  }
  return best;
}

/**
 * The schedule with stays of these lengths, and all that comes after one of them on its tray so much sooner; null where a wait would be
 * short however often it is measured, or no schedule is left.
 */
function withShorter(a: Attempt, there: readonly Stay[], seconds: readonly number[], passes: number): Attempt | null {
  const wonBy = (trayId: string, atS: number) =>
    there.reduce((sum, s, k) => (s.trayId === trayId && s.endS <= atS ? sum + s.forS - (seconds[k] as number) : sum), 0);
  const sooner: Record<string, number> = { ...a.solution.start };
  for (const v of a.arranged.visits) sooner[v.id] = (sooner[v.id] as number) - wonBy(v.lot.trayId, sooner[v.id] as number);
  const then = there.map((s, k): Stay => {
    const startS = s.startS - wonBy(s.trayId, s.startS);
    return { ...s, startS, endS: startS + s.endS - s.startS - (s.forS - (seconds[k] as number)) };
  });
  const stays = a.stays.map((s, k): StayChoice => ({ ...s, seconds: seconds[k] as number }));
  return exactAround(a.arranged, stays, then, sooner, passes, { wholeChanges: false });
}

/**
 * A schedule with these stays, its waits measured where its tasks and stays are said to be, and again where they then come to be; or as it
 * is said to be, where that keeps every rule and nothing better came of it. null where a wait would be short however often it is measured,
 * or no schedule is left.
 */
export function exactAround(
  arranged: Arranged,
  stays: readonly StayChoice[],
  there: readonly Stay[],
  start: Starts,
  passes: number,
  { wholeChanges = true, timeUsed }: Pick<AttemptOptions, 'wholeChanges' | 'timeUsed'> = {},
): Attempt | null {
  const needed = measured(arranged, there, start);
  const exact = new Map<string, number>();
  const take = (gaps: readonly MeasuredGap[]) => {
    for (const g of gaps) {
      const key = lagKey(g.from.id, g.to.id);
      exact.set(key, Math.max(exact.get(key) ?? Number.NEGATIVE_INFINITY, g.neededS));
    }
  };
  take(needed);
  const options = { stays, warm: start, wholeChanges, ...(timeUsed ? { timeUsed } : {}) };
  const isKept = needed.every((g) => g.neededS <= g.givenS);
  const said = isKept ? attemptOrNone(arranged, { ...options, passes: 0, frozen: start, measured: new Map(exact) }) : null;
  // Its stays are where its hands carry, which need not be where they were said to be.
  const asItIs = said && !isShort(said) ? said : null;
  for (let i = 0; i < TRIES; i++) {
    const next = attemptOrNone(arranged, { ...options, passes, measured: new Map(exact) });
    if (!next) break;
    // Whatever moves with a stay, its waits are looked at again in the air it then has.
    if (!isShort(next)) return asItIs && better(asItIs.score, next.score) ? asItIs : next;
    take(measured(next.arranged, staysOf(next), next.solution.start));
  }
  return asItIs;
}

/** null where such stays leave no schedule; that there is one with others is known. */
function attemptOrNone(arranged: Arranged, options: AttemptOptions): Attempt | null {
  try {
    return attempt(arranged, options);
  } catch (error) {
    if (error instanceof NoAnswer) return null;
    throw error;
  }
}

/** The same stays, waits measured anew as long as that betters the schedule: what moved dries otherwise, and may move again. */
export function measuredAnew(a: Attempt, passes: number): Attempt {
  let best = a;
  for (let i = 0; i < TRIES; i++) {
    const next = exactAround(best.arranged, best.stays, staysOf(best), best.solution.start, passes);
    if (!next || !better(next.score, best.score)) break;
    best = next;
  }
  return best;
}

/** How long a tray has to stay until what comes next may begin; what is ready only later, on the bench, dries here as long as it did. */
function secondsUntilReady(a: Attempt, gaps: readonly MeasuredGap[], stays: readonly Stay[], stay: Stay): number {
  const { start } = a.solution;
  const nextS = Math.min(...stays.filter((s) => s.trayId === stay.trayId && s.startS > stay.startS).map((s) => s.startS));
  const ready = gaps
    .filter(
      ({ from, to }) =>
        from.lot.trayId === stay.trayId &&
        isBeforeStay(from.bundle, stay) &&
        !isBeforeStay(to.bundle, stay) &&
        (start[to.id] as number) <= nextS &&
        a.built.behindStay.has(lagKey(from.id, to.id)),
    )
    .map((g) => (start[g.from.id] as number) + g.neededS);
  const readyS = Math.max(stay.startS, ...ready);
  return readyS > stay.startS && readyS < stay.endS ? Math.max(SHORTER_BY_S, Math.ceil(readyS - stay.startS)) : stay.forS;
}
