import { msg } from '../words/index.js';
/**
 * What a label must name where it is in the food. Regulation (EU) 1169/2011, annex II, in its order (from memory), with wheat apart from
 * other cereals with gluten (rye, barley, oats, spelt), because the nine of US law (Food Allergen Labeling and Consumer Protection Act of
 * 2004 and FASTER Act of 2021, from memory) name wheat alone.
 */
export const allergens = [
  { id: 'wheat', what: msg`wheat`, us: true },
  { id: 'gluten', what: msg`other gluten (rye, oats …)`, us: false },
  { id: 'crustaceans', what: msg`crustaceans`, us: true },
  { id: 'egg', what: msg`egg`, us: true },
  { id: 'fish', what: msg`fish`, us: true },
  { id: 'peanuts', what: msg`peanuts`, us: true },
  { id: 'soya', what: msg`soya`, us: true },
  { id: 'milk', what: msg`milk`, us: true },
  { id: 'nuts', what: msg`tree nuts`, us: true },
  { id: 'celery', what: msg`celery`, us: false },
  { id: 'mustard', what: msg`mustard`, us: false },
  { id: 'sesame', what: msg`sesame`, us: true },
  { id: 'sulphites', what: msg`sulphites`, us: false },
  { id: 'lupin', what: msg`lupin`, us: false },
  { id: 'molluscs', what: msg`molluscs`, us: false },
] as const;
export type AllergenId = (typeof allergens)[number]['id'];
export const allergenIds: readonly AllergenId[] = allergens.map((a) => a.id);

/**
 * Which of them a kitchen knows to be in what it uses. An empty list says that none of them is in it; null, or what is left out, says
 * that nobody has looked yet, which a label must not pass over.
 */
export interface KnownAllergens {
  /** in the baked cookie */
  readonly cookie: readonly AllergenId[] | null;
  /** in what is laid on, by its item in the stock: "sprinkles #f6f3ea" */
  readonly laidOn: Readonly<Record<string, readonly AllergenId[]>>;
  /** used in this kitchen for other things, so that traces may be there */
  readonly traces: readonly AllergenId[] | null;
}
export const NOTHING_KNOWN: KnownAllergens = { cookie: null, laidOn: {}, traces: null };
