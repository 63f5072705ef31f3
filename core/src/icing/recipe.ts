import { msg } from '../words/index.js';
import { ML_PER_TBSP, ML_PER_TSP } from './thinning.js';
import { secondsFromWaterFrac } from './water.js';

export type EggWhite = 'dried' | 'pasteurised' | 'fresh';

/** A base as it is mixed: what goes into one lot of it, g. */
export interface OwnRecipe {
  readonly sugarG: number;
  readonly egg: EggWhite;
  readonly eggG: number;
  readonly waterG: number;
  /** lemon juice, or another watery flavouring */
  readonly lemonG: number;
  /** how long, how fast, covered by what: in one's own words */
  readonly mixing: string;
}

/**
 * For 1000 g of powdered sugar: common practice, no published source. Mixes come out near a fifth of water, which the thinning
 * curve reads as stiff to piping; a drier base would have to be shown as one that never closes.
 */
export const USUAL_RECIPES: Readonly<Record<EggWhite, OwnRecipe>> = {
  // Dried white brings no water of its own; liquid white is nine tenths water.
  dried: {
    sugarG: 1000,
    egg: 'dried',
    eggG: 25,
    waterG: 240,
    lemonG: 0,
    mixing: msg`low speed until it comes together, then 5 min on medium`,
  },
  pasteurised: {
    sugarG: 1000,
    egg: 'pasteurised',
    eggG: 180,
    waterG: 85,
    lemonG: 0,
    mixing: msg`low speed until it comes together, then 5 min on medium`,
  },
  fresh: {
    sugarG: 1000,
    egg: 'fresh',
    eggG: 180,
    waterG: 85,
    lemonG: 0,
    mixing: msg`low speed until it comes together, then 5 min on medium`,
  },
};

/** Densities for spoons and cups. USDA FoodData Central, from memory: an unsifted cup of powdered sugar weighs about 120 g. */
const SUGAR_G_PER_CUP = 120;
/** Common practice, no published source. */
const DRIED_WHITE_G_PER_TBSP = 8;
const LIQUID_WHITE_G_PER_ML = 1.03;
const LEMON_G_PER_ML = 1.03;

export type Ingredient = 'sugar' | 'egg' | 'water' | 'lemon';
/** How an ingredient is measured in a kitchen without scales. */
export const spoonOf = (what: Ingredient, egg: EggWhite): { readonly unit: 'cups' | 'tbsp' | 'tsp'; readonly gPer: number } => {
  switch (what) {
    case 'sugar':
      return { unit: 'cups', gPer: SUGAR_G_PER_CUP };
    case 'egg':
      return { unit: 'tbsp', gPer: egg === 'dried' ? DRIED_WHITE_G_PER_TBSP : LIQUID_WHITE_G_PER_ML * ML_PER_TBSP };
    case 'water':
      return { unit: 'tsp', gPer: ML_PER_TSP };
    case 'lemon':
      return { unit: 'tsp', gPer: LEMON_G_PER_ML * ML_PER_TSP };
  }
};

export interface ScaledRecipe {
  readonly sugarG: number;
  readonly eggG: number;
  readonly waterG: number;
  readonly lemonG: number;
  readonly us: { readonly sugarCups: number; readonly eggTbsp: number; readonly waterTsp: number; readonly lemonTsp: number };
  /** advice; local food codes and licensed practice decide */
  readonly caution: string | null;
}

const totalG = (r: OwnRecipe): number => r.sugarG + r.eggG + r.waterG + r.lemonG;

/** A base of `grams`, to be thinned into its grades. */
export function scaleRecipe(grams: number, recipe: OwnRecipe): ScaledRecipe {
  const f = grams / totalG(recipe);
  const g = { sugarG: recipe.sugarG * f, eggG: recipe.eggG * f, waterG: recipe.waterG * f, lemonG: recipe.lemonG * f };
  const by = (what: Ingredient, amount: number) => amount / spoonOf(what, recipe.egg).gPer;
  return {
    ...g,
    us: { sugarCups: by('sugar', g.sugarG), eggTbsp: by('egg', g.eggG), waterTsp: by('water', g.waterG), lemonTsp: by('lemon', g.lemonG) },
    caution:
      recipe.egg === 'fresh'
        ? msg`Raw egg white can carry salmonella: use dried or pasteurised white, above all for children, the pregnant and the frail.
          Local food codes decide.`
        : null,
  };
}

/** Shares of water (USDA FoodData Central, from memory). */
const WATER_IN_LIQUID_WHITE = 0.88;
const WATER_IN_LEMON_JUICE = 0.92;

/** Mass fraction of water of the base as it is mixed, 0–1. */
export const baseWaterFrac = (r: OwnRecipe): number =>
  (r.waterG + WATER_IN_LEMON_JUICE * r.lemonG + (r.egg === 'dried' ? 0 : WATER_IN_LIQUID_WHITE * r.eggG)) / totalG(r);

/** What the base counts before anything is stirred in, reference seconds; stiff icing, which does not close, counts as 120. */
export const baseSeconds = (r: OwnRecipe, slope?: number): number => Math.min(STIFF_S, secondsFromWaterFrac(baseWaterFrac(r), slope));
const STIFF_S = 120;
