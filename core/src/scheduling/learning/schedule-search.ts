import type { Rng } from '../../time/rng.js';
import { ActivityHeap } from './activity-heap.js';
import type { Engine } from './engine.js';
import { Neighbourhoods } from './neighbourhoods.js';
import type { Usage } from './propagators.js';
import { buildSearch, type SearchAsked, type SoftMaximum } from './search-model.js';
import type { SpanAt } from './span-model.js';

/**
 * Lazy clause generation for scheduling with minimum and maximum lags (Schutt, Feydy, Stuckey & Wallace, "Solving RCPSP/max by
 * lazy clause generation", J. Scheduling 16, 2013): an order variable for every pair that cannot run together, bounds of
 * starts, learned clauses, restarts (Luby, Sinclair & Zuckerman 1993), activity-based branching, and the order of the best
 * schedule so far tried first.
 */
export interface LearnedSearch extends SearchAsked {
  readonly conflicts: number;
  readonly stop: () => boolean;
  readonly rng: Rng;
  readonly onBetter?: (start: readonly number[], spans: readonly SpanAt[]) => void;
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
const FIRST_PROBE = 0.5;
/**
 * Shares of spans that are tried the other way at every other restart, in turn; half of them while there is no schedule to begin from, so
 * that what decides it is not one first guess. Chosen on the orders of docs/benchmarks.md.
 */
const SHAKEN_SPANS = [0.1, 0.2, 0.5] as const;
const ANY_SPANS = 0.5;
/** Conflicts that one neighbourhood of the best schedule may cost, and the share of what may be won that is asked of it. */
const NEAR_CONFLICTS = 30;
const NEAR_PROBE = 0.1;

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
  const built = buildSearch(ask);
  if (!built) return nothing;
  const { engine, orders, phase, goalVariable, usages, softs, spans } = built;
  const near = spans && ask.spans ? Neighbourhoods.of(ask.spans.model, built.endsOf, ask.rng) : null;
  /** variables that keep the value they have in the best schedule while the rest is searched; empty while all is */
  let kept: readonly number[] = [];
  let decided = 0;
  /** level at which all of them are decided; −1 while they are not */
  let keptLevel = -1;
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
  const toRoot = () => {
    engine.backTo(0);
    heap.refill(engine);
    decided = 0;
    keptLevel = -1;
  };
  const decide = (x: number, value: number) => (value === 1 ? engine.decide(2 * x, 1) : engine.decide(2 * x + 1, 0));
  return {
    more: (conflictsMore) => {
      most = conflicts + conflictsMore;
      best = null;
      return isOver ? ended(true) : run();
    },
    atMost: (goal) => {
      if (isOver || goalVariable < 0) return;
      toRoot();
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
        decided = 0;
        // With all these kept there is nothing as good as was asked for.
        if (keptLevel > engine.trail.level) untilRestart = 0;
        if ((conflicts & 31) === 0 && (conflicts >= most || ask.stop())) return ended(false);
        continue;
      }
      if (untilRestart <= 0) {
        toRoot();
        // By turns with the search of all, as soon as there is a schedule to look near.
        kept = near && !isAnyGuess && kept.length === 0 ? near.kept() : [];
        if (kept.length > 0) {
          phase.set(phaseOfBest);
          untilRestart = NEAR_CONFLICTS;
          continue;
        }
        restart += 1;
        untilRestart = RESTART_UNIT * luby(restart);
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
        const at = greatest - Math.floor((greatest - least) * (kept.length > 0 ? NEAR_PROBE : probe));
        if (at < greatest) {
          engine.decide(2 * goalVariable + 1, -at);
          continue;
        }
      }
      while (decided < kept.length && engine.isFixed(kept[decided])) decided += 1;
      if (decided < kept.length) {
        const x = kept[decided];
        decide(x, phaseOfBest[x]);
        continue;
      }
      if (kept.length > 0 && keptLevel < 0) keptLevel = engine.trail.level;
      const x = heap.next(engine);
      if (x >= 0) {
        decide(x, phase[x]);
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
      if (kept.length > 0) untilRestart = NEAR_CONFLICTS;
      toRoot();
      const r = engine.reason();
      if (!engine.raise(2 * goalVariable + 1, -(value - 1), r)) return ended(true);
    }
  }
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
