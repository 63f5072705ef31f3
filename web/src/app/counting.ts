import { ownCount, referenceSeconds } from '@kestfog/core/icing';
import type { Kitchen } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { useKitchen } from '../api/queries.js';

export interface Counting {
  /** reference seconds on the user's own scale */
  readonly own: (referenceS: number) => number;
  /** the user's count in reference seconds */
  readonly reference: (count: number) => number;
  /** "15 s" as the user would count it */
  readonly text: (referenceS: number) => string;
}

const tenth = (x: number) => (x < 10 ? Math.round(x * 10) / 10 : Math.round(x));

export const countingOf = (floodCount: number): Counting => ({
  own: (s) => tenth(ownCount(s, floodCount)),
  reference: (count) => referenceSeconds(count, floodCount),
  text: (s) => msg`${tenth(ownCount(s, floodCount))} s`,
});

const BOOK = countingOf(15);

/** Counts do not transfer between people, so every count is shown as this decorator would count it. */
export function useCounting(): Counting {
  const kitchen: Kitchen | undefined = useKitchen().data;
  return kitchen ? countingOf(kitchen.floodCount) : BOOK;
}
