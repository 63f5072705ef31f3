import type { PaceOf } from '@kestfog/core/calibration';
import type { Factors } from '@kestfog/core/drying';
import type { Decorator } from '@kestfog/core/formats';
import type { School, Tip } from '@kestfog/core/steps';
import { canonicalText } from '@kestfog/core/units';
import type { BagRecord, OrderInput } from '@kestfog/core/wire';
import type { OrderEntity } from './order.entity.js';

/** A design of an order file, named by its drawing; guests' with whose it is. */
export interface FileDesign {
  readonly file: string;
  readonly count: number;
  readonly spares: number;
  readonly for?: string;
  readonly packBy?: string;
  readonly pieces?: boolean;
}
/** What a plan is made with beside the order itself. */
export interface FileMore {
  readonly factors?: Factors;
  readonly tips?: readonly Tip[];
  readonly piecesFrom?: string | null;
  readonly paces?: ReadonlyMap<string, PaceOf>;
}

/** An order in the open format, as it is read back by it. */
export function orderFile(
  input: Omit<OrderInput, 'designs'>,
  designs: readonly FileDesign[],
  school: School,
  bags: readonly BagRecord[] = [],
  { paces, ...more }: FileMore = {},
): unknown {
  // What is not there, or no time, is left as it is: the format says so by its place.
  const iso = (time: string | undefined) => (time !== undefined && Number.isFinite(Date.parse(time)) ? new Date(time).toISOString() : time);
  const pins = input.pins.map((p) =>
    p.kind === 'away' ? { ...p, from: iso(p.from), to: iso(p.to) } : p.kind === 'not-before' ? { ...p, at: iso(p.at) } : p,
  );
  const file = {
    format: 'kestfog-order/3',
    name: input.name,
    designs: designs.map((d) => ({
      file: d.file,
      count: d.count,
      spares: d.spares,
      for: d.for,
      packBy: d.packBy && iso(d.packBy),
      pieces: d.pieces,
    })),
    trays: input.trays,
    handGapMm: input.handGapMm,
    openingHours: input.openingHours.map((b) => [iso(b.from), iso(b.to)]),
    air: input.air,
    fan: input.fan,
    dehydrator: input.dehydrator,
    decorators: input.decorators.map((d) => ({ ...d, ...takesOf(paces?.get(d.id)) })),
    openBags: input.openBags,
    pins,
    school,
    margin: input.margin,
    packBy: iso(input.packBy),
    bags: bags.filter((b) => b.countedS !== null).map((b) => ({ colour: b.colour, seconds: b.seconds, countedS: b.countedS })),
    merges: input.merges,
    ...more,
  };
  // What was left out of a request is there as undefined; in a file it is not there.
  return JSON.parse(JSON.stringify(file));
}

/** What was learned of somebody's motions, where it is worth a word: within 3 % of the assumed seconds it is left at those. */
function takesOf(pace: PaceOf | undefined): Pick<Decorator, 'takes'> {
  const own = Object.entries(pace ?? {}).flatMap(([kind, p]) =>
    p.visits > 0 && Math.abs(Math.log(p.takes)) > 0.03 ? [[kind, Math.round(p.takes * 1000) / 1000]] : [],
  );
  return own.length === 0 ? {} : { takes: Object.fromEntries(own) };
}

/** An order as it was sent. */
export const inputOf = (o: OrderEntity): OrderInput => ({
  name: o.name,
  designs: [...o.designs]
    .sort((a, b) => a.position - b.position)
    .map((d) => ({ designId: d.designId, count: d.count, spares: d.spares, version: d.version })),
  trays: o.trays,
  openingHours: o.openingHours,
  air: o.air,
  fan: o.fan,
  dehydrator: o.dehydrator,
  handGapMm: o.handGapMm,
  decorators: o.decorators,
  openBags: o.openBags,
  pins: o.pins,
  notes: o.notes,
  hostId: o.hostId,
  transfersForId: o.transfersForId,
  school: o.school,
  margin: o.margin,
  packBy: o.packBy.toISOString(),
  merges: o.merges,
});

/** Whether an order is as it is wished already; a version that is left out is whichever it has. */
export function isSameOrder(order: OrderEntity, input: OrderInput): boolean {
  const kept = inputOf(order);
  const asText = (o: OrderInput) =>
    canonicalText({
      ...o,
      packBy: Date.parse(o.packBy),
      designs: o.designs.map((d, i) => [d.designId, d.count, d.spares, d.version ?? kept.designs[i]?.version]),
    });
  return asText({ ...kept, ...input }) === asText(kept);
}
