import type { Margin } from '@kestfog/core/drying';
import type { OrderFile, Pin, Plan } from '@kestfog/core/formats';
import type { School } from '@kestfog/core/steps';
import { reasonOf } from '@kestfog/core/wording';
import { msg } from '@kestfog/core/words';
import { dayClock, span } from '../../text/time.js';

/** What may be changed at the rack without touching the order. */
export interface WhatIf {
  readonly tempC: number;
  readonly humidityPct: number;
  readonly margin: Margin;
  readonly fanPlaces: number;
  readonly dehydratorPlaces: number;
  readonly school: School;
  /** times the pace of each pair of hands */
  readonly pace: number;
  /** the first day begins so much later, minutes */
  readonly laterMin: number;
  readonly pins: readonly Pin[];
}

export const asPlanned = (o: OrderFile): WhatIf => ({
  tempC: o.air.tempC,
  humidityPct: o.air.humidityPct,
  margin: o.margin,
  fanPlaces: o.fan?.places ?? 0,
  dehydratorPlaces: o.dehydrator?.places ?? 0,
  school: o.school,
  pace: 1,
  laterMin: 0,
  pins: o.pins,
});

export const isChanged = (o: OrderFile, what: WhatIf): boolean => JSON.stringify(asPlanned(o)) !== JSON.stringify(what);

/** A fan and a dehydrator nobody has measured yet, as the order format completes them. */
const FAN = { airMPerS: 1 } as const;
const DEHYDRATOR = { tempC: 35, airMPerS: 1 } as const;
const hundredth = (x: number) => Math.round(x * 100) / 100;

/** The order as it was planned, with something changed. */
export function changedOrder(o: OrderFile, what: WhatIf): OrderFile {
  const [first, ...rest] = o.openingHours as readonly [readonly [number, number], ...(readonly [number, number])[]];
  return {
    ...o,
    air: { ...o.air, tempC: what.tempC, humidityPct: what.humidityPct },
    margin: what.margin,
    fan: what.fanPlaces > 0 ? { ...(o.fan ?? FAN), places: what.fanPlaces } : null,
    dehydrator: what.dehydratorPlaces > 0 ? { ...(o.dehydrator ?? DEHYDRATOR), places: what.dehydratorPlaces } : null,
    school: what.school,
    decorators: o.decorators.map((d) => ({ ...d, pace: Math.min(3, Math.max(0.3, hundredth(d.pace * what.pace))) })),
    openingHours: [[Math.min(first[0] + what.laterMin * 60, first[1] - 60), first[1]], ...rest],
    pins: what.pins,
  };
}

/** When the hands are free on the first day, seconds. */
const handsFreeS = (plan: Plan): number => {
  const close = plan.openingHours[0]?.[1] ?? Number.POSITIVE_INFINITY;
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
    byEnd ? msg`Packed ${byEnd}, ${packed}` : msg`Packed as before, ${packed}`,
    ...(byHands ? [msg`hands free on the first day ${byHands}`] : []),
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
    if (byS > 120 && (!worst || byS > worst.byS)) worst = { byS, text: msg`tray ${tray} now waits ${span(w.minS)}: ${reasonOf(w)}` };
  }
  return worst?.text ?? null;
}

/** A pin in words. */
export function pinText(pin: Pin, epochMs: number): string {
  const at = (s: number) => dayClock(epochMs + s * 1000);
  if (pin.kind === 'tray-first') return msg`tray ${pin.tray} first`;
  if (pin.kind === 'not-before') return msg`tray ${pin.tray} not before ${at(pin.at)}`;
  if (pin.kind === 'stay')
    return msg`tray ${pin.tray} after round ${pin.round}: ${pin.where === 'fan' ? msg`before the fan` : msg`in the dehydrator`},
      ${pin.minutes} min`;
  return msg`${pin.label}, ${at(pin.from)} to
    ${dayClock(epochMs + pin.to * 1000, epochMs + pin.from * 1000)}${pin.who ? `, ${pin.who}` : ''}`;
}

/** Without asking for the same thing twice: one tray is first, one time counts for a tray. */
export function withPin(pins: readonly Pin[], pin: Pin): readonly Pin[] {
  const kept = pins.filter((p) => {
    if (pin.kind === 'tray-first') return p.kind !== 'tray-first';
    if (pin.kind === 'not-before') return p.kind !== 'not-before' || p.tray !== pin.tray;
    if (pin.kind === 'stay') return p.kind !== 'stay' || p.tray !== pin.tray || p.round !== pin.round;
    return true;
  });
  return [...kept, pin];
}
