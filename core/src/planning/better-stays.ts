import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { ABOUT, bareChoice, chooseStays, isWorth, type StaysChosen, wholeSetsOfStays } from './choose-stays.js';
import { givenStays } from './given-stays.js';
import { type Attempt, attempt, better, isInTime, JUDGE_PASSES } from './planning.js';
import { EveryStaySearch } from './search-stays.js';
import { measuredAnew, settled, settleStays } from './settle-stays.js';

export interface StaysEffort {
  /** passes that settle the schedule where no time is given */
  readonly passes: number;
  /** share of the time that is used up, so that rounds go on until it is over; left out, there is one round */
  readonly timeUsed?: () => number;
  readonly seed: number;
  readonly onProgress?: (text: string) => void;
  /** schedules that a way was searched for, or whole sets of it judged for, each better than all before */
  readonly onFound?: (found: Attempt) => void;
}

/**
 * What a round may use up: conflicts of the search over every set of stays, sets of stays that are judged, of those how many are made
 * exact, and passes that settle the schedule. Work is counted, never time, and each round has twice that of the one before: what a shorter
 * run found, a longer one has found too.
 */
interface Round {
  /** the more tasks there are, the longer each conflict takes; but there are so many at least, or nothing is found */
  readonly conflictsTimesTasks: number;
  readonly leastConflicts: number;
  readonly mostConflicts: number;
  readonly judged: number;
  readonly exact: number;
  readonly passes: number;
}
const FIRST_ROUND: Round = {
  conflictsTimesTasks: 12_000,
  leastConflicts: 400,
  mostConflicts: Number.POSITIVE_INFINITY,
  judged: 10,
  exact: 2,
  passes: 150,
};
const MOST_ROUNDS = 10;
/** Shares of a round's search that each way gets in turn, so that none waits for another that finds nothing. */
const SEARCH_SHARES = [0.25, 0.25, 0.5] as const;
/** The one round where no time is given: its search may cost so many conflicts a pass, times tasks. */
const ONLY_ROUND = { judged: 40, exact: 4, conflictsTimesTasks: 160, leastConflicts: 0, mostConflicts: 2000 } as const;

export interface BetterStays {
  /** the best schedule, its waits and stays exact */
  readonly exact: Attempt;
  /** no schedule with the cookies on these trays and in these hands ends sooner and has nothing late, whatever stays there are, s */
  readonly leastEndS: number;
}

/**
 * The stays of arranged trays made better in rounds, as long as there is work to do. `ways` are the ways to put the cookies on trays, the
 * most promising first: what quick plans say of them may be wrong by hours where stays matter. So two rounds go through all of them, for
 * what ends sooner than the best of all, and each after that through one fewer (after successive halving; Karnin, Koren & Somekh, ICML
 * 2013). Sets near the best are judged in between, in the way that has it.
 */
export function betterStays(ways: readonly [Attempt, ...Attempt[]], effort: StaysEffort): BetterStays {
  const time = new TimeLeft(effort.timeUsed ?? (() => 0));
  const stop = () => time.isOver();
  const rounds: Round[] = effort.timeUsed
    ? [...Array(MOST_ROUNDS).keys()].map((k) => twice(FIRST_ROUND, k))
    : [{ ...ONLY_ROUND, conflictsTimesTasks: effort.passes * ONLY_ROUND.conflictsTimesTasks, passes: effort.passes }];
  const bySearch = promising(ways);
  let turns = bySearch.map((w) => new Way(w, effort, time));
  let first = turns[bySearch.indexOf(ways[0])] as Way;
  let exact = first.settle();
  for (const [turn, round] of rounds.entries()) {
    for (const share of SEARCH_SHARES)
      for (const way of turns) {
        if (stop()) break;
        const found = way.search(exact, round, share);
        if (!found) continue;
        exact = found;
        if (isInTime(found)) effort.onFound?.(found);
        first = way;
      }
    exact = first.withFewer(exact);
    if (stop()) break;
    if (!first.isProven(exact)) exact = first.judge(first.measuredAnew(exact), round, turn);
    // What is searched whole has nothing better.
    const others = turns.filter((w) => w !== first && !w.isSearched).slice(0, Math.max(0, ways.length - 1 - turn));
    if (first.isProven(exact) && others.length === 0) break;
    turns = [first, ...others];
  }
  return { exact, leastEndS: first.leastEndS };
}

/** Ways that end about as soon as the best, those with the fewest tasks first, for these are searched soonest; then the others. */
function promising(ways: readonly [Attempt, ...Attempt[]]): Attempt[] {
  const [best] = ways;
  const isAsSoon = (a: Attempt) => isInTime(a) === isInTime(best) && a.solution.makespan <= best.solution.makespan * (1 + ABOUT);
  const tasks = (a: Attempt) => a.arranged.visits.length;
  return [...ways.filter(isAsSoon).sort((a, b) => tasks(a) - tasks(b)), ...ways.filter((w) => !isAsSoon(w))];
}

/** Share of the time for whole sets of stays, as long as it is not known what it takes to make one of them exact. */
const SETS_BY = 0.3;

/** The time there is, and what of it making stays exact takes: that is done whole or not at all, and not begun where time is too short. */
class TimeLeft {
  /** the longest that making stays exact took, a share of the time; 0 where none were */
  private took = 0;

  constructor(private readonly used: () => number) {}

  isOver(): boolean {
    return this.used() >= 1;
  }

  isOverForExact(): boolean {
    return this.used() + this.took >= 1;
  }

  isOverForSets(): boolean {
    return this.took > 0 ? this.isOverForExact() : this.used() >= SETS_BY;
  }

  /** The stays of a schedule made exact; null where that leaves none, though there is one before. */
  exact(make: () => Attempt): Attempt | null {
    const began = this.used();
    try {
      return make();
    } catch (error) {
      if (error instanceof NoAnswer) return null;
      throw error;
    } finally {
      this.took = Math.max(this.took, this.used() - began);
    }
  }
}

/** Cookies put on trays in one way, and how far the search for their stays is. */
class Way {
  /** all that could end sooner than the best schedule was searched */
  isSearched: boolean;
  /** no schedule of this way ends sooner and has nothing late, s */
  leastEndS = 0;
  private readonly every: EveryStaySearch | null;
  private readonly looked: Set<string>;
  private near: StaysChosen;
  private areSetsTried = false;
  private hasFewest: Attempt | null = null;

  constructor(
    bare: Attempt,
    private readonly effort: StaysEffort,
    private readonly time: TimeLeft,
  ) {
    const { arranged } = bare;
    this.near = bareChoice(bare);
    this.every = EveryStaySearch.of(arranged, givenStays(arranged));
    this.isSearched = this.every === null;
    this.looked = new Set([JSON.stringify(bare.stays)]);
  }

  /** The schedule with the stays that are there in any case, made exact. */
  settle(): Attempt {
    return settleStays(this.near.best, JUDGE_PASSES);
  }

  isProven(exact: Attempt): boolean {
    return this.every !== null && this.isSearched && isInTime(exact) && exact.solution.makespan <= this.leastEndS;
  }

  /**
   * Searches every set of stays for a schedule that is worth more than the best of all ways; null where none was found. Where there are too
   * many for that, whole sets of them are judged instead.
   */
  search(best: Attempt, { conflictsTimesTasks, leastConflicts, mostConflicts }: Round, share: number): Attempt | null {
    if (!this.every) return this.sets(best);
    if (this.isSearched) return null;
    const conflicts =
      share * Math.min(mostConflicts, Math.max(leastConflicts, conflictsTimesTasks / this.near.bare.arranged.visits.length));
    this.effort.onProgress?.(msg`looking at every stay`);
    const isOwn = best.arranged.way === this.near.bare.arranged.way;
    const from = isOwn ? best : this.near.best;
    const found = this.every.from(from, { conflicts, stop: () => this.time.isOver(), passes: JUDGE_PASSES }, best);
    // That nothing is in time says nothing of when what is late ends.
    if (isInTime(best) || found.better) this.leastEndS = Math.max(this.leastEndS, found.leastEndS);
    this.isSearched = found.exhausted;
    return found.better && isWorth(found.better, best) ? found.better : null;
  }

  /** The best schedule, which is of this way, without the stays that win it nothing. */
  withFewer(best: Attempt): Attempt {
    if (!this.every || best === this.hasFewest) return best;
    const fewer = this.every.withFewer(best, { stop: () => this.time.isOver(), passes: JUDGE_PASSES });
    const isAsSoon = fewer !== null && fewer.solution.makespan <= best.solution.makespan;
    this.hasFewest = isAsSoon && isWorth(fewer, best) ? fewer : best;
    return this.hasFewest;
  }

  /** The best schedule, which is of this way, made again as long as that betters it. */
  measuredAnew(best: Attempt): Attempt {
    return this.every ? measuredAnew(best, JUDGE_PASSES) : best;
  }

  /** Judges whole sets of stays, once; the best of them made exact, where it is worth more than the best of all ways. */
  private sets(best: Attempt): Attempt | null {
    if (this.areSetsTried) return null;
    this.areSetsTried = true;
    const stop = () => (this.every ? this.time.isOverForExact() : this.time.isOverForSets());
    this.near = wholeSetsOfStays(this.near, (stays) => this.judged(stays), { ...this.effort, stop });
    const next = this.near.best;
    if (this.time.isOverForExact() || !isWorth(next, best)) return null;
    const exact = this.time.exact(() => settleStays(next, JUDGE_PASSES));
    return exact && isWorth(exact, best) ? exact : null;
  }

  /** Judges sets of stays near the best, and makes the nearest exact; the best schedule then. */
  judge(best: Attempt, round: Round, turn: number): Attempt {
    let exact = this.sets(best) ?? best;
    const sets = chooseStays(this.near, (stays) => this.judged(stays), {
      ...this.effort,
      stop: () => this.time.isOverForExact(),
      most: round.judged,
      seed: this.effort.seed + turn,
      elsewhere: turn > 0,
    });
    let left = round.exact;
    for (const { stays, choice } of sets) {
      const key = JSON.stringify(stays);
      if (this.looked.has(key)) continue;
      if (left-- <= 0 || this.time.isOverForExact()) break;
      this.looked.add(key);
      const next = this.judged(stays);
      const settledNext = this.time.exact(() => settleStays(next, JUDGE_PASSES));
      if (!settledNext || !isWorth(settledNext, exact)) continue;
      this.near = { ...this.near, best: next, choice };
      exact = settledNext;
    }
    if (this.time.isOverForExact()) return exact;
    this.effort.onProgress?.(msg`settling the plan`);
    const longer = settled(this.near.best, round.passes, () => (this.time.isOverForExact() ? 1 : 0));
    if (better(longer.score, this.near.best.score)) this.near = { ...this.near, best: longer };
    const again = this.time.exact(() => settleStays(this.near.best));
    return again && better(again.score, exact.score) ? again : exact;
  }

  private judged(stays: Attempt['stays']): Attempt {
    return attempt(this.near.bare.arranged, { stays, passes: JUDGE_PASSES });
  }
}

const twice = (r: Round, times: number): Round => ({
  ...r,
  conflictsTimesTasks: r.conflictsTimesTasks * 2 ** times,
  leastConflicts: r.leastConflicts * 2 ** times,
  judged: r.judged * 2 ** times,
  exact: r.exact * 2 ** times,
  passes: r.passes * 2 ** times,
});
