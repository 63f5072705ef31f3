import { colourName } from '../design/colour-names.js';
import type { KnownAllergens } from '../labelling/allergens.js';
import type { Mixing } from '../planning/bowls.js';
import type { Prices } from '../planning/order-cost.js';
import type { Stock } from '../stock/stock.js';
import type { SuppliedBy, Supply } from '../stock/supplies.js';
import type { PaperAsk } from './page.js';

/** What sheets to work from are made with besides the paper. */
export interface WorkAsk extends PaperAsk {
  /** "14:35" of a moment, ms since 1970 */
  readonly clock: (ms: number) => string;
  /** "Tuesday 1 December" */
  readonly day: (ms: number) => string;
  /** "346 g", "12.2 oz" */
  readonly grams: (g: number) => string;
  /** what the kitchen calls a colour; the nearest common name where it says nothing */
  readonly nameOf?: (colour: string) => string;
  readonly kitchen?: Mixing &
    SuppliedBy & {
      readonly prices?: Prices;
      /** what the baked cookie is made of, in the kitchen's own words */
      readonly bakedOf?: string;
      /** what of it all a label must name; nothing known where it is left out */
      readonly allergens?: KnownAllergens;
      /** what one cookie is offered for; what goes into it is listed where nothing is asked */
      readonly askedEach?: number;
      /** what an offer says of taxes */
      readonly taxLine?: string;
      /** what there is, by {@link Supply.item}; what is not in it is not known */
      readonly stock?: Stock;
    };
}

export const nameIn = (ask: WorkAsk) => ask.nameOf ?? colourName;
export const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);
