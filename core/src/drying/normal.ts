/**
 * Standard normal distribution function, Abramowitz & Stegun 26.2.17 (absolute error below 7.5e-8).
 */
export function normalCdf(z: number): number {
  const x = Math.abs(z);
  const t = 1 / (1 + 0.2316419 * x);
  const poly = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  const upper = Math.exp((-x * x) / 2) * 0.3989422804014327 * poly;
  return z >= 0 ? 1 - upper : upper;
}

/** 90 % quantile of the standard normal distribution (any table): the ends of an 80 % interval. */
export const Z_90 = 1.2815515655;
