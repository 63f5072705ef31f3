import { END_OF_TIME_S, type Interval } from '../time/interval.js';
import type { Model } from './model.js';

/** Closed spans of a task in rows, with the sum of those up to each. */
export interface Calendar {
  readonly fromS: Float64Array;
  readonly toS: Float64Array;
  readonly sumS: Float64Array;
}

/** One calendar a task; tasks that use the same resources share theirs. */
export function calendarsOf(m: Model): Calendar[] {
  const known = new Map<string, Calendar>();
  return m.closed.map((spans, v) => {
    const key = m.demands[v].map((d) => d.resource).join();
    const calendar = known.get(key) ?? rows(spans);
    known.set(key, calendar);
    return calendar;
  });
}

function rows(spans: readonly Interval[]): Calendar {
  let sum = 0;
  return {
    fromS: Float64Array.from(spans, (c) => c.fromS),
    toS: Float64Array.from(spans, (c) => c.toS),
    sumS: Float64Array.from(spans, (c) => {
      sum += c.toS - c.fromS;
      return sum;
    }),
  };
}

/** Index of the first span that ends after `s`. */
function spanAfter(c: Calendar, s: number): number {
  let lo = 0;
  let hi = c.toS.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (c.toS[mid] <= s) lo = mid + 1;
    else hi = mid;
  }
  return lo;
}

/** `fitCalendar` (model.ts) over rows; END_OF_TIME_S where the task never fits. */
export function firstOpen(c: Calendar, from: number, duration: number): number {
  let s = from;
  for (let k = spanAfter(c, s); k < c.fromS.length && s + duration > c.fromS[k]; k++) {
    if (c.toS[k] > s) s = c.toS[k];
    if (s >= END_OF_TIME_S) return END_OF_TIME_S;
  }
  return s;
}

/** Closed seconds before a moment, up to the last span that has ended. */
export function closedBefore(c: Calendar, s: number): number {
  const k = spanAfter(c, s);
  return k > 0 ? c.sumS[k - 1] : 0;
}
