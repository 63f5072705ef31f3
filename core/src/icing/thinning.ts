import { secondsFromWaterFrac, waterFracFromSeconds } from './water.js';

/** NIST SP 811 / US customary. */
export const ML_PER_TSP = 4.92892;
export const ML_PER_TBSP = 14.78676;
export const ML_PER_CUP = 236.588;
/** Common practice, no published source. */
export const DROPS_PER_ML = 20;
/** Added at once; the rest after counting again. */
const FIRST_SHARE = 0.7;

export interface Thinning {
  /** water to add in all, g (1 g of water is taken as 1 ml) */
  readonly waterG: number;
  /** to add before counting again, g */
  readonly firstG: number;
  readonly ml: number;
  readonly tsp: number;
  readonly drops: number;
}

/** Water that takes `grams` of icing from one count to a looser one; liquid colour already added counts as water. */
export function thinning(grams: number, fromS: number, toS: number, slope?: number): Thinning {
  const [w1, w2] = [waterFracFromSeconds(fromS, slope), waterFracFromSeconds(toS, slope)];
  const waterG = Math.max(0, (grams * (w2 - w1)) / (1 - w2));
  return { waterG, firstG: FIRST_SHARE * waterG, ml: waterG, tsp: waterG / ML_PER_TSP, drops: waterG * DROPS_PER_ML };
}

/** Stiffer icing (g) to stir in after overshooting: mixes by mass of water. Throws nothing; Infinity where it cannot help. */
export function stiffToRescue(grams: number, isS: number, wantedS: number, stiffS: number, slope?: number): number {
  const [w, wanted, stiff] = [isS, wantedS, stiffS].map((s) => waterFracFromSeconds(s, slope)) as [number, number, number];
  if (w <= wanted) return 0;
  return stiff >= wanted ? Number.POSITIVE_INFINITY : (grams * (w - wanted)) / (wanted - stiff);
}

/** Count after `addedG` of water or liquid colour went into `grams` of icing. */
export function countAfterAdding(grams: number, fromS: number, addedG: number, slope?: number): number {
  const w = waterFracFromSeconds(fromS, slope);
  return secondsFromWaterFrac((w * grams + addedG) / (grams + addedG), slope);
}
