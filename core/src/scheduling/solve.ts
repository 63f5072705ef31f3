import { type Rng, seededRng } from '../time/rng.js';
import { msg } from '../words/index.js';
import { anneal, isWithinOneOpening } from './anneal.js';
import { lowerBounds } from './bounds.js';
import { buildGroups, construct, type Groups } from './construct.js';
import { delayedForSoft } from './delay.js';
import { changeoversArePairwise, exactSearch } from './exact.js';
import { anySchedule, improveByLearning, isSearchedWhole, type Learned } from './improve-by-learning.js';
import { keepsAll } from './keeps-all.js';
import { buildModel, type Model } from './model.js';
import { components, earliestOpenStarts, earliestStarts } from './network.js';
import { lessThan, type Measures, measuresOf, meets, scheduleValue, type Value } from './objective.js';
import type { Infeasible, Level, Outcome, Problem, Solution } from './problem.js';
import type { SolveOptions } from './solve-options.js';
import { hasWays, solveEveryWay } from './ways.js';

const EXACT_NODES_FOR_A_GROUP = 200_000;
/** Conflicts that finding a first plan may cost where passes are the measure, and those of a check while a clash is made small. */
const LEAST_CONFLICTS = 20_000;
const CLASH_CONFLICTS = 2_000;
const CLASH_TASKS = 80;
/** Local search gives up after so many passes without a better plan, and after so much work: annealing goes on from there. */
const PATIENCE = 1500;
const PATIENCE_PER_GROUP = 30;
const LOCAL_WORK = 60_000;
/**
 * Annealing and learning take turns, each turn with twice the work of the one before: all turns together cost at most twice the last.
 * Work is counted, never time, so that what a run finds in a second it has also found after ten. Moves a task of the first turn and of
 * the longest, and conflicts of the first turn below: chosen on the decorating examples. With passes as the measure each pass buys so
 * many moves.
 */
const MOVES_PER_TASK = { first: 400, firstOfMiddling: 1600, most: 8000 } as const;
const MOVES_PER_PASS = 50;
/** Moves that a first schedule costs in any case, where there are few tasks: some ten milliseconds. */
const FIRST_MOVES = 800;
/** Conflicts of the first turn: more where learning searches the whole. */
const CONFLICTS_OF_TURN = { whole: 150, parts: 60, partsOfWhole: 200 } as const;
/**
 * Up to so many tasks each turn of learning searches the whole; beyond, every other turn betters windows of it, for the whole costs more.
 */
const SMALL_TASKS = 40;
const MIDDLING_SHARE = 0.3;
/** With passes as the measure, so many buy so many conflicts of the learning search: what makes a run repeatable. */
const PASSES_PER_LEARNING = 200;
const CONFLICTS_PER_LEARNING = 800;
/** Passes spent on leaving the hands free earlier once the bound is met. */
const PASSES_AT_BOUND = 200;

/**
 * Finds a schedule that keeps every minimum and maximum lag, closed hours, capacities and changeovers, or says why none
 * exists. Anytime: construction first, then local search over the order of groups, annealing over the order of tasks, and
 * learning search, to the proof where small.
 */
export function solve(problem: Problem, options: SolveOptions): Outcome {
  if (hasWays(problem)) return solveEveryWay(problem, options, solve);
  const m = buildModel(problem);
  const tooMuch = demandAboveCapacity(m);
  if (tooMuch) return tooMuch;
  const index = new Map(m.ids.map((id, v) => [id, v]));
  const fixed = new Map(
    Object.entries(options.frozen ?? {}).flatMap(([id, s]) => (index.has(id) ? [[index.get(id) as number, s] as const] : [])),
  );
  const frozen = new Set(fixed.keys());
  const temporal = earliestStarts(m, fixed);
  if (!temporal.ok) {
    const named = temporal.tasks.map((v) => m.ids[v]);
    return infeasible(
      'positive-cycle',
      temporal.links,
      named,
      msg`the lags between ${named.slice(0, 4).join(', ')}${named.length > 4 ? ' …' : ''} contradict each other: more must pass than may`,
    );
  }
  const open = earliestOpenStarts(m, temporal.start);
  if ('never' in open) return neverOpen(m, open.never);
  const timeUsed = options.timeUsed ?? (() => 0);
  const expired = () => timeUsed() >= 1;
  const pairwise = changeoversArePairwise(m);
  const lists = components(m);
  for (const group of lists) {
    if (group.length < 2 || m.holds.length > 0) continue;
    const alone = exactSearch(
      m,
      open.start,
      { nodes: EXACT_NODES_FOR_A_GROUP, cancelled: expired },
      { tasks: group, below: Number.MAX_SAFE_INTEGER, firstOnly: true },
    );
    if (alone.kind === 'none' && alone.complete && pairwise) return neverFits(problem, m, group);
  }
  const bounds = lowerBounds(m, open.start);
  const rng = seededRng(options.seed ?? 1);
  const conflicts =
    options.passes < Number.POSITIVE_INFINITY
      ? Math.floor(options.passes / PASSES_PER_LEARNING) * CONFLICTS_PER_LEARNING
      : Number.POSITIVE_INFINITY;
  const warm = options.warm ? warmStart(m, options.warm, open.start) : null;
  // Local search is quick to a good plan; annealing and learning then better it, and learning proves it where it can. What is
  // held between two tasks construction does not know: there learning finds the first plan too.
  const groups = buildGroups(m, lists, fixed);
  const local = m.holds.length === 0 ? improve(m, groups, open.start, bounds, rng, expired, options, warm) : null;
  // Construction knows windows within a group; one that a frozen task opens it may overrun, and then its plan is none.
  let first: readonly number[] | null = local && (frozen.size === 0 || keepsAll(m, local.start)) ? local.start : null;
  if (warm && keepsAll(m, warm) && (!first || lessThan(scheduleValue(m, warm), scheduleValue(m, first)))) first = warm;
  if (!first) {
    const any = anySchedule(m, open.start, rng, { conflicts: Math.max(conflicts, LEAST_CONFLICTS), expired }, frozen, warm ?? open.start);
    if (!any.start) {
      if (any.impossible && pairwise) return neverFits(problem, m, smallestClash(problem, frozen.size > 0));
      return {
        format: 'kestfog-solution/1',
        unsolved: true,
        message: msg`no plan was found in the time given, and none was proven impossible: give it more time, or more open hours`,
      };
    }
    first = any.start;
  }
  const delayed = m.soft.length > 0 && m.holds.length === 0 ? delayedForSoft(m, groups, first, rng) : { model: m, start: first };
  first = delayed.start;
  const notBefore = open.start.map((s, v) => Math.max(s, delayed.model.release[v]));
  const told = (_start: readonly number[], value: Value) =>
    options.onProgress?.({ ...namedValue(m, value), lowerBound: bounds.makespan, pass: options.passes });
  // In a bare job shop learning is better alone; else both take turns.
  if (!hasHoursToWin(m))
    return solutionOf(
      problem,
      m,
      improveByLearning(m, open.start, first, bounds, rng, { conflicts, expired }, frozen, told),
      bounds,
      pairwise,
    );
  // The first schedule of a small problem is bettered a little in any case: where a task fell behind an opening it may be far off.
  const leastMoves = m.n <= SMALL_TASKS ? FIRST_MOVES : 0;
  let [movesLeft, conflictsLeft] = [Math.max(leastMoves, options.passes * MOVES_PER_PASS), conflicts];
  const wholly = isSearchedWhole(m);
  // Of middle size, and done in one opening: which groups are worked together decides, which takes long annealing and learning in windows.
  const isMiddling = wholly && m.n > SMALL_TASKS && isWithinOneOpening(m, first);
  const firstMoves = m.n * (isMiddling ? MOVES_PER_TASK.firstOfMiddling : MOVES_PER_TASK.first);
  let learned: Learned = { start: first, value: scheduleValue(m, first), proven: m.levels.map(() => false) };
  for (let turn = 0; ; turn++) {
    const most = Math.min(firstMoves * 2 ** turn, MOVES_PER_TASK.most * m.n);
    // At its bound there is nothing to win.
    const moves = meets(m, learned.value, bounds) ? 0 : Math.min(most, movesLeft);
    const { start } = anneal(
      delayed.model,
      notBefore,
      learned.start,
      rng,
      (made) => (expired() ? 1 : moves > 0 ? made / moves : 1),
      frozen,
      told,
    );
    movesLeft -= moves;
    const inParts = !wholly || (isMiddling && turn % 2 === 0);
    const share = !inParts
      ? CONFLICTS_OF_TURN.whole * (isMiddling ? MIDDLING_SHARE : 1)
      : wholly
        ? CONFLICTS_OF_TURN.partsOfWhole
        : CONFLICTS_OF_TURN.parts;
    const budget = Math.min(share * 2 ** turn, conflictsLeft);
    learned = improveByLearning(m, open.start, start, bounds, rng, { conflicts: budget, inParts, expired }, frozen, told);
    conflictsLeft -= budget;
    if (learned.proven.every(Boolean) || expired() || (movesLeft <= 0 && conflictsLeft <= 0)) break;
  }
  return solutionOf(problem, m, learned, bounds, pairwise);
}

/** Whether changeovers or closed hours leave something to win by the mere order of tasks; in a bare job shop learning is better alone. */
const hasHoursToWin = (m: Model): boolean => m.resources.some((r) => r.changeover > 0 || r.closed.length > 0);

/** How the plan stands, under the names of its measures. */
function namedValue(m: Model, value: Value): { makespan: number; tardiness: number } {
  const at = (level: Level) => (m.levels.includes(level) ? value[m.levels.indexOf(level)] : 0);
  return { makespan: at('makespan'), tardiness: at('tardiness') };
}

function solutionOf(problem: Problem, m: Model, learned: Learned, bounds: Measures, pairwise: boolean): Solution {
  const { start, value } = learned;
  const measures = measuresOf(m, start);
  let met = true;
  const proven = m.levels.map((level, i) => {
    met &&= value[i] <= bounds[level];
    return met || (pairwise && learned.proven[i]);
  });
  const boundOf = (level: Level) => (proven[m.levels.indexOf(level)] ? measures[level] : bounds[level]);
  const asked = typeof problem.objective === 'string' ? null : problem.objective;
  const has = (level: Level) => m.levels.includes(level);
  return {
    format: 'kestfog-solution/1',
    makespan: measures.makespan,
    start: Object.fromEntries(m.ids.map((id, v) => [id, start[v]])),
    proven: asked ? asked.map((level) => proven[m.levels.indexOf(level)]) : proven.every(Boolean),
    lowerBound: boundOf('makespan'),
    ...(has('tardiness') ? { tardiness: measures.tardiness, tardinessLowerBound: boundOf('tardiness') } : {}),
    ...(has('changes') ? { changes: measures.changes } : {}),
    ...(m.soft.length > 0
      ? {
          softCost: measures.soft,
          broken: m.soft.flatMap((s) => {
            const bySeconds = start[s.to] - start[s.from] - s.most;
            return bySeconds > 0 ? [{ link: s.link, bySeconds }] : [];
          }),
        }
      : {}),
  };
}

/** An earlier plan's starts, pushed only as far as today's lags and calendars ask: often a plan already. */
function warmStart(m: Model, warm: Readonly<Record<string, number>>, earliest: readonly number[]): number[] {
  const from = m.ids.map((id, v) => Math.max(warm[id] ?? 0, earliest[v]));
  const pushed = earliestOpenStarts(m, from);
  return 'never' in pushed ? from : pushed.start;
}

function neverFits(problem: Problem, m: Model, group: readonly number[]): Infeasible {
  const inGroup = new Set(group);
  const names = group.map((v) => m.ids[v]);
  const links = problem.links.flatMap((l, i) => (inGroup.has(m.ids.indexOf(l.from)) && inGroup.has(m.ids.indexOf(l.to)) ? [i] : []));
  const calendar = group.some((v) => m.closed[v].length > 0);
  return infeasible(
    calendar ? 'calendar' : 'resource',
    links,
    names,
    msg`${names.slice(0, 4).join(', ')}${names.length > 4 ? ' …' : ''} cannot be fitted between each other's windows${
      calendar
        ? msg` and
      the closed hours`
        : ''
    }, whatever their order`,
  );
}

/** Tasks that cannot be fitted even by themselves: each that can be left out of the contradiction is. */
function smallestClash(problem: Problem, hasFrozen: boolean): number[] {
  const all = [...problem.tasks.keys()];
  if (hasFrozen || problem.tasks.length > CLASH_TASKS) return all;
  let clash = all;
  for (const leave of all) {
    const kept = new Set(clash.filter((v) => v !== leave).map((v) => problem.tasks[v].id));
    const part: Problem = {
      ...problem,
      tasks: problem.tasks.filter((t) => kept.has(t.id)),
      links: problem.links.filter((l) => kept.has(l.from) && kept.has(l.to)),
      holds: (problem.holds ?? []).filter((h) => kept.has(h.from) && kept.has(h.to)),
    };
    const m = buildModel(part);
    const temporal = earliestStarts(m);
    const open = temporal.ok ? earliestOpenStarts(m, temporal.start) : null;
    const still =
      !open ||
      'never' in open ||
      anySchedule(m, open.start, seededRng(1), { conflicts: CLASH_CONFLICTS, expired: () => false }, new Set()).impossible;
    if (still) clash = clash.filter((v) => v !== leave);
  }
  return clash;
}

function improve(
  m: Model,
  groups: Groups,
  earliest: readonly number[],
  bounds: Measures,
  rng: Rng,
  expired: () => boolean,
  options: SolveOptions,
  warm: readonly number[] | null,
): { start: number[]; value: Value } | null {
  const memberOrder = groups.list.map((g) => [...g].sort((a, b) => earliest[a] - earliest[b] || a - b));
  const tails = longestTails(m);
  const urgency = groups.list.map((g) => Math.min(...g.map((v) => Math.min(m.due[v] ?? Number.POSITIVE_INFINITY, 1e12) - tails[v])));
  const heads = groups.list.map((g) => Math.min(...g.map((v) => earliest[v])));
  const slack = groups.list.map((_, g) => -Math.max(...groups.list[g].map((v) => tails[v])));
  let best: { start: number[]; value: Value; sequence: number[] } | null = null;
  const work = { done: 0 };
  const consider = (priority: readonly number[]) => {
    const made = construct(m, groups, priority, memberOrder, rng, work);
    if ('stuck' in made) return null;
    const value = scheduleValue(m, made.start);
    return { start: [...made.start], value, sequence: made.sequence };
  };
  // An earlier plan's order is tried first: after a slip it is mostly still the best.
  const asBefore = warm ? [groups.list.map((g) => Math.min(...g.map((v) => warm[v])))] : [];
  for (const rule of [...asBefore, m.levels[0] === 'tardiness' ? urgency : slack, heads, slack.map((s, g) => s + heads[g])]) {
    const made = consider(rule);
    if (made && (!best || lessThan(made.value, best.value))) best = made;
  }
  let current = best;
  const n = groups.list.length;
  let atBound = 0;
  let betteredAt = 0;
  for (let pass = 0; pass < options.passes && n > 1 && work.done < LOCAL_WORK; pass++) {
    if (best && meets(m, best.value, bounds) && ++atBound > PASSES_AT_BOUND) break;
    if (pass - betteredAt > PATIENCE + PATIENCE_PER_GROUP * n) break;
    if ((pass & 7) === 0) {
      if (expired()) break;
      if (best) options.onProgress?.({ ...namedValue(m, best.value), lowerBound: bounds.makespan, pass });
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
    if (!best || lessThan(made.value, best.value)) {
      best = made;
      betteredAt = pass;
    }
    // A little worse is let through now and then (record-to-record travel, Dueck 1993), so that the search leaves hollows.
    if (
      !current ||
      !lessThan(current.value, made.value) ||
      (rng() < 0.05 && made.value.every((x, i) => i === made.value.length - 1 || x <= (best?.value[i] as number) * 1.005))
    )
      current = made;
    else if (pass % 400 === 399) current = best;
  }
  return best;
}

function longestTails(m: Model): number[] {
  const tail = m.duration.map((d) => d);
  for (let pass = 0, changed = true; changed && pass <= m.n; pass++) {
    changed = false;
    for (const a of m.arcs) {
      if (tail[a.to] + a.weight > tail[a.from]) {
        tail[a.from] = tail[a.to] + a.weight;
        changed = true;
      }
    }
  }
  return tail;
}

const infeasible = (
  kind: Infeasible['because']['kind'],
  links: readonly number[],
  tasks: readonly string[],
  message: string,
): Infeasible => ({
  format: 'kestfog-solution/1',
  infeasible: true,
  because: { kind, links, tasks },
  message,
});

function demandAboveCapacity(m: Model): Infeasible | null {
  for (const h of m.holds) {
    const r = m.resources[h.resource];
    if (h.amount > r.capacity)
      return infeasible(
        'resource',
        [],
        [m.ids[h.from], m.ids[h.to]],
        msg`${h.amount} of ${r.id} are to be held, and there are only ${r.capacity}`,
      );
  }
  for (let v = 0; v < m.n; v++) {
    for (const d of m.demands[v]) {
      const r = m.resources[d.resource];
      if (d.amount > r.capacity)
        return infeasible('resource', [], [m.ids[v]], msg`${m.ids[v]} needs ${d.amount} of ${r.id}, and there are only ${r.capacity}`);
    }
  }
  return null;
}

function neverOpen(m: Model, v: number): Infeasible {
  const beyond = m.horizon < Number.MAX_SAFE_INTEGER ? msg` before the horizon ${m.horizon}` : '';
  return infeasible('calendar', [], [m.ids[v]], msg`${m.ids[v]} (${m.duration[v]} s) finds no open stretch long enough${beyond}`);
}
