import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { chooseStays, isWorth, type StaysChosen } from './choose-stays.js';
import { givenStays } from './given-stays.js';
import { type Attempt, attempt, better, isInTime, JUDGE_PASSES } from './planning.js';
import { EveryStaySearch } from './search-stays.js';
import { settled, settleStays } from './settle-stays.js';

export interface StaysEffort {
  /** passes that settle the schedule where no time is given */
  readonly passes: number;
  /** share of the time that is used up, so that rounds go on until it is over; left out, there is one round */
  readonly timeUsed?: () => number;
  readonly seed: number;
  readonly onProgress?: (text: string) => void;
}

/**
 * What a round may use up: conflicts of the search over every set of stays, sets of stays that are judged, of those how many are made
 * exact, and passes that settle the schedule. Work is counted, never time, and each round has twice that of the one before: what a shorter
 * run found, a longer one has found too.
 */
interface Round {
  readonly conflicts: number;
  readonly judged: number;
  readonly exact: number;
  readonly passes: number;
}
const FIRST_ROUND: Omit<Round, 'conflicts'> = { judged: 10, exact: 2, passes: 150 };
/** Conflicts of the first round times tasks: the more tasks there are, the longer each takes. */
const CONFLICTS_TIMES_TASKS = 24_000;
const MOST_ROUNDS = 10;
/** The one round where no time is given: its search may cost so many conflicts a pass, times tasks. */
const ONLY_ROUND = { judged: 40, exact: 4, conflictsTimesTasks: 160, mostConflicts: 2000 } as const;

export interface BetterStays {
  /** the best schedule, its waits and stays exact */
  readonly exact: Attempt;
  /** no schedule with the cookies on these trays and in these hands ends sooner and has nothing late, whatever stays there are, s */
  readonly leastEndS: number;
}

/**
 * The stays of arranged trays made better in rounds, as long as there is work to do: by searching every set of them with all their lengths
 * ({@link EveryStaySearch}), and, where that is too much, by judging sets near the best and making the nearest exact.
 */
export function betterStays(chosen: StaysChosen, effort: StaysEffort): BetterStays {
  const { arranged } = chosen.bare;
  const timeUsed = effort.timeUsed ?? (() => 0);
  const stop = () => timeUsed() >= 1;
  const judged = (stays: Attempt['stays']) => attempt(arranged, { stays, passes: JUDGE_PASSES });
  const search = EveryStaySearch.of(arranged, givenStays(arranged));
  let near = chosen;
  const began = timeUsed();
  let exact = settleStays(chosen.best, JUDGE_PASSES);
  // Making stays exact is done whole or not at all: it is not begun where there is no more time for it.
  const tookTime = timeUsed() - began;
  const isTooLate = () => timeUsed() + tookTime >= 1;
  let leastEndS = 0;
  let isSearched = search === null;
  const looked = new Set([JSON.stringify(chosen.best.stays)]);
  const tasks = arranged.visits.length;
  const conflicts = Math.min(ONLY_ROUND.mostConflicts, (effort.passes * ONLY_ROUND.conflictsTimesTasks) / tasks);
  const rounds: Round[] = effort.timeUsed
    ? [...Array(MOST_ROUNDS).keys()].map((k) => twice({ ...FIRST_ROUND, conflicts: CONFLICTS_TIMES_TASKS / tasks }, k))
    : [{ ...ONLY_ROUND, conflicts, passes: effort.passes }];
  for (const [turn, round] of rounds.entries()) {
    if (stop()) break;
    if (search && !isSearched) {
      effort.onProgress?.(msg`looking at every stay`);
      const found = search.from(exact, { conflicts: round.conflicts, stop, passes: JUDGE_PASSES });
      // That nothing is in time says nothing of when what is late ends.
      if (isInTime(exact) || found.better) leastEndS = Math.max(leastEndS, found.leastEndS);
      isSearched = found.exhausted;
      if (found.better && isWorth(found.better, exact)) exact = found.better;
      if (isSearched && isInTime(exact) && exact.solution.makespan <= leastEndS) break;
    }
    if (stop()) break;
    const sets = chooseStays(near, judged, {
      ...effort,
      stop: isTooLate,
      most: round.judged,
      seed: effort.seed + turn,
      elsewhere: turn > 0,
    });
    let left = round.exact;
    for (const { stays, choice } of sets) {
      const key = JSON.stringify(stays);
      if (looked.has(key)) continue;
      if (left-- <= 0 || isTooLate()) break;
      looked.add(key);
      const next = judged(stays);
      const settledNext = exactOrNone(() => settleStays(next, JUDGE_PASSES));
      if (!settledNext || !isWorth(settledNext, exact)) continue;
      near = { ...near, best: next, choice };
      exact = settledNext;
    }
    if (isTooLate()) break;
    effort.onProgress?.(msg`settling the plan`);
    const longer = settled(near.best, round.passes, () => (isTooLate() ? 1 : 0));
    if (better(longer.score, near.best.score)) near = { ...near, best: longer };
    const again = exactOrNone(() => settleStays(near.best));
    if (again && better(again.score, exact.score)) exact = again;
  }
  return { exact, leastEndS };
}

const twice = (r: Round, times: number): Round => ({
  conflicts: r.conflicts * 2 ** times,
  judged: r.judged * 2 ** times,
  exact: r.exact * 2 ** times,
  passes: r.passes * 2 ** times,
});

/** What was made exact; null where that leaves no schedule, though there is one before. */
function exactOrNone(exact: () => Attempt): Attempt | null {
  try {
    return exact();
  } catch (error) {
    if (error instanceof NoAnswer) return null;
    throw error;
  }
}
