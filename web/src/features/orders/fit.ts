import type { OrderFile } from '@kestfog/core/formats';
import type { OrderView, PinInput } from '@kestfog/core/wire';
import { changeOf, type OrderChange } from '../../api/order-input.js';

/** Whether a suggestion changes only what belongs to this order: a guest's counts are for its own page. */
export const isOwnChange = (order: OrderView, file: OrderFile): boolean =>
  order.designs.every((d, i) => !d.guestOf || file.designs[i]?.count === d.count);

/** Whether a suggestion has the bench open earlier than the order does, at a time that is past. */
export function beginsBefore(suggested: OrderFile, order: OrderFile, nowMs: number | null): boolean {
  const beginsMs = (o: OrderFile) => Date.parse(o.epoch ?? '') + (o.openingHours[0]?.[0] ?? 0) * 1000;
  return nowMs !== null && beginsMs(suggested) < nowMs && beginsMs(suggested) < beginsMs(order);
}

/** The order as the server takes it, changed as a suggestion in the open format says. */
export function inputFromFile(order: OrderView, file: OrderFile): OrderChange {
  const input = changeOf(order);
  const epochMs = Date.parse(file.epoch as string);
  const at = (s: number) => new Date(epochMs + s * 1000).toISOString();
  return {
    ...input,
    designs: input.designs.map((d, i) => ({ ...d, count: file.designs[i]?.count ?? d.count, spares: file.designs[i]?.spares ?? d.spares })),
    openingHours: file.openingHours.map(([from, to]) => ({ from: at(from), to: at(to) })),
    air: file.air,
    fan: file.fan,
    dehydrator: file.dehydrator,
    // What was learned of them besides is put in anew by whoever plans.
    decorators: file.decorators.map(({ id, pace }) => ({ id, pace })),
    margin: file.margin,
    pins: file.pins.map(
      (p): PinInput =>
        p.kind === 'away' ? { ...p, from: at(p.from), to: at(p.to) } : p.kind === 'not-before' ? { ...p, at: at(p.at) } : p,
    ),
  };
}
