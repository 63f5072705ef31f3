import type { StockUnit } from '@kestfog/core/stock';
import { msg } from '@kestfog/core/words';
import type { Units } from '../../app/units.js';
import { grams } from '../../text/amounts.js';

/** "346 g", "12", "there" */
export const amountText = (unit: StockUnit, amount: number, units: Units): string =>
  unit === 'g' ? grams(amount, units) : unit === 'pieces' ? String(Math.ceil(amount)) : amount > 0 ? msg`there` : msg`none`;
