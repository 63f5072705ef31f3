import logCdf from '@stdlib/stats-base-dists-normal-logcdf';
import quantile from '@stdlib/stats-base-dists-normal-quantile';

/** Standard normal distribution function. */
export const normalCdf = (z: number): number => Math.exp(logCdf(z, 0, 1));
/** Standard normal quantile: the z below which a share of cases lies; −Infinity for none, Infinity for all. */
export const normalQuantile = (share: number): number => quantile(share, 0, 1);

/** The ends of an 80 % interval. */
export const Z_90 = normalQuantile(0.9);
