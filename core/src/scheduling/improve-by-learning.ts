import type { Rng } from '../time/rng.js';
import { keepsAll } from './keeps-all.js';
import { type LearnedSearch, learnedSearch } from './learning/schedule-search.js';
import type { Model } from './model.js';
import { lessThan, type Measures, measuresOf, meets, scheduleValue, type Value } from './objective.js';
import type { Level } from './problem.js';

/** Pairs that may be ordered either way, up to which the whole problem is searched at once; beyond, neighbourhoods of it. */
const MOST_PAIRS = 12_000;
/** Consecutive tasks of one resource that a neighbourhood sets free, and conflicts it may cost. */
const FREE_TASKS = [14, 20, 28, 36] as const;
const NEIGHBOURHOOD_CONFLICTS = 250;

export interface LearningBudget {
  readonly conflicts: number;
  /** windows of a schedule, though the whole could be searched at once */
  readonly inParts?: boolean;
  readonly expired: () => boolean;
}

export interface Learned {
  readonly start: readonly number[];
  readonly value: Value;
  /** for each level: nothing better exists, given the levels before it */
  readonly proven: readonly boolean[];
}

/** Betters a schedule by learning search, to the proof where the problem is small enough. */
export function improveByLearning(
  m: Model,
  earliest: readonly number[],
  incumbent: readonly number[],
  bounds: Measures,
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
  const search = (more: Pick<LearnedSearch, 'goal' | 'most'> & Partial<LearnedSearch>): boolean => {
    const r = learnedSearch({ m, earliest, incumbent: start, stop: budget.expired, rng, frozen, onBetter: take, conflicts: left, ...more });
    left -= r.conflicts;
    return r.exhausted;
  };
  /** At most what the levels before `i` have reached, and less than what this one has. */
  const mostAt = (i: number): LearnedSearch['most'] => {
    const now = measuresOf(m, start);
    const most: { makespan: number; tardiness?: number; soft?: number } = { makespan: safeHorizon(m) };
    for (const [k, level] of m.levels.entries()) {
      if (k > i || level === 'changes') continue;
      most[level] = k === i ? now[level] - 1 : now[level];
    }
    return most;
  };
  const reached = (i: number) => value[i] <= bounds[m.levels[i]];
  if (isSearchedWhole(m) && !budget.inParts) {
    const proven: boolean[] = [];
    // Changes are not searched for; whatever follows them cannot be proven either, unless at its bound.
    let certain = true;
    for (const [i, level] of m.levels.entries()) {
      if (level === 'changes') certain &&= reached(i);
      else if (!reached(i)) certain = left > 0 && !budget.expired() && search({ goal: level, most: mostAt(i) }) && certain;
      proven.push(certain);
    }
    return { start, value, proven };
  }
  const sequences = m.resources.map((_, r) => [...Array(m.n).keys()].filter((v) => m.demands[v].some((d) => d.resource === r)));
  const busy = sequences.map((s, r) => ({ r, n: s.length })).filter((x) => x.n > 2);
  while (left > 0 && busy.length > 0 && !budget.expired() && !meets(m, value, bounds)) {
    const { r } = busy[Math.floor(rng() * busy.length)];
    const order = [...sequences[r]].sort((a, b) => start[a] - start[b]);
    const size = Math.min(order.length, FREE_TASKS[Math.floor(rng() * FREE_TASKS.length)]);
    const at = Math.floor(rng() * (order.length - size + 1));
    const free = new Set(order.slice(at, at + size));
    const level = m.levels.findIndex((l, i) => l !== 'changes' && !reached(i));
    if (level < 0) break;
    const before = left;
    search({
      goal: m.levels[level] as Exclude<Level, 'changes'>,
      most: mostAt(level),
      free,
      conflicts: Math.min(left, NEIGHBOURHOOD_CONFLICTS),
    });
    // A neighbourhood that fails at once still costs its building.
    if (left === before) left -= 1;
  }
  let certain = true;
  return {
    start,
    value,
    proven: m.levels.map((_, i) => {
      certain &&= reached(i);
      return certain;
    }),
  };
}

/** A schedule at all, by learning search: for problems that construction finds no way into. */
export function anySchedule(
  m: Model,
  earliest: readonly number[],
  rng: Rng,
  budget: LearningBudget,
  frozen: ReadonlySet<number>,
  hint: readonly number[] = earliest,
): { readonly start: readonly number[] | null; readonly impossible: boolean } {
  const r = learnedSearch({
    m,
    earliest,
    incumbent: hint,
    goal: null,
    most: { makespan: safeHorizon(m) },
    conflicts: budget.conflicts,
    stop: budget.expired,
    rng,
    frozen,
  });
  return { start: r.start && keepsAll(m, r.start) ? r.start : null, impossible: r.exhausted && !r.start };
}

/** Whether the learning search takes the problem as one, so that it may prove what it finds. */
export const isSearchedWhole = (m: Model): boolean => pairsOf(m) <= MOST_PAIRS;

function pairsOf(m: Model): number {
  return m.resources.reduce((sum, resource, r) => {
    const amounts = [
      ...m.demands.flatMap((ds) => ds.filter((d) => d.resource === r).map((d) => d.amount)),
      ...m.holds.filter((h) => h.resource === r).map((h) => h.amount),
    ];
    const alone = amounts.filter((a) => 2 * a > resource.capacity).length;
    return sum + (alone * (alone - 1)) / 2;
  }, 0);
}

/** By then everything could be done one after the other, nights slept through: no better schedule ends later. */
export function safeHorizon(m: Model): number {
  const work = m.duration.reduce((s, d) => s + d, 0) + m.arcs.reduce((s, a) => s + Math.max(0, a.weight), 0);
  const setups = m.n * Math.max(0, ...m.resources.map((r) => r.changeover));
  let end = Math.max(0, ...m.release) + work + setups;
  const closings = m.resources.flatMap((r) => r.closed).sort((a, b) => a.fromS - b.fromS);
  for (const c of closings) if (c.fromS < end && c.toS < Number.MAX_SAFE_INTEGER) end += c.toS - c.fromS;
  return Math.min(m.horizon, end);
}
