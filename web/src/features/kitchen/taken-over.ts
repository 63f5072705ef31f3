import { canonicalText } from '@kestfog/core/units';
import type { OrderAir, OrderInput, UsualBench } from '@kestfog/core/wire';
import { BENCH_WORDS } from '../orders/order-draft.js';

/** What a kitchen gives an order to begin with. */
export type FromKitchen = UsualBench & { readonly air: OrderAir };
type Field = keyof FromKitchen;

const WORDS: Readonly<Record<Field, string>> = { ...BENCH_WORDS, air: 'air' };
const same = (a: FromKitchen, b: FromKitchen, field: Field) => canonicalText(a[field] ?? null) === canonicalText(b[field] ?? null);

/**
 * What of a kitchen's change an order could take over: fields that changed, and that the order still has as the kitchen had them. Where
 * it was made different on purpose, it stays.
 */
export function toTakeOver(order: FromKitchen, before: FromKitchen, after: FromKitchen): Field[] {
  return (Object.keys(WORDS) as Field[]).filter((f) => !same(before, after, f) && same(order, before, f));
}
export const wordsOf = (fields: readonly Field[]): string => fields.map((f) => WORDS[f]).join(', ');
export const taken = (fields: readonly Field[], after: FromKitchen): Partial<OrderInput> =>
  Object.fromEntries(fields.map((f) => [f, after[f]]));
