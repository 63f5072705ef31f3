import type { Rng } from '../../time/rng.js';
import type { Model } from '../model.js';
import type { Level } from '../problem.js';
import { ActivityHeap } from './activity-heap.js';
import type { Edge } from './differences.js';
import { edgeFinding } from './edge-finding.js';
import { Engine, type Propagator } from './engine.js';
import { calendarPropagator, exceeds, sumAtMost, timeTable, type Usage } from './propagators.js';
import type { SpanAt, SpanModel } from './span-model.js';
import { SearchedSpans } from './spans.js';

/**
 * Lazy clause generation for scheduling with minimum and maximum lags (Schutt, Feydy, Stuckey & Wallace, "Solving RCPSP/max by
 * lazy clause generation", J. Scheduling 16, 2013): an order variable for every pair that cannot run together, bounds of
 * starts, learned clauses, restarts (Luby, Sinclair & Zuckerman 1993), activity-based branching, and the order of the best
 * schedule so far tried first.
 */
export interface LearnedSearch {
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
  readonly conflicts: number;
  readonly stop: () => boolean;
  readonly rng: Rng;
  readonly onBetter?: (start: readonly number[], spans: readonly SpanAt[]) => void;
  /** spans that may be there, and those of the incumbent */
  readonly spans?: { readonly model: SpanModel; readonly there: ReadonlySet<number> };
}

export interface LearnedResult {
  /** best schedule found that is within the bounds asked for; null where none was */
  readonly start: readonly number[] | null;
  /** nothing better exists (within the orders kept) */
  readonly exhausted: boolean;
  /** no schedule within the bounds asked for has less of the goal */
  readonly least: number;
  readonly conflicts: number;
}

const RESTART_UNIT = 50;
const FORGET_FIRST = 1500;
const FORGET_STEP = 150;
/** Share of what may be won that is asked for at first, where spans leave lengths to be won second by second; half as much at each restart. */
const FIRST_PROBE = 0.25;
/**
 * Shares of spans that are tried the other way at every other restart, in turn; half of them while there is no schedule to begin from, so
 * that what decides it is not one first guess. Chosen on the orders of docs/benchmarks.md.
 */
const SHAKEN_SPANS = [0.1, 0.2, 0.5] as const;
const ANY_SPANS = 0.5;

/** Searches once, for as many conflicts as are asked for. */
export const learnedSearch = (ask: LearnedSearch): LearnedResult => beginLearned(ask).more(ask.conflicts);

/** A search that can be gone on with: what it learned stays. */
export interface LearnedRun {
  /** goes on for so many conflicts; what it tells of is what was found in them */
  readonly more: (conflicts: number) => LearnedResult;
  /** from now on only schedules with at most so much of the goal are looked for */
  readonly atMost: (goal: number) => void;
}

/** Begins a search that can be gone on with. */
export function beginLearned(ask: LearnedSearch): LearnedRun {
  const nothing: LearnedRun = {
    more: () => ({ start: null, exhausted: true, least: 0, conflicts: 0 }),
    atMost: () => undefined,
  };
  const built = build(ask);
  if (!built) return nothing;
  const { engine, orders, phase, goalVariable, usages, softs, spans } = built;
  let best: number[] | null = null;
  let conflicts = 0;
  let most = 0;
  let isOver = false;
  let probe = FIRST_PROBE;
  let leastGoal = 0;
  const ended = (exhausted: boolean): LearnedResult => {
    isOver ||= exhausted;
    return { start: best, exhausted, least: leastGoal, conflicts };
  };
  if (!engine.start()) return nothing;
  const heap = new ActivityHeap(orders, engine.analysis.activity);
  engine.analysis.onBump = (x) => heap.bumped(x);
  let restart = 1;
  let untilRestart = RESTART_UNIT * luby(restart);
  let forgetAt = FORGET_FIRST;
  let decisions = 0;
  const phaseOfBest = phase.slice();
  // Where the schedule to beat has no spans of its own, any guess is as good.
  let isAnyGuess = ask.spans?.model.spans.every((s, i) => s.always || !ask.spans?.there.has(i)) ?? false;
  const shake = (share: number) => {
    for (const x of spans?.there ?? []) phase[x] = ask.rng() < share ? 1 - phaseOfBest[x] : phaseOfBest[x];
  };
  if (isAnyGuess) shake(ANY_SPANS);
  return {
    more: (conflictsMore) => {
      most = conflicts + conflictsMore;
      best = null;
      return isOver ? ended(true) : run();
    },
    atMost: (goal) => {
      if (isOver || goalVariable < 0) return;
      engine.backTo(0);
      heap.refill(engine);
      const r = engine.reason();
      if (!engine.raise(2 * goalVariable + 1, -goal, r)) isOver = true;
    },
  };

  function run(): LearnedResult {
    for (;;) {
      if (!engine.propagate()) {
        conflicts += 1;
        untilRestart -= 1;
        if (!engine.learn()) return ended(true);
        heap.refill(engine);
        if ((conflicts & 31) === 0 && (conflicts >= most || ask.stop())) return ended(false);
        continue;
      }
      if (untilRestart <= 0) {
        restart += 1;
        untilRestart = RESTART_UNIT * luby(restart);
        engine.backTo(0);
        heap.refill(engine);
        probe /= 2;
        // Every other time some spans are tried the other way than in the best schedule so far.
        const share = restart % 2 === 0 ? (SHAKEN_SPANS[(restart / 2) % SHAKEN_SPANS.length] as number) : 0;
        shake(isAnyGuess ? ANY_SPANS : share);
        if (engine.clauses.live > forgetAt) {
          engine.clauses.forget();
          forgetAt += FORGET_STEP;
        }
        continue;
      }
      if ((++decisions & 255) === 0 && ask.stop()) return ended(false);
      if (spans && engine.trail.level === 0 && goalVariable >= 0) {
        // A better end is asked for by a good step first: what that teaches stays true, and refuted it is a bound.
        const [least, greatest] = [engine.least(goalVariable), engine.greatest(goalVariable)];
        leastGoal = least;
        const at = greatest - Math.floor((greatest - least) * probe);
        if (at < greatest) {
          engine.decide(2 * goalVariable + 1, -at);
          continue;
        }
      }
      const x = heap.next(engine);
      if (x >= 0) {
        if (phase[x] === 1) engine.decide(2 * x, 1);
        else engine.decide(2 * x + 1, 0);
        continue;
      }
      const first = spans?.toOrder(engine);
      if (first != null) {
        engine.decide(2 * first, 1);
        continue;
      }
      const late = overloaded(engine, usages);
      if (late >= 0) {
        engine.decide(2 * late + 1, -engine.least(late));
        continue;
      }
      const delayed = softToDelay(engine, softs);
      if (delayed) {
        engine.decide(2 * delayed.x, delayed.to);
        continue;
      }
      const settled = spans?.toSettle(engine);
      if (settled) {
        engine.decide(settled.bound, settled.value);
        continue;
      }
      // Every pair is ordered and nothing is overloaded: each task at its least start is a schedule.
      best = [...Array(ask.m.n).keys()].map((v) => engine.least(v));
      ask.onBetter?.(best, spans?.found(engine) ?? []);
      for (const o of orders) phase[o] = engine.least(o);
      phaseOfBest.set(phase);
      isAnyGuess = false;
      if (goalVariable < 0) return ended(false);
      const value = engine.least(goalVariable);
      probe = FIRST_PROBE;
      engine.backTo(0);
      heap.refill(engine);
      const r = engine.reason();
      if (!engine.raise(2 * goalVariable + 1, -(value - 1), r)) return ended(true);
    }
  }
}

interface Built {
  readonly engine: Engine;
  readonly orders: readonly number[];
  readonly phase: Int8Array;
  readonly goalVariable: number;
  readonly usages: readonly (readonly Usage[] & { capacity?: number })[];
  readonly softs: readonly SoftMaximum[];
  readonly spans: SearchedSpans | null;
}

interface SoftMaximum {
  readonly from: number;
  readonly to: number;
  readonly most: number;
  readonly by: number;
}

function build({ m, earliest, incumbent, goal, most, free, frozen, spans: asked }: LearnedSearch): Built | null {
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
  const phases: number[] = [];
  const choice = (phase: 0 | 1): number => {
    const x = add(0, 1);
    orders.push(x);
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
          const x = choice(1);
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
  return { engine, orders, phase, goalVariable, usages, softs, spans };
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

/** A task not yet fixed that stands where a cumulative resource is overloaded at the least starts; −1 where none is. */
function overloaded(engine: Engine, all: readonly (readonly Usage[] & { capacity?: number })[]): number {
  for (const usages of all) {
    const capacity = usages.capacity ?? 0;
    const takenAt = (u: Usage) => engine.least(u.from) + (u.takenAfterS ?? 0);
    const at = usages.filter((u) => u.when === undefined || engine.least(u.when) === 1).sort((a, b) => takenAt(a) - takenAt(b));
    for (const u of at) {
      const t = takenAt(u);
      const running = at.filter((o) => takenAt(o) <= t && t < engine.least(o.to) + o.lengthS);
      if (running.reduce((s, o) => s + o.amount, 0) <= capacity) continue;
      const open = running.find((o) => !engine.isFixed(o.from));
      if (open) return open.from;
    }
  }
  return -1;
}

/** A task that, begun later, breaks its soft maximum less than at its least start; null where none would help. */
function softToDelay(engine: Engine, softs: readonly SoftMaximum[]): { readonly x: number; readonly to: number } | null {
  for (const s of softs) {
    if (engine.least(s.to) - engine.least(s.from) - s.most <= engine.least(s.by)) continue;
    const to = Math.min(engine.least(s.to) - s.most, engine.greatest(s.from));
    if (to > engine.least(s.from)) return { x: s.from, to };
  }
  return null;
}

/** The sequence 1 1 2 1 1 2 4 … */
function luby(i: number): number {
  let k = 1;
  while ((1 << k) - 1 < i) k += 1;
  return i === (1 << k) - 1 ? 1 << (k - 1) : luby(i - (1 << (k - 1)) + 1);
}
