import { normalCdf, Z_90 } from '../drying/normal.js';
import { type DryingState, dryingStates } from '../drying/state.js';
import type { Factors } from '../drying/uncertainty.js';

/**
 * What a kitchen's touch reports teach about its drying. A report says that a state had (or had not) been reached when
 * the model says `ratio` of its median threshold was lost: ln F ≤ ln ratio, or above, or between two touches.
 *   surface:     ln F = θ + δ_state + ε,  θ ~ N(0, 0.26²), δ ~ N(0, 0.15²), ε ~ N(0, 0.18²)
 *   whole layer: ln F = θ′ + ε′,          θ′ ~ N(0, 0.07²), ε′ ~ N(0, 0.07²)
 * Spreads are *assumed*. Posterior by Laplace's approximation (MacKay 2003, ch. 27): the log posterior is concave.
 */
export interface TouchReport {
  readonly state: DryingState;
  /** not yet at this share of the threshold; 0 if nobody looked before */
  readonly notYetRatio: number;
  /** reached by this share of it; Infinity if it has not been seen yet */
  readonly reachedRatio: number;
}

const SURFACE = ['thickening', 'skinned', 'crusted', 'crackleShut', 'set'] as const;
const SD = { theta: 0.26, delta: 0.15, epsilon: 0.18, whole: 0.07, wholeEpsilon: 0.07 } as const;
/** θ, δ of each surface state, θ′ */
const SIZE = 1 + SURFACE.length + 1;
const PRIOR_PRECISION = [1 / SD.theta ** 2, ...SURFACE.map(() => 1 / SD.delta ** 2), 1 / SD.whole ** 2];

const isSurface = (s: DryingState): s is (typeof SURFACE)[number] => (SURFACE as readonly string[]).includes(s);
/** Which parameters make up the mean of ln F of a state. */
const design = (s: DryingState): readonly number[] => (isSurface(s) ? [0, 1 + SURFACE.indexOf(s)] : [SIZE - 1]);
const noise = (s: DryingState): number => (isSurface(s) ? SD.epsilon : SD.wholeEpsilon);

export interface FactorPosterior {
  readonly mean: readonly number[];
  readonly covariance: readonly (readonly number[])[];
}

export interface FactorPrediction {
  /** multiplies the state's threshold: median and 80 % interval for the next cookie, ε included */
  readonly p10: number;
  readonly p50: number;
  readonly p90: number;
}

export const FACTOR_PRIOR: FactorPosterior = {
  mean: Array<number>(SIZE).fill(0),
  covariance: PRIOR_PRECISION.map((p, i) => PRIOR_PRECISION.map((_, j) => (i === j ? 1 / p : 0))),
};

const NEWTON_STEPS = 30;
/** Finite differences of the log likelihood in one dimension: its second derivative has no simple closed form for two-sided reports. */
const H = 1e-4;

export function learnFactors(reports: readonly TouchReport[]): FactorPosterior {
  const mean = Array<number>(SIZE).fill(0);
  let precision = PRIOR_PRECISION.map((p, i) => PRIOR_PRECISION.map((_, j) => (i === j ? p : 0)));
  for (let step = 0; step < NEWTON_STEPS; step++) {
    const gradient = mean.map((x, i) => -x * (PRIOR_PRECISION[i] as number));
    precision = PRIOR_PRECISION.map((p, i) => PRIOR_PRECISION.map((_, j) => (i === j ? p : 0)));
    for (const r of reports) {
      const parts = design(r.state);
      const mu = parts.reduce((s, i) => s + (mean[i] as number), 0);
      const [low, here, high] = [mu - H, mu, mu + H].map((m) => logLikelihood(r, m)) as [number, number, number];
      const first = (high - low) / (2 * H);
      const second = Math.min(0, (high - 2 * here + low) / (H * H));
      for (const i of parts) {
        gradient[i] = (gradient[i] as number) + first;
        for (const j of parts) (precision[i] as number[])[j] = ((precision[i] as number[])[j] as number) - second;
      }
    }
    const move = solveLinear(precision, gradient);
    const size = Math.max(...move.map(Math.abs));
    const damp = Math.min(1, 0.5 / Math.max(size, 1e-12));
    for (const [i, d] of move.entries()) mean[i] = (mean[i] as number) + d * damp;
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

/** Mean and spread of ln F for the next cookie, ε included. */
function believed(posterior: FactorPosterior, state: DryingState): { mean: number; sigma: number } {
  const parts = design(state);
  const mean = parts.reduce((s, i) => s + (posterior.mean[i] as number), 0);
  const variance = parts.reduce((s, i) => s + parts.reduce((t, j) => t + ((posterior.covariance[i] as number[])[j] as number), 0), 0) + noise(state) ** 2;
  return { mean, sigma: Math.sqrt(variance) };
}

/** What a plan takes over from what was learned. */
export const factorsOf = (posterior: FactorPosterior): Factors =>
  Object.fromEntries(dryingStates.map((s) => [s, believed(posterior, s)])) as Record<DryingState, { mean: number; sigma: number }>;

export function predictFactor(posterior: FactorPosterior, state: DryingState): FactorPrediction {
  const { mean, sigma } = believed(posterior, state);
  return { p10: Math.exp(mean - Z_90 * sigma), p50: Math.exp(mean), p90: Math.exp(mean + Z_90 * sigma) };
}

function logLikelihood(r: TouchReport, mu: number): number {
  const sd = noise(r.state);
  const upper = r.reachedRatio === Number.POSITIVE_INFINITY ? 1 : normalCdf((Math.log(r.reachedRatio) - mu) / sd);
  const lower = r.notYetRatio <= 0 ? 0 : normalCdf((Math.log(r.notYetRatio) - mu) / sd);
  // Contradicting touches must not break the arithmetic; they pull to the middle with little weight.
  return Math.log(Math.max(upper - lower, 1e-7));
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
