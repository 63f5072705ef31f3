import { canonicalText } from '@kestfog/core/units';
import type { Kitchen, OrderAir, UsualBench } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { BENCH_WORDS, FIRST_BENCH, orderFanMPerS } from '../orders/order-draft.js';

/** What a kitchen gives an order to begin with. */
export type FromKitchen = UsualBench & { readonly air: OrderAir };

/** One thing of it that can be taken over by itself: how many trays a fan dries is another than how hard it blows. */
interface Part {
  readonly words: string;
  readonly of: (x: FromKitchen) => unknown;
  /** the field it is in, as an order has it with that one thing taken over */
  readonly onto: (order: FromKitchen, after: FromKitchen) => Partial<FromKitchen>;
}
const whole = <K extends keyof FromKitchen>(key: K, words: string): Part => ({
  words,
  of: (x) => x[key],
  onto: (_, after) => ({ [key]: after[key] }),
});
const PARTS = {
  trays: whole('trays', BENCH_WORDS.trays),
  handGapMm: whole('handGapMm', BENCH_WORDS.handGapMm),
  fanPlaces: {
    words: msg`trays before the fan`,
    of: (x) => x.fan?.places,
    onto: (order, after) => ({ fan: after.fan && { ...after.fan, ...order.fan, places: after.fan.places } }),
  },
  fanMPerS: {
    words: msg`how hard the fan blows`,
    of: (x) => x.fan?.airMPerS,
    onto: (order, after) => ({ fan: order.fan && after.fan && { ...order.fan, airMPerS: after.fan.airMPerS } }),
  },
  dehydratorPlaces: {
    words: msg`trays in the dehydrator`,
    of: (x) => x.dehydrator?.places,
    onto: (order, after) => ({
      dehydrator: after.dehydrator && { ...after.dehydrator, ...order.dehydrator, places: after.dehydrator.places },
    }),
  },
  dehydratorAir: {
    words: msg`how the dehydrator is set`,
    of: (x) => x.dehydrator && [x.dehydrator.tempC, x.dehydrator.airMPerS],
    onto: (order, after) => ({
      dehydrator: order.dehydrator && after.dehydrator && { ...after.dehydrator, places: order.dehydrator.places },
    }),
  },
  decorators: whole('decorators', BENCH_WORDS.decorators),
  openBags: whole('openBags', BENCH_WORDS.openBags),
  school: whole('school', BENCH_WORDS.school),
  margin: whole('margin', BENCH_WORDS.margin),
  air: whole('air', 'air'),
} as const satisfies Record<string, Part>;
export type TakenPart = keyof typeof PARTS;

const same = (a: FromKitchen, b: FromKitchen, part: TakenPart) =>
  canonicalText(PARTS[part].of(a) ?? null) === canonicalText(PARTS[part].of(b) ?? null);

/**
 * What of a kitchen's change an order could take over: what changed, and what the order still has as the kitchen had it. Where it was
 * made different on purpose, it stays.
 */
export function toTakeOver(order: FromKitchen, before: FromKitchen, after: FromKitchen): TakenPart[] {
  return (Object.keys(PARTS) as TakenPart[]).filter(
    (p) => !comesOrGoes(p, before, after) && !same(before, after, p) && same(order, before, p),
  );
}
/** A fan or dehydrator that comes or goes does so with the air it makes. */
const comesOrGoes = (p: TakenPart, before: FromKitchen, after: FromKitchen): boolean =>
  (p === 'fanMPerS' && !(before.fan && after.fan)) || (p === 'dehydratorAir' && !(before.dehydrator && after.dehydrator));

export const wordsOf = (parts: readonly TakenPart[]): string => parts.map((p) => PARTS[p].words).join(', ');
/** The fields of an order with those parts taken over. */
export function taken(order: FromKitchen, parts: readonly TakenPart[], after: FromKitchen): Partial<FromKitchen> {
  let fields: Partial<FromKitchen> = {};
  for (const p of parts) fields = { ...fields, ...PARTS[p].onto({ ...order, ...fields }, after) };
  return fields;
}

type DriesFaster = Pick<Kitchen, 'fan' | 'dehydrator'>;
/** The kitchen before and after another set-up of fan and dehydrator, both there: an order has them whether the usual bench does or not. */
export function setUpChange(
  { usual, air }: Pick<Kitchen, 'usual' | 'air'>,
  before: DriesFaster,
  after: DriesFaster,
): { readonly before: FromKitchen; readonly after: FromKitchen } {
  const counting = (on: DriesFaster): FromKitchen => ({
    ...(usual ?? FIRST_BENCH),
    air,
    fan: { places: 1, airMPerS: orderFanMPerS(on) },
    dehydrator: { places: 1, ...on.dehydrator },
  });
  return { before: counting(before), after: counting(after) };
}
