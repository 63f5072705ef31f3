import { normalQuantile } from './normal.js';
import { type DryingState, dryingStates, type Region, stateThresholds, type Thresholds } from './state.js';

/** How sure the user wants to be; the share of cookies for which a minimum wait is long enough. */
export const margins = ['bold', 'normal', 'careful'] as const;
export type Margin = (typeof margins)[number];

/** The share of cookies for which a plan's wait is long enough. */
export const MARGIN_SHARE: Readonly<Record<Margin, number>> = { bold: 0.5, normal: 0.8, careful: 0.95 };
/** The same as spreads above the median. */
export const MARGIN_Z = Object.fromEntries(margins.map((m) => [m, normalQuantile(MARGIN_SHARE[m])])) as Readonly<Record<Margin, number>>;

/**
 * Spreads of ln F, all *assumed*: of surface thresholds what all have in common, each state's own, the day's and the cookie's; of
 * whole-layer thresholds what all have in common and the cookie's. Plans, chances, forecasts and learning go by these.
 */
export const SPREAD = { common: 0.26, state: 0.15, day: 0.13, cookie: 0.125, whole: 0.07, wholeCookie: 0.07 } as const;
/** Spreads of ln(pace), all *assumed*: between people, between one person's motions, of a whole evening, and of one visit in it. */
export const PACE_SPREAD = { person: 0.25, kind: 0.15, evening: 0.1, visit: 0.12 } as const;
const SURFACE_SIGMA = Math.hypot(SPREAD.common, SPREAD.state, SPREAD.day, SPREAD.cookie);
const WHOLE_LAYER_SIGMA = Math.hypot(SPREAD.whole, SPREAD.wholeCookie);

/** Spread of ln F before anything was learned; factors multiply the water threshold, not the clock. */
export function thresholdSigma(state: DryingState): number {
  return state === 'firm' || state === 'dry' ? WHOLE_LAYER_SIGMA : SURFACE_SIGMA;
}

/** A plan takes no other beliefs than these of ln F: strange evenings must not keep the next one from being planned. */
export const BELIEVABLE = { mean: [-2, 2], sigma: [0.01, 2] } as const;
export const within = (x: number, [least, most]: readonly [number, number]): number => Math.min(most, Math.max(least, x));

/** What is believed of ln F for each state: its mean, and its spread with every term the next cookie adds. */
export type Factors = Readonly<Record<DryingState, { readonly mean: number; readonly sigma: number }>>;

export const PRIOR_FACTORS: Factors = Object.fromEntries(dryingStates.map((s) => [s, { mean: 0, sigma: thresholdSigma(s) }])) as Record<
  DryingState,
  { mean: number; sigma: number }
>;

/** A region's thresholds (kg/m²) at the median of what this kitchen taught. */
export function thresholdsHere(region: Region, factors: Factors): Thresholds {
  const book = stateThresholds(region);
  return Object.fromEntries(dryingStates.map((s) => [s, book[s] * Math.exp(factors[s].mean)])) as Thresholds;
}

/**
 * Water (kg/m²) that a wait must have seen lost: `askedKgPerM2` at the state's own factor, but never more than makes the layer firm,
 * since what is firm through is set as well. `factorOf` gives each state's factor at the quantile wanted; `firmKgPerM2` is the layer's
 * median for *firm*, where it is known.
 */
export function lossAsked(
  askedKgPerM2: number,
  state: DryingState,
  firmKgPerM2: number | undefined,
  factorOf: (state: DryingState) => number,
): number {
  const own = askedKgPerM2 * factorOf(state);
  if (firmKgPerM2 === undefined || state === 'firm' || state === 'dry') return own;
  // What is asked beyond the firm layer's own median is a whole layer's matter too.
  return Math.min(own, Math.max(askedKgPerM2, firmKgPerM2) * factorOf('firm'));
}

/** What multiplies a threshold for a wait that must be long enough. */
export const waitFactor = (state: DryingState, margin: Margin, factors: Factors = PRIOR_FACTORS): number =>
  Math.exp(factors[state].mean + MARGIN_Z[margin] * factors[state].sigma);
/** What multiplies a threshold for a window that must not have closed: the opposite tail. */
export const windowFactor = (state: DryingState, margin: Margin, factors: Factors = PRIOR_FACTORS): number =>
  Math.exp(factors[state].mean - MARGIN_Z[margin] * factors[state].sigma);

/**
 * Spread of ln(threshold) that an unsure count brings: `countSpread` is the spread of ln(reference seconds). By the slope of the
 * threshold along the count, over one spread to each side.
 */
export function sigmaOfCount(region: Region, state: DryingState, countSpread: number): number {
  if (countSpread <= 0) return 0;
  const at = (z: number) =>
    Math.log(stateThresholds({ ...region, seconds: Math.min(120, Math.max(1.5, region.seconds * Math.exp(z * countSpread))) })[state]);
  return Math.abs(at(-1) - at(1)) / 2;
}
