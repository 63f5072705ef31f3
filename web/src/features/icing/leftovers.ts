import { colourDifference, NEAR_COLOUR } from '@kestfog/core/design';
import type { OrderBag } from '@kestfog/core/planning';
import type { LeftoverUse, LeftoverView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { formatDistanceStrict } from 'date-fns';

type Named = Pick<OrderBag, 'colour' | 'seconds'>;

/** What is left of it once later bags took their share, g. */
export const freeG = (l: Pick<LeftoverView, 'grams' | 'uses'>): number => l.grams - l.uses.reduce((s, u) => s + u.grams, 0);

/** What of it went into this bag. */
export const useOf = (l: Pick<LeftoverView, 'uses'>, bag: Named, orderId: string): LeftoverUse | undefined =>
  l.uses.find((u) => u.orderId === orderId && u.colour === bag.colour && u.seconds === bag.seconds);

/**
 * Left-over icing that could still fill a bag of this order: a colour that looks alike, no thinner than wanted, and not this order's
 * own.
 */
export function leftoversFor(bag: Named, leftovers: readonly LeftoverView[], orderId: string): LeftoverView[] {
  // Water is only ever added, so thinner icing is no help.
  return leftovers.filter(
    (l) =>
      l.orderId !== orderId &&
      l.seconds >= bag.seconds * 0.9 &&
      colourDifference(l.colour, bag.colour) < NEAR_COLOUR &&
      freeG(l) >= 1 &&
      !useOf(l, bag, orderId),
  );
}

/** Grams still to mix once what was taken from left-overs went in: each gram counts once, in the bag it went into. */
export function stillToMixG(bag: Named & Pick<OrderBag, 'mixG'>, leftovers: readonly LeftoverView[], orderId: string): number {
  const taken = leftovers.reduce((s, l) => s + (useOf(l, bag, orderId)?.grams ?? 0), 0);
  return Math.max(0, bag.mixG - taken);
}

const ago = (iso: string, nowMs: number): string => formatDistanceStrict(new Date(iso), nowMs, { addSuffix: true });
/** "put by 2 days ago, frozen, kneaded 3 hours ago" */
export const ageText = (l: LeftoverView, nowMs: number): string =>
  [
    msg`put by ${ago(l.at, nowMs)}`,
    ...(l.frozen ? ['frozen'] : []),
    ...(l.kneadedAt ? [msg`kneaded ${ago(l.kneadedAt, nowMs)}`] : []),
  ].join(', ');
/** What is done with it before it is used again: standing or thawed it separates (common practice, no published source). */
export const beforeUse = (l: Pick<LeftoverView, 'frozen'>): string =>
  l.frozen ? msg`Thaw it in the cold, knead it until it is one again, and count it.` : msg`Stir or knead it, and count it.`;
