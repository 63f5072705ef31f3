import type { StepGraph } from '../steps/derive.js';
import { labourOf } from './planning.js';

/** A design by its work on one cookie. */
export interface Worked {
  readonly id: string;
  readonly name: string;
  readonly graph: StepGraph;
}

/** A laborious design waits for its rounds; a plain one beside it keeps the hands busy meanwhile. */
export interface Pairing {
  readonly laborious: Worked;
  readonly plain: Worked;
  /** the plain one is part of the order already, or only among the designs there are */
  readonly ordered: boolean;
}

/** A design is laborious from three rounds of drying on, and plain with one: common practice, no published source. */
const LABORIOUS_ROUNDS = 3;
const PLAIN_ROUNDS = 1;

/** What the most laborious design of an order is paired with; null where none is laborious, or nothing is plain. */
export function pairingOf(ordered: readonly Worked[], others: readonly Worked[]): Pairing | null {
  const [laborious] = ordered.filter((d) => d.graph.rounds >= LABORIOUS_ROUNDS).sort((a, b) => labourOf(b.graph) - labourOf(a.graph));
  if (!laborious) return null;
  const plainest = (list: readonly Worked[]) =>
    list.filter((d) => d.graph.rounds <= PLAIN_ROUNDS && d.id !== laborious.id).sort((a, b) => labourOf(a.graph) - labourOf(b.graph))[0];
  const own = plainest(ordered);
  const plain = own ?? plainest(others.filter((d) => !ordered.some((o) => o.id === d.id)));
  return plain ? { laborious, plain, ordered: own !== undefined } : null;
}
