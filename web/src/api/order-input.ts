import { canonicalText } from '@kestfog/core/units';
import type { OrderInput, OrderView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { outbox, waitingBody } from '../outbox/index.js';

/** What can be changed of an order, as the server takes it: its own designs, not its guests'. */
export const inputOfView = (o: OrderView): OrderInput => ({
  name: o.name,
  designs: o.designs.flatMap((d) => (d.guestOf ? [] : [{ designId: d.designId, count: d.count, spares: d.spares, version: d.version }])),
  trays: o.trays,
  handGapMm: o.handGapMm,
  openingHours: o.openingHours,
  air: o.air,
  fan: o.fan,
  dehydrator: o.dehydrator,
  decorators: o.decorators,
  openBags: o.openBags,
  pins: o.pins,
  notes: o.notes,
  hostId: o.hostId,
  transfersForId: o.transfersForId,
  school: o.school,
  margin: o.margin,
  packBy: o.packBy,
  merges: o.merges,
});

/** A change of an order: what it shall be, and which revision it goes on from, so that nobody else's change is overwritten. */
export type OrderChange = OrderInput & { readonly basedOn?: number };
/** The name under which changes of an order wait. */
export const orderName = (id: string): string => msg`order ${id}`;
/** The order as it is to be gone on from: with changes that wait on this device. */
export const changeOf = (o: OrderView): OrderChange =>
  waitingBody<OrderChange>(outbox.all(), orderName(o.id)) ?? { ...inputOfView(o), basedOn: o.revision };

const FIELD_WORDS: Partial<Record<keyof OrderInput, string>> = {
  name: msg`its name`,
  designs: msg`designs and counts`,
  trays: msg`trays`,
  handGapMm: msg`the room between cookies`,
  openingHours: msg`the opening hours`,
  air: msg`the air`,
  fan: msg`the fan`,
  dehydrator: msg`the dehydrator`,
  decorators: msg`who decorates`,
  openBags: msg`bags that may lie open`,
  pins: msg`what you insist on`,
  notes: msg`notes`,
  hostId: msg`whose bench`,
  transfersForId: msg`what its pieces are for`,
  school: msg`the school`,
  margin: msg`the margin`,
  packBy: msg`when it is packed`,
  merges: msg`colours that share a bag`,
};
/** A text that is the same where the same is meant: one moment can be written in several ways. */
const asMeant = (x: unknown): string =>
  canonicalText(x ?? null).replace(/"\d{4}-\d\d-\d\dT[^"]*"/g, (moment) => String(Date.parse(moment.slice(1, -1))));
/** Where two of an order differ: the fields, with their names in words. */
export function changedFields(mine: OrderInput, theirs: OrderView): { readonly key: keyof OrderInput; readonly what: string }[] {
  const now = inputOfView(theirs);
  const text = (x: OrderInput, key: keyof OrderInput) =>
    asMeant(key === 'designs' ? x.designs.map((d) => [d.designId, d.count, d.spares]) : x[key]);
  return (Object.keys(FIELD_WORDS) as (keyof OrderInput)[]).flatMap((key) =>
    text(mine, key) === text(now, key) ? [] : [{ key, what: FIELD_WORDS[key] as string }],
  );
}
