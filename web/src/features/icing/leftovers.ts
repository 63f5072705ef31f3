import { colourDifference, NEAR_COLOUR } from '@kestfog/core/design';
import type { OrderBag } from '@kestfog/core/planning';
import type { LeftoverView } from '@kestfog/core/wire';
import { formatDistanceStrict } from 'date-fns';

/** Left-over icing that could fill a bag of this order: a colour that looks alike, no thinner than wanted, and not this order's own. */
export function leftoversFor(bag: Pick<OrderBag, 'colour' | 'seconds'>, leftovers: readonly LeftoverView[], orderId: string): LeftoverView[] {
  // Water is only ever added, so thinner icing is no help.
  return leftovers.filter((l) => l.orderId !== orderId && l.seconds >= bag.seconds * 0.9 && colourDifference(l.colour, bag.colour) < NEAR_COLOUR);
}

/** Grams still to mix once what is left over went in. */
export function stillToMixG(bag: OrderBag, leftovers: readonly LeftoverView[], orderId: string): number {
  const there = leftoversFor(bag, leftovers, orderId).reduce((s, l) => s + l.grams, 0);
  return Math.max(0, bag.mixG - there);
}

/** "mixed 2 days ago" */
export const ageText = (l: LeftoverView, nowMs: number): string => `put by ${formatDistanceStrict(new Date(l.at), nowMs, { addSuffix: true })}`;
