import type { Plan } from '@kestfog/core/formats';
import { bagsOf, type Mixing } from '@kestfog/core/planning';
import { bagKey } from '@kestfog/core/steps';
import type { SuppliedBy } from '@kestfog/core/stock';
import { useMemo } from 'react';
import { useColourMixes, useKitchen, useLeftovers, useThinningSteps } from '../../api/queries.js';
import { recipeOf } from '../icing/BaseRecipe.js';
import { stillToMixG } from '../icing/leftovers.js';
import { curveOf } from '../icing/thinning-flow.js';

/** What supplies of an order are reckoned with: the same water, and the same icing still to mix, as the Icing place says. */
export function useSupplied(plan: Plan | undefined, orderId: string): (Mixing & SuppliedBy) | null {
  const kitchen = useKitchen().data;
  const leftovers = useLeftovers().list.data;
  const steps = useThinningSteps().list.data;
  const mixes = useColourMixes().data;
  return useMemo(() => {
    if (!plan || !kitchen) return null;
    const toMixG = Object.fromEntries(bagsOf(plan).map((b) => [bagKey(b), stillToMixG(b, leftovers ?? [], orderId)]));
    const gels = Object.fromEntries((mixes ?? []).filter((m) => m.recipe === kitchen.recipe).map((m) => [m.colour, m]));
    return { mix: recipeOf(kitchen), carton: kitchen.carton, slope: curveOf(steps ?? [], kitchen.recipe).curve.slope, toMixG, gels };
  }, [plan, kitchen, leftovers, steps, mixes, orderId]);
}
