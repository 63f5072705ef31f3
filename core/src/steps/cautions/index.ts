import type { EggWhite } from '../../icing/recipe.js';
import { msg } from '../../words/index.js';
import { type TechniqueId, techniqueById } from '../techniques/index.js';
import { type CautionId, cautionIds } from './caution.js';

export { type CautionId, cautionIds } from './caution.js';

/** What is going on, as far as cautions go. */
export interface CautionContext {
  readonly techniques: readonly TechniqueId[];
  readonly eggWhite: EggWhite;
  /** whether a dehydrator or an oven is used to dry */
  readonly warmAir: boolean;
  /** cookies cut by hand from a drawing rather than with a cutter of one of our starting shapes */
  readonly cutByHand: boolean;
}

interface Caution {
  readonly id: CautionId;
  readonly text: string;
  /** where more than a technique decides */
  readonly also?: (context: CautionContext) => boolean;
}

/** Common practice and US FDA Food Code (from memory) for a_w and temperatures; local food codes decide. */
export const cautions: readonly Caution[] = [
  {
    id: 'raw-egg',
    text: msg`Raw egg white can carry salmonella: use dried or pasteurised white, above all for children, the pregnant and the frail.`,
    also: (c) => c.eggWhite === 'fresh',
  },
  {
    id: 'allergens',
    text: msg`Egg, wheat, milk, soy, almond and other flavourings, and crumbs of another batch: say what is in it, keep tools apart.`,
  },
  {
    id: 'edible-only',
    text: msg`Only colours, dusts, pens and papers sold as edible; “non-toxic” is not “edible”, and many metallics are for show only.`,
  },
  { id: 'tools-food-only', text: msg`Brushes, needles and tools for food only; count needles and bag offcuts out and back in.` },
  { id: 'no-bare-fingers', text: msg`No bare fingers on icing that will be eaten: gloves or tweezers.` },
  {
    id: 'warm-air',
    text: msg`Warm air, not hot: 35 °C is enough. Never leave a dehydrator or an oven on with food forgotten in it; trays and racks burn.`,
    also: (c) => c.warmAir,
  },
  { id: 'spirit', text: msg`Spirit burns: no flame near it, and air the room.` },
  { id: 'airbrush-mist', text: msg`Airbrush mist gets into lungs: a mask, and air the room.` },
  { id: 'choking', text: msg`Small hard decorations can choke: not for children under four.` },
  {
    id: 'for-sale',
    text: msg`Cookies for sale: labelling and home-kitchen rules differ from place to place; ask the local food authority.`,
  },
  { id: 'cover-trays', text: msg`Trays that dry for hours: a screen or a rack cover against pets, insects and dust, never airtight.` },
  { id: 'pack-dry', text: msg`Pack only what is dry through: damp in a carton grows mould.` },
  { id: 'knives', text: msg`Dough cut by hand: blade away from the fingers, on a board that does not slip.`, also: (c) => c.cutByHand },
  { id: 'print-paper', text: msg`Printed paper does not touch food: parchment between template and icing.` },
];

/** The cautions that arise, in the registry's order. A technique names its own; some need more than the technique. */
export function cautionsFor(context: CautionContext): readonly Caution[] {
  const named = new Set(context.techniques.flatMap((t) => techniqueById(t).cautions));
  return cautions.filter((c) => (c.also ? c.also(context) : named.has(c.id)));
}

export const cautionById = (id: CautionId): Caution => {
  const found = cautions.find((c) => c.id === id);
  if (!found) throw new Error(`no caution "${id}" among ${cautionIds.join(', ')}`);
  return found;
};
