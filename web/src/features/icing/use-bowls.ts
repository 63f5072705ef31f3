import { baseWaterFrac } from '@kestfog/core/icing';
import { type Bowl, bowlsOf, type OrderBag } from '@kestfog/core/planning';
import type { BagRecord, LeftoverView, OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useMemo } from 'react';
import { useKitchen, useLeftovers, useThinningSteps } from '../../api/queries.js';
import { recipeOf } from './BaseRecipe.js';
import { stillToMixG } from './leftovers.js';
import { curveOf } from './thinning-flow.js';

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
    const { curve } = curveOf(steps ?? [], kitchen?.recipe ?? msg`my icing`);
    const bowls = bowlsOf(bags, baseWaterFrac(recipeOf(kitchen)), curve.slope, (b) => stillToMixG(b, leftovers ?? [], order.id));
    return { bowls, leftovers: leftovers ?? [] };
  }, [bags, kitchen, leftovers, steps, order.id]);
}
