import type { Rng } from '../time/rng.js';
import { keepsAll } from './keeps-all.js';
import { type LearnedSearch, learnedSearch } from './learning/schedule-search.js';
import type { Model } from './model.js';
import { lessThan, scheduleValue, type Value } from './objective.js';

/** Pairs that may be ordered either way, up to which the whole problem is searched at once; beyond, neighbourhoods of it. */
const MOST_PAIRS = 12_000;
/** Consecutive tasks of one resource that a neighbourhood sets free, and conflicts it may cost. */
const FREE_TASKS = [14, 20, 28, 36] as const;
const NEIGHBOURHOOD_CONFLICTS = 250;

export interface LearningBudget {
  readonly conflicts: number;
  readonly expired: () => boolean;
}

export interface Learned {
  readonly start: readonly number[];
  readonly value: Value;
  /** no schedule is better: of the tardiness, and of the makespan at that tardiness */
  readonly provenTardiness: boolean;
  readonly proven: boolean;
}

/** Betters a schedule by learning search, to the proof where the problem is small enough. */
export function improveByLearning(
  m: Model,
  earliest: readonly number[],
  incumbent: readonly number[],
  bounds: { readonly tardiness: number; readonly makespan: number },
  rng: Rng,
  budget: LearningBudget,
  frozen: ReadonlySet<number>,
  onBetter: (start: readonly number[], value: Value) => void,
): Learned {
  let start = incumbent;
  let value = scheduleValue(m, start);
  let left = budget.conflicts;
  const take = (found: readonly number[]) => {
    const v = scheduleValue(m, found);
    // The engine's own check, by other means than the search: a plan is never taken on the search's word alone.
    if (!lessThan(v, value) || !keepsAll(m, found)) return;
    start = found;
    value = v;
    onBetter(start, value);
  };
  const search = (more: Pick<LearnedSearch, 'goal' | 'mostMakespan' | 'mostTardiness'> & Partial<LearnedSearch>): boolean => {
    const r = learnedSearch({ m, earliest, incumbent: start, conflicts: left, stop: budget.expired, rng, frozen, onBetter: take, ...more });
    left -= r.conflicts;
    return r.exhausted;
  };
  let provenTardiness = !m.tardy || value[0] <= bounds.tardiness;
  let proven = provenTardiness && value[1] <= bounds.makespan;
  if (pairsOf(m) <= MOST_PAIRS) {
    if (!provenTardiness) provenTardiness = search({ goal: 'tardiness', mostMakespan: safeHorizon(m), mostTardiness: value[0] - 1 });
    if (left > 0 && !proven && !budget.expired()) {
      const done = value[1] <= bounds.makespan || search({ goal: 'makespan', mostMakespan: value[1] - 1, mostTardiness: value[0] });
      proven = provenTardiness && done;
    }
    return { start, value, provenTardiness, proven };
  }
  const sequences = m.resources.map((_, r) =>
    [...Array(m.n).keys()].filter((v) => (m.demands[v] as readonly { resource: number }[]).some((d) => d.resource === r)),
  );
  const busy = sequences.map((s, r) => ({ r, n: s.length })).filter((x) => x.n > 2);
  while (left > 0 && busy.length > 0 && !budget.expired()) {
    if (value[0] <= bounds.tardiness && value[1] <= bounds.makespan) break;
    const { r } = busy[Math.floor(rng() * busy.length)] as { r: number };
    const order = [...(sequences[r] as number[])].sort((a, b) => (start[a] as number) - (start[b] as number));
    const size = Math.min(order.length, FREE_TASKS[Math.floor(rng() * FREE_TASKS.length)] as number);
    const at = Math.floor(rng() * (order.length - size + 1));
    const free = new Set(order.slice(at, at + size));
    const before = left;
    const tardy = m.tardy && value[0] > bounds.tardiness;
    search({
      goal: tardy ? 'tardiness' : 'makespan',
      mostMakespan: tardy ? value[1] * 2 : value[1] - 1,
      mostTardiness: tardy ? value[0] - 1 : value[0],
      free,
      conflicts: Math.min(left, NEIGHBOURHOOD_CONFLICTS),
    });
    // A neighbourhood that fails at once still costs its building.
    if (left === before) left -= 1;
  }
  proven = value[0] <= bounds.tardiness && value[1] <= bounds.makespan;
  return { start, value, provenTardiness: value[0] <= bounds.tardiness, proven };
}

function pairsOf(m: Model): number {
  return m.resources.reduce((sum, resource, r) => {
    const amounts = m.demands.flatMap((ds) => ds.filter((d) => d.resource === r).map((d) => d.amount));
    const alone = amounts.filter((a) => 2 * a > resource.capacity).length;
    return sum + (alone * (alone - 1)) / 2;
  }, 0);
}

/** By then everything could be done one after the other, nights slept through: no better schedule ends later. */
function safeHorizon(m: Model): number {
  const work = m.duration.reduce((s, d) => s + d, 0) + m.arcs.reduce((s, a) => s + Math.max(0, a.weight), 0);
  const setups = m.n * Math.max(0, ...m.resources.map((r) => r.changeover));
  let end = Math.max(0, ...m.release) + work + setups;
  for (const r of m.resources) for (const c of r.closed) if (c.fromS < end && c.toS < Number.MAX_SAFE_INTEGER) end += c.toS - c.fromS;
  return Math.min(m.horizon, end);
}
