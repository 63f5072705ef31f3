import { REFERENCE_SECONDS, REFERENCE_WATER_FRAC, THINNING_SLOPE, WEIGHED_SPREAD, waterFracFromSeconds } from '../icing/water.js';

/**
 * A recipe's own thinning curve, ln s = a − k (w − 0.225), by Bayesian linear regression with known noise (Bishop,
 * Pattern Recognition and Machine Learning, eq. 3.50–3.51). Priors *assumed*: a ~ N(ln 15, 0.4²), k ~ N(55, 15²).
 */
export interface ThinningTest {
  /** mass fraction of water, weighed */
  readonly waterFrac: number;
  /** the count, reference seconds */
  readonly seconds: number;
}

/** A weighed step on the scale: so much icing at one count, so much water stirred in, counted again. */
export interface ThinningStep {
  readonly grams: number;
  readonly addedG: number;
  readonly fromS: number;
  readonly toS: number;
}

export interface ThinningCurve {
  readonly offset: number;
  readonly slope: number;
  readonly sdOffset: number;
  readonly sdSlope: number;
}

const PRIOR = { offset: Math.log(REFERENCE_SECONDS), slope: THINNING_SLOPE, sdOffset: 0.4, sdSlope: 15 } as const;
const NOISE = WEIGHED_SPREAD;

export const THINNING_PRIOR: ThinningCurve = PRIOR;

/**
 * Learns from tests of known water, and from weighed steps: the difference of two counts tells the slope alone, ln s₁ − ln s₂ =
 * k (w₂ − w₁), where 1 − w₁ is known well enough from the count (a few per cent of itself) whatever the recipe.
 */
export function learnThinning(tests: readonly ThinningTest[], steps: readonly ThinningStep[] = []): ThinningCurve {
  // Normal equations in (a, k) with regressors (1, −x), x = w − 0.225.
  let [aa, ak, kk] = [1 / PRIOR.sdOffset ** 2, 0, 1 / PRIOR.sdSlope ** 2];
  let [ra, rk] = [PRIOR.offset * aa, PRIOR.slope * kk];
  for (const t of tests) {
    const x = -(t.waterFrac - REFERENCE_WATER_FRAC);
    const y = Math.log(t.seconds);
    const p = 1 / NOISE ** 2;
    aa += p;
    ak += p * x;
    kk += p * x * x;
    ra += p * y;
    rk += p * x * y;
  }
  for (const step of steps) {
    const dry = 1 - waterFracFromSeconds(step.fromS);
    const x = (dry * step.addedG) / (step.grams + step.addedG);
    const p = 1 / (2 * NOISE ** 2);
    kk += p * x * x;
    rk += p * x * Math.log(step.fromS / step.toS);
  }
  const det = aa * kk - ak * ak;
  return {
    offset: (ra * kk - rk * ak) / det,
    slope: (aa * rk - ak * ra) / det,
    sdOffset: Math.sqrt(kk / det),
    sdSlope: Math.sqrt(aa / det),
  };
}
