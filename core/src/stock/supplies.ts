import { colourName } from '../design/colour-names.js';
import { linesOf, marksOf } from '../design/design.js';
import { cookiesMade } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { type GelMix, gelsFor } from '../icing/gels.js';
import { type EggWhite, scaleRecipe } from '../icing/recipe.js';
import { laidOn } from '../labelling/label.js';
import { bowlsOfPlan, type Mixing } from '../planning/bowls.js';
import { bagsOf } from '../planning/order-bags.js';
import { type CartonSize, cartonsOfPlan } from '../planning/order-cost.js';
import { TIPLESS, type Tip } from '../steps/tips.js';
import { msg, word } from '../words/index.js';

/**
 * How a thing in the house is counted: by weight, by the piece, or only whether it is there (a pen, a pot of sprinkles: what of it a
 * cookie takes does not follow from a drawing). Tips are counted by the piece and not used up.
 */
export const stockUnits = ['g', 'pieces', 'there'] as const;
export type StockUnit = (typeof stockUnits)[number];

/** A thing of the kitchen, under a name that stays: "sugar", "gel navy", "tip round 2", "pen #1d2b4f". */
export interface StockThing {
  readonly item: string;
  /** what it is called on paper and screen */
  readonly what: string;
  readonly unit: StockUnit;
  /** an order uses some of it up; a tip is washed and there again */
  readonly usedUp: boolean;
}
/** Something an order needs. */
export interface Supply extends StockThing {
  /** g or pieces; 1 of what is only there or not */
  readonly need: number;
  /** what is laid on comes by its own colour */
  readonly dab?: string;
}

/** What supplies are reckoned with besides the plan and its icing. */
export interface SuppliedBy {
  readonly carton?: CartonSize;
  /** how colours are mixed into the kitchen's recipe, by "#rrggbb" */
  readonly gels?: Readonly<Record<string, GelMix>>;
}

const weighed = (item: string, what: string, need: number): Supply => ({ item, what, unit: 'g', usedUp: true, need });
const counted = (item: string, what: string, need: number): Supply => ({ item, what, unit: 'pieces', usedUp: true, need });
const kept = (item: string, what: string): Supply => ({ item, what, unit: 'there', usedUp: false, need: 1 });

const tip = (t: Pick<Tip, 'name' | 'openingMm'>, need: number): Supply => ({
  item: msg`tip ${t.name}`,
  what: msg`${t.name}, ${t.openingMm} mm`,
  unit: 'pieces',
  usedUp: false,
  need,
});
const WRAPS = msg`bags or wraps for single cookies, where they are sold so`;
const PARCHMENT = msg`parchment for transfers`;

/** Everything that has to be in the house for a planned order, in the order one shops for it. */
export function suppliesOf(plan: Plan, by: Mixing & SuppliedBy = {}, nameOf: (colour: string) => string = colourName): Supply[] {
  const made = bowlsOfPlan(plan, by);
  const base = scaleRecipe(made.baseG, made.recipe);
  const bags = bagsOf(plan);
  const laid = plan.designs.flatMap((d) => [...linesOf(d.drawing), ...marksOf(d.drawing)]);

  // A gel goes into several colours; how much of it is one sum.
  const gels = new Map<string, { readonly gel: string; readonly grams: number }>();
  const uncounted: Supply[] = [];
  for (const bowl of made.bowls) {
    const mix = by.gels?.[bowl.colour];
    const known = mix && gelsFor(mix, bowl.grams);
    if (known)
      for (const { gel, grams } of known) gels.set(gelThing(gel).item, { gel, grams: (gels.get(gelThing(gel).item)?.grams ?? 0) + grams });
    else if (mix?.gelGPer100G !== 0)
      uncounted.push({ ...kept(msg`colour ${bowl.colour}`, msg`colour for ${nameOf(bowl.colour)} icing`), dab: bowl.colour });
  }
  const tips = new Map<string, { readonly openingMm: number; readonly bags: number }>();
  for (const o of bags.flatMap((b) => b.openings))
    if (o.name !== TIPLESS) tips.set(o.name, { openingMm: o.openingMm, bags: (tips.get(o.name)?.bags ?? 0) + 1 });

  const { carton } = by;
  const cartons = carton ? cartonsOfPlan(plan, carton).map((p) => p.cartons) : [];
  return [
    ...plan.designs.map((d) => counted(msg`cookie ${d.id}`, msg`baked cookies, ${d.drawing.name}`, cookiesMade(d))),
    weighed('sugar', msg`powdered sugar`, base.sugarG),
    weighed(msg`egg ${word(made.recipe.egg)}`, msg`${word(made.recipe.egg)} egg white`, base.eggG),
    ...(base.lemonG > 0 ? [weighed('lemon', msg`lemon juice`, base.lemonG)] : []),
    ...[...gels.values()].map(({ gel, grams }): Supply => ({ ...gelThing(gel), need: grams })),
    ...uncounted,
    counted('bag', msg`piping bags and ties`, bags.length),
    ...[...tips].map(([name, t]) => tip({ name, openingMm: t.openingMm }, t.bags)),
    ...laidOn(
      plan.designs.map((d) => d.drawing),
      nameOf,
    ).map((l): Supply => ({ ...kept(l.item, l.what), dab: l.colour })),
    ...(laid.some((p) => p.technique === 'stencil') ? [kept('stencils', msg`stencils`)] : []),
    ...(plan.designs.some((d) => d.drawing.transfer) ? [kept('parchment', PARCHMENT)] : []),
    ...(carton && cartons.every((c) => c !== null)
      ? [
          counted(
            msg`carton ${carton.name}`,
            msg`cartons, ${carton.name}`,
            cartons.reduce((n, c) => n + c, 0),
          ),
        ]
      : []),
    counted(
      'wrap',
      WRAPS,
      plan.designs.reduce((n, d) => n + d.count, 0),
    ),
  ];
}

/** What a kitchen could count before any order asks for it; gels, pens and what is scattered come by the name or colour an order gives. */
export const usualThings = (kitchen: {
  readonly egg: EggWhite;
  readonly carton: CartonSize;
  readonly tips: readonly Tip[];
}): StockThing[] =>
  [
    weighed('sugar', msg`powdered sugar`, 0),
    weighed(msg`egg ${word(kitchen.egg)}`, msg`${word(kitchen.egg)} egg white`, 0),
    weighed('lemon', msg`lemon juice`, 0),
    counted('bag', msg`piping bags and ties`, 0),
    ...kitchen.tips.map((t) => tip(t, 0)),
    counted(msg`carton ${kitchen.carton.name}`, msg`cartons, ${kitchen.carton.name}`, 0),
    counted('wrap', WRAPS, 0),
    kept('parchment', PARCHMENT),
    kept('stencils', msg`stencils`),
  ].map(({ item, what, unit, usedUp }) => ({ item, what, unit, usedUp }));
/** A gel colour by its name, as {@link suppliesOf} asks for it. */
export const gelThing = (gel: string): StockThing => ({
  item: msg`gel ${gel.toLowerCase()}`,
  what: msg`gel colour, ${gel}`,
  unit: 'g',
  usedUp: true,
});
