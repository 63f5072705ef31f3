import type { Margin, OrderFile, OrderView, Plan } from '@kestfog/core';
import { dayClock, span } from '../../text/time.js';

/** What may be changed at the rack without touching the order. */
export interface WhatIf {
  readonly tempC: number;
  readonly humidityPct: number;
  readonly margin: Margin;
}

/** The order as it was planned, in the open format, with something changed. */
export function changedOrder(order: OrderView, plan: Plan, what: WhatIf): OrderFile {
  return {
    format: 'kestfog-order/1',
    name: order.name,
    ...(plan.epoch ? { epoch: plan.epoch } : {}),
    designs: plan.designs.map((d) => ({ file: d.file, count: d.count })),
    trays: plan.trays.map((t) => ({ id: t.id, places: t.places })),
    bench: plan.bench,
    air: { tempC: what.tempC, humidityPct: what.humidityPct, airMPerS: plan.air.airMPerS },
    fan: order.fan,
    school: order.schoolUsed,
    margin: what.margin,
    packBy: plan.packBy,
    bags: order.bags.flatMap((b) => (b.countedS === null ? [] : [{ colour: b.colour, seconds: b.seconds, countedS: b.countedS }])),
    // Drawings in a plan bear the merged colours already.
    merges: [],
    factors: plan.factors,
  };
}

/** When the hands are free on the first day, seconds. */
const handsFreeS = (plan: Plan): number => {
  const close = plan.bench[0]?.[1] ?? Number.POSITIVE_INFINITY;
  return Math.max(0, ...plan.tasks.filter((t) => t.startS < close).map((t) => t.endS));
};

const later = (byS: number): string | null => (Math.abs(byS) < 60 ? null : `${span(Math.abs(byS))} ${byS > 0 ? 'later' : 'sooner'}`);

/** The difference between two plans, in plain words. */
export function differenceText(before: Plan, after: Plan): string {
  const packed = dayClock(Date.parse(after.epoch as string) + after.endS * 1000);
  const byEnd = later(after.endS - before.endS);
  const byHands = later(handsFreeS(after) - handsFreeS(before));
  const waits = worstWait(before, after);
  const sentences = [
    byEnd ? `Packed ${byEnd}, ${packed}` : `Packed as before, ${packed}`,
    ...(byHands ? [`hands free on the first day ${byHands}`] : []),
    ...(waits ? [waits] : []),
  ];
  return sentences.join('; ');
}

/** The wait that grew most, with its tray. */
function worstWait(before: Plan, after: Plan): string | null {
  const known = new Map(before.waits.map((w) => [`${w.from} ${w.to}`, w.minS]));
  let worst: { readonly byS: number; readonly text: string } | null = null;
  for (const w of after.waits) {
    const byS = w.minS - (known.get(`${w.from} ${w.to}`) ?? w.minS);
    const tray = after.tasks.find((t) => t.id === w.to)?.trayId;
    if (byS > 120 && (!worst || byS > worst.byS)) worst = { byS, text: `tray ${tray} now waits ${span(w.minS)}: ${w.reason}` };
  }
  return worst?.text ?? null;
}
