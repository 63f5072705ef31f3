/**
 * Water content of royal icing from its consistency in reference seconds.
 * ln s = ln 15 − k (w − 0.225), k = 55 per unit mass fraction: *assumed*, until thinning tests of a recipe replace it.
 */
export const REFERENCE_SECONDS = 15;
export const REFERENCE_WATER_FRAC = 0.225;
export const THINNING_SLOPE = 55;

/** Mass fraction of water (0–1) of icing that closes in `seconds` (reference seconds, > 0). */
export function waterFracFromSeconds(seconds: number, slope: number = THINNING_SLOPE): number {
  return REFERENCE_WATER_FRAC - Math.log(seconds / REFERENCE_SECONDS) / slope;
}

/** Inverse of {@link waterFracFromSeconds}. */
export function secondsFromWaterFrac(waterFrac: number, slope: number = THINNING_SLOPE): number {
  return REFERENCE_SECONDS * Math.exp(-slope * (waterFrac - REFERENCE_WATER_FRAC));
}

/** The user's own way of counting turned into reference seconds: their count × (15 / what they call flood). */
export const referenceSeconds = (count: number, theirFlood: number): number => (count * REFERENCE_SECONDS) / theirFlood;
/** What the user would count for icing of these reference seconds. */
export const ownCount = (seconds: number, theirFlood: number): number => (seconds * theirFlood) / REFERENCE_SECONDS;
/** Spread of ln(reference seconds) while only the user's word stands for it: 40 %, *assumed*. */
export const COUNTING_SPREAD = 0.4;
/** The same once a weighed thinning test stands behind the count: two counts of one bag differ by a tenth, *assumed*. */
export const WEIGHED_SPREAD = 0.1;
