import type { Plan } from '../formats/plan.js';
import { USUAL_RECIPES } from '../icing/recipe.js';
import { NOTHING_KNOWN } from '../labelling/allergens.js';
import { allergenLabel, containsText, icingIngredients, laidOn } from '../labelling/label.js';
import { type CartonSize, cartonsOfPlan, costOfPlan } from '../planning/order-cost.js';
import { BadInput } from '../units/bad-input.js';
import { moneyText } from '../units/money.js';
import { span } from '../wording/span.js';
import { msg } from '../words/index.js';
import type { PrintedSheet } from './page.js';
import { type Block, type Cell, flowing } from './table.js';
import { nameIn, type WorkAsk } from './work-ask.js';

/** The cartons of each design. Throws {@link BadInput} where one does not fit. */
const cartonsOf = (plan: Plan, carton: CartonSize) =>
  cartonsOfPlan(plan, carton).map(({ design, perCarton, cartons }) => {
    if (cartons === null)
      throw new BadInput(
        'carton',
        msg`${design.drawing.name} does not fit the carton ${carton.name} (${carton.widthMm} × ${carton.depthMm} mm): choose a larger one
          in Kitchen.`,
      );
    return { design, perCarton, cartons };
  });

/** A label for every carton: what is in it, how many, which of how many. */
export function boxLabels(plan: Plan, ask: WorkAsk): PrintedSheet {
  const { carton } = ask.kitchen ?? {};
  if (!carton) throw new BadInput('no-carton', msg`Labels for boxes need your carton: say its size in Kitchen first.`);
  const known = ask.kitchen?.allergens ?? NOTHING_KNOWN;
  const rows = cartonsOf(plan, carton).flatMap(({ design: d, perCarton, cartons }): Cell[][] => {
    const label = allergenLabel(d.drawing, known, nameIn(ask));
    const contains = label.contains.map((c) => c.id.toUpperCase()).join(', ');
    const more = label.unknown.length > 0 ? msg` and what was not looked at: ${label.unknown.join('; ')}` : '';
    return [...Array(cartons).keys()].map((i) => [
      { text: d.drawing.name, bold: true },
      String(Math.min(perCarton, d.count - i * perCarton)),
      msg`box ${i + 1} of ${cartons}`,
      d.for ?? '',
      msg`Contains ${contains}${more}. Decorated ${ask.date}. Keep dry, lay flat.`,
    ]);
  });
  return flowing(ask, msg`box labels, to cut apart`, [
    {
      kind: 'table',
      columns: [
        { title: msg`what`, widthMm: 50 },
        { title: msg`cookies`, widthMm: 16, align: 'end' },
        { title: msg`box`, widthMm: 26 },
        { title: msg`for`, widthMm: 30 },
        { title: '' },
      ],
      rows,
    },
  ]);
}

/** What is in each design, what of it must be named, and how it keeps. */
export function careLabels(plan: Plan, ask: WorkAsk): PrintedSheet {
  const recipe = ask.kitchen?.mix ?? USUAL_RECIPES.dried;
  const name = nameIn(ask);
  const { bakedOf } = ask.kitchen ?? {};
  const known = ask.kitchen?.allergens ?? NOTHING_KNOWN;
  return flowing(ask, msg`ingredients and care`, [
    ...plan.designs.flatMap((d): Block[] => {
      const label = allergenLabel(d.drawing, known, name);
      const colours = [...new Set(d.drawing.parts.filter((p) => p.role === 'section').map((p) => name(p.colour)))];
      const laid = laidOn([d.drawing], name);
      return [
        { kind: 'heading', text: d.drawing.name },
        { kind: 'text', text: msg`Icing: ${icingIngredients(recipe, colours)}.` },
        { kind: 'text', text: bakedOf ? msg`Cookie: ${bakedOf}.` : msg`Cookie: ${TO_WRITE_IN} (write in what it was baked of)` },
        ...(laid.length > 0 ? [{ kind: 'text' as const, text: msg`On it: ${laid.map((l) => l.what).join('; ')}.` }] : []),
        { kind: 'text', text: msg`Contains ${containsText(label)}.`, bold: true },
        ...(label.unknown.length > 0
          ? [
              {
                kind: 'text' as const,
                text: msg`Not known yet: what is in ${label.unknown.join('; ')}. Read the packets and write it in: ${TO_WRITE_IN}`,
                bold: true,
              },
            ]
          : []),
        ...(label.traces.length > 0
          ? [
              {
                kind: 'text' as const,
                text: msg`May contain traces of ${label.traces.map((t) => t.toUpperCase()).join(', ')}.`,
                bold: true,
              },
            ]
          : []),
        { kind: 'text', text: msg`Keep dry, in the dark, at room temperature; not in a refrigerator. Decorated ${ask.date}.` },
        ...(laid.some((l) => l.kind === 'dust')
          ? [{ kind: 'text' as const, text: msg`Dust must be sold as edible; “non-toxic” is not enough.`, bold: true }]
          : []),
      ];
    }),
    { kind: 'text', text: msg`What must stand on a label, and who may sell, is decided by local food law: ask before you sell.` },
  ]);
}
const TO_WRITE_IN = '____________________________________________';

/**
 * What an order costs, to give to whoever ordered it: by a price a cookie where one is asked, else what goes into it by the kitchen's
 * prices. What that leaves for the hour is nobody else's, and stands on no sheet.
 */
export function offer(plan: Plan, ask: WorkAsk): PrintedSheet {
  const { prices, carton, askedEach, taxLine } = ask.kitchen ?? {};
  if (!prices) throw new BadInput('no-prices', msg`An offer needs your prices: say them in Kitchen first.`);
  const money = (x: number) => moneyText(x, prices.currency);
  const cost = costOfPlan(plan, prices, carton);
  if (carton) cartonsOf(plan, carton);
  const price = { title: msg`price`, widthMm: 36, align: 'end' as const };
  const table: Block = askedEach
    ? {
        kind: 'table',
        columns: [
          { title: msg`cookie` },
          { title: msg`how many`, widthMm: 30, align: 'end' },
          { title: msg`each`, widthMm: 36, align: 'end' },
          price,
        ],
        rows: [
          ...plan.designs.map((d): Cell[] => [d.drawing.name, String(d.count), money(askedEach), money(askedEach * d.count)]),
          [{ text: msg`together`, bold: true }, String(cost.sold), '', { text: money(askedEach * cost.sold), bold: true }],
        ],
      }
    : {
        kind: 'table',
        columns: [{ title: msg`for` }, { title: msg`how much`, widthMm: 40, align: 'end' }, price],
        rows: [
          [msg`decorating by hand`, span(cost.handsOnS), money(cost.hands)],
          ['icing', ask.grams(cost.icingG), money(cost.icing)],
          [msg`baked cookies`, String(cost.made), money(cost.cookies)],
          ['cartons', String(cost.cartonCount), money(cost.cartons)],
          [{ text: msg`together`, bold: true }, msg`${money(cost.each)} each`, { text: money(cost.total), bold: true }],
        ],
      };
  return flowing(ask, msg`offer`, [
    { kind: 'text', text: plan.designs.map((d) => `${d.count} ${d.drawing.name}`).join(', ') },
    table,
    { kind: 'text', text: taxLine || msg`Taxes are added as the law asks for.` },
  ]);
}
