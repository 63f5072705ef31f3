import type { DryingState } from './state.js';

/** How sure the user wants to be; the share of cookies for which a minimum wait is long enough. */
export const margins = ['bold', 'normal', 'careful'] as const;
export type Margin = (typeof margins)[number];

/** Standard normal quantiles of 50 %, 80 % and 95 % (any table of the normal distribution). */
export const MARGIN_Z: Readonly<Record<Margin, number>> = { bold: 0, normal: 0.8416212336, careful: 1.644853627 };

/** ln F of surface thresholds: common factor, state, cookie and day (*assumed*). */
const SURFACE_SIGMA = Math.hypot(0.26, 0.15, 0.18);
/** ln F of whole-layer thresholds (*assumed*). */
const WHOLE_LAYER_SIGMA = Math.hypot(0.07, 0.07);

/** Spread of ln F before anything was learned; factors multiply the water threshold, not the clock. */
export function thresholdSigma(state: DryingState): number {
  return state === 'firm' || state === 'dry' ? WHOLE_LAYER_SIGMA : SURFACE_SIGMA;
}

/** What multiplies a threshold for a wait that must be long enough. */
export const waitFactor = (state: DryingState, margin: Margin): number => Math.exp(MARGIN_Z[margin] * thresholdSigma(state));
/** What multiplies a threshold for a window that must not have closed: the opposite tail. */
export const windowFactor = (state: DryingState, margin: Margin): number => Math.exp(-MARGIN_Z[margin] * thresholdSigma(state));
