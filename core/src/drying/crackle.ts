import type { Air } from './air.js';
import { dryingRate, lossAfter, secondsToLose } from './front.js';
import { normalCdf } from './normal.js';
import type { Region } from './state.js';
import { type Factors, type Margin, PRIOR_FACTORS, thresholdsHere } from './uncertainty.js';

/** Shrink of the window at each side, as a share of its width: at most a sixth, so that it is never empty. */
const SHRINK: Readonly<Record<Margin, number>> = { bold: 0, normal: 1 / 12, careful: 1 / 6 };

/**
 * A window whose two ends are thresholds of one body: they share one factor and move together, so it is planned at the
 * medians of both ends (times what was learned), shrunk a little on each side. Losses in kg/m².
 */
export function oneBodyWindow(
  opensM: number,
  shutsM: number,
  margin: Margin,
  mean = 0,
): { readonly opensM: number; readonly shutsM: number } {
  const shrink = (shutsM - opensM) * SHRINK[margin];
  return { opensM: Math.exp(mean) * (opensM + shrink), shutsM: Math.exp(mean) * (shutsM - shrink) };
}

export interface CrackleWindow {
  readonly opensS: number;
  readonly shutsS: number;
  /** chance that a blind touch in the middle falls into the real window; the bench asks for a touch at the opening */
  readonly blindChance: number;
}

/** When a surface can be crackled, seconds after its flood. */
export function crackleWindow(region: Region, air: Air, margin: Margin, factors: Factors = PRIOR_FACTORS): CrackleWindow | null {
  const t = thresholdsHere(region, factors);
  const rate = dryingRate(air);
  const w = oneBodyWindow(t.crusted, t.crackleShut, margin);
  const [opensS, shutsS] = [secondsToLose(rate, 0, w.opensM), secondsToLose(rate, 0, w.shutsM)];
  if (!Number.isFinite(shutsS)) return null;
  const m = lossAfter(rate, 0, (opensS + shutsS) / 2);
  const { sigma } = factors.crusted;
  const blindChance = normalCdf(Math.log(m / t.crusted) / sigma) - normalCdf(Math.log(m / t.crackleShut) / sigma);
  return { opensS, shutsS, blindChance };
}
