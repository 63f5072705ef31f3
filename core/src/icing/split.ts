import { waterFracFromSeconds } from './water.js';

/** One bag drawn from a bowl. */
export interface BowlStep {
  readonly seconds: number;
  /** water to stir into what is in the bowl before this bag is taken out, g */
  readonly waterG: number;
  /** taken out for the bag, g */
  readonly takeG: number;
}

export interface BowlPlan {
  /** base to put in the bowl, g */
  readonly baseG: number;
  readonly steps: readonly BowlStep[];
}

/**
 * One bowl of base turned into bags of one colour, stiff to thin, since water is only ever added. Sugar and white are kept, so what is
 * needed of the base follows from the bags' dry matter. `baseWaterFrac` is the water of the base (0–1); bags stiffer than the base are
 * taken out of it as it is.
 */
export function splitBowl(
  baseWaterFrac: number,
  bags: readonly { readonly seconds: number; readonly grams: number }[],
  slope?: number,
): BowlPlan {
  const sorted = [...bags].sort((a, b) => b.seconds - a.seconds);
  const waterOf = (seconds: number) => Math.max(baseWaterFrac, waterFracFromSeconds(seconds, slope));
  const baseG = sorted.reduce((sum, b) => sum + (b.grams * (1 - waterOf(b.seconds))) / (1 - baseWaterFrac), 0);
  let inBowlG = baseG;
  let water = baseWaterFrac;
  const steps = sorted.map((b): BowlStep => {
    const wanted = waterOf(b.seconds);
    const waterG = Math.max(0, (inBowlG * (wanted - water)) / (1 - wanted));
    inBowlG += waterG - b.grams;
    water = wanted;
    return { seconds: b.seconds, waterG, takeG: b.grams };
  });
  return { baseG, steps };
}
