import type { PlanTask } from '../formats/plan.js';
import { type PlanOf, planIndex } from '../formats/plan-index.js';
import type { StepGraph } from '../steps/derive.js';
import { type Bag, bagKey } from '../steps/step.js';

/** A visit, and the bags it takes up or, where it prepares a tray, opens and kneads. Seconds since the epoch. */
export interface BagUse {
  readonly id: string;
  readonly by: string;
  readonly bags: readonly Bag[];
  /** its bags are opened in any case, and are not in hand afterwards */
  readonly prepares: boolean;
  readonly startS: number;
  readonly endS: number;
}

/** What is done to the bags as a visit begins. */
export interface BagChange {
  /** closed since they were last used or never open yet, by these hands: they cost their opening */
  readonly opens: readonly Bag[];
  /** closed to make room, and needed again later */
  readonly putsAway: readonly Bag[];
}

/** Every bag of a design once. */
export const bagsOfGraph = (graph: StepGraph): Bag[] => [
  ...new Map(graph.steps.flatMap((s) => (s.bag ? [[bagKey(s.bag), s.bag] as const] : []))).values(),
];

/**
 * Which bags are opened anew and which are put away at each visit, where no more than `most` may lie open at once, whoever's they are.
 * A bag lies open from when it is opened until it is put away; to make room, the one that is needed last is: no other choice opens fewer
 * anew (Belady, *A study of replacement algorithms for a virtual-storage computer*, IBM Systems Journal 5 (1966), from memory). One that
 * is never needed again is done with and takes no room.
 */
export function bagChanges(visits: readonly BagUse[], most: number): Map<string, BagChange> {
  const inOrder = [...visits].filter((v) => v.bags.length > 0).sort((a, b) => a.startS - b.startS || a.endS - b.endS);
  const keysOf = inOrder.map((v) => v.bags.map((bag) => JSON.stringify([v.by, bagKey(bag)])));
  // The visits that use each bag, in their order.
  const usedAt = new Map<string, number[]>();
  const bags = new Map<string, Bag>();
  for (const [i, v] of inOrder.entries())
    for (const [b, key] of (keysOf[i] as string[]).entries()) {
      bags.set(key, v.bags[b] as Bag);
      if (v.prepares) continue;
      const at = usedAt.get(key) ?? [];
      usedAt.set(key, at);
      at.push(i);
    }
  const out = new Map<string, BagChange>();
  const open = new Set<string>();
  let working: number[] = [];
  inOrder.forEach((visit, i) => {
    const needed = keysOf[i] as string[];
    const opens = visit.prepares ? [] : needed.filter((key) => !open.has(key));
    for (const key of needed) open.add(key);
    working = [...working, ...(visit.prepares ? [] : [i])].filter((k) => (inOrder[k] as BagUse).endS > visit.startS);
    const inHand = new Set(working.flatMap((k) => keysOf[k] as string[]));
    const nextUse = (key: string) => usedAt.get(key)?.find((j) => j > i) ?? -1;
    const idle = [...open].filter((key) => !inHand.has(key)).map((key) => ({ key, next: nextUse(key) }));
    for (const { key } of idle.filter((x) => x.next < 0)) open.delete(key);
    const putsAway = idle
      .filter((x) => x.next >= 0)
      .sort((a, b) => b.next - a.next)
      .slice(0, Math.max(0, open.size - most));
    for (const { key } of putsAway) open.delete(key);
    const bagOf = (key: string) => bags.get(key) as Bag;
    if (opens.length > 0 || putsAway.length > 0)
      out.set(visit.id, { opens: opens.map(bagOf), putsAway: putsAway.map((x) => bagOf(x.key)) });
  });
  return out;
}

/** The bags of a plan's tasks; `startOf` tells when one really began. */
export function bagUsesOf<T extends PlanTask>(plan: PlanOf<T>, startOf: (task: T) => number = (t) => t.startS): BagUse[] {
  const index = planIndex(plan);
  return plan.tasks.map((t): BagUse => {
    const graph = t.kind === 'prepare' ? index.graphOf(t) : undefined;
    const startS = startOf(t);
    return {
      id: t.id,
      by: t.by,
      bags: graph ? bagsOfGraph(graph) : t.bags,
      prepares: t.kind === 'prepare',
      startS,
      endS: startS + t.endS - t.startS,
    };
  });
}
