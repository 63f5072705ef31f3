import type { Model } from '../model.js';
import type { Level } from '../problem.js';
import type { Edge } from './differences.js';
import { edgeFinding } from './edge-finding.js';
import { Engine, type Propagator } from './engine.js';
import { calendarPropagator, exceeds, sumAtMost, timeTable, type Usage } from './propagators.js';
import type { SpanModel } from './span-model.js';
import { SearchedSpans } from './spans.js';

/** What is searched. */
export interface SearchAsked {
  readonly m: Model;
  /** least starts that keep lags and calendars */
  readonly earliest: readonly number[];
  /** a schedule to beat, whose orders are tried first */
  readonly incumbent: readonly number[];
  /** what is minimised; null where any schedule within the bounds will do */
  readonly goal: Exclude<Level, 'changes'> | null;
  /** only schedules with at most these measures are looked for */
  readonly most: { readonly makespan: number; readonly tardiness?: number; readonly soft?: number };
  /** tasks set free among each other while all else keeps the incumbent's order (large neighbourhoods); all where left out */
  readonly free?: ReadonlySet<number>;
  /** tasks that keep their incumbent start */
  readonly frozen?: ReadonlySet<number>;
  /** spans that may be there, and those of the incumbent */
  readonly spans?: { readonly model: SpanModel; readonly there: ReadonlySet<number> };
}

/** An engine with all that is searched, and what its variables stand for. */
export interface BuiltSearch {
  readonly engine: Engine;
  readonly orders: readonly number[];
  /** of each of them a task at either end of what it puts in order */
  readonly endsOf: ReadonlyMap<number, readonly [number, number]>;
  readonly phase: Int8Array;
  readonly goalVariable: number;
  readonly usages: readonly (readonly Usage[] & { capacity?: number })[];
  readonly softs: readonly SoftMaximum[];
  readonly spans: SearchedSpans | null;
}

export interface SoftMaximum {
  readonly from: number;
  readonly to: number;
  readonly most: number;
  readonly by: number;
}

/** Builds it; null where nothing is possible within the bounds. */
export function buildSearch({ m, earliest, incumbent, goal, most, free, frozen, spans: asked }: SearchAsked): BuiltSearch | null {
  const mostMakespan = most.makespan;
  const least = [...earliest];
  const greatest = latestStarts(m, mostMakespan);
  for (const v of frozen ?? []) {
    least[v] = incumbent[v];
    greatest[v] = incumbent[v];
  }
  const edges: Edge[] = m.arcs.map((a) => ({ from: a.from, to: a.to, weight: a.weight, when: -1, is: 1 }));
  const propagators: Propagator[] = [];
  let variables = m.n;
  const add = (lo: number, hi: number): number => {
    least[variables] = lo;
    greatest[variables] = hi;
    return variables++;
  };
  const makespan = add(0, mostMakespan);
  for (let v = 0; v < m.n; v++) {
    edges.push({ from: v, to: makespan, weight: m.duration[v], when: -1, is: 1 });
    const closed = m.closed[v];
    if (closed.length > 0) propagators.push(calendarPropagator(v, m.duration[v], closed));
  }
  const goals: Partial<Record<Level, number>> = { makespan };
  if (goal === 'tardiness' || most.tardiness !== undefined) {
    const terms: { x: number; weight: number }[] = [];
    for (let v = 0; v < m.n; v++) {
      const due = m.due[v];
      if (due === null || due === undefined) continue;
      const late = add(0, Math.max(0, mostMakespan - due));
      edges.push({ from: v, to: late, weight: m.duration[v] - due, when: -1, is: 1 });
      terms.push({ x: late, weight: 1 });
    }
    goals.tardiness = add(0, most.tardiness ?? terms.length * mostMakespan);
    propagators.push(sumAtMost(terms, goals.tardiness));
  }
  const softs: SoftMaximum[] = [];
  if (m.soft.length > 0) {
    const terms = m.soft.map((s) => {
      const by = add(0, Math.max(0, mostMakespan - s.most - least[s.from]));
      propagators.push(exceeds(s.from, s.to, s.most, by));
      softs.push({ from: s.from, to: s.to, most: s.most, by });
      return { x: by, weight: s.weight };
    });
    goals.soft = add(0, most.soft ?? terms.reduce((sum, t) => sum + t.weight * mostMakespan, 0));
    propagators.push(sumAtMost(terms, goals.soft));
  }
  const goalVariable = goal === null ? -1 : (goals[goal] ?? -1);
  const orders: number[] = [];
  const endsOf = new Map<number, readonly [number, number]>();
  const phases: number[] = [];
  const choice = (phase: 0 | 1, ends: readonly [number, number]): number => {
    const x = add(0, 1);
    orders.push(x);
    endsOf.set(x, ends);
    phases.push(phase);
    return x;
  };
  const usages: (Usage[] & { capacity?: number })[] = [];
  for (const [r, resource] of m.resources.entries()) {
    const users: Usage[] = [];
    for (let v = 0; v < m.n; v++) {
      const amount = m.demands[v].find((d) => d.resource === r)?.amount ?? 0;
      if (amount > 0) users.push({ from: v, to: v, lengthS: m.duration[v], amount });
    }
    const tasksOnly = [...users];
    for (const h of m.holds)
      if (h.resource === r && h.amount > 0) users.push({ from: h.from, to: h.to, lengthS: m.duration[h.to], amount: h.amount });
    users.sort((a, b) => incumbent[a.from] - incumbent[b.from]);
    const isFree = (u: Usage) => free === undefined || (free.has(u.from) && free.has(u.to));
    for (let i = 0; i < users.length; i++) {
      const a = users[i];
      let bound = 0;
      for (let j = i + 1; j < users.length && bound < KEPT_NEIGHBOURS; j++) {
        const b = users[j];
        // Orders that stand hand on from neighbour to neighbour, as long as the neighbour's own place is bound.
        const kept = !(isFree(a) && isFree(b));
        if (!isFree(b) && 2 * b.amount > resource.capacity) bound += 1;
        if (a.amount + b.amount <= resource.capacity) continue;
        // What shares a task runs together with it, so it can never be kept apart.
        const shared = [a.from, a.to].find((v) => v === b.from || v === b.to);
        if (shared !== undefined) {
          if (m.duration[shared] > 0) return null;
          continue;
        }
        const gap = a.from === a.to && b.from === b.to ? changeover(m, resource.changeover, a.from, b.from) : 0;
        const [ab, ba] = [a.lengthS + gap, b.lengthS + gap];
        if (kept) {
          edges.push({ from: a.to, to: b.from, weight: ab, when: -1, is: 1 });
          continue;
        }
        const canAb = a.to !== b.from && least[a.to] + ab <= greatest[b.from];
        const canBa = b.to !== a.from && least[b.to] + ba <= greatest[a.from];
        if (!canAb && !canBa) return null;
        if (!canBa) edges.push({ from: a.to, to: b.from, weight: ab, when: -1, is: 1 });
        else if (!canAb) edges.push({ from: b.to, to: a.from, weight: ba, when: -1, is: 1 });
        else {
          const x = choice(1, [a.from, b.from]);
          edges.push({ from: a.to, to: b.from, weight: ab, when: x, is: 1 }, { from: b.to, to: a.from, weight: ba, when: x, is: 0 });
        }
      }
    }
    if (resource.capacity === 1 && !asked && tasksOnly.length <= EDGE_FINDING_TASKS && tasksOnly.length > 2 && free === undefined)
      propagators.push(edgeFinding(tasksOnly.map((u) => ({ x: u.from, lengthS: u.lengthS }))));
    if (resource.capacity > 1 && users.some((u) => users.some((w) => w !== u && u.amount + w.amount <= resource.capacity))) {
      const list: Usage[] & { capacity?: number } = users.filter((u) => u.from !== u.to || u.lengthS > 0);
      list.capacity = resource.capacity;
      usages.push(list);
      propagators.push(timeTable(list, resource.capacity));
    }
  }
  for (let v = 0; v < m.n; v++) if (least[v] > greatest[v]) return null;
  const parts = { m, earliest, incumbent, edges, propagators, add, choice, usages, makespan, mostMakespan };
  const spans = asked ? new SearchedSpans(asked.model, parts, asked.there) : null;
  const engine = new Engine(variables, Float64Array.from(least), Float64Array.from(greatest), edges, propagators);
  const phase = new Int8Array(variables);
  for (const [i, x] of orders.entries()) phase[x] = phases[i];
  return { engine, orders, endsOf, phase, goalVariable, usages, softs, spans };
}

/** Edge-finding looks at all pairs of a resource's tasks: worth it up to so many. */
const EDGE_FINDING_TASKS = 40;

/** Orders of so many following tasks are written out where a sequence is kept: a changeover may reach past a short one. */
const KEPT_NEIGHBOURS = 4;

const changeover = (m: Model, setup: number, a: number, b: number): number =>
  setup > 0 && m.family[a] >= 0 && m.family[b] >= 0 && m.family[a] !== m.family[b] ? setup : 0;

/** Latest starts that still end everything by `mostMakespan`, by lags alone. */
function latestStarts(m: Model, mostMakespan: number): number[] {
  const latest = m.duration.map((d) => Math.min(mostMakespan, m.horizon) - d);
  for (let pass = 0, changed = true; changed && pass <= m.n; pass++) {
    changed = false;
    for (const a of m.arcs) {
      const s = latest[a.to] - a.weight;
      if (s < latest[a.from]) {
        latest[a.from] = s;
        changed = true;
      }
    }
  }
  return latest;
}
