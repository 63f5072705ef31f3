import type { Plan, PlanDesign, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { gradeOfSeconds } from '../icing/grade.js';
import { NOTHING_KNOWN } from '../labelling/allergens.js';
import { allergenLabel, containsText } from '../labelling/label.js';
import { costOfPlan } from '../planning/order-cost.js';
import { bagAmounts } from '../steps/bag-amounts.js';
import { moneyText } from '../units/money.js';
import { span } from '../wording/span.js';
import { msg, plural } from '../words/index.js';
import type { PrintedSheet } from './page.js';
import { closesOf } from './run-sheet.js';
import { type Block, type Cell, flowing } from './table.js';
import { capital, nameIn, type WorkAsk } from './work-ask.js';

/** Of each design what makes it come out the same again: icing as it is mixed and counted, openings, waits, cookies a visit, hands. */
export function designCards(plan: Plan, ask: WorkAsk): PrintedSheet {
  const { kitchen } = ask;
  const each = kitchen?.askedEach ?? (kitchen?.prices ? costOfPlan(plan, kitchen.prices, kitchen.carton).each : null);
  return flowing(ask, msg`design cards`, [
    ...plan.designs.flatMap((d): Block[] => {
      const tasks = tasksOfOneCookie(plan, d);
      const handsS = tasks.reduce((s, t) => s + perCookieS(t), 0);
      const windowed = tasks.filter((t) => t.motions.some((m) => m.windowS !== null));
      const together = Math.min(...windowed.map((t) => t.cookies[1] - t.cookies[0]));
      const { label } = plan.order.school;
      return [
        { kind: 'heading', text: d.drawing.name },
        {
          kind: 'text',
          text: [
            msg`${label}; ${Math.round(plan.air.tempC)} °C, ${Math.round(100 * plan.air.humidityFrac)} % humidity`,
            msg`${span(handsS)} of hands a cookie`,
            ...(windowed.length > 0 ? [msg`wet work on ${together} ${plural(together, 'cookie', 'cookies')} at a time`] : []),
            ...(each !== null && each > 0 ? [msg`${moneyText(each, kitchen?.prices?.currency ?? '')} each`] : []),
          ].join('; '),
        },
        icingOf(d, ask),
        {
          kind: 'table',
          columns: [
            { title: '', widthMm: 8, align: 'end' },
            { title: msg`in this order` },
            { title: msg`not before`, widthMm: 62 },
            { title: msg`within`, widthMm: 18, align: 'end' },
            { title: msg`a cookie`, widthMm: 20, align: 'end' },
          ],
          rows: tasks.map((t, i): Cell[] => [
            `${i + 1}`,
            { text: capital(t.title), bold: true },
            waitOf(plan, t),
            withinOf(plan, t),
            span(perCookieS(t)),
          ]),
        },
        { kind: 'text', text: msg`Contains ${containsText(allergenLabel(d.drawing, kitchen?.allergens ?? NOTHING_KNOWN, nameIn(ask)))}.` },
      ];
    }),
    {
      kind: 'text',
      text: msg`Waits are those of this air, at the margin the order was planned with, by what this kitchen has taught; another evening
        has others. A finger decides.`,
    },
  ]);
}

/** What is done to the first cookie of a design, in order. */
function tasksOfOneCookie(plan: Plan, d: PlanDesign): PlanTask[] {
  const index = planIndex(plan);
  const [lot] = index.lotsOf(d.id);
  return lot
    ? index
        .tasksOnLot(lot.id)
        .filter((t) => t.cookies[0] === 0)
        .sort((a, b) => a.startS - b.startS)
    : [];
}
const perCookieS = (t: PlanTask): number => (t.endS - t.startS) / Math.max(1, t.cookies[1] - t.cookies[0]);

/** "43 min after flood the sea": the wait that ends last, from the end of what is waited for; empty where nothing dries. */
function waitOf(plan: Plan, task: PlanTask): string {
  const index = planIndex(plan);
  const waits = index.waitsInto(task.id).flatMap((w) => {
    const from = index.task(w.from);
    const restS = from ? w.minS - (from.endS - from.startS) : 0;
    return from && restS > 0 ? [{ from, restS, overS: from.startS + w.minS }] : [];
  });
  const last = waits.reduce<(typeof waits)[number] | null>((a, w) => (a && a.overS >= w.overS ? a : w), null);
  return last ? msg`${span(last.restS)} after “${last.from.title}”` : '';
}
function withinOf(plan: Plan, task: PlanTask): string {
  const { withinS, byS } = closesOf(plan, task);
  return withinS !== null ? span(withinS) : byS === null ? '' : msg`its window`;
}

/** Icing of one cookie: how it is coloured, what it counts, through what, how much. */
function icingOf(d: PlanDesign, ask: WorkAsk): Block {
  return {
    kind: 'table',
    columns: [
      { title: '', widthMm: 5 },
      { title: msg`icing`, widthMm: 34 },
      { title: msg`coloured with` },
      { title: msg`counts`, widthMm: 30 },
      { title: msg`through`, widthMm: 40 },
      { title: msg`a cookie`, widthMm: 18, align: 'end' },
    ],
    rows: bagAmounts(d.graph, 1).map((b): Cell[] => {
      const mix = ask.kitchen?.gels?.[b.colour];
      return [
        { dab: b.colour },
        { text: nameIn(ask)(b.colour), bold: true },
        !mix
          ? ''
          : mix.gelGPer100G === 0
            ? msg`nothing`
            : `${
                mix.gelGPer100G === null
                  ? ''
                  : msg`${mix.gelGPer100G} g in 100 g:
              `
              }${mix.parts.map((p) => `${p.parts} ${p.gel}`).join(', ')}`,
        msg`${b.seconds} s, ${gradeOfSeconds(b.seconds).label}`,
        b.openings.map((o) => msg`${o.name} ${o.openingMm} mm`).join(msg`, then `),
        ask.grams(b.g),
      ];
    }),
  };
}
