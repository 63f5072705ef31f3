import type { StockThing, Supply } from './supplies.js';

/** What there is of things, by {@link StockThing.item}: g, pieces, or 1 and 0; a thing that is not in it is not known. */
export type Stock = Readonly<Record<string, number>>;

/** A line of a shopping list. */
export interface ToBuy extends Supply {
  /** null where the kitchen has not said */
  readonly have: number | null;
  /** what is missing; all of it where nothing is known */
  readonly buy: number;
}
/** What is missing for an order. */
export const shopping = (supplies: readonly Supply[], stock: Stock = {}): ToBuy[] =>
  supplies.map((s) => {
    const have = stock[s.item] ?? null;
    return { ...s, have, buy: Math.max(0, s.need - (have ?? 0)) };
  });

/** So much of a thing taken off the stock. */
export interface StockUse extends Pick<StockThing, 'item' | 'what' | 'unit'> {
  readonly amount: number;
}
/** What an order uses up of what the kitchen counts; what it does not count is nobody's to take off. */
export const usedUpOf = (supplies: readonly Supply[], stock: Stock): StockUse[] =>
  supplies.flatMap(({ item, what, unit, usedUp, need }) =>
    usedUp && need > 0 && stock[item] !== undefined ? [{ item, what, unit, amount: need }] : [],
  );
