import type { BagRecord, Kitchen } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';

/** Fields of the kitchen as they shall be, and the revision the change goes on from. */
export type KitchenChange = Partial<Kitchen> & { readonly revision?: number };

/** The name under which changes of the kitchen wait: the next of them takes up what waits. */
export const KITCHEN = 'kitchen';
export const KITCHEN_WORDS: Readonly<Record<keyof Kitchen, string>> = {
  countsBy: msg`how you count`,
  floodCount: msg`what you count for flood`,
  eggWhite: msg`the egg white`,
  recipe: msg`the name of the recipe`,
  mix: msg`the recipe`,
  air: msg`the usual air`,
  tips: msg`tips`,
  fan: msg`the fan`,
  dehydrator: msg`the dehydrator`,
  prices: msg`prices`,
  carton: msg`what cookies are packed in`,
  usual: msg`the usual bench`,
  week: msg`the usual week`,
  colourNames: msg`names of colours`,
  bakedOf: msg`what the cookies are made of`,
  allergens: msg`allergens`,
  taxLine: msg`what offers say of taxes`,
};

export const bagName = (orderId: string, { colour, seconds }: Pick<BagRecord, 'colour' | 'seconds'>): string =>
  `bag ${orderId} ${colour} ${seconds}`;
