import type { Rng } from '../time/rng.js';
import { keepsAll } from './keeps-all.js';
import { Layout } from './layout.js';
import type { Model } from './model.js';
import { lessThan, scheduleValue, type Value } from './objective.js';

/**
 * Temperatures at the start and at the end, as shares of a mean task: a changeover is let through at first, seconds at the end. What a
 * second of mean open time before the tasks counts against a second of the objective. And the share of moves that regroup. Chosen on
 * the decorating examples (docs/benchmarks.md): over nights it is many small gains that count, within one opening it is which groups
 * are worked together.
 */
const OVER_NIGHTS = { hot: 1 / 8, cold: 1 / 240, earlierWeight: 2, regroup: 0.2 } as const;
const WITHIN_ONE_OPENING = { hot: 1 / 4, cold: 1 / 32, earlierWeight: 0, regroup: 0.6 } as const;
/** Moves between looks at the budget. */
const LOOK_EVERY = 64;

/** Whether nothing closes before a schedule ends. */
export function isWithinOneOpening(m: Model, start: readonly number[]): boolean {
  const endS = Math.max(...start.map((s, v) => s + m.duration[v]));
  return !m.resources.some((r) => r.closed.some((c) => c.fromS < endS));
}

export interface Annealed {
  readonly start: readonly number[];
  readonly value: Value;
}

/**
 * Betters a schedule by simulated annealing (Kirkpatrick, Gelatt & Vecchi, Science 220, 1983) over the order in which its
 * tasks are laid out. On a long bench nearly all that can still be won lies in changeovers and in open hours too short for
 * the next task, spread over the whole of it: many small moves find it where windows searched one at a time do not. Beside
 * the objective itself it counts the mean open time before the tasks, weighted by their work: a changeover saved on Monday
 * counts at once, before enough of them are together to end the week earlier.
 *
 * `used(moves)` is the share of the budget that is used up; 1 ends it.
 */
export function anneal(
  m: Model,
  earliest: readonly number[],
  incumbent: readonly number[],
  rng: Rng,
  used: (moves: number) => number,
  frozen: ReadonlySet<number>,
  onBetter: (start: readonly number[], value: Value) => void = () => {},
): Annealed {
  let best: Annealed = { start: incumbent, value: scheduleValue(m, incumbent) };
  const layout = new Layout(m, earliest, incumbent, frozen);
  // What a schedule holds between two tasks an order cannot show; there the learning search is alone.
  if (m.holds.length > 0 || !layout.layAll()) return best;
  const meanTaskS = m.duration.reduce((sum, d) => sum + d, 0) / Math.max(1, m.n) || 1;
  const { hot, cold, earlierWeight, regroup } = isWithinOneOpening(m, incumbent) ? WITHIN_ONE_OPENING : OVER_NIGHTS;
  // Where the end counts whole and no hours are closed, what ends too late to be let through shows before it is laid out.
  const leastCounts = earlierWeight === 0 && m.levels[0] === 'makespan';
  const energyOf = () => layout.cost(meanTaskS) + earlierWeight * layout.meanOpenS();
  let energy = energyOf();
  let lowest = energy;
  let found: number[] | null = [...layout.start];
  const take = () => {
    if (!found) return;
    const value = scheduleValue(m, found);
    // The engine's own check, by other means than the layout's.
    if (lessThan(value, best.value) && keepsAll(m, found)) {
      best = { start: found, value };
      onBetter(found, value);
    }
    found = null;
  };
  take();
  for (let moves = 0, share = used(0); share < 1; moves++) {
    if (moves % LOOK_EVERY === 0) {
      share = used(moves);
      take();
    }
    const temperature = meanTaskS * hot * (cold / hot) ** share;
    const most = energy - temperature * Math.log(1 - rng());
    if (!layout.tryMove(rng, regroup, leastCounts ? most : undefined)) continue;
    const next = layout.whole ? energyOf() : Number.POSITIVE_INFINITY;
    if (next > most) {
      layout.undo();
      continue;
    }
    layout.keep();
    energy = next;
    if (energy < lowest) {
      lowest = energy;
      found = [...layout.start];
    }
  }
  take();
  return best;
}
