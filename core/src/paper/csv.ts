import Papa from 'papaparse';
import { colourName } from '../design/colour-names.js';
import type { Plan } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { bagsOf } from '../planning/order-bags.js';
import type { StockThing } from '../stock/supplies.js';
import { closesOf } from './run-sheet.js';

export const tableKinds = ['plan', 'bags', 'waits'] as const;
export type TableKind = (typeof tableKinds)[number];

/** What a spreadsheet reckons instead of showing it, also where lines follow (the package's own pattern sees one line only). */
const FORMULA = /^[=+\-@\t\r]/;
/** Comma-separated rows (RFC 4180). What a spreadsheet would take for a formula is kept from being one. */
export const csv = (fields: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse({ fields: [...fields], data: rows.map((r) => [...r]) }, { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;

/** A planned order as a table: what is done when, its bags, or its waits. Moments are ISO 8601 where the plan has a clock, else seconds. */
export function planTable(plan: Plan, kind: TableKind, nameOf: (colour: string) => string = colourName): string {
  const index = planIndex(plan);
  const at = (s: number): string | number => (plan.epoch === null ? Math.round(s) : new Date(index.msOf(s)).toISOString());
  switch (kind) {
    case 'plan':
      return csv(
        ['start', 'end', 'tray', 'who', 'design', 'cookies', 'round', 'kind', 'what', 'bags', 'done by', 'done within s'],
        plan.tasks.map((t) => {
          const closes = closesOf(plan, t);
          return [
            at(t.startS),
            at(t.endS),
            t.trayId,
            t.by,
            index.designOf(t)?.drawing.name ?? '',
            t.lotId === null ? '' : t.cookies[1] - t.cookies[0],
            t.round,
            t.kind,
            t.title,
            t.bags.map((b) => `${nameOf(b.colour)} ${b.seconds} s`).join('; '),
            closes.byS === null ? '' : at(closes.byS),
            closes.withinS === null ? '' : Math.floor(closes.withinS),
          ];
        }),
      );
    case 'bags':
      return csv(
        ['colour', 'name', 'grade', 'counts s', 'on cookies g', 'to mix g', 'openings', 'designs'],
        bagsOf(plan).map((b) => [
          b.colour,
          nameOf(b.colour),
          b.grade,
          b.seconds,
          b.g.toFixed(1),
          b.mixG.toFixed(1),
          b.openings.map((o) => `${o.name} ${o.openingMm} mm`).join('; '),
          b.designs.join('; '),
        ]),
      );
    case 'waits':
      return csv(
        ['from', 'to', 'at least s', 'at most s', 'to spare s', 'rule'],
        plan.waits.map((w) => [w.from, w.to, Math.round(w.minS), w.maxS === null ? '' : Math.floor(w.maxS), Math.round(w.slackS), w.rule]),
      );
  }
}

/** What is in the house as a table. */
export const stockTable = (things: readonly (StockThing & { readonly amount: number })[]): string =>
  csv(
    ['item', 'what', 'amount', 'unit', 'used up'],
    things.map((t) => [t.item, t.what, t.amount, t.unit, t.usedUp ? 'yes' : 'no']),
  );

/** An order as a list of orders shows it. */
export interface ListedOrder {
  readonly name: string;
  /** ISO 8601 */
  readonly packBy: string;
  readonly cookies: number;
  readonly trays: number;
  readonly designs: readonly { readonly name: string; readonly count: number }[];
  readonly plan: { readonly startsAt: string; readonly endsAt: string; readonly handsOnS: number; readonly lateS: number } | null;
  readonly run: { readonly done: number; readonly total: number } | null;
}
/** Orders as a table. */
export const ordersTable = (orders: readonly ListedOrder[]): string =>
  csv(
    ['order', 'due', 'cookies', 'trays', 'designs', 'begins', 'ends', 'hands-on s', 'late s', 'steps done', 'steps'],
    orders.map((o) => [
      o.name,
      o.packBy,
      o.cookies,
      o.trays,
      o.designs.map((d) => `${d.count} ${d.name}`).join('; '),
      o.plan?.startsAt ?? '',
      o.plan?.endsAt ?? '',
      o.plan ? Math.round(o.plan.handsOnS) : '',
      o.plan ? Math.round(o.plan.lateS) : '',
      o.run?.done ?? '',
      o.run?.total ?? '',
    ]),
  );
