import { DEHYDRATOR_AIR_M_PER_S, type Margin, setUpSpeedMPerS } from '@kestfog/core/drying';
import { type Decorator, HAND_GAP_MM } from '@kestfog/core/formats';
import { canonicalText, celsiusFromFahrenheit, fahrenheitFromCelsius, MM_PER_INCH } from '@kestfog/core/units';
import type { DesignSummary, Kitchen, OrderInput, PinInput, UsualBench } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { addDays, differenceInCalendarDays, format, getISODay } from 'date-fns';
import type { Units } from '../../app/units.js';

/** What the form holds: local times as the browser's inputs write them, temperatures and lengths in the user's units. */
export interface OrderDraft {
  name: string;
  designs: { designId: string; count: number; spares: number; version?: number }[];
  /** trays are given by places or by size, all alike */
  traysBy: 'places' | 'size';
  trays: { id: string; places: number; width: number; depth: number }[];
  handGap: number;
  openingHours: { from: string; to: string }[];
  temp: number;
  humidityPct: number;
  airMPerS: number;
  fanPlaces: number;
  fanMPerS: number;
  dehydratorPlaces: number;
  dehydratorTemp: number;
  dehydratorMPerS: number;
  decorators: Decorator[];
  /** empty where it does not matter */
  openBags: string;
  pins: PinDraft[];
  notes: string;
  /** empty where it has a bench of its own */
  hostId: string;
  /** empty where it makes no pieces for another order */
  transfersForId: string;
  school: string;
  margin: Margin;
  packBy: string;
  /** chosen in the Icing place, carried along */
  merges: OrderInput['merges'];
}

/** One shape for all kinds, so that changing the kind loses nothing that was typed. */
export interface PinDraft {
  kind: PinInput['kind'];
  tray: string;
  round: number;
  where: 'fan' | 'dehydrator';
  minutes: number;
  at: string;
  from: string;
  to: string;
  label: string;
  /** empty for everyone */
  who: string;
}

const LOCAL = "yyyy-MM-dd'T'HH:mm";
/** A moment as the browser's date fields write it. */
export const localTime = (iso: string) => format(Date.parse(iso), LOCAL);
const iso = (text: string) => new Date(text).toISOString();
const tenth = (n: number) => Math.round(n * 10) / 10;
const BLANK_PIN: PinDraft = {
  kind: 'away',
  tray: '',
  round: 1,
  where: 'dehydrator',
  minutes: 3,
  at: '',
  from: '',
  to: '',
  label: '',
  who: '',
};
/** Half an hour, four hours into the first day, until it is said better. */
export function blankPin(benchFrom: string, tray: string): PinDraft {
  const begins = Date.parse(benchFrom);
  if (!Number.isFinite(begins)) return { ...BLANK_PIN, tray, label: msg`lunch` };
  const at = (hours: number) => format(begins + hours * 3_600_000, LOCAL);
  return { ...BLANK_PIN, tray, at: at(1), from: at(4), to: at(4.5), label: msg`lunch` };
}

export const shownTemp = (c: number, units: Units) => tenth(units === 'us' ? fahrenheitFromCelsius(c) : c);
const keptTemp = (t: number, units: Units) => (units === 'us' ? Math.round(celsiusFromFahrenheit(t) * 100) / 100 : t);
const shownLength = (mm: number, units: Units) => (units === 'us' ? Math.round((mm / MM_PER_INCH) * 1000) / 1000 : tenth(mm));
const keptLength = (x: number, units: Units) => (units === 'us' ? tenth(x * MM_PER_INCH) : x);

/** A tray of the size most ovens come with, *assumed* until it is measured. */
const TRAY_MM = { width: 420, depth: 300 } as const;
/** Where the kitchen does not say. The dehydrator: 35 °C, common practice, no published source; the fan: *assumed*. */
const SET_UP: Pick<Kitchen, 'fan' | 'dehydrator'> = {
  fan: { distanceM: 0.5, setting: 'medium', measuredMPerS: null },
  dehydrator: { tempC: 35, airMPerS: DEHYDRATOR_AIR_M_PER_S },
};

/** How hard the kitchen's fan blows at a tray, as an order has it: in tenths, m/s. */
export const orderFanMPerS = ({ fan }: Pick<Kitchen, 'fan'>): number => tenth(setUpSpeedMPerS(fan));

/** What was typed, in other units: what is no number yet stays as it is. */
export function inUnits(d: OrderDraft, from: Units, to: Units): OrderDraft {
  if (from === to) return d;
  const temp = (t: number) => (Number.isFinite(t) ? shownTemp(keptTemp(t, from), to) : t);
  const length = (x: number) => (Number.isFinite(x) ? shownLength(keptLength(x, from), to) : x);
  return {
    ...d,
    temp: temp(d.temp),
    dehydratorTemp: temp(d.dehydratorTemp),
    handGap: length(d.handGap),
    trays: d.trays.map((t) => ({ ...t, width: length(t.width), depth: length(t.depth) })),
  };
}

/** The form's first state; where the order has no fan or dehydrator, it would have those of the kitchen. */
export function draftOf(o: OrderInput, units: Units, kitchen: Pick<Kitchen, 'fan' | 'dehydrator'> = SET_UP): OrderDraft {
  const { dehydrator } = kitchen;
  return {
    name: o.name,
    designs: o.designs.map((d) => ({ ...d })),
    traysBy: o.trays.some((t) => t.places === undefined) ? 'size' : 'places',
    trays: o.trays.map((t) => ({
      id: t.id,
      places: t.places ?? 8,
      width: shownLength(t.widthMm ?? TRAY_MM.width, units),
      depth: shownLength(t.depthMm ?? TRAY_MM.depth, units),
    })),
    handGap: shownLength(o.handGapMm, units),
    openingHours: o.openingHours.map((b) => ({ from: localTime(b.from), to: localTime(b.to) })),
    temp: shownTemp(o.air.tempC, units),
    humidityPct: o.air.humidityPct,
    airMPerS: o.air.airMPerS,
    fanPlaces: o.fan?.places ?? 0,
    fanMPerS: o.fan?.airMPerS ?? orderFanMPerS(kitchen),
    dehydratorPlaces: o.dehydrator?.places ?? 0,
    dehydratorTemp: shownTemp(o.dehydrator?.tempC ?? dehydrator.tempC, units),
    dehydratorMPerS: o.dehydrator?.airMPerS ?? dehydrator.airMPerS,
    decorators: o.decorators.map((d) => ({ ...d })),
    openBags: o.openBags === null ? '' : String(o.openBags),
    pins: o.pins.map((p): PinDraft => {
      if (p.kind === 'away')
        return { ...BLANK_PIN, kind: p.kind, from: localTime(p.from), to: localTime(p.to), label: p.label, who: p.who ?? '' };
      if (p.kind === 'stay') return { ...BLANK_PIN, ...p };
      return { ...BLANK_PIN, kind: p.kind, tray: p.tray, ...(p.kind === 'not-before' ? { at: localTime(p.at) } : {}) };
    }),
    notes: o.notes,
    hostId: o.hostId ?? '',
    transfersForId: o.transfersForId ?? '',
    school: o.school,
    margin: o.margin,
    packBy: localTime(o.packBy),
    merges: o.merges,
  };
}

export function inputOf(d: OrderDraft, units: Units): OrderInput {
  return {
    name: d.name.trim(),
    designs: d.designs.map((x) => ({
      designId: x.designId,
      count: x.count,
      spares: x.spares,
      ...(x.version ? { version: x.version } : {}),
    })),
    trays: d.trays.map((t) =>
      d.traysBy === 'places'
        ? { id: t.id.trim(), places: t.places }
        : { id: t.id.trim(), widthMm: keptLength(t.width, units), depthMm: keptLength(t.depth, units) },
    ),
    handGapMm: keptLength(d.handGap, units),
    openingHours: d.openingHours.map((b) => ({ from: iso(b.from), to: iso(b.to) })),
    air: { tempC: keptTemp(d.temp, units), humidityPct: d.humidityPct, airMPerS: d.airMPerS },
    fan: d.fanPlaces > 0 ? { places: d.fanPlaces, airMPerS: d.fanMPerS } : null,
    dehydrator:
      d.dehydratorPlaces > 0 ? { places: d.dehydratorPlaces, tempC: keptTemp(d.dehydratorTemp, units), airMPerS: d.dehydratorMPerS } : null,
    decorators: d.decorators.map((x) => ({ id: x.id.trim(), pace: x.pace })),
    openBags: d.openBags.trim() === '' ? null : Number(d.openBags),
    pins: d.pins.map((p): PinInput => {
      if (p.kind === 'away')
        return { kind: p.kind, from: iso(p.from), to: iso(p.to), label: p.label.trim(), who: p.who === '' ? null : p.who };
      if (p.kind === 'stay') return { kind: p.kind, tray: p.tray, round: p.round, where: p.where, minutes: p.minutes };
      return p.kind === 'not-before' ? { kind: p.kind, tray: p.tray, at: iso(p.at) } : { kind: p.kind, tray: p.tray };
    }),
    notes: d.notes.trim(),
    hostId: d.hostId === '' ? null : d.hostId,
    transfersForId: d.transfersForId === '' ? null : d.transfersForId,
    school: d.school,
    margin: d.margin,
    packBy: iso(d.packBy),
    merges: d.merges,
  };
}

/** The bench of a kitchen that has not said what is usual. */
export const FIRST_BENCH: UsualBench = {
  trays: [
    { id: 'A', places: 8 },
    { id: 'B', places: 8 },
  ],
  handGapMm: HAND_GAP_MM,
  fan: null,
  dehydrator: null,
  decorators: [{ id: 'me', pace: 1 }],
  openBags: null,
  school: 'two-bags',
  margin: 'normal',
};
export const usualOf = ({ trays, handGapMm, fan, dehydrator, decorators, openBags, school, margin }: UsualBench): UsualBench => ({
  trays,
  handGapMm,
  fan,
  dehydrator,
  decorators,
  openBags,
  school,
  margin,
});
export const BENCH_WORDS: Readonly<Record<keyof UsualBench, string>> = {
  trays: msg`trays`,
  handGapMm: msg`room between cookies`,
  fan: msg`fan`,
  dehydrator: msg`dehydrator`,
  decorators: msg`hands`,
  openBags: msg`open bags`,
  school: msg`school`,
  margin: msg`margin`,
};
/** What of a bench is not as in another, in a word or two each. */
export const unusual = (a: UsualBench, b: UsualBench): string[] =>
  (Object.keys(BENCH_WORDS) as (keyof UsualBench)[]).flatMap((key) =>
    canonicalText(a[key] ?? null) === canonicalText(b[key] ?? null) ? [] : [BENCH_WORDS[key]],
  );

/** The next day after `afterMs` on which the bench is usually open; null where no day of the week is. */
export function nextOpening(week: NonNullable<Kitchen['week']>, afterMs: number): OrderInput['openingHours'][number] | null {
  for (let add = 1; add <= 7; add++) {
    const day = addDays(afterMs, add).getTime();
    const hours = week[getISODay(day) - 1];
    if (hours) {
      const date = format(day, 'yyyy-MM-dd');
      return { from: iso(`${date}T${hours.from}`), to: iso(`${date}T${hours.to}`) };
    }
  }
  return null;
}
function openingsOfWeek(week: Kitchen['week'] | undefined, nowMs: number): OrderInput['openingHours'] | null {
  const first = week && nextOpening(week, nowMs);
  const second = first && nextOpening(week, Date.parse(first.from));
  return first && second ? [first, second] : null;
}

/** A new order: the next two days of the usual week, or tomorrow afternoon and the day after to let it dry and pack. */
export function blankOrder(
  designs: readonly DesignSummary[],
  nowMs: number,
  kitchen?: Pick<Kitchen, 'air' | 'usual'> & Partial<Pick<Kitchen, 'week'>>,
): OrderInput {
  const at = (add: number, hour: number) => {
    const t = new Date(nowMs);
    t.setDate(t.getDate() + add);
    t.setHours(hour, 0, 0, 0);
    return t.toISOString();
  };
  const openingHours = openingsOfWeek(kitchen?.week, nowMs) ?? [
    { from: at(1, 14), to: at(1, 22) },
    { from: at(2, 7), to: at(2, 19) },
  ];
  return {
    name: '',
    designs: [{ designId: designs[0]?.id ?? '', count: 12, spares: 0 }],
    ...(kitchen?.usual ?? FIRST_BENCH),
    openingHours,
    air: kitchen?.air ?? { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
    pins: [],
    notes: '',
    hostId: null,
    transfersForId: null,
    packBy: (openingHours[1] as (typeof openingHours)[number]).to,
    merges: [],
  };
}

/** A past order again: everything as it was, its first day moved to tomorrow, clock times kept. */
export function sameAgain(o: OrderInput, nowMs: number): OrderInput {
  const first = o.openingHours.reduce((a, b) => (Date.parse(b.from) < Date.parse(a.from) ? b : a));
  const days = differenceInCalendarDays(addDays(nowMs, 1), Date.parse(first.from));
  const later = (time: string) => addDays(Date.parse(time), days).toISOString();
  return {
    ...o,
    // A design made again comes as it is now.
    designs: o.designs.map(({ designId, count, spares }) => ({ designId, count, spares })),
    openingHours: o.openingHours.map((b) => ({ from: later(b.from), to: later(b.to) })),
    pins: o.pins.map((p) =>
      p.kind === 'away' ? { ...p, from: later(p.from), to: later(p.to) } : p.kind === 'not-before' ? { ...p, at: later(p.at) } : p,
    ),
    packBy: later(o.packBy),
    hostId: null,
    transfersForId: null,
  };
}

/** Hours kept for piping the transfers, the day before. */
const TRANSFER_HOURS = 3;

/**
 * The pieces of an order as a small order of their own, which knows what it is for: piped the day before on a bench of its own and
 * lifted when the order begins, or worked on the order's own bench.
 */
export function transferOrder(
  o: OrderInput,
  orderId: string,
  designId: string,
  pieces: number,
  spares: number,
  shared = false,
): OrderInput {
  const begins = o.openingHours.map((b) => Date.parse(b.from)).reduce((a, b) => Math.min(a, b));
  const from = addDays(begins, -1).getTime();
  const own = {
    ...o,
    name: msg`Transfers for ${o.name}`.slice(0, 80),
    designs: [{ designId, count: pieces, spares }],
    pins: [],
    notes: '',
    transfersForId: orderId,
  };
  if (shared) return { ...own, hostId: orderId };
  return {
    ...own,
    openingHours: [
      { from: new Date(from).toISOString(), to: new Date(from + TRANSFER_HOURS * 3_600_000).toISOString() },
      // They are lifted before the first cookie is begun.
      { from: new Date(begins - 3_600_000).toISOString(), to: new Date(begins).toISOString() },
    ],
    hostId: null,
    packBy: new Date(begins).toISOString(),
  };
}
