import { mixingOrder } from '../design/bags.js';
import type { Plan } from '../formats/plan.js';
import { baseWaterFrac, type OwnRecipe, USUAL_RECIPES } from '../icing/recipe.js';
import { splitBowl } from '../icing/split.js';
import { bagKey } from '../steps/step.js';
import { bagsOf, type OrderBag } from './order-bags.js';

/** A bag as it comes out of its bowl. */
export interface BowlBag {
  readonly bag: OrderBag;
  /** water to stir into what is in the bowl before this bag is filled, g */
  readonly waterG: number;
  /** icing to fill into the bag, what left-over icing brings already taken off, g */
  readonly toMixG: number;
}

/** One colour's bowl: base put in and coloured, then its bags filled, stiff before thin. */
export interface Bowl {
  readonly colour: string;
  readonly baseG: number;
  /** coloured icing in all, g */
  readonly grams: number;
  readonly bags: readonly BowlBag[];
}

/**
 * The bowls of an order as they are mixed: pale before dark, each stiff before thin. `baseWaterFrac` is the water of the base (0–1),
 * `slope` that of the kitchen's own thinning curve; `toMixG` says what of a bag is still to be mixed.
 */
export function bowlsOf(
  bags: readonly OrderBag[],
  baseWaterFrac: number,
  slope?: number,
  toMixG: (bag: OrderBag) => number = (b) => b.mixG,
): Bowl[] {
  return mixingOrder(bags).map((bowl): Bowl => {
    const wanted = bowl.bags.map((b) => ({ seconds: b.seconds, grams: toMixG(b) }));
    const plan = splitBowl(baseWaterFrac, wanted, slope);
    return {
      colour: bowl.colour,
      baseG: plan.baseG,
      grams: wanted.reduce((s, w) => s + w.grams, 0),
      bags: bowl.bags.map((bag, i) => ({ bag, waterG: plan.steps[i]?.waterG ?? 0, toMixG: wanted[i]?.grams ?? 0 })),
    };
  });
}

/** What a kitchen mixes with. */
export interface Mixing {
  /** its own recipe; the usual one of dried white where it says none */
  readonly mix?: OwnRecipe | null;
  /** what was learned of how water thins */
  readonly slope?: number;
  /** what of a bag is still to be mixed, by {@link bagKey}, where left-over icing brings some of it, g */
  readonly toMixG?: Readonly<Record<string, number>>;
}

/** All bowls of a planned order, and the base they are filled from. */
export function bowlsOfPlan(
  plan: Plan,
  mixing: Mixing = {},
): { readonly bowls: readonly Bowl[]; readonly recipe: OwnRecipe; readonly baseG: number } {
  const recipe = mixing.mix ?? USUAL_RECIPES.dried;
  const bowls = bowlsOf(bagsOf(plan), baseWaterFrac(recipe), mixing.slope, (b) => mixing.toMixG?.[bagKey(b)] ?? b.mixG);
  return { bowls, recipe, baseG: bowls.reduce((s, b) => s + b.baseG, 0) };
}
