import { celsiusFromFahrenheit, type DesignSummary, fahrenheitFromCelsius, type Margin, type OrderInput } from '@kestfog/core';
import { format } from 'date-fns';
import type { Units } from '../../app/units.js';

/** What the form holds: local times as the browser's inputs write them, the temperature in the user's units. */
export interface OrderDraft {
  name: string;
  designs: { designId: string; count: number; version?: number }[];
  trays: { id: string; places: number }[];
  bench: { from: string; to: string }[];
  temp: number;
  humidityPct: number;
  airMPerS: number;
  fanPlaces: number;
  fanMPerS: number;
  school: string;
  margin: Margin;
  packBy: string;
  /** chosen in the Icing place, carried along */
  merges: OrderInput['merges'];
}

const local = (iso: string) => format(Date.parse(iso), "yyyy-MM-dd'T'HH:mm");
const iso = (text: string) => new Date(text).toISOString();
const tenth = (n: number) => Math.round(n * 10) / 10;

export function draftOf(o: OrderInput, units: Units): OrderDraft {
  return {
    name: o.name,
    designs: o.designs.map((d) => ({ ...d })),
    trays: o.trays.map((t) => ({ ...t })),
    bench: o.bench.map((b) => ({ from: local(b.from), to: local(b.to) })),
    temp: tenth(units === 'us' ? fahrenheitFromCelsius(o.air.tempC) : o.air.tempC),
    humidityPct: o.air.humidityPct,
    airMPerS: o.air.airMPerS,
    fanPlaces: o.fan?.places ?? 0,
    fanMPerS: o.fan?.airMPerS ?? 1,
    school: o.school,
    margin: o.margin,
    packBy: local(o.packBy),
    merges: o.merges,
  };
}

export function inputOf(d: OrderDraft, units: Units): OrderInput {
  return {
    name: d.name.trim(),
    designs: d.designs.map((x) => ({ designId: x.designId, count: x.count, ...(x.version ? { version: x.version } : {}) })),
    trays: d.trays.map((t) => ({ id: t.id.trim(), places: t.places })),
    bench: d.bench.map((b) => ({ from: iso(b.from), to: iso(b.to) })),
    air: { tempC: units === 'us' ? Math.round(celsiusFromFahrenheit(d.temp) * 100) / 100 : d.temp, humidityPct: d.humidityPct, airMPerS: d.airMPerS },
    fan: d.fanPlaces > 0 ? { places: d.fanPlaces, airMPerS: d.fanMPerS } : null,
    school: d.school,
    margin: d.margin,
    packBy: iso(d.packBy),
    merges: d.merges,
  };
}

/** A new order: tomorrow afternoon, and the day after to let it dry and pack. */
export function blankOrder(designs: readonly DesignSummary[], nowMs: number): OrderInput {
  const at = (add: number, hour: number) => {
    const t = new Date(nowMs);
    t.setDate(t.getDate() + add);
    t.setHours(hour, 0, 0, 0);
    return t.toISOString();
  };
  return {
    name: '',
    designs: [{ designId: designs[0]?.id ?? '', count: 12 }],
    trays: [
      { id: 'A', places: 8 },
      { id: 'B', places: 8 },
    ],
    bench: [
      { from: at(1, 14), to: at(1, 22) },
      { from: at(2, 7), to: at(2, 19) },
    ],
    air: { tempC: 22, humidityPct: 50, airMPerS: 0.1 },
    fan: null,
    school: 'two-bags',
    margin: 'normal',
    packBy: at(2, 19),
    merges: [],
  };
}
