import { BOX_AIR_M_PER_S } from '../drying/fan.js';
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
  readonly designs: readonly OrderDesign[];
  readonly trays: readonly OrderTray[];
  /** room for a hand between cookies on a tray sized in millimetres */
  readonly handGapMm: number;
  /** open spans in seconds since the epoch, half-open */
  readonly bench: readonly (readonly [number, number])[];
  readonly air: { readonly tempC: number; readonly humidityPct: number; readonly airMPerS: number };
  /** places before the fan and the air speed there */
  readonly fan: { readonly places: number; readonly airMPerS: number } | null;
  /** a dehydrator: trays it takes, its temperature and the air speed inside */
  readonly box: { readonly places: number; readonly tempC: number; readonly airMPerS: number } | null;
  /** who stands at the bench, and how fast next to the assumed pace */
  readonly decorators: readonly Decorator[];
  /** bags that can be open at once; null where it does not matter */
  readonly openBags: number | null;
  /** what the user insists on */
  readonly pins: readonly Pin[];
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

export interface OrderDesign {
  readonly file: string;
  /** cookies that are due */
  readonly count: number;
  /** cookies decorated besides, against breakage */
  readonly spares: number;
  /** when these must be packed, where that differs from the order; seconds since the epoch */
  readonly packBy: number | null;
  /** whose order they belong to, where several share one bench */
  readonly for: string | null;
}

/** Either counted out in places, or by its inner size. */
export type OrderTray =
  | { readonly id: string; readonly places: number; readonly widthMm?: undefined; readonly depthMm?: undefined }
  | { readonly id: string; readonly places?: undefined; readonly widthMm: number; readonly depthMm: number };

export interface Decorator {
  readonly id: string;
  /** 1 is the assumed pace, 2 twice as fast */
  readonly pace: number;
}

export type Pin =
  /** its first cookie is begun before any other tray */
  | { readonly kind: 'tray-first'; readonly tray: string }
  /** nothing is done on the tray before */
  | { readonly kind: 'not-before'; readonly tray: string; readonly at: number }
  /** lunch, a telephone call: no hands, or not those of one */
  | { readonly kind: 'away'; readonly from: number; readonly to: number; readonly label: string; readonly who: string | null };

export const MOST_DECORATORS = 3;
/** A thumb beside a cookie, *assumed*. */
export const HAND_GAP_MM = 10;
const ONE_PAIR: readonly Decorator[] = [{ id: 'me', pace: 1 }];

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
  only(
    json,
    [
      ...['format', 'name', 'epoch', 'designs', 'trays', 'handGapMm', 'bench', 'air', 'fan', 'box', 'decorators', 'openBags', 'pins', 'school'],
      ...['margin', 'packBy', 'bags', 'merges', 'factors', 'note'],
    ],
    '',
  );
  const list = (v: unknown, place: string): unknown[] => (Array.isArray(v) && v.length > 0 ? v : bad(place, 'must be a list with at least one entry'));
  const designsJson = list(json['designs'], 'designs').map((d, i) => {
    if (!isObject(d)) return bad(`designs[${i}]`, 'must be an object');
    only(d, ['file', 'count', 'spares', 'packBy', 'for'], `designs[${i}]`);
    if (typeof d['file'] !== 'string' || d['file'] === '') return bad(`designs[${i}].file`, 'must name a drawing');
    const whose = d['for'] ?? null;
    if (whose !== null && (typeof whose !== 'string' || whose === '')) return bad(`designs[${i}].for`, 'must name an order');
    return {
      file: d['file'],
      count: wholeIn(d['count'], `designs[${i}].count`, 1, MAX_COOKIES),
      spares: wholeIn(d['spares'] ?? 0, `designs[${i}].spares`, 0, MAX_COOKIES),
      for: whose as string | null,
      packBy: d['packBy'] ?? null,
    };
  });
  const trays = list(json['trays'], 'trays').map((t, i): OrderTray => {
    if (!isObject(t)) return bad(`trays[${i}]`, 'must be an object');
    only(t, ['id', 'places', 'widthMm', 'depthMm'], `trays[${i}]`);
    const id = t['id'];
    if (typeof id !== 'string' || id === '') return bad(`trays[${i}].id`, 'must be a name');
    if (t['places'] !== undefined && (t['widthMm'] !== undefined || t['depthMm'] !== undefined))
      return bad(`trays[${i}]`, 'must be told either by places or by widthMm and depthMm, not both');
    if (t['places'] !== undefined) return { id, places: wholeIn(t['places'], `trays[${i}].places`, 1, 200) };
    const side = (k: 'widthMm' | 'depthMm') => numberIn(t[k], `trays[${i}].${k}`, 50, 2000, 'mm');
    return { id, widthMm: side('widthMm'), depthMm: side('depthMm') };
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
  const likeBench = (v: unknown, place: string): number => {
    const t = timeOf(v, place);
    if (t.iso !== iso) bad(place, 'must be given like the bench hours: all ISO times or all seconds');
    return t.s;
  };
  const dueOf = (v: unknown, place: string) => (v === undefined || v === null ? null : likeBench(v, place));
  let packBy = dueOf(json['packBy'], 'packBy');
  let designs = designsJson.map((d, i): OrderDesign => ({ ...d, packBy: dueOf(d.packBy, `designs[${i}].packBy`) }));
  const decorators = parseDecorators(json['decorators']);
  let pins = parsePins(json['pins'], trays, decorators, likeBench);
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
    designs = designs.map((d) => (d.packBy === null ? d : { ...d, packBy: d.packBy - zeroS }));
    pins = pins.map((p) => movedPin(p, -zeroS));
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
  let box: OrderFile['box'] = null;
  if (json['box'] !== undefined && json['box'] !== null) {
    const b = json['box'];
    if (!isObject(b)) return bad('box', 'must be an object');
    only(b, ['places', 'tempC', 'airMPerS'], 'box');
    box = {
      places: wholeIn(b['places'] ?? 1, 'box.places', 1, 20),
      tempC: numberIn(b['tempC'] ?? 35, 'box.tempC', 20, 80, '°C'),
      airMPerS: numberIn(b['airMPerS'] ?? BOX_AIR_M_PER_S, 'box.airMPerS', 0.1, 5, 'm/s'),
    };
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
    handGapMm: numberIn(json['handGapMm'] ?? HAND_GAP_MM, 'handGapMm', 0, 60, 'mm'),
    bench,
    air,
    fan,
    box,
    decorators,
    openBags: json['openBags'] === undefined || json['openBags'] === null ? null : wholeIn(json['openBags'], 'openBags', 1, 60),
    pins,
    school: parseSchool(json['school'] ?? 'two-bags'),
    margin: oneOf(json['margin'] ?? 'normal', margins, 'margin'),
    packBy,
    bags,
    merges,
    factors,
  };
}

function parseDecorators(json: unknown): readonly Decorator[] {
  if (json === undefined || json === null) return ONE_PAIR;
  if (!Array.isArray(json) || json.length < 1 || json.length > MOST_DECORATORS) return bad('decorators', `must be a list of one to ${MOST_DECORATORS}`);
  const out = json.map((d: unknown, i): Decorator => {
    if (!isObject(d)) return bad(`decorators[${i}]`, 'must be an object');
    only(d, ['id', 'pace'], `decorators[${i}]`);
    if (typeof d['id'] !== 'string' || d['id'] === '') return bad(`decorators[${i}].id`, 'must be a name');
    return { id: d['id'], pace: numberIn(d['pace'] ?? 1, `decorators[${i}].pace`, 0.3, 3, 'times the assumed pace') };
  });
  out.forEach((d, i) => {
    if (out.findIndex((o) => o.id === d.id) !== i) bad(`decorators[${i}].id`, `"${d.id}" is there twice`);
  });
  return out;
}

function parsePins(
  json: unknown,
  trays: readonly OrderTray[],
  decorators: readonly Decorator[],
  timeAt: (v: unknown, place: string) => number,
): readonly Pin[] {
  if (json === undefined || json === null) return [];
  if (!Array.isArray(json) || json.length > 60) return bad('pins', 'must be a list of at most 60');
  return json.map((p: unknown, i): Pin => {
    const place = `pins[${i}]`;
    if (!isObject(p)) return bad(place, 'must be an object');
    const kind = oneOf(p['kind'], ['tray-first', 'not-before', 'away'] as const, `${place}.kind`);
    if (kind === 'away') {
      only(p, ['kind', 'from', 'to', 'label', 'who'], place);
      const [from, to] = [timeAt(p['from'], `${place}.from`), timeAt(p['to'], `${place}.to`)];
      if (to <= from) bad(place, 'must end after it begins');
      const who = p['who'] ?? null;
      if (who !== null && !decorators.some((d) => d.id === who)) bad(`${place}.who`, `names nobody at this bench: ${JSON.stringify(who)}`);
      const label = p['label'] ?? 'away';
      if (typeof label !== 'string' || label.length > 60) bad(`${place}.label`, 'must be a few words');
      return { kind, from, to, label: label as string, who: who as string | null };
    }
    only(p, kind === 'not-before' ? ['kind', 'tray', 'at'] : ['kind', 'tray'], place);
    if (!trays.some((t) => t.id === p['tray'])) bad(`${place}.tray`, `names no tray of this order: ${JSON.stringify(p['tray'])}`);
    const tray = p['tray'] as string;
    return kind === 'not-before' ? { kind, tray, at: timeAt(p['at'], `${place}.at`) } : { kind, tray };
  });
}

/** A pin with its times `byS` later. */
export const movedPin = (p: Pin, byS: number): Pin =>
  p.kind === 'away' ? { ...p, from: p.from + byS, to: p.to + byS } : p.kind === 'not-before' ? { ...p, at: p.at + byS } : p;

/** Cookies decorated of a design: those due and the spares. */
export const cookiesMade = (d: Pick<OrderDesign, 'count' | 'spares'>): number => d.count + d.spares;
