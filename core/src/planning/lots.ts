import type { OrderFile } from '../formats/order.js';
import type { Lot } from '../formats/plan.js';
import { NoAnswer } from '../units/bad-input.js';

/** Puts the cookies on the trays: design after design, tray after tray, so that few trays are mixed. */
export function fillTrays(order: OrderFile, designIds: readonly string[]): Lot[] {
  const cookies = order.designs.reduce((s, d) => s + d.count, 0);
  const places = order.trays.reduce((s, t) => s + t.places, 0);
  if (cookies > places) {
    throw new NoAnswer(
      'trays-full',
      `${cookies} cookies do not fit on ${order.trays.length} trays with ${places} places: add trays or take ${cookies - places} cookies off the order.`,
      { cookies, places },
    );
  }
  const lots: Lot[] = [];
  let tray = 0;
  let used = 0;
  for (const [i, d] of order.designs.entries()) {
    for (let left = d.count; left > 0; ) {
      const t = order.trays[tray] as { id: string; places: number };
      const n = Math.min(left, t.places - used);
      if (n > 0) {
        const designId = designIds[i] as string;
        lots.push({ id: `${t.id}.${designId}`, trayId: t.id, designId, cookies: n, firstPlace: used });
        used += n;
        left -= n;
      }
      if (used === t.places) {
        tray += 1;
        used = 0;
      }
    }
  }
  return lots;
}
