import type { OrderInput, OrderView } from '@kestfog/core/wire';

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
