import { type Design, recoloured } from '../design/design.js';
import { cookiesMade } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { withWasteG } from '../icing/amounts.js';
import { type BagAmount, bagAmounts, distinctOpenings } from '../steps/bag-amounts.js';
import { deriveSteps } from '../steps/derive.js';
import type { School } from '../steps/school.js';
import { bagKey } from '../steps/step.js';
import type { Tip } from '../steps/tips.js';

/** One bag of a whole order, with the designs that use it. */
export interface OrderBag extends BagAmount {
  readonly designs: readonly string[];
}

/** Every bag of an order: the same colour at the same consistency is one bag, whatever it decorates. */
export function orderBags(
  items: readonly { readonly design: Design; readonly count: number }[],
  school: School,
  merges: readonly { readonly from: string; readonly to: string }[] = [],
  tips?: readonly Tip[],
): OrderBag[] {
  const bags = new Map<string, OrderBag>();
  for (const item of items) {
    const design = recoloured(item.design, merges);
    for (const bag of bagAmounts(deriveSteps(design, school, { tips }), item.count)) {
      const known = bags.get(bagKey(bag));
      const g = (known?.g ?? 0) + bag.g;
      bags.set(bagKey(bag), {
        ...bag,
        g,
        ml: (known?.ml ?? 0) + bag.ml,
        mixG: withWasteG(g),
        openings: distinctOpenings([...(known?.openings ?? []), ...bag.openings]),
        uses: [...(known?.uses ?? []), ...bag.uses],
        designs: [...new Set([...(known?.designs ?? []), design.name])],
      });
    }
  }
  return [...bags.values()].sort((a, b) => b.g - a.g);
}

/** Bags of a planned order, with the colours that share one. */
export const bagsOf = (plan: Plan): OrderBag[] =>
  orderBags(
    plan.designs.map((d) => ({ design: d.drawing, count: cookiesMade(d) })),
    plan.order.school,
    plan.order.merges,
    plan.order.tips,
  );
