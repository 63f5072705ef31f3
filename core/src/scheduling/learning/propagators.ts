import type { Interval } from '../../time/interval.js';
import type { Engine, Propagator } from './engine.js';

/** Keeps a start out of its task's closed hours: from closing less its length to opening, exclusive at both ends. */
export function calendarPropagator(x: number, durationS: number, closed: readonly Interval[]): Propagator {
  const from = Float64Array.from(closed, (c) => c.fromS - durationS + 1);
  const to = Float64Array.from(closed, (c) => c.toS);
  /** first span that ends after s */
  const next = (s: number): number => {
    let lo = 0;
    let hi = to.length;
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if (to[mid] <= s) lo = mid + 1;
      else hi = mid;
    }
    return lo;
  };
  return {
    wakes: [2 * x, 2 * x + 1],
    run: (engine) => {
      for (;;) {
        const s = engine.least(x);
        const k = next(s);
        if (k >= to.length || s < from[k]) break;
        const r = engine.reason();
        engine.trail.because(2 * x, from[k]);
        if (!engine.raise(2 * x, to[k], r)) return false;
      }
      for (;;) {
        const s = engine.greatest(x);
        const k = next(s);
        if (k >= to.length || s < from[k]) return true;
        const r = engine.reason();
        engine.trail.because(2 * x + 1, -(to[k] - 1));
        if (!engine.raise(2 * x + 1, -(from[k] - 1), r)) return false;
      }
    },
  };
}

/** Σ weight·x ≤ most (weights > 0): by the least values of the others. */
export function sumAtMost(terms: readonly { readonly x: number; readonly weight: number }[], total: number): Propagator {
  return {
    wakes: [...terms.map((t) => 2 * t.x), 2 * total + 1],
    run: (engine) => {
      let least = 0;
      for (const t of terms) least += t.weight * engine.least(t.x);
      if (least > engine.least(total)) {
        const r = engine.reason();
        for (const t of terms) if (engine.least(t.x) > 0) engine.trail.because(2 * t.x, engine.least(t.x));
        if (!engine.raise(2 * total, least, r)) return false;
      }
      const most = engine.greatest(total);
      for (const t of terms) {
        const room = Math.floor((most - (least - t.weight * engine.least(t.x))) / t.weight);
        if (room >= engine.greatest(t.x)) continue;
        const r = engine.reason();
        engine.trail.because(2 * total + 1, -most);
        for (const o of terms) if (o !== t && engine.least(o.x) > 0) engine.trail.because(2 * o.x, engine.least(o.x));
        if (!engine.raise(2 * t.x + 1, -room, r)) return false;
      }
      return true;
    },
  };
}

/** by ≥ start(to) − start(from) − most: how far a soft maximum is broken. */
export function exceeds(from: number, to: number, most: number, by: number): Propagator {
  return {
    wakes: [2 * to, 2 * from + 1, 2 * by + 1],
    run: (engine) => {
      const least = engine.least(to) - engine.greatest(from) - most;
      if (least > engine.least(by)) {
        const r = engine.reason();
        engine.trail.because(2 * to, engine.least(to));
        engine.trail.because(2 * from + 1, -engine.greatest(from));
        if (!engine.raise(2 * by, least, r)) return false;
      }
      const mostTo = engine.greatest(by) + engine.greatest(from) + most;
      if (mostTo < engine.greatest(to)) {
        const r = engine.reason();
        engine.trail.because(2 * by + 1, -engine.greatest(by));
        engine.trail.because(2 * from + 1, -engine.greatest(from));
        if (!engine.raise(2 * to + 1, -mostTo, r)) return false;
      }
      const leastFrom = engine.least(to) - most - engine.greatest(by);
      if (leastFrom > engine.least(from)) {
        const r = engine.reason();
        engine.trail.because(2 * to, engine.least(to));
        engine.trail.because(2 * by + 1, -engine.greatest(by));
        if (!engine.raise(2 * from, leastFrom, r)) return false;
      }
      return true;
    },
  };
}

/** What holds an amount of a resource from the start of one variable to the start of another plus a length. */
export interface Usage {
  /** start variable of what takes it */
  readonly from: number;
  /** start variable of what gives it back, and how long after that start */
  readonly to: number;
  readonly lengthS: number;
  readonly amount: number;
  /** how long after the start of `from` it is taken; at once where left out */
  readonly takenAfterS?: number;
  /** 0–1 variable: it is only taken where this is 1 */
  readonly when?: number;
}

/**
 * Time-table propagation of a cumulative resource with pointwise explanations (Schutt, Feydy, Stuckey & Wallace,
 * "Explaining the cumulative propagator", Constraints 16, 2011): what must be running at a moment follows from the two
 * bounds that make it so.
 */
export function timeTable(usages: readonly Usage[], capacity: number): Propagator {
  const wakes = [
    ...new Set(usages.flatMap((u) => [2 * u.from, 2 * u.from + 1, 2 * u.to, 2 * u.to + 1, ...(u.when === undefined ? [] : [2 * u.when])])),
  ];
  const begins = (engine: Engine, u: Usage) =>
    u.when !== undefined && engine.least(u.when) === 0 ? Number.POSITIVE_INFINITY : engine.greatest(u.from) + (u.takenAfterS ?? 0);
  const ends = (engine: Engine, u: Usage) => engine.least(u.to) + u.lengthS;
  const runsAt = (engine: Engine, u: Usage, t: number) => begins(engine, u) <= t && t < ends(engine, u);
  const tell = (engine: Engine, u: Usage, t: number) => {
    engine.trail.because(2 * u.from + 1, (u.takenAfterS ?? 0) - t);
    engine.trail.because(2 * u.to, t - u.lengthS + 1);
    if (u.when !== undefined) engine.trail.because(2 * u.when, 1);
  };
  return {
    wakes,
    run: (engine) => {
      const fixed = usages.filter((u) => begins(engine, u) < ends(engine, u));
      if (fixed.length === 0) return true;
      const moments = [...new Set(fixed.map((u) => begins(engine, u)))].sort((a, b) => a - b);
      const loads = moments.map((t) => fixed.reduce((s, u) => s + (runsAt(engine, u, t) ? u.amount : 0), 0));
      for (const [i, t] of moments.entries()) {
        if (loads[i] <= capacity) continue;
        const r = engine.reason();
        let sum = 0;
        for (const u of fixed) {
          if (sum > capacity || !runsAt(engine, u, t)) continue;
          tell(engine, u, t);
          sum += u.amount;
        }
        return engine.fail(r);
      }
      for (const u of usages) {
        // Only plain tasks are pushed: what is held between two tasks is left to branching.
        if (u.from !== u.to || engine.isFixed(u.from)) continue;
        for (let i = 0; i < moments.length; i++) {
          const t = moments[i];
          const load = loads[i];
          const own = runsAt(engine, u, t) ? u.amount : 0;
          if (load - own + u.amount <= capacity) continue;
          // The load stands at least until the first of those running at t ends.
          const until = Math.min(...fixed.filter((o) => o !== u && runsAt(engine, o, t)).map((o) => ends(engine, o)));
          const s = engine.least(u.from);
          if (s < until && s + u.lengthS > t) {
            const at = Math.min(until - 1, s + u.lengthS - 1);
            const r = engine.reason();
            engine.trail.because(2 * u.from, at - u.lengthS + 1);
            tellOthers(engine, fixed, u, at, capacity - u.amount);
            if (!engine.raise(2 * u.from, at + 1, r)) return false;
          }
          const g = engine.greatest(u.from);
          if (g < until && g + u.lengthS > t) {
            const at = Math.max(t, g);
            const r = engine.reason();
            engine.trail.because(2 * u.from + 1, -at);
            tellOthers(engine, fixed, u, at, capacity - u.amount);
            if (!engine.raise(2 * u.from + 1, -(at - u.lengthS), r)) return false;
          }
        }
      }
      return true;
    },
  };

  function tellOthers(engine: Engine, fixed: readonly Usage[], u: Usage, t: number, room: number): void {
    let sum = 0;
    for (const o of fixed) {
      if (o === u || sum > room || !runsAt(engine, o, t)) continue;
      tell(engine, o, t);
      sum += o.amount;
    }
  }
}
