import { END_OF_TIME_S, type Interval, mergeIntervals } from '../time/interval.js';
import type { Level, Problem } from './problem.js';

/** start(to) ≥ start(from) + weight; `link` is the index in the problem, −1 for a release. */
export interface Arc {
  readonly from: number;
  readonly to: number;
  readonly weight: number;
  readonly link: number;
}

export interface Demand {
  readonly resource: number;
  readonly amount: number;
}

/** A problem with names turned into numbers: what every part of the engine works on. */
export interface Model {
  readonly n: number;
  readonly ids: readonly string[];
  readonly duration: readonly number[];
  readonly release: readonly number[];
  readonly due: readonly (number | null)[];
  readonly family: readonly number[];
  readonly demands: readonly (readonly Demand[])[];
  /** closed spans of every resource a task uses, merged */
  readonly closed: readonly (readonly Interval[])[];
  readonly resources: readonly {
    readonly id: string;
    readonly capacity: number;
    readonly changeover: number;
    readonly closed: readonly Interval[];
  }[];
  readonly arcs: readonly Arc[];
  readonly out: readonly (readonly Arc[])[];
  readonly into: readonly (readonly Arc[])[];
  readonly horizon: number;
  /** what is made least, first what counts most */
  readonly levels: readonly Level[];
  /** maxima that may be broken: start(to) ≤ start(from) + most, else so much a second */
  readonly soft: readonly {
    readonly link: number;
    readonly from: number;
    readonly to: number;
    readonly most: number;
    readonly weight: number;
  }[];
  readonly holds: readonly { readonly resource: number; readonly from: number; readonly to: number; readonly amount: number }[];
}

export function buildModel(p: Problem): Model {
  const index = new Map(p.tasks.map((t, i) => [t.id, i]));
  const resourceIndex = new Map(p.resources.map((r, i) => [r.id, i]));
  const resources = p.resources.map((r) => ({
    id: r.id,
    capacity: r.capacity,
    changeover: r.changeover ?? 0,
    closed: mergeIntervals((r.closed ?? []).map(([fromS, toS]) => ({ fromS, toS }))),
  }));
  const families = new Map<string, number>();
  const demands = p.tasks.map((t) =>
    Object.entries(t.uses ?? {})
      .filter(([, a]) => a > 0)
      .map(([r, amount]) => ({ resource: resourceIndex.get(r) as number, amount })),
  );
  const arcs: Arc[] = [];
  const soft: { link: number; from: number; to: number; most: number; weight: number }[] = [];
  for (const [k, l] of p.links.entries()) {
    const from = index.get(l.from) as number;
    const to = index.get(l.to) as number;
    const anchor = l.anchor === 'start' ? 0 : (p.tasks[from]?.duration ?? 0);
    arcs.push({ from, to, weight: anchor + l.min, link: k });
    if (l.max === null || l.max === undefined) continue;
    if (l.soft) soft.push({ link: k, from, to, most: anchor + l.max, weight: l.soft });
    else arcs.push({ from: to, to: from, weight: -(anchor + l.max), link: k });
  }
  // What is held is taken no later than the task begins that gives it back.
  for (const h of p.holds ?? []) {
    const [from, to] = [index.get(h.from) as number, index.get(h.to) as number];
    if (from !== to) arcs.push({ from, to, weight: 0, link: -1 });
  }
  const out: Arc[][] = p.tasks.map(() => []);
  const into: Arc[][] = p.tasks.map(() => []);
  for (const a of arcs) {
    out[a.from]?.push(a);
    into[a.to]?.push(a);
  }
  return {
    n: p.tasks.length,
    ids: p.tasks.map((t) => t.id),
    duration: p.tasks.map((t) => t.duration),
    release: p.tasks.map((t) => t.release ?? 0),
    due: p.tasks.map((t) => t.due ?? null),
    family: p.tasks.map((t) => {
      if (!t.family) return -1;
      if (!families.has(t.family)) families.set(t.family, families.size);
      return families.get(t.family) as number;
    }),
    demands,
    closed: demands.map((ds) => mergeIntervals(ds.flatMap((d) => resources[d.resource]?.closed ?? []))),
    resources,
    arcs,
    out,
    into,
    horizon: p.horizon ?? END_OF_TIME_S,
    levels: levelsOf(p.objective, soft.length > 0),
    soft,
    holds: (p.holds ?? []).map((h) => ({
      resource: resourceIndex.get(h.resource) as number,
      from: index.get(h.from) as number,
      to: index.get(h.to) as number,
      amount: h.amount,
    })),
  };
}

/** The levels an objective stands for; of schedules that are equal by all of them the one that ends first is better. */
function levelsOf(objective: Problem['objective'], hasSoft: boolean): Level[] {
  const named: readonly Level[] = typeof objective === 'string' ? [objective] : objective;
  const all: Level[] = hasSoft && !named.includes('soft') ? ['soft', ...named] : [...named];
  return all.includes('makespan') ? all : [...all, 'makespan'];
}

/** Earliest start ≥ `from` of a task of `duration` that straddles none of the closed spans; null where it never fits. */
export function fitCalendar(closed: readonly Interval[], duration: number, from: number): number | null {
  let s = from;
  // First span that ends after s, by halving: calendars of a week's nights are searched thousands of times.
  let lo = 0;
  let hi = closed.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (closed[mid].toS <= s) lo = mid + 1;
    else hi = mid;
  }
  for (let k = lo; k < closed.length; k++) {
    const c = closed[k];
    // A task of no length may stand at the very edge of a closed span, not inside it.
    if (s + duration <= c.fromS) return s;
    if (c.toS === END_OF_TIME_S) return null;
    s = Math.max(s, c.toS);
  }
  return s;
}
