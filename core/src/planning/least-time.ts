import { dryingRate, secondsToLose } from '../drying/front.js';
import { cookiesMade } from '../formats/order.js';
import type { StepGraph } from '../steps/derive.js';
import { dueS, graphOfHands, type Planning } from './planning.js';
import { lossNeeded } from './timed-gap.js';

/**
 * Whether no plan can pack everything in time, however cookies are put on trays, whoever has which, and whatever stays are chosen: one
 * cookie alone takes too long in the best air there is, or there is more work due by some time than hands at the bench until then. Both
 * leave out handling, carrying and nights, so that they never say too much; where they say no, a plan may still not exist.
 */
export function cannotBeInTime(planning: Planning): boolean {
  const { order, ids, graphs } = planning;
  const opensS = Math.min(...order.openingHours.map(([from]) => from));
  const least = graphs.map((graph, i) =>
    quickest(
      graph,
      order.decorators.map((who) => graphOfHands(planning, i, who)),
    ),
  );
  const dues = ids.map((id) => dueS(planning, id));
  if (graphs.some((graph, i) => opensS + leastPathS(planning, graph, least[i] as Seconds) > (dues[i] as number))) return true;
  return dues.some((due) => {
    const handsS = order.decorators.length * order.openingHours.reduce((sum, [from, to]) => sum + Math.max(0, Math.min(to, due) - from), 0);
    const workS = order.designs.reduce((sum, d, i) => {
      const each = [...(least[i] as Seconds).values()].reduce((a, b) => a + b, 0);
      return (dues[i] as number) <= due ? sum + cookiesMade(d) * each : sum;
    }, 0);
    return workS > handsS;
  });
}

/** Seconds each step takes the hands that are quickest at it, by step. */
type Seconds = ReadonlyMap<string, number>;
const quickest = (graph: StepGraph, byHands: readonly StepGraph[]): Seconds =>
  new Map(graph.steps.map((s) => [s.id, Math.min(...byHands.map((g) => g.steps.find((x) => x.id === s.id)?.seconds ?? s.seconds))]));

/** From the first touch of one cookie until it is packed: the longest chain of its steps and waits, each in the best air for it. */
function leastPathS({ order, air, airAt }: Planning, graph: StepGraph, seconds: Seconds): number {
  const rates = [air, airAt.fan, airAt.dehydrator].flatMap((a) => (a ? [dryingRate(a)] : []));
  const waits = graph.gaps.map((gap) => {
    const need = lossNeeded(gap, order.margin, order.factors);
    const driesS = need > 0 ? Math.min(...rates.map((rate) => secondsToLose(rate, 0, need))) : 0;
    return { from: gap.from, to: gap.to, waitS: Math.max(driesS, gap.minSeconds ?? 0) };
  });
  const endS = new Map<string, number>(seconds);
  // Gaps have no circle, so that as many passes as there are steps are enough.
  for (let pass = 0, changed = true; changed && pass <= graph.steps.length; pass++) {
    changed = false;
    for (const { from, to, waitS } of waits) {
      const end = (endS.get(from) ?? 0) + waitS + (seconds.get(to) ?? 0);
      if (end <= (endS.get(to) ?? 0)) continue;
      endS.set(to, end);
      changed = true;
    }
  }
  return Math.max(...endS.values());
}
