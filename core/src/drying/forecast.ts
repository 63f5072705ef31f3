import type { Air } from './air.js';
import { type AirPiece, secondsToLoseThrough } from './front.js';
import { Z_90 } from './normal.js';
import { TOO_SLOW_S } from './outlook.js';
import { type DryingState, dryingStates, type Region, stateThresholds } from './state.js';
import { type Factors, lossAsked, MARGIN_Z, type Margin, PRIOR_FACTORS, sigmaOfCount } from './uncertainty.js';

/** Seconds to a state with its 80 % interval; null where it takes more than 72 h or never comes. */
export interface TimeToState {
  readonly p10: number | null;
  readonly p50: number | null;
  readonly p90: number | null;
  /** what a plan waits at the margin: it takes bags as they were counted, so an unsure count does not widen it */
  readonly planned: number | null;
}

/** What is known beyond the model's medians: the kitchen's own factors, and how unsure the count is (spread of its logarithm). */
export interface Belief {
  readonly factors?: Factors;
  readonly countSpread?: number;
}

/**
 * Times to every state through changing air (fan on, into the dehydrator, humidity drifting); the last piece is endless.
 * Factors multiply the water threshold, not the clock, so a slow cookie also meets the air that comes later.
 */
export function timesToStates(
  region: Region,
  pieces: readonly AirPiece[],
  margin: Margin = 'normal',
  belief: Belief = {},
): Readonly<Record<DryingState, TimeToState>> {
  const thresholds = stateThresholds(region);
  const factors = belief.factors ?? PRIOR_FACTORS;
  const at = (state: DryingState, z: number, countSpread = belief.countSpread ?? 0): number | null => {
    const factorOf = (s: DryingState) => Math.exp(factors[s].mean + z * Math.hypot(factors[s].sigma, sigmaOfCount(region, s, countSpread)));
    const s = secondsToLoseThrough(pieces, lossAsked(thresholds[state], state, thresholds.firm, factorOf));
    return s <= TOO_SLOW_S ? s : null;
  };
  return Object.fromEntries(
    dryingStates.map((s) => [s, { p10: at(s, -Z_90), p50: at(s, 0), p90: at(s, Z_90), planned: at(s, MARGIN_Z[margin], 0) }]),
  ) as Record<DryingState, TimeToState>;
}

/** The same in air that does not change. */
export const timesInAir = (region: Region, air: Air, margin?: Margin, belief?: Belief): Readonly<Record<DryingState, TimeToState>> =>
  timesToStates(region, [{ air, seconds: Number.POSITIVE_INFINITY }], margin, belief);
