import type { BagRecord, Kitchen } from '@kestfog/core/wire';

/** Fields of the kitchen as they shall be, and the revision the change goes on from. */
export type KitchenChange = Partial<Kitchen> & { readonly revision?: number };

/** The name under which changes of the kitchen wait: the next of them takes up what waits. */
export const KITCHEN = 'kitchen';
export const KITCHEN_WORDS: Readonly<Record<keyof Kitchen, string>> = {
  countsBy: 'how you count',
  floodCount: 'what you count for flood',
  eggWhite: 'the egg white',
  recipe: 'the name of the recipe',
  mix: 'the recipe',
  air: 'the usual air',
  tips: 'tips',
  fan: 'the fan',
  dehydrator: 'the dehydrator',
  prices: 'prices',
  carton: 'what cookies are packed in',
  usual: 'the usual bench',
  week: 'the usual week',
  colourNames: 'names of colours',
  bakedOf: 'what the cookies are made of',
  allergens: 'allergens',
  taxLine: 'what offers say of taxes',
};

export const bagName = (orderId: string, { colour, seconds }: Pick<BagRecord, 'colour' | 'seconds'>): string =>
  `bag ${orderId} ${colour} ${seconds}`;
