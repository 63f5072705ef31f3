import type { DryingState } from '../drying/state.js';
import { BadInput } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import type { Item } from './items.js';
import type { Answer } from './law.js';
import type { AskId, RuleId } from './why.js';

/** `b` comes after `a`, and what it asks of it. */
export interface Edge {
  readonly a: Item;
  readonly b: Item;
  readonly answer: Answer;
  readonly rule: RuleId;
  /** b lies on a: its own words speak of this one */
  readonly on: boolean;
  /** two floods that touch */
  readonly touching: boolean;
  /** said by hand, and by whom where it was said of a part */
  readonly said?: string;
}

/** A growing set of edges, asked again and again what comes after what. */
export class Edges {
  list: Edge[] = [];
  private outOf = new Map<Item, Edge[]>();

  push(edge: Edge): void {
    this.list.push(edge);
    this.outOf.set(edge.a, [...(this.outOf.get(edge.a) ?? []), edge]);
  }
  /** Takes away whatever is ordered between two items directly. */
  part(x: Item, y: Item): void {
    const between = (e: Edge) => (e.a === x && e.b === y) || (e.a === y && e.b === x);
    this.list = this.list.filter((e) => !between(e));
    for (const v of [x, y])
      this.outOf.set(
        v,
        (this.outOf.get(v) ?? []).filter((e) => !between(e)),
      );
  }
  from(a: Item): readonly Edge[] {
    return this.outOf.get(a) ?? [];
  }
  between(x: Item, y: Item): readonly Edge[] {
    return [...this.from(x).filter((e) => e.b === y), ...this.from(y).filter((e) => e.b === x)];
  }
  /** Whether y comes after x, directly or through others; `but` leaves out the edge that joins the two. */
  isAfter(x: Item, y: Item, but = false): boolean {
    const seen = new Set([x]);
    for (const v of seen)
      for (const e of this.from(v)) {
        if (but && e.a === x && e.b === y) continue;
        if (e.b === y) return true;
        seen.add(e.b);
      }
    return false;
  }
}

/** The state an answer asks for, where it asks for one. */
export const stateOf = (answer: Answer): DryingState | undefined => (answer.kind === 'state' ? answer.state : undefined);

/** One of two orders that contradict each other. */
export interface RefusedOrder {
  readonly earlier: string;
  readonly later: string;
  readonly ask: AskId;
  readonly state: DryingState | undefined;
}

/** Orders that run in a circle are refused by naming two that contradict each other. */
export function refuseCycles(edges: readonly Edge[], items: readonly Item[]): void {
  const state = new Map<Item, 'open' | 'done'>();
  const way: Edge[] = [];
  const out = new Map<Item, Edge[]>();
  for (const e of edges) out.set(e.a, [...(out.get(e.a) ?? []), e]);
  const walk = (v: Item): Edge[] | null => {
    state.set(v, 'open');
    for (const e of out.get(v) ?? []) {
      if (state.get(e.b) === 'open')
        return [...way.slice(way.findIndex((x) => x.a === e.b) < 0 ? way.length : way.findIndex((x) => x.a === e.b)), e];
      if (state.get(e.b) === 'done') continue;
      way.push(e);
      const found = walk(e.b);
      if (found) return found;
      way.pop();
    }
    state.set(v, 'done');
    return null;
  };
  for (const i of items) {
    if (state.has(i)) continue;
    const circle = walk(i);
    if (!circle) continue;
    const said = circle.find((e) => e.said) ?? (circle[0] as Edge);
    const other = circle.find((e) => e !== said && e.said) ?? circle.find((e) => e !== said) ?? said;
    const asked = (e: Edge) => msg`"${e.b.name}" comes after "${e.a.name}"`;
    throw new BadInput(
      'order-cycle',
      msg`${asked(said)} and ${asked(other)}, which contradict each other: take one of these orders back.`,
      {
        first: said.a.id,
        next: said.b.id,
        orders: [said, other].map(
          (e): RefusedOrder => ({ earlier: e.a.name, later: e.b.name, ask: e.answer.ask, state: stateOf(e.answer) }),
        ),
      },
    );
  }
}
