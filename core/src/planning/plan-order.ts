import { type Arrangement, arrangementWays, type Late, type Plan } from '../formats/plan.js';
import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { betterStays } from './better-stays.js';
import { possibleStays } from './every-stay.js';
import { givenStays } from './given-stays.js';
import { cannotBeInTime } from './least-time.js';
import {
  type Arranged,
  type Attempt,
  arrange,
  attempt,
  better,
  dueS,
  endAtBestS,
  isInTime,
  JUDGE_PASSES,
  type PlanInput,
  type Planning,
  preparePlanning,
} from './planning.js';
import { hasWholeChanges, settled, withWholeChanges } from './settle-stays.js';
import type { StayChoice } from './stays.js';
import { toPlan } from './to-plan.js';

export interface PlanOptions extends PlanInput {
  /** passes of improvement of the last solve; the engine's own measure, so that a plan can be repeated */
  readonly passes?: number;
  /** share of the time that is used up */
  readonly timeUsed?: () => number;
  readonly onProgress?: (text: string) => void;
  /** plans that hold, each better than the one before: the first comes almost at once */
  readonly onPlan?: (plan: Plan) => void;
}

/** Passes of improvement of the plan that is kept. */
const FINAL_PASSES = 1200;
/** Share of the time after which the schedule stands: the bound takes the rest. */
const SOLVED_BY = 0.9;
/** Share of the time that the bound may take at least, even after all is used up. */
const BOUND_SHARE = 0.05;

/**
 * An order planned: steps of one cookie → trays → visits → integer lags → schedule → plan. Where not all can be packed in time the plan
 * says what is late; {@link NoAnswer} is thrown where it cannot be worked at all.
 */
export function planOrder(input: PlanOptions): Plan {
  const planning = preparePlanning(input);
  const timeUsed = input.timeUsed ?? (() => 0);
  let first = true;
  const report = (a: Attempt, so: Arrangement) => {
    // Of the quick plans only the very first is reported as it comes: what stays make of them follows soon.
    if (first) input.onPlan?.(toPlan(a, so));
    first = false;
  };
  const { ways, tried } = triedArrangements(planning, report);
  const [chosen] = ways;
  const { arranged } = chosen;
  const stays = possibleStays(arranged, givenStays(arranged));
  const passes = input.passes ?? FINAL_PASSES;
  if (stays.length === 0) {
    input.onProgress?.(msg`settling the plan`);
    const best = settled(chosen, passes, input.timeUsed && (() => timeUsed() / SOLVED_BY));
    return toPlan(best, { way: arranged.way, tried }, endAtBest(best, stays, input), lateOf(best));
  }
  const { exact, leastEndS } = betterStays(ways, {
    ...(input.onProgress ? { onProgress: input.onProgress } : {}),
    passes,
    ...(input.timeUsed ? { timeUsed: () => timeUsed() / SOLVED_BY } : {}),
    seed: planning.seed,
    onFound: (found) => {
      // One that does not hold as it is comes with the last: large orders take long to be planned anew.
      if (hasWholeChanges(found)) input.onPlan?.(toPlan(found, { way: found.arranged.way, tried }));
    },
  });
  const best = withWholeChanges(exact, input.timeUsed);
  const arrangement = { way: best.arranged.way, tried };
  const isProven = isEndFirst(best) && leastEndS >= best.solution.makespan;
  return toPlan(
    best,
    arrangement,
    isProven ? leastEndS : Math.max(leastEndS, endAtBest(best, possibleStays(best.arranged, givenStays(best.arranged)), input)),
    lateOf(best),
  );
}

/** Whether the end of all is what a schedule was made for: not one that is late, nor one that keeps away from feared neighbours first. */
const isEndFirst = (a: Attempt): boolean => typeof a.built.problem.objective === 'string' && isInTime(a);

/** What no plan can beat, over all these stays; where there is nothing to choose the schedule's own bound says it. */
function endAtBest(a: Attempt, stays: readonly StayChoice[], { passes, timeUsed }: PlanOptions): number {
  const { arranged, solution } = a;
  if (stays.length === 0 && isEndFirst(a)) return solution.proven === true ? solution.makespan : solution.lowerBound;
  const began = timeUsed?.() ?? 0;
  const share = Math.max(BOUND_SHARE, 1 - began);
  return endAtBestS(arranged, stays, {
    passes: Math.min(passes ?? FINAL_PASSES, FINAL_PASSES),
    ...(timeUsed ? { timeUsed: () => (timeUsed() - began) / share } : {}),
  });
}

/**
 * Which cookies share a tray, and which are begun first: each way planned quickly, with the stays that are there in any case; the best one
 * first. The same work whatever time there is.
 */
export function triedArrangements(
  planning: Planning,
  onInTime?: (a: Attempt, arrangement: Arrangement) => void,
): { readonly ways: readonly [Attempt, ...Attempt[]]; readonly tried: Arrangement['tried'] } {
  const ways: Attempt[] = [];
  let refused: NoAnswer | null = null;
  const tried: { way: (typeof arrangementWays)[number]; endS: number | null }[] = [];
  const seen = new Map<string, number | null>();
  for (const way of arrangementWays) {
    try {
      const arranged = arrange(planning, way);
      refuseEmptyPins(arranged);
      const key = JSON.stringify(arranged.lots);
      const known = seen.get(key);
      if (known !== undefined) {
        tried.push({ way, endS: known });
        continue;
      }
      const stays = givenStays(arranged);
      const told = (found: Attempt) =>
        isInTime(found) && onInTime?.(found, { way, tried: [...tried, { way, endS: found.solution.makespan }] });
      // Something to look at comes first, before anything is bettered.
      if (onInTime && ways.length === 0) told(attempt(arranged, { stays, passes: 0 }));
      const own = attempt(arranged, { stays, passes: JUDGE_PASSES });
      told(own);
      const endS = own.solution.makespan;
      seen.set(key, endS);
      tried.push({ way, endS });
      const after = ways.findIndex((w) => better(own.score, w.score));
      ways.splice(after < 0 ? ways.length : after, 0, own);
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error;
      refused ??= error;
      tried.push({ way, endS: null });
    }
  }
  const [best, ...others] = ways;
  if (!best) throw refused ?? new NoAnswer('unsolved', msg`The order could not be planned.`);
  return { ways: [best, ...others], tried };
}

/** A pin on a tray that stays empty would be void without a word. */
function refuseEmptyPins({ lots, planning }: Arranged): void {
  const used = new Set(lots.map((l) => l.trayId as string));
  for (const [i, p] of planning.order.pins.entries())
    if ((p.kind === 'tray-first' || p.kind === 'stay') && !used.has(p.tray))
      throw new NoAnswer(
        'empty-tray',
        msg`Tray ${p.tray} stays empty, since ${[...used].join(', ')} hold all the cookies: name one of those, or take the pin back.`,
        { place: `pins[${i}].tray` },
      );
}

/** By how much the latest cookies miss the time they are due; 0 where none does. */
export function latestBy({ arranged, solution }: Attempt): { readonly lateS: number; readonly designId: string } {
  const late = (a: Arranged) =>
    a.visits
      .filter((v) => v.bundle.kind === 'pack')
      .map((v) => ({
        lateS: (solution.start[v.id] as number) + v.times.durationS - dueS(a.planning, v.lot.designId),
        designId: v.lot.designId,
      }));
  return late(arranged).reduce((a, b) => (b.lateS > a.lateS ? b : a));
}

/** What is late in a schedule, and whether something must be however the order is worked. */
function lateOf(a: Attempt): Late | null {
  if (isInTime(a)) return null;
  const { order, ids } = a.arranged.planning;
  const lastClose = Math.max(...order.openingHours.map(([, to]) => to));
  const { lateS, designId } = latestBy(a);
  const design = order.designs[ids.indexOf(designId)];
  const own = design?.packBy ?? order.packBy;
  const after = own === null || own > lastClose ? 'closing' : design?.packBy != null ? 'own-due' : 'due';
  return { designId, byS: lateS, after, proven: cannotBeInTime(a.arranged.planning) };
}
