import { type DryingState, dryingStates } from '../drying/state.js';
import type { Margin } from '../drying/uncertainty.js';
import { type Factors, margins, PRIOR_FACTORS } from '../drying/uncertainty.js';
import { parseSchool, type School } from '../steps/school.js';
import { BadInput } from '../units/bad-input.js';

/** `kestfog-order/1`: what is due, on which trays, when someone stands at the bench, and in what air. */
export interface OrderFile {
  readonly format: 'kestfog-order/1';
  readonly name?: string;
  /** ISO time of second 0; the first bench opening where times are ISO and it is left out */
  readonly epoch?: string;
  readonly designs: readonly { readonly file: string; readonly count: number }[];
  readonly trays: readonly { readonly id: string; readonly places: number }[];
  /** open spans in seconds since the epoch, half-open */
  readonly bench: readonly (readonly [number, number])[];
  readonly air: { readonly tempC: number; readonly humidityPct: number; readonly airMPerS: number };
  /** places before the fan and the air speed there */
  readonly fan: { readonly places: number; readonly airMPerS: number } | null;
  /** how it is worked: a preset named by its id, or a school of the user's own */
  readonly school: School;
  readonly margin: Margin;
  /** seconds since the epoch; null where nothing is due */
  readonly packBy: number | null;
  /** bags that were counted: named by colour and intended seconds, drying as they really count */
  readonly bags: readonly { readonly colour: string; readonly seconds: number; readonly countedS: number }[];
  /** colours that share another's bag, so that no bag is mixed for one stem */
  readonly merges: readonly { readonly from: string; readonly to: string }[];
  /** what this kitchen's touch tests taught of each state's threshold, ln F */
  readonly factors: Factors;
}

type Obj = Record<string, unknown>;
const isObject = (v: unknown): v is Obj => typeof v === 'object' && v !== null && !Array.isArray(v);
const bad = (place: string, cure: string): never => {
  throw new BadInput('order', `${place}: ${cure}.`, { place });
};
const numberIn = (v: unknown, place: string, from: number, to: number, unit: string): number =>
  typeof v === 'number' && Number.isFinite(v) && v >= from && v <= to
    ? v
    : bad(place, `must be a number from ${from} to ${to}${unit ? ` ${unit}` : ''}, not ${JSON.stringify(v)}`);
const wholeIn = (v: unknown, place: string, from: number, to: number): number =>
  Number.isInteger(v) ? numberIn(v, place, from, to, '') : bad(place, `must be a whole number from ${from} to ${to}, not ${JSON.stringify(v)}`);
const only = (o: Obj, known: readonly string[], place: string) => {
  for (const k of Object.keys(o)) if (!known.includes(k)) bad(place === '' ? k : `${place}.${k}`, 'is not known here');
};
const oneOf = <T extends string>(v: unknown, list: readonly T[], place: string): T =>
  (list as readonly unknown[]).includes(v) ? (v as T) : bad(place, `must be one of ${list.join(', ')}, not ${JSON.stringify(v)}`);

const MAX_COOKIES = 2000;

/** A time as whole seconds, or as ISO 8601 with an offset or Z (returned in seconds since 1970 and flagged). */
function timeOf(v: unknown, place: string): { s: number; iso: boolean } {
  if (typeof v === 'number' && Number.isSafeInteger(v)) return { s: v, iso: false };
  if (typeof v === 'string' && /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d)$/.test(v)) {
    const ms = Date.parse(v);
    if (Number.isFinite(ms)) return { s: Math.round(ms / 1000), iso: true };
  }
  return bad(place, `must be whole seconds or an ISO time with its offset such as 2026-06-05T14:00:00Z, not ${JSON.stringify(v)}`);
}

/** Checks and completes JSON of `kestfog-order/1`; throws {@link BadInput} that names the place. */
export function parseOrder(json: unknown): OrderFile {
  if (!isObject(json)) return bad('order', 'must be a JSON object');
  if (json['format'] !== 'kestfog-order/1') bad('format', `must be "kestfog-order/1", not ${JSON.stringify(json['format'])}`);
  only(json, ['format', 'name', 'epoch', 'designs', 'trays', 'bench', 'air', 'fan', 'school', 'margin', 'packBy', 'bags', 'merges', 'factors', 'note'], '');
  const list = (v: unknown, place: string): unknown[] => (Array.isArray(v) && v.length > 0 ? v : bad(place, 'must be a list with at least one entry'));
  const designs = list(json['designs'], 'designs').map((d, i) => {
    if (!isObject(d)) return bad(`designs[${i}]`, 'must be an object');
    only(d, ['file', 'count'], `designs[${i}]`);
    if (typeof d['file'] !== 'string' || d['file'] === '') return bad(`designs[${i}].file`, 'must name a drawing');
    return { file: d['file'], count: wholeIn(d['count'], `designs[${i}].count`, 1, MAX_COOKIES) };
  });
  const trays = list(json['trays'], 'trays').map((t, i) => {
    if (!isObject(t)) return bad(`trays[${i}]`, 'must be an object');
    only(t, ['id', 'places'], `trays[${i}]`);
    if (typeof t['id'] !== 'string' || t['id'] === '') return bad(`trays[${i}].id`, 'must be a name');
    return { id: t['id'], places: wholeIn(t['places'], `trays[${i}].places`, 1, 200) };
  });
  trays.forEach((t, i) => {
    if (trays.findIndex((o) => o.id === t.id) !== i) bad(`trays[${i}].id`, `"${t.id}" is there twice`);
  });
  let iso = false;
  let bench = list(json['bench'], 'bench').map((b, i): [number, number] => {
    if (!Array.isArray(b) || b.length !== 2) return bad(`bench[${i}]`, 'must be [from, to]');
    const [from, to] = [timeOf(b[0], `bench[${i}][0]`), timeOf(b[1], `bench[${i}][1]`)];
    if (from.iso !== to.iso) bad(`bench[${i}]`, 'mixes seconds and ISO times');
    iso ||= from.iso;
    if (to.s <= from.s) bad(`bench[${i}]`, 'must end after it begins');
    return [from.s, to.s];
  });
  bench.sort((a, b) => a[0] - b[0]);
  bench.forEach((b, i) => {
    const next = bench[i + 1];
    if (next && next[0] < b[1]) bad(`bench[${i + 1}]`, 'overlaps the opening before it');
  });
  let packBy: number | null = null;
  if (json['packBy'] !== undefined && json['packBy'] !== null) {
    const t = timeOf(json['packBy'], 'packBy');
    if (t.iso !== iso) bad('packBy', 'must be given like the bench hours: all ISO times or all seconds');
    packBy = t.s;
  }
  let epoch: string | undefined;
  if (json['epoch'] !== undefined) {
    const t = timeOf(json['epoch'], 'epoch');
    if (!t.iso) bad('epoch', 'must be an ISO time');
    epoch = new Date(t.s * 1000).toISOString();
  }
  if (iso) {
    const zeroS = epoch ? Date.parse(epoch) / 1000 : (bench[0] as [number, number])[0];
    epoch = new Date(zeroS * 1000).toISOString();
    bench = bench.map(([a, b]) => [a - zeroS, b - zeroS]);
    if (packBy !== null) packBy -= zeroS;
  }
  if ((bench[0] as [number, number])[0] < 0) bad('bench[0]', 'begins before the epoch');
  const airJson = json['air'] ?? {};
  if (!isObject(airJson)) return bad('air', 'must be an object');
  only(airJson, ['tempC', 'humidityPct', 'airMPerS'], 'air');
  const air = {
    tempC: numberIn(airJson['tempC'] ?? 22, 'air.tempC', 5, 45, '°C'),
    humidityPct: numberIn(airJson['humidityPct'] ?? 50, 'air.humidityPct', 1, 100, '%'),
    airMPerS: numberIn(airJson['airMPerS'] ?? 0.1, 'air.airMPerS', 0, 5, 'm/s'),
  };
  let fan: OrderFile['fan'] = null;
  if (json['fan'] !== undefined && json['fan'] !== null) {
    const f = json['fan'];
    if (!isObject(f)) return bad('fan', 'must be an object');
    only(f, ['places', 'airMPerS'], 'fan');
    fan = { places: wholeIn(f['places'] ?? 1, 'fan.places', 1, 20), airMPerS: numberIn(f['airMPerS'] ?? 1, 'fan.airMPerS', 0.1, 5, 'm/s') };
  }
  const colour = (v: unknown, place: string): string =>
    typeof v === 'string' && /^#[0-9a-f]{6}$/.test(v) ? v : bad(place, 'must be a colour such as #f6f3ea');
  const bagsJson = json['bags'] ?? [];
  if (!Array.isArray(bagsJson)) return bad('bags', 'must be a list');
  const bags = bagsJson.map((b: unknown, i) => {
    if (!isObject(b)) return bad(`bags[${i}]`, 'must be an object');
    only(b, ['colour', 'seconds', 'countedS'], `bags[${i}]`);
    return {
      colour: colour(b['colour'], `bags[${i}].colour`),
      seconds: numberIn(b['seconds'], `bags[${i}].seconds`, 1.5, 120, 'seconds'),
      countedS: numberIn(b['countedS'], `bags[${i}].countedS`, 1.5, 120, 'seconds'),
    };
  });
  const mergesJson = json['merges'] ?? [];
  if (!Array.isArray(mergesJson)) return bad('merges', 'must be a list');
  const merges = mergesJson.map((m: unknown, i) => {
    if (!isObject(m)) return bad(`merges[${i}]`, 'must be an object');
    only(m, ['from', 'to'], `merges[${i}]`);
    return { from: colour(m['from'], `merges[${i}].from`), to: colour(m['to'], `merges[${i}].to`) };
  });
  merges.forEach((m, i) => {
    if (merges.some((o) => o.from === m.to)) bad(`merges[${i}].to`, `"${m.to}" is itself merged into another colour`);
  });
  const factorsJson = json['factors'] ?? {};
  if (!isObject(factorsJson)) return bad('factors', 'must be an object');
  only(factorsJson, dryingStates, 'factors');
  const factors = Object.fromEntries(
    dryingStates.map((s: DryingState) => {
      const f = factorsJson[s];
      if (f === undefined) return [s, PRIOR_FACTORS[s]];
      if (!isObject(f)) return bad(`factors.${s}`, 'must be an object');
      only(f, ['mean', 'sigma'], `factors.${s}`);
      return [s, { mean: numberIn(f['mean'], `factors.${s}.mean`, -2, 2, ''), sigma: numberIn(f['sigma'], `factors.${s}.sigma`, 0.01, 2, '') }];
    }),
  ) as Record<DryingState, { mean: number; sigma: number }>;
  return {
    format: 'kestfog-order/1',
    ...(typeof json['name'] === 'string' ? { name: json['name'] } : {}),
    ...(epoch ? { epoch } : {}),
    designs,
    trays,
    bench,
    air,
    fan,
    school: parseSchool(json['school'] ?? 'two-bags'),
    margin: oneOf(json['margin'] ?? 'normal', margins, 'margin'),
    packBy,
    bags,
    merges,
    factors,
  };
}
