import logCdf from '@stdlib/stats-base-dists-normal-logcdf';
import logPdf from '@stdlib/stats-base-dists-normal-logpdf';
import { Z_90 } from '../drying/normal.js';
import { type DryingState, dryingStates } from '../drying/state.js';
import { type Factors, SPREAD } from '../drying/uncertainty.js';

/**
 * What a kitchen's touch reports teach about its drying. A report says that a state had (or had not) been reached when
 * the model says `ratio` of its own median threshold was lost: ln F ≤ ln ratio, or above, or between two touches.
 *   surface:     ln F = θ + δ_state + day + cookie
 *   whole layer: ln F = θ′ + cookie′
 * with the spreads of `drying/uncertainty.ts`. Reports of one day share that day's term, so ten cookies of one day count for
 * less than ten days. Posterior by Laplace's approximation (MacKay 2003, ch. 27), with the log of the normal distribution
 * function and its exact derivatives, so that evidence far out still has a slope.
 */
export interface TouchReport {
  readonly state: DryingState;
  /** not yet at this share of the threshold; 0 if nobody looked before */
  readonly notYetRatio: number;
  /** reached by this share of it; Infinity if it has not been seen yet */
  readonly reachedRatio: number;
  /** work was begun without complaint: nobody said that it was looked at */
  readonly silent?: boolean;
  /** what it shares a day's air and icing with; without one it stands for a day of its own */
  readonly day?: string;
}

const SURFACE = ['thickening', 'skinned', 'crusted', 'crackleShut', 'set'] as const;
/** θ, δ of each surface state, θ′ */
const SIZE = 1 + SURFACE.length + 1;
const PRIOR_PRECISION = [1 / SPREAD.common ** 2, ...SURFACE.map(() => 1 / SPREAD.state ** 2), 1 / SPREAD.whole ** 2];
/** So often work is begun on what was not there yet without a word: *assumed*. */
const LAPSE = 0.1;

const isSurface = (s: DryingState): s is (typeof SURFACE)[number] => (SURFACE as readonly string[]).includes(s);
/** Which parameters make up the mean of ln F of a state. */
const design = (s: DryingState): readonly number[] => (isSurface(s) ? [0, 1 + SURFACE.indexOf(s)] : [SIZE - 1]);
/** Spread of one cookie; of a report without a day, that of its day too. */
const noise = (s: DryingState, ofDay: boolean): number => (!isSurface(s) ? SPREAD.wholeCookie : ofDay ? SPREAD.cookie : Math.hypot(SPREAD.day, SPREAD.cookie));

export interface FactorPosterior {
  readonly mean: readonly number[];
  readonly covariance: readonly (readonly number[])[];
}

export interface FactorPrediction {
  /** multiplies the state's threshold: median and 80 % interval for the next cookie of another day */
  readonly p10: number;
  readonly p50: number;
  readonly p90: number;
}

export const FACTOR_PRIOR: FactorPosterior = {
  mean: Array<number>(SIZE).fill(0),
  covariance: PRIOR_PRECISION.map((p, i) => PRIOR_PRECISION.map((_, j) => (i === j ? 1 / p : 0))),
};

const NEWTON_STEPS = 60;

export function learnFactors(reports: readonly TouchReport[]): FactorPosterior {
  // Nobody can have seen it come before it was seen not to be there: such a body teaches nothing.
  const sound = reports.filter((r) => r.notYetRatio < r.reachedRatio);
  const dayOf = (r: TouchReport) => (r.day !== undefined && isSurface(r.state) ? r.day : null);
  const days = new Map<string, Day>(sound.flatMap((r) => (dayOf(r) === null ? [] : [[dayOf(r) as string, { mean: 0, slope: 0, weight: 0, shared: [] }]])));
  const mean = Array<number>(SIZE).fill(0);
  let precision = diagonal(PRIOR_PRECISION);
  for (let step = 0; step < NEWTON_STEPS; step++) {
    const gradient = mean.map((x, i) => -x * (PRIOR_PRECISION[i] as number));
    precision = diagonal(PRIOR_PRECISION);
    for (const d of days.values()) Object.assign(d, { slope: -d.mean / SPREAD.day ** 2, weight: 1 / SPREAD.day ** 2, shared: Array<number>(SIZE).fill(0) });
    for (const r of sound) {
      const parts = design(r.state);
      const day = days.get(dayOf(r) ?? '');
      const mu = parts.reduce((s, i) => s + (mean[i] as number), day?.mean ?? 0);
      const { first, second } = slopes(r, mu);
      // A lapse makes the curve bend the other way far out; there the prior alone holds.
      const bend = -Math.min(0, second);
      for (const i of parts) {
        gradient[i] = (gradient[i] as number) + first;
        for (const j of parts) add(precision[i] as number[], j, bend);
        if (day) add(day.shared, i, bend);
      }
      if (day) {
        day.slope += first;
        day.weight += bend;
      }
    }
    // Days hang on the kitchen's own parameters only, so they are eliminated one by one (Schur complement).
    for (const d of days.values())
      for (let i = 0; i < SIZE; i++) {
        gradient[i] = (gradient[i] as number) - ((d.shared[i] as number) * d.slope) / d.weight;
        for (let j = 0; j < SIZE; j++) add(precision[i] as number[], j, (-(d.shared[i] as number) * (d.shared[j] as number)) / d.weight);
      }
    const move = solveLinear(precision, gradient);
    const dayMoves = [...days.values()].map((d) => (d.slope - move.reduce((s, m, i) => s + m * (d.shared[i] as number), 0)) / d.weight);
    const size = Math.max(...[...move, ...dayMoves].map(Math.abs));
    const damp = Math.min(1, 0.5 / Math.max(size, 1e-12));
    for (const [i, m] of move.entries()) add(mean, i, m * damp);
    for (const [i, d] of [...days.values()].entries()) d.mean += (dayMoves[i] as number) * damp;
    if (size < 1e-9) break;
  }
  const covariance = mean.map((_, i) =>
    solveLinear(
      precision,
      mean.map((__, j) => (i === j ? 1 : 0)),
    ),
  );
  return { mean, covariance };
}

/** One day's own term while it is learned: its mean, its slope and weight, and what it shares with the kitchen's parameters. */
interface Day {
  mean: number;
  slope: number;
  weight: number;
  shared: number[];
}
const add = (list: number[], i: number, more: number): void => {
  list[i] = (list[i] as number) + more;
};

const diagonal = (values: readonly number[]): number[][] => values.map((p, i) => values.map((_, j) => (i === j ? p : 0)));

/** First and second derivative of a report's log likelihood in the mean of ln F. */
function slopes(r: TouchReport, mu: number): { readonly first: number; readonly second: number } {
  const sd = noise(r.state, r.day !== undefined);
  const [low, high] = [r.notYetRatio <= 0 ? Number.NEGATIVE_INFINITY : (Math.log(r.notYetRatio) - mu) / sd, (Math.log(r.reachedRatio) - mu) / sd];
  const inside = interval(low, high, sd);
  if (!r.silent) return inside;
  // Work begun without a word: either it had come, or nobody minded.
  const share = Math.exp(inside.log);
  const whole = (1 - LAPSE) * share + LAPSE;
  const first = ((1 - LAPSE) * share * inside.first) / whole;
  const bend = ((1 - LAPSE) * share * (inside.second + inside.first ** 2)) / whole;
  return { first, second: bend - first ** 2 };
}

/** Log of Φ(high) − Φ(low) and its derivatives in the mean, exact however far out the interval lies. */
function interval(low: number, high: number, sd: number): { readonly log: number; readonly first: number; readonly second: number } {
  // Φ(b) − Φ(a) = Φ(−a) − Φ(−b): taken on the side where both are small, nothing is lost in the difference.
  const [a, b] = low + high > 0 ? [-high, -low] : [low, high];
  const [logA, logB] = [a === Number.NEGATIVE_INFINITY ? Number.NEGATIVE_INFINITY : logCdf(a, 0, 1), b === Number.POSITIVE_INFINITY ? 0 : logCdf(b, 0, 1)];
  const log = logB + Math.log1p(-Math.exp(logA - logB));
  const density = (z: number) => (Number.isFinite(z) ? Math.exp(logPdf(z, 0, 1) - log) : 0);
  const [atLow, atHigh] = [density(low), density(high)];
  const first = (atLow - atHigh) / sd;
  const second = ((Number.isFinite(low) ? low * atLow : 0) - (Number.isFinite(high) ? high * atHigh : 0)) / (sd * sd) - first * first;
  return { log, first, second };
}

/** Mean and spread of ln F for the next cookie of another day, its day and its own term included. */
function believed(posterior: FactorPosterior, state: DryingState): { mean: number; sigma: number } {
  const parts = design(state);
  const mean = parts.reduce((s, i) => s + (posterior.mean[i] as number), 0);
  const variance =
    parts.reduce((s, i) => s + parts.reduce((t, j) => t + ((posterior.covariance[i] as number[])[j] as number), 0), 0) + noise(state, false) ** 2;
  return { mean, sigma: Math.sqrt(variance) };
}
/** What a plan takes over from what was learned. */
export const factorsOf = (posterior: FactorPosterior): Factors =>
  Object.fromEntries(dryingStates.map((s) => [s, believed(posterior, s)])) as Record<DryingState, { mean: number; sigma: number }>;

export function predictFactor(posterior: FactorPosterior, state: DryingState): FactorPrediction {
  const { mean, sigma } = believed(posterior, state);
  return { p10: Math.exp(mean - Z_90 * sigma), p50: Math.exp(mean), p90: Math.exp(mean + Z_90 * sigma) };
}

/** Gaussian elimination with partial pivoting; the matrices here are at most seven wide. */
function solveLinear(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const a = matrix.map((row, i) => [...row, right[i] as number]);
  const n = right.length;
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs((a[r] as number[])[c] as number) > Math.abs((a[pivot] as number[])[c] as number)) pivot = r;
    [a[c], a[pivot]] = [a[pivot] as number[], a[c] as number[]];
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const f = ((a[r] as number[])[c] as number) / ((a[c] as number[])[c] as number);
      for (let k = c; k <= n; k++) (a[r] as number[])[k] = ((a[r] as number[])[k] as number) - f * ((a[c] as number[])[k] as number);
    }
  }
  return a.map((row, i) => (row[n] as number) / (row[i] as number));
}
