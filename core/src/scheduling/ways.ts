import { seededRng } from '../time/rng.js';
import { msg } from '../words/index.js';
import type { Alternative, Infeasible, Outcome, Problem, Solution, Task, When } from './problem.js';
import type { SolveOptions } from './solve-options.js';

/** Up to so many ways, each is solved to its proof; beyond, they are changed step by step. */
const MOST_WAYS = 64;
/** Passes of improvement while one way is judged. */
const JUDGE_PASSES = 60;

type Solver = (problem: Problem, options: SolveOptions) => Outcome;

/** Whether a problem leaves something to decide besides times. */
export const hasWays = (p: Problem): boolean => p.tasks.some((t) => t.usesOneOf) || (p.options ?? []).length > 0;

/**
 * What may be done in one of several ways (by either pair of hands, at their own pace), or may be done or left out (a tray carried to the
 * fan): ways first, then the plan for them. Few ways are all tried, so that the best is proven among all; of many, one with the shortest
 * alternatives and nothing that may be left out comes first, and is changed as long as that helps (iterated local search).
 */
export function solveEveryWay(problem: Problem, options: SolveOptions, solver: Solver): Outcome {
  const ways = new Ways(problem);
  const timeUsed = options.timeUsed ?? (() => 0);
  const began = timeUsed();
  let best: { readonly solution: Solution; readonly way: Way } | null = null;
  let last: Outcome | null = null;
  const judge = (way: Way, passes: number, share: number): Outcome => {
    const from = timeUsed();
    const { plain, links } = ways.resolved(way);
    const answer = solver(plain, {
      ...options,
      passes,
      ...(options.timeUsed ? { timeUsed: () => (timeUsed() >= 1 ? 1 : (timeUsed() - from) / share) } : {}),
    });
    const outcome = inOwnLinks(answer, links);
    last = outcome;
    if ('start' in outcome && (!best || isBetter(problem, outcome, best.solution))) best = { solution: outcome, way };
    return outcome;
  };
  let proven = false;
  let isImpossible = false;
  let least: Pick<Solution, 'lowerBound' | 'tardinessLowerBound'> = { lowerBound: ways.leastMakespan() };
  const all = ways.all(MOST_WAYS);
  if (all) {
    const share = Math.max(1e-3, (1 - began) / all.length);
    const answers: Outcome[] = [];
    for (const way of all) {
      if (timeUsed() >= 1 && best) break;
      answers.push(judge(way, options.passes, share));
    }
    const isWhole = answers.length === all.length;
    proven = isWhole && answers.every((a) => 'infeasible' in a || ('start' in a && isProven(a)));
    isImpossible = isWhole && answers.every((a) => 'infeasible' in a);
    // What no way can beat is what the best of them cannot.
    if (isWhole && answers.every((a) => !('unsolved' in a))) least = leastBounds(answers) ?? least;
  } else {
    const rng = seededRng(options.seed ?? 1);
    let way = ways.first();
    judge(way, Math.min(options.passes, JUDGE_PASSES), 0.1);
    const tries = Math.min(options.passes, 40 * ways.size);
    for (let i = 0; i < tries && timeUsed() < 0.7; i++) {
      const next = ways.changed(way, rng);
      judge(next, Math.min(options.passes, JUDGE_PASSES), 0.02);
      way = best ? (best as { way: Way }).way : next;
    }
    judge(way, options.passes, Math.max(0.05, 1 - timeUsed()));
  }
  const found = best as { readonly solution: Solution; readonly way: Way } | null;
  // That one way leads nowhere says nothing of the others.
  if (!found)
    return isImpossible
      ? (last as unknown as Outcome)
      : {
          format: 'kestfog-solution/1',
          unsolved: true,
          message: msg`no way of doing the tasks was found in the time given, and none was proven impossible: give it more time`,
        };
  return {
    ...found.solution,
    // A bound of one way of doing it is no bound of all.
    ...(proven ? {} : { lowerBound: Math.min(found.solution.lowerBound, least.lowerBound) }),
    ...(proven || found.solution.tardinessLowerBound === undefined
      ? {}
      : { tardinessLowerBound: Math.min(found.solution.tardinessLowerBound, least.tardinessLowerBound ?? 0) }),
    proven: Array.isArray(found.solution.proven) ? (found.solution.proven as readonly boolean[]).map((p) => p && proven) : proven,
    ...ways.told(found.way),
  };
}

/** Of every task that has alternatives which it is, then of every option whether it is taken (1). */
type Way = readonly number[];

class Ways {
  private readonly choosing: readonly Task[];
  private readonly optional: readonly string[];
  private readonly excluded: readonly (readonly [number, number])[];

  constructor(private readonly problem: Problem) {
    this.choosing = problem.tasks.filter((t) => t.usesOneOf);
    const options = problem.options ?? [];
    this.optional = options.map((o) => o.id);
    const at = (id: string) => this.choosing.length + this.optional.indexOf(id);
    this.excluded = options.flatMap((o) => (o.excludes ?? []).map((x) => [at(o.id), at(x)] as const));
  }

  get size(): number {
    return this.choosing.length + this.optional.length;
  }

  /** Every way that is allowed, those that leave out more first; null where there are more than `most`. */
  all(most: number): Way[] | null {
    const sizes = [...this.choosing.map((t) => (t.usesOneOf as readonly Alternative[]).length), ...this.optional.map(() => 2)];
    let out: number[][] = [[]];
    for (const [i, size] of sizes.entries()) {
      out = out
        .flatMap((w) => [...Array(size).keys()].map((d) => [...w, d]))
        .filter((w) => !this.excluded.some(([a, b]) => a <= i && b <= i && w[a] === 1 && w[b] === 1));
      if (out.length > most) return null;
    }
    const taken = (w: Way) => w.slice(this.choosing.length).reduce((a, b) => a + b, 0);
    return out.sort((a, b) => taken(a) - taken(b));
  }

  first(): Way {
    const shortest = (ways: readonly Alternative[]) =>
      ways.reduce((best, w, i) => (w.duration < (ways[best] as Alternative).duration ? i : best), 0);
    return [...this.choosing.map((t) => shortest(t.usesOneOf as readonly Alternative[])), ...this.optional.map(() => 0)];
  }

  /** A way with one thing decided otherwise; taking an option leaves out what it excludes. */
  changed(way: Way, rng: () => number): Way {
    const k = Math.floor(rng() * this.size);
    const n = this.choosing[k]?.usesOneOf?.length ?? 2;
    const next = way.map((d, i) => (i === k ? (d + 1 + Math.floor(rng() * (n - 1))) % n : d));
    if (next[k] === 1 && k >= this.choosing.length)
      for (const [a, b] of this.excluded) {
        if (a === k) next[b] = 0;
        if (b === k) next[a] = 0;
      }
    return next;
  }

  /** The problem as it is that way, and which of its own links the remaining ones are. */
  resolved(way: Way): { readonly plain: Problem; readonly links: readonly number[] } {
    const taken = new Map(this.optional.map((id, i) => [id, way[this.choosing.length + i] === 1]));
    const holds = (when: When | null | undefined) => Object.entries(when ?? {}).every(([id, yes]) => taken.get(id) === yes);
    const { options: _options, ...rest } = this.problem;
    const tasks = rest.tasks.flatMap((t): Task[] => {
      if (!holds(t.if)) return [];
      const { usesOneOf, if: _if, ...plain } = t;
      const chosen = usesOneOf?.[way[this.choosing.indexOf(t)] as number];
      return [chosen ? { ...plain, duration: chosen.duration, uses: { ...(t.uses ?? {}), ...chosen.uses } } : plain];
    });
    const there = new Set(tasks.map((t) => t.id));
    const stands = (x: { readonly if?: When | null; readonly from: string; readonly to: string }) =>
      holds(x.if) && there.has(x.from) && there.has(x.to);
    const links = [...rest.links.keys()].filter((i) => stands(rest.links[i] as Problem['links'][number]));
    const kept = (rest.holds ?? []).filter(stands).map(({ if: _if, ...h }) => h);
    const { holds: _holds, ...others } = rest;
    return {
      plain: {
        ...others,
        tasks,
        links: links.map((i) => {
          const { if: _if, ...plain } = rest.links[i] as Problem['links'][number];
          return plain;
        }),
        ...(kept.length > 0 ? { holds: kept } : {}),
      },
      links,
    };
  }

  /** No task that is there in any case ends before its shortest way allows. */
  leastMakespan(): number {
    const durations = (t: Task) => (t.usesOneOf ? Math.min(...t.usesOneOf.map((a) => a.duration)) : t.duration);
    return Math.max(0, ...this.problem.tasks.filter((t) => !t.if).map((t) => (t.release ?? 0) + durations(t)));
  }

  told(way: Way): Pick<Solution, 'assigned' | 'taken'> {
    return {
      ...(this.choosing.length > 0 ? { assigned: Object.fromEntries(this.choosing.map((t, i) => [t.id, way[i] as number])) } : {}),
      ...(this.optional.length > 0 ? { taken: this.optional.filter((_, i) => way[this.choosing.length + i] === 1) } : {}),
    };
  }
}

/** An answer that names links as the whole problem counts them. */
function inOwnLinks(answer: Outcome, links: readonly number[]): Outcome {
  const own = (i: number) => links[i] ?? i;
  if ('infeasible' in answer) {
    const { because } = answer;
    return { ...answer, because: { ...because, links: because.links.map(own) } } satisfies Infeasible;
  }
  return 'start' in answer && answer.broken ? { ...answer, broken: answer.broken.map((b) => ({ ...b, link: own(b.link) })) } : answer;
}

const isProven = (s: Solution): boolean => (Array.isArray(s.proven) ? s.proven.every(Boolean) : s.proven === true);

/** The least of what the ways' own bounds say; a way that is impossible beats nothing. null where all are. */
function leastBounds(answers: readonly Outcome[]): Pick<Solution, 'lowerBound' | 'tardinessLowerBound'> | null {
  const found = answers.flatMap((a) => ('start' in a ? [a] : []));
  if (found.length === 0) return null;
  return {
    lowerBound: Math.min(...found.map((s) => s.lowerBound)),
    tardinessLowerBound: Math.min(...found.map((s) => s.tardinessLowerBound ?? 0)),
  };
}

function isBetter(problem: Problem, a: Solution, b: Solution): boolean {
  const named = typeof problem.objective === 'string' ? [problem.objective] : problem.objective;
  const order = [...new Set([...(named.includes('soft') ? [] : ['soft']), ...named, 'makespan'])];
  const value = (s: Solution, level: string): number =>
    level === 'soft' ? (s.softCost ?? 0) : level === 'tardiness' ? (s.tardiness ?? 0) : level === 'changes' ? (s.changes ?? 0) : s.makespan;
  for (const level of order) if (value(a, level) !== value(b, level)) return value(a, level) < value(b, level);
  return false;
}
