import type { Air } from './air.js';
import { dryingRate, lossAfter, secondsToLose } from './front.js';
import { normalCdf } from './normal.js';
import { type Region, stateThresholds } from './state.js';
import { type Margin, thresholdSigma } from './uncertainty.js';

/** Shrink of the window at each side: at most a sixth, so that it is never empty. */
const SHRINK: Readonly<Record<Margin, number>> = { bold: 0, normal: 1 / 12, careful: 1 / 6 };

export interface CrackleWindow {
  readonly opensS: number;
  readonly shutsS: number;
  /** chance that a blind touch in the middle falls into the real window; the bench asks for a touch at the opening */
  readonly blindChance: number;
}

/** When a surface can be crackled. Both ends belong to one body and share one factor, so they move together. */
export function crackleWindow(region: Region, air: Air, margin: Margin): CrackleWindow | null {
  const t = stateThresholds(region);
  const rate = dryingRate(air);
  const [opens, shuts] = [secondsToLose(rate, 0, t.crusted), secondsToLose(rate, 0, t.crackleShut)];
  if (!Number.isFinite(shuts)) return null;
  const shrink = (shuts - opens) * SHRINK[margin];
  const m = lossAfter(rate, 0, (opens + shuts) / 2);
  const sigma = thresholdSigma('crusted');
  const blindChance = normalCdf(Math.log(m / t.crusted) / sigma) - normalCdf(Math.log(m / t.crackleShut) / sigma);
  return { opensS: opens + shrink, shutsS: shuts - shrink, blindChance };
}
