import type { OrderView } from '@kestfog/core/wire';

/** Orders whose bench another could share: not begun, with a bench of their own. An order that has guests stays host. */
export function possibleHosts(orders: readonly OrderView[], ofId: string | null): OrderView[] {
  if (ofId !== null && orders.some((o) => o.hostId === ofId)) return [];
  return orders.filter((o) => o.id !== ofId && o.hostId === null && !o.run);
}
