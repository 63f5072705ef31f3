import { mixingOrder } from '@kestfog/core/design';
import { baseWaterFrac, splitBowl } from '@kestfog/core/icing';
import type { OrderBag } from '@kestfog/core/planning';
import type { BagRecord, LeftoverView, OrderView } from '@kestfog/core/wire';
import { useMemo } from 'react';
import { useKitchen, useLeftovers, useThinningSteps } from '../../api/queries.js';
import { recipeOf } from './BaseRecipe.js';
import { stillToMixG } from './leftovers.js';
import { curveOf } from './thinning-flow.js';

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

/** What is known of a bag, as an empty record where nothing is. */
export const recordOf = (order: Pick<OrderView, 'bags'>, bag: Pick<OrderBag, 'colour' | 'seconds'>): BagRecord =>
  order.bags.find((b) => b.colour === bag.colour && b.seconds === bag.seconds) ?? {
    colour: bag.colour,
    seconds: bag.seconds,
    mixedG: null,
    countedS: null,
    word: null,
    revision: 0,
  };

/** The bowls in the order to mix them, pale before dark; water by the same curve the thinning goes by. */
export function useBowls(
  bags: readonly OrderBag[],
  order: Pick<OrderView, 'id'>,
): { readonly bowls: readonly Bowl[]; readonly leftovers: readonly LeftoverView[] } {
  const kitchen = useKitchen().data;
  const leftovers = useLeftovers().list.data;
  const steps = useThinningSteps().list.data;
  return useMemo(() => {
    const { curve } = curveOf(steps ?? [], kitchen?.recipe ?? 'my icing');
    const water = baseWaterFrac(recipeOf(kitchen));
    const bowls = mixingOrder(bags).map((bowl): Bowl => {
      const wanted = bowl.bags.map((b) => ({ seconds: b.seconds, grams: stillToMixG(b, leftovers ?? [], order.id) }));
      const plan = splitBowl(water, wanted, curve.slope);
      return {
        colour: bowl.colour,
        baseG: plan.baseG,
        grams: wanted.reduce((s, w) => s + w.grams, 0),
        bags: bowl.bags.map((bag, i) => ({ bag, waterG: plan.steps[i]?.waterG ?? 0, toMixG: wanted[i]?.grams ?? 0 })),
      };
    });
    return { bowls, leftovers: leftovers ?? [] };
  }, [bags, kitchen, leftovers, steps, order.id]);
}
