import logCdf from '@stdlib/stats-base-dists-normal-logcdf';
import logPdf from '@stdlib/stats-base-dists-normal-logpdf';
import { Z_90 } from '../drying/normal.js';
import { type DryingState, dryingStates } from '../drying/state.js';
import { BELIEVABLE, type Factors, SPREAD, within } from '../drying/uncertainty.js';
import { dot, inverse } from './linear.js';

/**
 * What a kitchen's touch reports teach about its drying. A report says that a state had (or had not) been reached when
 * the model says `ratio` of its own median threshold was lost: ln F ≤ ln ratio, or above, or between two touches.
 *   surface:     ln F = θ + δ_state + day + cookie
 *   whole layer: ln F = θ′ + cookie′
 * with the spreads of `drying/uncertainty.ts`. Reports of one day share that day's term, so ten cookies of one day count for
 * less than ten days. The log of the normal distribution function and its exact derivatives are used, so that evidence far out still
 * has a slope.
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
const noise = (s: DryingState, ofDay: boolean): number =>
  !isSurface(s) ? SPREAD.wholeCookie : ofDay ? SPREAD.cookie : Math.hypot(SPREAD.day, SPREAD.cookie);

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

/** Sweeps over all reports, how far each is followed in one, and when nothing moves any more. */
const SWEEPS = 200;
const DAMPED = 0.8;
const SETTLED = 1e-8;

/**
 * What the reports teach, by expectation propagation (Minka 2001; Rasmussen & Williams 2006, §3.6): every report stands as a normal
 * likelihood of its own mean of ln F that has the report's own mean and spread once all the others are taken into account. Work begun
 * without a word says only that a state had come by then; a belief built on the likeliest place alone would lean to one side of it.
 */
export function learnFactors(reports: readonly TouchReport[]): FactorPosterior {
  // Nobody can have seen it come before it was seen not to be there: such a body teaches nothing.
  const sound = reports.filter((r) => r.notYetRatio < r.reachedRatio);
  const dayOf = (r: TouchReport) => (r.day !== undefined && isSurface(r.state) ? r.day : null);
  const days = new Map<string, Day>(
    sound.flatMap((r) => (dayOf(r) === null ? [] : [[dayOf(r) as string, { mean: 0, shift: 0, weight: 0, shared: [] }]])),
  );
  const sites = sound.map(
    (report): Site => ({ report, parts: design(report.state), day: days.get(dayOf(report) ?? ''), weight: 0, shift: 0 }),
  );
  let mean = Array<number>(SIZE).fill(0);
  let covariance: readonly (readonly number[])[] = FACTOR_PRIOR.covariance;
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    const before = mean;
    ({ mean, covariance } = together(sites, [...days.values()]));
    const moved = Math.max(...mean.map((m, i) => Math.abs(m - (before[i] as number))));
    if (sweep > 0 && moved < SETTLED) break;
    for (const site of sites) settle(site, mean, covariance);
  }
  return { mean, covariance };
}

/** A report as a normal likelihood: its precision, and that times its mean. */
interface Site {
  readonly report: TouchReport;
  readonly parts: readonly number[];
  readonly day: Day | undefined;
  weight: number;
  shift: number;
}

/** One day's own term: its mean, precision, that times its mean, and what it shares with the kitchen's parameters. */
interface Day {
  mean: number;
  shift: number;
  weight: number;
  shared: number[];
}

/**
 * The belief that prior and sites make together. Days hang on the kitchen's own parameters only: they are eliminated one by one (Schur
 * complement).
 */
function together(sites: readonly Site[], days: readonly Day[]): { readonly mean: number[]; readonly covariance: number[][] } {
  const precision = diagonal(PRIOR_PRECISION);
  const shift = Array<number>(SIZE).fill(0);
  for (const d of days) Object.assign(d, { shift: 0, weight: 1 / SPREAD.day ** 2, shared: Array<number>(SIZE).fill(0) });
  for (const s of sites) {
    for (const i of s.parts) {
      add(shift, i, s.shift);
      for (const j of s.parts) add(precision[i] as number[], j, s.weight);
      if (s.day) add(s.day.shared, i, s.weight);
    }
    if (s.day) {
      s.day.weight += s.weight;
      s.day.shift += s.shift;
    }
  }
  for (const d of days)
    for (let i = 0; i < SIZE; i++) {
      add(shift, i, (-(d.shared[i] as number) * d.shift) / d.weight);
      for (let j = 0; j < SIZE; j++) add(precision[i] as number[], j, (-(d.shared[i] as number) * (d.shared[j] as number)) / d.weight);
    }
  const covariance = inverse(precision);
  const mean = covariance.map((row) => dot(row, shift));
  for (const d of days) d.mean = (d.shift - dot(d.shared, mean)) / d.weight;
  return { mean, covariance };
}

/** Takes a site out of the belief, looks at its report with what is left, and puts it back with the mean and spread that gives. */
function settle(site: Site, mean: readonly number[], covariance: readonly (readonly number[])[]): void {
  const { report, parts, day } = site;
  const mu = parts.reduce((s, i) => s + (mean[i] as number), day?.mean ?? 0);
  // Along a report lie the kitchen's own parameters and its day, which moves against what it shares with them.
  const along = mean.map((_, i) => (parts.includes(i) ? 1 : 0) - (day ? (day.shared[i] as number) / day.weight : 0));
  const variance = covariance.reduce((s, row, i) => s + (along[i] as number) * dot(row, along), 0) + (day ? 1 / day.weight : 0);
  const rest = 1 / variance - site.weight;
  if (rest <= 0) return;
  const restMean = (mu / variance - site.shift) / rest;
  const { first, second } = slopes(report, restMean, Math.hypot(noise(report.state, report.day !== undefined), Math.sqrt(1 / rest)));
  const seenMean = restMean + first / rest;
  // A lapse can make a report widen the belief; it is then taken to move it only.
  const seen = second < 0 ? 1 / (1 / rest + second / rest ** 2) : rest;
  site.weight += DAMPED * (seen - rest - site.weight);
  site.shift += DAMPED * (seen * seenMean - rest * restMean - site.shift);
}

const add = (list: number[], i: number, more: number): void => {
  list[i] = (list[i] as number) + more;
};

const diagonal = (values: readonly number[]): number[][] => values.map((p, i) => values.map((_, j) => (i === j ? p : 0)));

/** First and second derivative of a report's log likelihood in the mean of ln F, which spreads by `sd` round it. */
function slopes(r: TouchReport, mu: number, sd: number): { readonly first: number; readonly second: number } {
  const [low, high] = [
    r.notYetRatio <= 0 ? Number.NEGATIVE_INFINITY : (Math.log(r.notYetRatio) - mu) / sd,
    (Math.log(r.reachedRatio) - mu) / sd,
  ];
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
  const [logA, logB] = [
    a === Number.NEGATIVE_INFINITY ? Number.NEGATIVE_INFINITY : logCdf(a, 0, 1),
    b === Number.POSITIVE_INFINITY ? 0 : logCdf(b, 0, 1),
  ];
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
    parts.reduce((s, i) => s + parts.reduce((t, j) => t + ((posterior.covariance[i] as number[])[j] as number), 0), 0) +
    noise(state, false) ** 2;
  return { mean, sigma: Math.sqrt(variance) };
}
/** What a plan takes over from what was learned. */
export const factorsOf = (posterior: FactorPosterior): Factors =>
  Object.fromEntries(
    dryingStates.map((s) => {
      const { mean, sigma } = believed(posterior, s);
      return [s, { mean: within(mean, BELIEVABLE.mean), sigma: within(sigma, BELIEVABLE.sigma) }];
    }),
  ) as Record<DryingState, { mean: number; sigma: number }>;

export function predictFactor(posterior: FactorPosterior, state: DryingState): FactorPrediction {
  const { mean, sigma } = believed(posterior, state);
  return { p10: Math.exp(mean - Z_90 * sigma), p50: Math.exp(mean), p90: Math.exp(mean + Z_90 * sigma) };
}
