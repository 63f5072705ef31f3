import type { OrderInput, OrderView } from '@kestfog/core';

/** What can be changed of an order, as the server takes it. */
export const inputOfView = (o: OrderView): OrderInput => ({
  name: o.name,
  designs: o.designs.map((d) => ({ designId: d.designId, count: d.count, version: d.version })),
  trays: o.trays,
  bench: o.bench,
  air: o.air,
  fan: o.fan,
  school: o.school,
  margin: o.margin,
  packBy: o.packBy,
  merges: o.merges,
});
