import { z } from 'zod';
import { type PaceKind, paceKinds, TAKES } from '../calibration/pace.js';
import { DEHYDRATOR_AIR_M_PER_S } from '../drying/fan.js';
import { type DryingState, dryingStates } from '../drying/state.js';
import type { Margin } from '../drying/uncertainty.js';
import { BELIEVABLE, type Factors, margins, PRIOR_FACTORS } from '../drying/uncertainty.js';
import { parseSchool, type School } from '../steps/school.js';
import { MOST_TIPS, OPENING_MM, type Tip, tipShapes, USUAL_TIPS } from '../steps/tips.js';
import { BadInput } from '../units/bad-input.js';
import { type FormatDefinition, type Json, openFormat } from '../units/format.js';
import { msg } from '../words/index.js';

/** `kestfog-order/3`: what is due, on which trays, when someone stands at the bench, and in what air. */
export interface OrderFile {
  readonly format: 'kestfog-order/3';
  readonly name?: string;
  /** ISO time of second 0; the first bench opening where times are ISO and it is left out */
  readonly epoch?: string;
  readonly designs: readonly OrderDesign[];
  readonly trays: readonly OrderTray[];
  /** room for a hand between cookies on a tray sized in millimetres */
  readonly handGapMm: number;
  /** open spans in seconds since the epoch, half-open */
  readonly openingHours: readonly (readonly [number, number])[];
  readonly air: { readonly tempC: number; readonly humidityPct: number; readonly airMPerS: number };
  /** places before the fan and the air speed there */
  readonly fan: { readonly places: number; readonly airMPerS: number } | null;
  /** a dehydrator: trays it takes, its temperature and the air speed inside */
  readonly dehydrator: { readonly places: number; readonly tempC: number; readonly airMPerS: number } | null;
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
  /** pieces made on another bench can be lifted from then on, seconds since the epoch; null where none are awaited */
  readonly piecesFrom: number | null;
  /** colours that share another's bag, so that no bag is mixed for one stem */
  readonly merges: readonly { readonly from: string; readonly to: string }[];
  /** the kitchen's own tips */
  readonly tips: readonly Tip[];
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
  /** pieces for the other designs of this bench: nothing is glued on or laid in before they are lifted */
  readonly pieces: boolean;
}

/** Either counted out in places, or by its inner size. */
export type OrderTray =
  | { readonly id: string; readonly places: number; readonly widthMm?: undefined; readonly depthMm?: undefined }
  | { readonly id: string; readonly places?: undefined; readonly widthMm: number; readonly depthMm: number };

export interface Decorator {
  readonly id: string;
  /** 1 is the assumed pace, 2 twice as fast */
  readonly pace: number;
  /** what was learned on top of that: times the seconds each kind of motion takes these hands */
  readonly takes?: Readonly<Partial<Record<PaceKind, number>>>;
}

export type Pin =
  /** its first cookie is begun before any other tray */
  | { readonly kind: 'tray-first'; readonly tray: string }
  /** nothing is done on the tray before */
  | { readonly kind: 'not-before'; readonly tray: string; readonly at: number }
  /** after that round of wet work it goes to the fan or the dehydrator, for so long */
  | StayPin
  /** lunch, a telephone call: no hands, or not those of one */
  | { readonly kind: 'away'; readonly from: number; readonly to: number; readonly label: string; readonly who: string | null };

export interface StayPin {
  readonly kind: 'stay';
  readonly tray: string;
  readonly round: number;
  readonly where: 'fan' | 'dehydrator';
  readonly minutes: number;
}

export const MOST_DECORATORS = 3;
/** A thumb beside a cookie, *assumed*. */
export const HAND_GAP_MM = 10;
const ONE_PAIR: readonly Decorator[] = [{ id: 'me', pace: 1 }];

/** A number within its bounds, refused in the words of the kitchen. */
const numberIn = (from: number, to: number, unit = '') =>
  z.custom<number>(
    (v) => typeof v === 'number' && Number.isFinite(v) && v >= from && v <= to,
    msg`must be a number from ${from} to ${to}${unit ? ` ${unit}` : ''}`,
  );
const wholeIn = (from: number, to: number) =>
  z.custom<number>((v) => typeof v !== 'number' || Number.isInteger(v), msg`must be a whole number`).pipe(numberIn(from, to));
const named = (what: string) => z.custom<string>((v) => typeof v === 'string' && v !== '', msg`must ${what}`);
const some = <T extends z.ZodType>(of: T) =>
  z
    .array(of, { error: msg`must be a list with at least one entry` })
    .refine((l) => l.length > 0, msg`must be a list with at least one entry`);
const colour = z.custom<string>((v) => typeof v === 'string' && /^#[0-9a-f]{6}$/.test(v), msg`must be a colour such as #f6f3ea`);

/** Whether the calendar has that day: the language takes 30 February for 2 March. */
const isADay = (iso: string): boolean => new Date(`${iso.slice(0, 10)}T00:00:00Z`).toISOString().startsWith(iso.slice(0, 10));

/** A time as whole seconds, or as ISO 8601 with an offset or Z. */
const time = z.custom<number | string>(
  (v) =>
    (typeof v === 'number' && Number.isSafeInteger(v)) ||
    (typeof v === 'string' &&
      /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d)$/.test(v) &&
      isADay(v) &&
      Number.isFinite(Date.parse(v))),
  msg`must be whole seconds or an ISO time with its offset such as 2026-06-05T14:00:00Z`,
);
const isIso = (t: number | string): t is string => typeof t === 'string';
const secondsOf = (t: number | string): number => (isIso(t) ? Math.round(Date.parse(t) / 1000) : t);

/** Tips as they are kept with a kitchen and with an order. */
const tipsJson = z
  .array(
    z.strictObject({
      name: z.string().trim().min(1, msg`must name the tip`).max(40, msg`must be at most 40 characters`),
      shape: z.enum(tipShapes),
      openingMm: z.number().min(OPENING_MM[0], msg`must be at least 0.3 mm`).max(OPENING_MM[1], msg`must be at most 20 mm`),
    }),
  )
  .max(MOST_TIPS);

const MAX_COOKIES = 2000;
const design = z.strictObject({
  file: named(msg`name a drawing`),
  count: wholeIn(1, MAX_COOKIES),
  spares: wholeIn(0, MAX_COOKIES).default(0),
  for: named(msg`name an order`).nullish(),
  packBy: time.nullish(),
  pieces: z.boolean().default(false),
});
const side = numberIn(50, 2000, msg`mm`);
const tray = z
  .strictObject({ id: named(msg`be a name`), places: wholeIn(1, 200).optional(), widthMm: side.optional(), depthMm: side.optional() })
  .superRefine((t, ctx) => {
    const sized = t.widthMm !== undefined || t.depthMm !== undefined;
    if (t.places !== undefined && sized)
      ctx.addIssue({ code: 'custom', message: msg`must be given either by places or by widthMm and depthMm, not both` });
    else if (t.places === undefined)
      for (const k of ['widthMm', 'depthMm'] as const)
        if (t[k] === undefined) ctx.addIssue({ code: 'custom', path: [k], message: msg`must be a number from 50 to 2000 mm` });
  });
const opening = z
  .tuple([time, time], { error: msg`must be [from, to]` })
  .refine(([a, b]) => isIso(a) === isIso(b), msg`mixes seconds and ISO times`)
  .refine(([a, b]) => secondsOf(b) > secondsOf(a), msg`must end after it begins`);
const pin = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('tray-first'), tray: z.string() }),
  z.strictObject({ kind: z.literal('not-before'), tray: z.string(), at: time }),
  z.strictObject({
    kind: z.literal('stay'),
    tray: z.string(),
    round: wholeIn(1, 40),
    where: z.enum(['fan', 'dehydrator']),
    minutes: numberIn(1, 240, msg`minutes`),
  }),
  z
    .strictObject({
      kind: z.literal('away'),
      from: time,
      to: time,
      label: z.custom<string>((v) => typeof v === 'string' && v.length <= 60, msg`must be a few words`).default('away'),
      who: z.string().nullish(),
    })
    .refine((p) => secondsOf(p.to) > secondsOf(p.from), msg`must end after it begins`),
]);
const times = numberIn(...TAKES, msg`times the seconds`);
const factor = z.strictObject({ mean: numberIn(...BELIEVABLE.mean), sigma: numberIn(...BELIEVABLE.sigma) });

const orderJson = z.strictObject({
  format: z.literal('kestfog-order/3'),
  name: z.unknown().optional(),
  note: z.unknown().optional(),
  epoch: time.refine(isIso, msg`must be an ISO time`).optional(),
  designs: some(design),
  trays: some(tray),
  handGapMm: numberIn(0, 60, msg`mm`).default(HAND_GAP_MM),
  openingHours: some(opening),
  air: z
    .strictObject({
      tempC: numberIn(5, 45, '°C').default(22),
      humidityPct: numberIn(1, 100, '%').default(50),
      airMPerS: numberIn(0, 5, 'm/s').default(0.1),
    })
    .default({ tempC: 22, humidityPct: 50, airMPerS: 0.1 }),
  fan: z.strictObject({ places: wholeIn(1, 20).default(1), airMPerS: numberIn(0.1, 5, 'm/s').default(1) }).nullish(),
  dehydrator: z
    .strictObject({
      places: wholeIn(1, 20).default(1),
      tempC: numberIn(20, 80, '°C').default(35),
      airMPerS: numberIn(0.1, 5, 'm/s').default(DEHYDRATOR_AIR_M_PER_S),
    })
    .nullish(),
  decorators: z
    .array(
      z.strictObject({
        id: named(msg`be a name`),
        pace: numberIn(0.3, 3, msg`times the assumed pace`).default(1),
        takes: z
          .strictObject(Object.fromEntries(paceKinds.map((k) => [k, times.optional()])) as Record<PaceKind, z.ZodOptional<typeof times>>)
          .optional(),
      }),
    )
    .refine((l) => l.length >= 1 && l.length <= MOST_DECORATORS, msg`must be a list of one to ${MOST_DECORATORS}`)
    .nullish(),
  openBags: wholeIn(1, 60).nullish(),
  pins: z.array(pin).max(60).nullish(),
  school: z.unknown().optional(),
  margin: z.enum(margins).nullish(),
  packBy: time.nullish(),
  piecesFrom: time.nullish(),
  bags: z.array(z.strictObject({ colour, seconds: numberIn(1.5, 120, 'seconds'), countedS: numberIn(1.5, 120, 'seconds') })).default([]),
  merges: z.array(z.strictObject({ from: colour, to: colour })).default([]),
  tips: tipsJson.default([...USUAL_TIPS]),
  factors: z
    .strictObject(Object.fromEntries(dryingStates.map((s) => [s, factor.optional()])) as Record<DryingState, z.ZodOptional<typeof factor>>)
    .default({}),
});

/**
 * `kestfog-order` as it is written: times as they were given, what was left out filled in. Version 2 adds the kitchen's tips and
 * stays pinned by hand; version 3 calls opening hours and a dehydrator by these names. Orders of before mean what they meant.
 */
export const orderFormat: FormatDefinition<z.infer<typeof orderJson>> = {
  name: 'kestfog-order',
  version: 3,
  // Version 1 was planned at the normal margin where it named none, whatever its school said.
  migrations: { 1: (json) => ({ ...json, margin: json['margin'] ?? 'normal' }), 2: orderInFullNames },
  schema: orderJson,
};

/** `bench` and `box` as opening hours and dehydrator: in an order, as it was written or completed. */
export function orderInFullNames({ bench, box, ...rest }: Json): Json {
  const pins = rest['pins'];
  return {
    ...rest,
    openingHours: bench,
    ...(box === undefined ? {} : { dehydrator: box }),
    ...(Array.isArray(pins) ? { pins: pins.map((p: unknown) => placeInFull(p)) } : {}),
  };
}

/** `where` of a stay, a pin or a tray that was carried. */
export const placeInFull = <T>(x: T): T =>
  typeof x === 'object' && x !== null && 'where' in x && x.where === 'box' ? { ...x, where: 'dehydrator' } : x;

const bad = (place: string, cure: string): never => {
  throw new BadInput('format', `${place}: ${cure}.`, { place });
};

/** Checks and completes JSON of `kestfog-order/3`; throws {@link BadInput} that names the place. Times become seconds since the epoch. */
export function parseOrder(json: unknown): OrderFile {
  const o = openFormat(orderFormat, json);
  twice(o.trays, msg`trays`);
  if (o.decorators) twice(o.decorators, msg`decorators`);
  const iso = o.openingHours.some(([from]) => isIso(from));
  const unsorted = o.openingHours.map(([from, to], i): [number, number] => [
    likeHours(from, `openingHours[${i}][0]`),
    likeHours(to, `openingHours[${i}][1]`),
  ]);
  const zeroS = iso ? (o.epoch ? secondsOf(o.epoch) : Math.min(...unsorted.map(([from]) => from))) : 0;
  const at = (t: number | string, place: string) => likeHours(t, place) - zeroS;
  const dueAt = (t: number | string | null | undefined, place: string) => (t === undefined || t === null ? null : at(t, place));
  const openingHours = unsorted.map(([from, to]): [number, number] => [from - zeroS, to - zeroS]).sort((a, b) => a[0] - b[0]);
  openingHours.forEach((b, i) => {
    const next = openingHours[i + 1];
    if (next && next[0] < b[1]) bad(`openingHours[${i + 1}]`, msg`overlaps the opening before it`);
  });
  if ((openingHours[0] as [number, number])[0] < 0) bad('openingHours[0]', msg`begins before the epoch`);
  o.merges.forEach((m, i) => {
    if (o.merges.some((x) => x.from === m.to)) bad(`merges[${i}].to`, msg`"${m.to}" is itself merged into another colour`);
  });
  const decorators = o.decorators ?? ONE_PAIR;
  const pins = (o.pins ?? []).map((p, i): Pin => {
    const place = `pins[${i}]`;
    if (p.kind === 'away') {
      const who = p.who ?? null;
      if (who !== null && !decorators.some((d) => d.id === who))
        bad(`${place}.who`, msg`names nobody at this bench: ${JSON.stringify(who)}`);
      return { kind: 'away', from: at(p.from, `${place}.from`), to: at(p.to, `${place}.to`), label: p.label, who };
    }
    if (!o.trays.some((t) => t.id === p.tray)) bad(`${place}.tray`, msg`names no tray of this order: ${JSON.stringify(p.tray)}`);
    if (p.kind === 'stay') {
      if (!o[p.where])
        bad(`${place}.where`, p.where === 'fan' ? msg`there is no fan in this order` : msg`there is no dehydrator in this order`);
      return p;
    }
    return p.kind === 'not-before'
      ? { kind: 'not-before', tray: p.tray, at: at(p.at, `${place}.at`) }
      : { kind: 'tray-first', tray: p.tray };
  });
  const epoch = iso
    ? new Date(zeroS * 1000).toISOString()
    : o.epoch === undefined
      ? undefined
      : new Date(secondsOf(o.epoch) * 1000).toISOString();
  const school = parseSchool(o.school ?? 'two-bags');
  return {
    format: 'kestfog-order/3',
    ...(typeof o.name === 'string' ? { name: o.name } : {}),
    ...(epoch ? { epoch } : {}),
    designs: o.designs.map(
      (d, i): OrderDesign => ({
        file: d.file,
        count: d.count,
        spares: d.spares,
        for: d.for ?? null,
        packBy: dueAt(d.packBy, `designs[${i}].packBy`),
        pieces: d.pieces,
      }),
    ),
    trays: o.trays.map(
      (t): OrderTray =>
        t.places !== undefined ? { id: t.id, places: t.places } : { id: t.id, widthMm: t.widthMm as number, depthMm: t.depthMm as number },
    ),
    handGapMm: o.handGapMm,
    openingHours,
    air: o.air,
    fan: o.fan ?? null,
    dehydrator: o.dehydrator ?? null,
    decorators,
    openBags: o.openBags ?? null,
    pins,
    school,
    margin: o.margin ?? school.margin,
    packBy: dueAt(o.packBy, 'packBy'),
    piecesFrom: dueAt(o.piecesFrom, 'piecesFrom'),
    bags: o.bags,
    merges: o.merges,
    tips: o.tips,
    factors: Object.fromEntries(dryingStates.map((s) => [s, o.factors[s] ?? PRIOR_FACTORS[s]])) as Factors,
  };

  function likeHours(t: number | string, place: string): number {
    if (isIso(t) !== iso) bad(place, msg`must be given like the opening hours: all ISO times or all seconds`);
    return secondsOf(t);
  }
}

function twice(list: readonly { readonly id: string }[], place: string): void {
  list.forEach((t, i) => {
    if (list.findIndex((o) => o.id === t.id) !== i) bad(`${place}[${i}].id`, msg`"${t.id}" is there twice`);
  });
}

/** A pin with its times `byS` later. */
export const movedPin = (p: Pin, byS: number): Pin =>
  p.kind === 'away' ? { ...p, from: p.from + byS, to: p.to + byS } : p.kind === 'not-before' ? { ...p, at: p.at + byS } : p;

/** Cookies decorated of a design: those due and the spares. */
export const cookiesMade = (d: Pick<OrderDesign, 'count' | 'spares'>): number => d.count + d.spares;
