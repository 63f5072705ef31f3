import type { Plan } from '../formats/plan.js';
import { gradeOfSeconds } from '../icing/grade.js';
import { scaleRecipe } from '../icing/recipe.js';
import { DROPS_PER_ML } from '../icing/thinning.js';
import { bowlsOfPlan } from '../planning/bowls.js';
import type { OrderBag } from '../planning/order-bags.js';
import { msg, word } from '../words/index.js';
import type { PrintedSheet } from './page.js';
import { type Block, type Cell, flowing } from './table.js';
import { capital, nameIn, type WorkAsk } from './work-ask.js';

const openings = (bag: OrderBag): string => bag.openings.map((o) => msg`${o.name} ${o.openingMm} mm`).join(msg`, then `);

/** Bowls, water and bags in the order to mix them. */
export function mixingSheet(plan: Plan, ask: WorkAsk): PrintedSheet {
  const made = bowlsOfPlan(plan, ask.kitchen);
  const base = scaleRecipe(made.baseG, made.recipe);
  const blocks: Block[] = [
    {
      kind: 'text',
      text: msg`Base: ${ask.grams(made.baseG)}, of ${ask.grams(base.sugarG)} powdered sugar, ${ask.grams(base.eggG)} ${word(made.recipe.egg)}
        egg white, ${ask.grams(base.waterG)} water${base.lemonG > 0 ? msg`, ${ask.grams(base.lemonG)} lemon juice` : ''}.
          ${capital(made.recipe.mixing)}.`,
    },
    ...(base.caution ? [{ kind: 'text' as const, text: base.caution, bold: true }] : []),
    {
      kind: 'table',
      columns: [
        { title: '', widthMm: 6 },
        { title: '', widthMm: 5 },
        { title: msg`bowl and bag`, widthMm: 46 },
        { title: msg`base`, widthMm: 18, align: 'end' },
        { title: msg`stir in water`, widthMm: 30, align: 'end' },
        { title: msg`fill`, widthMm: 18, align: 'end' },
        { title: msg`through, for` },
      ],
      rows: made.bowls.flatMap((bowl): Cell[][] => [
        [
          { tick: true },
          { dab: bowl.colour },
          { text: nameIn(ask)(bowl.colour), bold: true },
          ask.grams(bowl.baseG),
          '',
          '',
          msg`colour the whole bowl first`,
        ],
        ...bowl.bags.map(({ bag, waterG, toMixG }): Cell[] => [
          { tick: true },
          '',
          msg`${gradeOfSeconds(bag.seconds).label}, counts ${bag.seconds} s`,
          '',
          waterG < 0.05 ? msg`none` : msg`${ask.grams(waterG)} (${Math.round(waterG * DROPS_PER_ML)} drops)`,
          ask.grams(toMixG),
          `${openings(bag)}; ${bag.designs.join(', ')}`,
        ]),
      ]),
    },
    {
      kind: 'text',
      text: msg`Pale before dark, stiff before thin: water is only ever added. A few drops before the last, then count: the count decides,
        not the drops.`,
    },
  ];
  return flowing(ask, msg`mixing sheet`, blocks);
}

/** To cut apart and tape on. */
export function bagLabels(plan: Plan, ask: WorkAsk): PrintedSheet {
  const bags = bowlsOfPlan(plan, ask.kitchen).bowls.flatMap((b) => b.bags.map(({ bag }) => bag));
  const text = (b: OrderBag) => `${nameIn(ask)(b.colour)}, ${gradeOfSeconds(b.seconds).label}`;
  return flowing(ask, msg`bag labels, to cut apart`, [
    {
      kind: 'table',
      columns: [
        { title: '', widthMm: 6 },
        { title: msg`bag`, widthMm: 52 },
        { title: msg`counts`, widthMm: 16, align: 'end' },
        { title: msg`opening`, widthMm: 54 },
        { title: msg`for` },
        { title: msg`date`, widthMm: 24 },
      ],
      rows: bags.map((b): Cell[] => [
        { dab: b.colour },
        { text: text(b), bold: true },
        msg`${b.seconds} s`,
        openings(b),
        b.designs.join(', '),
        ask.date,
      ]),
    },
  ]);
}
