import type { Plan } from '../formats/plan.js';
import { shopping } from '../stock/stock.js';
import { type StockUnit, suppliesOf } from '../stock/supplies.js';
import { msg } from '../words/index.js';
import type { PrintedSheet } from './page.js';
import { type Block, type Cell, flowing } from './table.js';
import { nameIn, type WorkAsk } from './work-ask.js';

/** Everything that has to be in the house: what is missing first, what is there below. */
export function shoppingList(plan: Plan, ask: WorkAsk): PrintedSheet {
  const amount = (unit: StockUnit, n: number): string => (unit === 'g' ? ask.grams(n) : unit === 'pieces' ? String(Math.ceil(n)) : '');
  const all = shopping(suppliesOf(plan, ask.kitchen, nameIn(ask)), ask.kitchen?.stock);
  const [missing, there] = [all.filter((s) => s.buy > 0), all.filter((s) => s.buy === 0)];
  const dab = (s: { readonly dab?: string }): Cell => (s.dab ? { dab: s.dab } : '');
  const what = { title: msg`what` };
  const column = (title: string) => ({ title, widthMm: 30, align: 'end' as const });
  const blocks: Block[] = [];
  if (missing.length === 0) blocks.push({ kind: 'text', text: msg`Nothing is missing: all of it is in the house.` });
  else
    blocks.push({
      kind: 'table',
      caption: msg`To buy`,
      columns: [
        { title: '', widthMm: 6 },
        { title: '', widthMm: 6 },
        what,
        column('needed'),
        column(msg`in the house`),
        column(msg`to buy`),
      ],
      rows: missing.map((s): Cell[] => [
        { tick: true },
        dab(s),
        s.what,
        amount(s.unit, s.need),
        s.have === null ? '' : s.unit === 'there' ? msg`none` : amount(s.unit, s.have),
        { text: amount(s.unit, s.buy), bold: true },
      ]),
    });
  if (there.length > 0)
    blocks.push({
      kind: 'table',
      caption: msg`In the house already`,
      columns: [{ title: '', widthMm: 6 }, { title: '', widthMm: 6 }, what, column('needed'), column(msg`in the house`)],
      rows: there.map((s): Cell[] => ['', dab(s), s.what, amount(s.unit, s.need), amount(s.unit, s.have as number)]),
    });
  return flowing(ask, msg`shopping list`, blocks);
}
