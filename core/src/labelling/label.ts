import { linesOf, marksOf, type Stack } from '../design/design.js';
import type { OwnRecipe } from '../icing/recipe.js';
import type { TechniqueId } from '../steps/techniques/index.js';
import { msg, word } from '../words/index.js';
import { type AllergenId, allergenIds, type KnownAllergens } from './allergens.js';

/** What is laid on rather than piped, and what it is bought as. */
const LAID_ON: readonly { readonly techniques: readonly TechniqueId[]; readonly item: string; readonly what: string }[] = [
  { techniques: ['pen'], item: 'pen', what: msg`edible pen` },
  { techniques: ['dust'], item: 'dust', what: msg`dust` },
  { techniques: ['paint'], item: 'paint', what: msg`edible paint` },
  { techniques: ['airbrush'], item: 'airbrush', what: msg`airbrush colour` },
  { techniques: ['sprinkle', 'dipped-bead'], item: 'sprinkles', what: msg`sanding sugar or sprinkles` },
  { techniques: ['wafer'], item: 'wafer', what: msg`wafer paper` },
];

/** Something laid on a cookie, one of it a colour: what kind of thing, the name it is counted by, and what it is called. */
export interface LaidOn {
  readonly kind: string;
  readonly item: string;
  readonly what: string;
  readonly colour: string;
}

/** Everything that is laid on the cookies of these drawings, each once. */
export function laidOn(drawings: readonly Stack[], nameOf: (colour: string) => string): LaidOn[] {
  const laid = drawings.flatMap((d) => [...linesOf(d), ...marksOf(d)]);
  return LAID_ON.flatMap(({ techniques, item, what }) =>
    [...new Set(laid.filter((p) => techniques.includes(p.technique)).map((p) => p.colour))].map((colour) => ({
      kind: item,
      item: `${item} ${colour}`,
      what: `${what}, ${nameOf(colour)}`,
      colour,
    })),
  );
}

/** What a label of one design says of allergens. */
export interface AllergenLabel {
  /** what is in it, in the order of the law, and what brings it */
  readonly contains: readonly { readonly id: AllergenId; readonly from: readonly string[] }[];
  /** what nobody has looked at yet, and so may bring more */
  readonly unknown: readonly string[];
  readonly traces: readonly AllergenId[];
}

/** Icing is beaten with egg white, whichever it is; what the cookie and things laid on bring is what the kitchen knows of them. */
export function allergenLabel(drawing: Stack, known: KnownAllergens, nameOf: (colour: string) => string): AllergenLabel {
  const sources: readonly { readonly what: string; readonly has: readonly AllergenId[] | null }[] = [
    { what: msg`the icing`, has: ['egg'] },
    { what: msg`the cookie`, has: known.cookie },
    ...laidOn([drawing], nameOf).map((l) => ({ what: l.what, has: known.laidOn[l.item] ?? null })),
  ];
  const contains = allergenIds.flatMap((id) => {
    const from = sources.filter((s) => s.has?.includes(id)).map((s) => s.what);
    return from.length > 0 ? [{ id, from }] : [];
  });
  return {
    contains,
    unknown: sources.filter((s) => s.has === null).map((s) => s.what),
    // What is in it is not said once more as a trace.
    traces: (known.traces ?? []).filter((id) => !contains.some((c) => c.id === id)),
  };
}

/** "WHEAT (the cookie), EGG (the icing; the cookie)": what stands behind "Contains", in capitals, since the EU's rule wants it set apart. */
export const containsText = ({ contains }: Pick<AllergenLabel, 'contains'>): string =>
  contains.map((c) => `${c.id.toUpperCase()} (${c.from.join('; ')})`).join(', ');

/**
 * What the icing is made of, by falling weight. Water comes behind the rest: it counts by what is left of it, and most dries off; of
 * what is below a fiftieth the order is free (Regulation (EU) 1169/2011, annex VII, from memory).
 */
export function icingIngredients(recipe: OwnRecipe, colours: readonly string[]): string {
  const weighed: readonly (readonly [string, number])[] = [
    [msg`powdered sugar`, recipe.sugarG],
    [msg`${word(recipe.egg)} egg white`, recipe.eggG],
    [msg`lemon juice`, recipe.lemonG],
  ];
  const names = weighed.filter(([, g]) => g > 0).sort(([, a], [, b]) => b - a);
  return [...names.map(([what]) => what), 'water', msg`food colours (${colours.join(', ')})`].join(', ');
}
