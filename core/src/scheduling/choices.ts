import { seededRng } from '../time/rng.js';
import type { Alternative, Outcome, Problem, Solution, Task } from './problem.js';
import type { SolveOptions } from './solve-options.js';

/** Up to so many ways to choose, each is solved to its proof; beyond, choices are changed one at a time. */
const MOST_WAYS = 64;
/** Passes of improvement while one way is judged. */
const JUDGE_PASSES = 60;

type Solver = (problem: Problem, options: SolveOptions) => Outcome;

/**
 * Tasks that can be done in one of several ways (by either pair of hands, at their own pace): choices first, then the plan
 * for them. Few ways are all tried; of many, the shortest is taken for each and one choice after another is changed as
 * long as that helps (iterated local search).
 */
export function solveWithChoices(problem: Problem, options: SolveOptions, solver: Solver): Outcome {
  const choosing = problem.tasks.filter((t) => t.usesOneOf);
  const ways = choosing.reduce((n, t) => Math.min(n * (t.usesOneOf as readonly Alternative[]).length, MOST_WAYS + 1), 1);
  const timeUsed = options.timeUsed ?? (() => 0);
  const began = timeUsed();
  let best: { readonly solution: Solution; readonly choice: readonly number[] } | null = null;
  let last: Outcome | null = null;
  const judge = (choice: readonly number[], passes: number, share: number): Solution | null => {
    const from = timeUsed();
    const outcome = solver(chosen(problem, choosing, choice), {
      ...options,
      passes,
      ...(options.timeUsed ? { timeUsed: () => (timeUsed() >= 1 ? 1 : (timeUsed() - from) / share) } : {}),
    });
    last = outcome;
    if (!('start' in outcome)) return null;
    if (!best || better(problem, outcome, best.solution)) best = { solution: outcome, choice };
    return outcome;
  };
  let allProven = true;
  let proven = false;
  if (ways <= MOST_WAYS) {
    const share = Math.max(1e-3, (1 - began) / ways);
    for (const choice of everyWay(choosing)) {
      if (timeUsed() >= 1 && best) {
        allProven = false;
        break;
      }
      const s = judge(choice, options.passes, share);
      if (s ? !isProven(s) : last !== null && !('infeasible' in (last as Outcome))) allProven = false;
    }
    proven = allProven;
  } else {
    const rng = seededRng(options.seed ?? 1);
    let choice = choosing.map((t) => shortest(t.usesOneOf as readonly Alternative[]));
    judge(choice, Math.min(options.passes, JUDGE_PASSES), 0.1);
    const tries = Math.min(options.passes, 40 * choosing.length);
    for (let i = 0; i < tries && timeUsed() < 0.7; i++) {
      const k = Math.floor(rng() * choosing.length);
      const n = (choosing[k].usesOneOf as readonly Alternative[]).length;
      const next = choice.map((c, j) => (j === k ? (c + 1 + Math.floor(rng() * (n - 1))) % n : c));
      judge(next, Math.min(options.passes, JUDGE_PASSES), 0.02);
      choice = best ? [...(best as { choice: readonly number[] }).choice] : next;
    }
    judge(choice, options.passes, Math.max(0.05, 1 - timeUsed()));
  }
  const found = best as { readonly solution: Solution; readonly choice: readonly number[] } | null;
  if (!found)
    return (last as Outcome | null) ?? { format: 'kestfog-solution/1', unsolved: true, message: 'no way of doing the tasks was found in the time given' };
  const list = Array.isArray(found.solution.proven);
  return {
    ...found.solution,
    // A bound of one way of doing it is no bound of all.
    ...(proven ? {} : { lowerBound: Math.min(found.solution.lowerBound, leastMakespan(problem)) }),
    proven: list ? (found.solution.proven as readonly boolean[]).map((p) => p && proven) : proven,
    assigned: Object.fromEntries(choosing.map((t, i) => [t.id, found.choice[i]])),
  };
}

const isProven = (s: Solution): boolean => (Array.isArray(s.proven) ? s.proven.every(Boolean) : s.proven === true);
const durations = (t: Task): number => (t.usesOneOf ? Math.min(...t.usesOneOf.map((a) => a.duration)) : t.duration);
/** No task ends before its shortest way allows. */
const leastMakespan = (p: Problem): number => Math.max(0, ...p.tasks.map((t) => (t.release ?? 0) + durations(t)));

function shortest(ways: readonly Alternative[]): number {
  let best = 0;
  for (const [i, w] of ways.entries()) if (w.duration < ways[best].duration) best = i;
  return best;
}

function chosen(problem: Problem, choosing: readonly Task[], choice: readonly number[]): Problem {
  const way = new Map(choosing.map((t, i) => [t.id, (t.usesOneOf as readonly Alternative[])[choice[i]] as Alternative]));
  return {
    ...problem,
    tasks: problem.tasks.map((t): Task => {
      const w = way.get(t.id);
      if (!w) return t;
      const { usesOneOf: _usesOneOf, ...plain } = t;
      return { ...plain, duration: w.duration, uses: { ...(t.uses ?? {}), ...w.uses } };
    }),
  };
}

function* everyWay(choosing: readonly Task[]): Generator<readonly number[]> {
  const sizes = choosing.map((t) => (t.usesOneOf as readonly Alternative[]).length);
  const at = sizes.map(() => 0);
  for (;;) {
    yield [...at];
    let i = 0;
    while (i < at.length && at[i] + 1 === sizes[i]) at[i++] = 0;
    if (i === at.length) return;
    at[i] = at[i] + 1;
  }
}

function better(problem: Problem, a: Solution, b: Solution): boolean {
  const named = typeof problem.objective === 'string' ? [problem.objective] : problem.objective;
  const order = [...new Set(['soft', ...named, 'makespan'])];
  const value = (s: Solution, level: string): number =>
    level === 'soft' ? (s.softCost ?? 0) : level === 'tardiness' ? (s.tardiness ?? 0) : level === 'changes' ? (s.changes ?? 0) : s.makespan;
  for (const level of order) if (value(a, level) !== value(b, level)) return value(a, level) < value(b, level);
  return false;
}
