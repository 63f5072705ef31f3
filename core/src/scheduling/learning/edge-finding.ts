import type { Engine, Propagator } from './engine.js';

/**
 * Overload checking and edge-finding on a resource that holds one task at a time (Carlier & Pinson 1989; explained as by
 * Vilím, "Computing explanations for the unary resource constraint", CPAIOR 2005): tasks that must all end by L leave no
 * room for another before their last, so it comes behind them. Both directions of time, by mirroring.
 */
export function edgeFinding(tasks: readonly { readonly x: number; readonly lengthS: number }[]): Propagator {
  const n = tasks.length;
  const length = Float64Array.from(tasks, (t) => t.lengthS);
  const est = new Float64Array(n);
  const lct = new Float64Array(n);
  const byEst = Int32Array.from({ length: n }, (_, i) => i);
  const byLct = Int32Array.from({ length: n }, (_, i) => i);
  /** for each place in order of est, from behind: work of Ω from there on, and the earliest end it forces */
  const work = new Float64Array(n + 1);
  const ends = new Float64Array(n + 1);
  const from = new Float64Array(n + 1);
  const one = (engine: Engine, mirrored: boolean): boolean => {
    const { trail } = engine;
    const x = (i: number) => tasks[i].x;
    for (let i = 0; i < n; i++) {
      const [lo, hi] = [engine.least(x(i)), engine.greatest(x(i))];
      const p = length[i];
      est[i] = mirrored ? -(hi + p) : lo;
      lct[i] = mirrored ? -lo : hi + p;
    }
    sortBy(byEst, est);
    sortBy(byLct, lct);
    const becauseEst = (i: number, a: number) => (mirrored ? trail.because(2 * x(i) + 1, a + length[i]) : trail.because(2 * x(i), a));
    const becauseLct = (i: number, l: number) => (mirrored ? trail.because(2 * x(i), -l) : trail.because(2 * x(i) + 1, length[i] - l));
    for (let q = 0; q < n; q++) {
      const L = lct[byLct[q]];
      if (q + 1 < n && lct[byLct[q + 1]] === L) continue;
      work[n] = 0;
      ends[n] = Number.NEGATIVE_INFINITY;
      from[n] = Number.NEGATIVE_INFINITY;
      for (let k = n - 1; k >= 0; k--) {
        const i = byEst[k];
        if (lct[i] > L) {
          work[k] = work[k + 1];
          ends[k] = ends[k + 1];
          from[k] = from[k + 1];
          continue;
        }
        const w = work[k + 1] + length[i];
        const e = est[i] + w;
        work[k] = w;
        if (e > ends[k + 1]) {
          ends[k] = e;
          from[k] = est[i];
        } else {
          ends[k] = ends[k + 1];
          from[k] = from[k + 1];
        }
        if (e > L) {
          const spare = e - L - 1;
          const r = engine.reason();
          for (let h = k; h < n; h++) {
            const o = byEst[h];
            if (lct[o] > L) continue;
            becauseEst(o, est[i] - spare);
            becauseLct(o, L);
          }
          return engine.fail(r);
        }
      }
      for (let h = 0; h < n; h++) {
        const j = byEst[h];
        if (lct[j] <= L) continue;
        const p = length[j];
        // Ω that begin no earlier than j: with j they need est_j + p + work; Ω that begin earlier: their own est.
        let k = -1;
        let e = 0;
        if (work[h] > 0 && est[j] + p + work[h] > L && ends[h] > est[j]) {
          k = h;
          e = est[j];
        } else {
          for (let g = h - 1; g >= 0; g--) {
            const i = byEst[g];
            if (lct[i] > L) continue;
            if (est[i] + work[g] + p > L && ends[g] > est[j]) {
              k = g;
              e = est[i];
              break;
            }
          }
        }
        if (k < 0) continue;
        const v = ends[k];
        const start = from[k];
        const spare = e + p + work[k] - L - 1;
        const r = engine.reason();
        for (let g = k; g < n; g++) {
          const i = byEst[g];
          if (lct[i] > L) continue;
          becauseEst(i, est[i] >= start ? start : e - spare);
          becauseLct(i, L);
        }
        becauseEst(j, e - spare);
        if (!(mirrored ? engine.raise(2 * x(j) + 1, v + p, r) : engine.raise(2 * x(j), v, r))) return false;
      }
    }
    return true;
  };
  return {
    wakes: tasks.flatMap((t) => [2 * t.x, 2 * t.x + 1]),
    run: (engine) => one(engine, false) && one(engine, true),
  };
}

/** Insertion sort: from one run to the next the order hardly changes. */
function sortBy(order: Int32Array, key: Float64Array): void {
  for (let i = 1; i < order.length; i++) {
    const x = order[i];
    const k = key[x];
    let j = i - 1;
    while (j >= 0 && key[order[j]] > k) {
      order[j + 1] = order[j];
      j -= 1;
    }
    order[j + 1] = x;
  }
}
