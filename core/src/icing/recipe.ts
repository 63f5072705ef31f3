import { ML_PER_TBSP, ML_PER_TSP } from './thinning.js';

export type EggWhite = 'dried' | 'pasteurised' | 'fresh';

/** Parts by mass for 1000 g of powdered sugar: common practice, no published source. */
const PARTS: Readonly<Record<EggWhite, { readonly eggG: number; readonly waterG: number }>> = {
  // Dried white brings no water of its own; liquid white is nine tenths water.
  dried: { eggG: 25, waterG: 165 },
  pasteurised: { eggG: 180, waterG: 10 },
  fresh: { eggG: 180, waterG: 10 },
};
/** USDA FoodData Central, from memory: an unsifted cup of powdered sugar weighs about 120 g. */
const SUGAR_G_PER_CUP = 120;
/** Common practice, no published source. */
const DRIED_WHITE_G_PER_TBSP = 8;
const LIQUID_WHITE_G_PER_ML = 1.03;

export interface ScaledRecipe {
  readonly sugarG: number;
  readonly eggG: number;
  readonly waterG: number;
  readonly us: { readonly sugarCups: number; readonly eggTbsp: number; readonly waterTsp: number };
  /** advice; local food codes and licensed practice decide */
  readonly caution: string | null;
}

/** A stiff base of `grams`, to be thinned into its grades. */
export function scaleRecipe(grams: number, egg: EggWhite): ScaledRecipe {
  const part = PARTS[egg];
  const f = grams / (1000 + part.eggG + part.waterG);
  const [sugarG, eggG, waterG] = [1000 * f, part.eggG * f, part.waterG * f];
  return {
    sugarG,
    eggG,
    waterG,
    us: {
      sugarCups: sugarG / SUGAR_G_PER_CUP,
      eggTbsp: egg === 'dried' ? eggG / DRIED_WHITE_G_PER_TBSP : eggG / LIQUID_WHITE_G_PER_ML / ML_PER_TBSP,
      waterTsp: waterG / ML_PER_TSP,
    },
    caution:
      egg === 'fresh'
        ? 'Raw egg white can carry salmonella: use dried or pasteurised white, above all for children, the pregnant and the frail. Local food codes decide.'
        : null,
  };
}

/** Share of water in liquid egg white (USDA FoodData Central, from memory). */
const WATER_IN_LIQUID_WHITE = 0.88;

/** Mass fraction of water of the base as it is mixed, 0–1. */
export function baseWaterFrac(egg: EggWhite): number {
  const part = PARTS[egg];
  return (part.waterG + (egg === 'dried' ? 0 : WATER_IN_LIQUID_WHITE * part.eggG)) / (1000 + part.eggG + part.waterG);
}
