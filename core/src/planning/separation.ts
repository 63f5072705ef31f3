import type { TimedGap } from '../formats/plan.js';
import { disturbs } from '../steps/step.js';
import type { Visit } from './visit.js';

/** Lag between the starts of two visits that keeps a gap on every cookie both of them touch. */
export interface Separation {
  readonly minS: number | null;
  readonly maxS: number | null;
}

/**
 * Start-to-start lags from the cookies' own times: min S₂ − S₁ ≥ max_i (P_i + wait_i − Q_{i−1}) and, since work must
 * END inside its window, max S₂ − S₁ ≤ min_i (P_i + window_i − Q_i). null where the visits share no cookie.
 */
export function separation(
  earlier: Pick<Visit, 'lot' | 'bundle' | 'cookies' | 'times'>,
  later: Pick<Visit, 'lot' | 'bundle' | 'cookies' | 'times'>,
  timed: TimedGap,
): Separation | null {
  const from = Math.max(earlier.cookies[0], later.cookies[0]);
  const to = Math.min(earlier.cookies[1], later.cookies[1]);
  if (earlier.lot.id !== later.lot.id || from >= to) return null;
  let minS = Number.NEGATIVE_INFINITY;
  let maxS = Number.POSITIVE_INFINITY;
  for (let cookie = from; cookie < to; cookie++) {
    const left = leftToDryS(earlier, timed.gap.from, cookie);
    const end = (earlier.times.endS.get(timed.gap.from) as readonly number[])[cookie - earlier.cookies[0]] as number;
    const begins = (later.times.startS.get(timed.gap.to) as readonly number[])[cookie - later.cookies[0]] as number;
    const ends = (later.times.endS.get(timed.gap.to) as readonly number[])[cookie - later.cookies[0]] as number;
    minS = Math.max(minS, left + timed.minS - begins);
    // A window of the body itself is counted from when it was left alone, one that flooding opens from its end.
    if (timed.maxS !== null) maxS = Math.min(maxS, (timed.gap.oneBody ? left : end) + timed.maxS - ends);
  }
  return { minS: Math.ceil(minS), maxS: timed.maxS === null ? null : Math.floor(maxS) };
}

/** When a body is left alone: after the last wet work in it. */
export function leftToDryS(visit: Pick<Visit, 'bundle' | 'cookies' | 'times'>, stepId: string, cookie: number): number {
  const i = cookie - visit.cookies[0];
  const step = visit.bundle.steps.find((s) => s.id === stepId);
  const own = (visit.times.endS.get(stepId) as readonly number[])[i] as number;
  if (!step) return own;
  return Math.max(
    own,
    ...visit.bundle.steps.filter((s) => disturbs(s, step)).map((s) => (visit.times.endS.get(s.id) as readonly number[])[i] as number),
  );
}
