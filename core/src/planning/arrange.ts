import { lotIdOf } from '../formats/ids.js';
import { cookiesMade, type OrderFile } from '../formats/order.js';
import type { ArrangementWay, Lot } from '../formats/plan.js';
import type { Shape } from '../geometry/shape.js';
import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import { TrayPacking } from './tray-packing.js';

/** Cookies of a design that a tray holds when it holds nothing else; both by index in the order. */
export type PlacesOf = (design: number, tray: number) => number;

interface Chunk {
  readonly design: number;
  readonly cookies: number;
}

/**
 * Puts the cookies on the trays, design after design and tray after tray. `labour` says how much work a cookie of each
 * design is. Laborious beside easy: each tray gets some of a laborious design and some of an easy one, so that the hands
 * have the one while the other dries. Throws {@link NoAnswer} where they do not fit.
 */
export function fillTrays(
  order: OrderFile,
  ids: readonly string[],
  outlines: readonly Shape[],
  placesOf: PlacesOf,
  way: ArrangementWay,
  labour: readonly number[],
): Lot[] {
  const lots: Lot[] = [];
  let tray = 0;
  /** cookies on the tray, and how they lie where it is given by its size */
  let on = 0;
  let packing = packingOf(order, tray);
  const nextTray = () => {
    tray += 1;
    on = 0;
    packing = packingOf(order, tray);
  };
  for (const group of groupsOf(order, way, labour)) {
    // A group that mixes designs begins a tray of its own; it would not be the mixture that was meant.
    if (group.length > 1 && on > 0) nextTray();
    for (const chunk of group) {
      for (let left = chunk.cookies; left > 0; ) {
        const t = order.trays[tray];
        if (!t) throw traysFull(order, placesOf);
        const at = packing?.lay(outlines[chunk.design] as Shape, left);
        const n = at ? at.length : Math.min(left, (t.places ?? 0) - on);
        if (n > 0) {
          const designId = ids[chunk.design] as string;
          const same = lots.find((l) => l.trayId === t.id && l.designId === designId);
          if (same)
            lots.splice(lots.indexOf(same), 1, { ...same, cookies: same.cookies + n, ...(at ? { at: [...(same.at ?? []), ...at] } : {}) });
          else lots.push({ id: lotIdOf(t.id, designId), trayId: t.id, designId, cookies: n, firstPlace: 0, ...(at ? { at } : {}) });
          on += n;
          left -= n;
        }
        if (left > 0) nextTray();
      }
    }
  }
  return numbered(lots);
}

/** Places counted out tray by tray, one lot after the other: no two cookies have the same. */
function numbered(lots: readonly Lot[]): Lot[] {
  const next = new Map<string, number>();
  return lots.map((l) => {
    const firstPlace = next.get(l.trayId) ?? 0;
    next.set(l.trayId, firstPlace + l.cookies);
    return { ...l, firstPlace };
  });
}

function packingOf(order: OrderFile, tray: number): TrayPacking | null {
  const t = order.trays[tray];
  return t && t.places === undefined ? new TrayPacking(t.widthMm, t.depthMm, order.handGapMm) : null;
}

function groupsOf(order: OrderFile, way: ArrangementWay, labour: readonly number[]): Chunk[][] {
  const all = order.designs.map((d, design): Chunk => ({ design, cookies: cookiesMade(d) }));
  if (way === 'as-listed') return all.map((c) => [c]);
  const work = (c: Chunk) => labour[c.design] as number;
  const sorted = [...all].sort((a, b) => work(b) - work(a));
  if (way === 'laborious-first') return sorted.map((c) => [c]);
  const out: Chunk[][] = [];
  // Of trays given by their size each design has its own number of places: there the first rule is alone.
  const mostPlaces = Math.max(...order.trays.map((t) => t.places ?? Number.POSITIVE_INFINITY));
  while (sorted.length > 1) {
    const [hard, easy] = [sorted.shift() as Chunk, sorted.pop() as Chunk];
    const cookies = hard.cookies + easy.cookies;
    // As many of each as there are trays for both; more, where both together need them.
    const trays = Math.max(1, Math.round(cookies / Math.max(hard.cookies, easy.cookies)), Math.ceil(cookies / mostPlaces));
    for (let k = 0; k < trays; k++) {
      const part = (c: Chunk): Chunk => ({
        ...c,
        cookies: Math.round(((k + 1) * c.cookies) / trays) - Math.round((k * c.cookies) / trays),
      });
      out.push([part(hard), part(easy)].filter((c) => c.cookies > 0));
    }
  }
  return [...out, ...sorted.map((c) => [c])];
}

function traysFull(order: OrderFile, placesOf: PlacesOf): NoAnswer {
  const cookies = order.designs.reduce((s, d) => s + cookiesMade(d), 0);
  const tooLarge = order.designs.find((_, d) => order.trays.every((_t, t) => placesOf(d, t) === 0));
  if (tooLarge) return new NoAnswer('tray-too-small', msg`${tooLarge.file} is larger than every tray: use a larger tray.`);
  const counted = order.trays.every((t) => t.places !== undefined);
  const places = order.trays.reduce((s, t) => s + (t.places ?? 0), 0);
  return new NoAnswer(
    'trays-full',
    counted
      ? msg`${cookies} cookies do not fit on ${traysText(order)} with ${places} places: add trays or take ${cookies - places} cookies off
        the order.`
      : msg`${cookies} cookies do not fit on ${traysText(order)} of that size: add trays, use larger ones, or take cookies off the order.`,
    { cookies, ...(counted ? { places } : {}) },
  );
}

const traysText = ({ trays }: OrderFile): string => (trays.length === 1 ? msg`one tray` : msg`${trays.length} trays`);

/** Which tray is whose: the most work first, each to who is done with theirs soonest. */
export function shareTrays(order: OrderFile, lots: readonly Lot[], workS: (lot: Lot) => number): ReadonlyMap<string, string> {
  const load = new Map(order.decorators.map((d) => [d.id, 0]));
  const byTray = new Map<string, number>();
  for (const l of lots) byTray.set(l.trayId, (byTray.get(l.trayId) ?? 0) + workS(l));
  const out = new Map<string, string>();
  for (const [tray, seconds] of [...byTray].sort((a, b) => b[1] - a[1])) {
    const doneS = (d: OrderFile['decorators'][number]) => (load.get(d.id) as number) + seconds / d.pace;
    const who = order.decorators.reduce((a, b) => (doneS(b) < doneS(a) ? b : a));
    load.set(who.id, doneS(who));
    out.set(tray, who.id);
  }
  return out;
}
