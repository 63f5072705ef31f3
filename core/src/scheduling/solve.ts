import { type Rng, seededRng } from '../time/rng.js';
import { lowerBounds } from './bounds.js';
import { buildGroups, construct, type Groups } from './construct.js';
import { changeoversArePairwise, exactSearch } from './exact.js';
import { improveByLearning } from './improve-by-learning.js';
import { buildModel, type Model } from './model.js';
import { components, earliestOpenStarts, earliestStarts } from './network.js';
import { lessThan, scheduleValue, type Value } from './objective.js';
import type { Infeasible, Outcome, Problem, Solution } from './problem.js';

export interface SolveOptions {
  /** stop after this many rounds of improvement; what makes a run repeatable */
  readonly rounds: number;
  /** share of the time used up, 1 ends the search: time is the caller's affair */
  readonly timeUsed?: () => number;
  readonly seed?: number;
  readonly onProgress?: (progress: { makespan: number; tardiness: number; lowerBound: number; round: number }) => void;
}

const EXACT_NODES_FOR_A_GROUP = 200_000;
/** Share of the time that local search has to itself. */
const LOCAL_SHARE = 0.2;
/** With rounds as the measure, so many buy so many conflicts of the learning search: what makes a run repeatable. */
const ROUNDS_PER_LEARNING = 200;
const CONFLICTS_PER_LEARNING = 800;
/** Rounds spent on leaving the hands free earlier once the bound is met. */
const ROUNDS_AT_BOUND = 200;

/**
 * Finds a schedule that keeps every minimum and maximum lag, closed hours, capacities and changeovers, or says why none
 * exists. Anytime: construction first, then local search over the order of groups, then exact search where small.
 */
export function solve(problem: Problem, options: SolveOptions): Outcome {
  const m = buildModel(problem);
  const tooMuch = demandAboveCapacity(m);
  if (tooMuch) return tooMuch;
  const temporal = earliestStarts(m);
  if (!temporal.ok) {
    const named = temporal.tasks.map((v) => m.ids[v] as string);
    return infeasible(
      'positive-cycle',
      temporal.links,
      named,
      `the lags between ${named.slice(0, 4).join(', ')}${named.length > 4 ? ' …' : ''} contradict each other: more must pass than may`,
    );
  }
  const open = earliestOpenStarts(m, temporal.start);
  if ('never' in open) return neverOpen(m, open.never);
  const lists = components(m);
  const groups = buildGroups(m, lists);
  const timeUsed = options.timeUsed ?? (() => 0);
  const expired = () => timeUsed() >= 1;
  for (const group of lists) {
    if (group.length < 2) continue;
    const alone = exactSearch(
      m,
      open.start,
      { nodes: EXACT_NODES_FOR_A_GROUP, cancelled: expired },
      { tasks: group, below: Number.MAX_SAFE_INTEGER, firstOnly: true },
    );
    if (alone.kind === 'none' && alone.complete && changeoversArePairwise(m)) {
      const inGroup = new Set(group);
      const names = group.map((v) => m.ids[v] as string);
      const links = problem.links.flatMap((l, i) => (inGroup.has(m.ids.indexOf(l.from)) && inGroup.has(m.ids.indexOf(l.to)) ? [i] : []));
      const calendar = group.some((v) => (m.closed[v] as []).length > 0);
      return infeasible(
        calendar ? 'calendar' : 'resource',
        links,
        names,
        `${names.slice(0, 4).join(', ')}${names.length > 4 ? ' …' : ''} cannot be fitted between each other's windows${calendar ? ' and the closed hours' : ''}, whatever their order`,
      );
    }
  }
  const bounds = lowerBounds(m, open.start);
  const rng = seededRng(options.seed ?? 1);
  // Local search is quick to a good plan; learning then betters it, and proves it where it can.
  const found = improve(m, groups, open.start, bounds, rng, () => timeUsed() >= LOCAL_SHARE, options);
  if (!found)
    return {
      format: 'kestfog-solution/1',
      unsolved: true,
      message: 'no plan was found in the time given, and none was proven impossible: give it more time, or more open hours',
    };
  const conflicts =
    options.rounds < Number.POSITIVE_INFINITY ? Math.floor(options.rounds / ROUNDS_PER_LEARNING) * CONFLICTS_PER_LEARNING : Number.POSITIVE_INFINITY;
  const learned = improveByLearning(m, open.start, found.start, bounds, rng, { conflicts, expired }, new Set(), (_start, value) =>
    options.onProgress?.({ makespan: value[1], tardiness: value[0], lowerBound: bounds.makespan, round: options.rounds }),
  );
  const { start, value } = learned;
  const pairwise = changeoversArePairwise(m);
  const metBound = value[1] <= bounds.makespan && (!m.tardy || value[0] <= bounds.tardiness);
  const proven = metBound || (pairwise && learned.proven);
  const makespanBound = proven ? value[1] : bounds.makespan;
  const tardinessBound = m.tardy && (proven || (pairwise && learned.provenTardiness)) ? value[0] : bounds.tardiness;
  const solution: Solution = {
    format: 'kestfog-solution/1',
    makespan: value[1],
    start: Object.fromEntries(m.ids.map((id, v) => [id, start[v] as number])),
    proven,
    lowerBound: makespanBound,
    ...(m.tardy ? { tardiness: value[0], tardinessLowerBound: tardinessBound } : {}),
  };
  return solution;
}

function improve(
  m: Model,
  groups: Groups,
  earliest: readonly number[],
  bounds: { tardiness: number; makespan: number },
  rng: Rng,
  expired: () => boolean,
  options: SolveOptions,
): { start: number[]; value: Value } | null {
  const memberOrder = groups.list.map((g) => [...g].sort((a, b) => (earliest[a] as number) - (earliest[b] as number) || a - b));
  const tails = longestTails(m);
  const urgency = groups.list.map((g) => Math.min(...g.map((v) => Math.min(m.due[v] ?? Number.POSITIVE_INFINITY, 1e12) - (tails[v] as number))));
  const heads = groups.list.map((g) => Math.min(...g.map((v) => earliest[v] as number)));
  const slack = groups.list.map((_, g) => -Math.max(...(groups.list[g] as readonly number[]).map((v) => tails[v] as number)));
  let best: { start: number[]; value: Value; sequence: number[] } | null = null;
  const consider = (priority: readonly number[]) => {
    const made = construct(m, groups, priority, memberOrder, rng);
    if ('stuck' in made) return null;
    const value = scheduleValue(m, made.start);
    return { start: [...made.start], value, sequence: made.sequence };
  };
  for (const rule of [m.tardy ? urgency : slack, heads, slack.map((s, g) => s + (heads[g] as number))]) {
    const made = consider(rule);
    if (made && (!best || lessThan(made.value, best.value))) best = made;
  }
  let current = best;
  const n = groups.list.length;
  let atBound = 0;
  for (let round = 0; round < options.rounds && n > 1; round++) {
    if (best && best.value[1] <= bounds.makespan && best.value[0] <= bounds.tardiness && ++atBound > ROUNDS_AT_BOUND) break;
    if ((round & 7) === 0) {
      if (expired()) break;
      if (best) options.onProgress?.({ makespan: best.value[1], tardiness: best.value[0], lowerBound: bounds.makespan, round });
    }
    const from = current?.sequence ?? [...Array(n).keys()];
    const sequence = [...from];
    for (let moves = 1 + Math.floor(rng() * 3); moves > 0; moves--) {
      const i = Math.floor(rng() * n);
      // Mostly near moves, now and then a far one.
      const reach = rng() < 0.8 ? 1 + Math.floor(rng() * Math.min(8, n)) : 1 + Math.floor(rng() * n);
      const j = Math.max(0, Math.min(n - 1, i + (rng() < 0.5 ? -reach : reach)));
      const [g] = sequence.splice(i, 1);
      sequence.splice(j, 0, g as number);
    }
    const rank = Array<number>(n);
    sequence.forEach((g, k) => {
      rank[g] = k;
    });
    const made = consider(rank);
    if (!made) continue;
    if (!best || lessThan(made.value, best.value)) best = made;
    // A little worse is let through now and then (record-to-record travel, Dueck 1993), so that the search leaves hollows.
    if (!current || !lessThan(current.value, made.value) || (rng() < 0.05 && made.value[0] <= best.value[0] && made.value[1] <= best.value[1] * 1.005))
      current = made;
    else if (round % 400 === 399) current = best;
  }
  return best;
}

function longestTails(m: Model): number[] {
  const tail = m.duration.map((d) => d);
  for (let pass = 0, changed = true; changed && pass <= m.n; pass++) {
    changed = false;
    for (const a of m.arcs) {
      if ((tail[a.to] as number) + a.weight > (tail[a.from] as number)) {
        tail[a.from] = (tail[a.to] as number) + a.weight;
        changed = true;
      }
    }
  }
  return tail;
}

const infeasible = (kind: Infeasible['because']['kind'], links: readonly number[], tasks: readonly string[], message: string): Infeasible => ({
  format: 'kestfog-solution/1',
  infeasible: true,
  because: { kind, links, tasks },
  message,
});

function demandAboveCapacity(m: Model): Infeasible | null {
  for (let v = 0; v < m.n; v++) {
    for (const d of m.demands[v] as readonly { resource: number; amount: number }[]) {
      const r = m.resources[d.resource] as { id: string; capacity: number };
      if (d.amount > r.capacity)
        return infeasible('resource', [], [m.ids[v] as string], `${m.ids[v]} needs ${d.amount} of ${r.id}, and there are only ${r.capacity}`);
    }
  }
  return null;
}

function neverOpen(m: Model, v: number): Infeasible {
  const beyond = m.horizon < Number.MAX_SAFE_INTEGER ? ` before the horizon ${m.horizon}` : '';
  return infeasible('calendar', [], [m.ids[v] as string], `${m.ids[v]} (${m.duration[v]} s) finds no open stretch long enough${beyond}`);
}
