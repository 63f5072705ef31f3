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
  const keyOf = (v: BagUse, bag: Bag) => JSON.stringify([v.by, bagKey(bag)]);
  const out = new Map<string, BagChange>();
  const bags = new Map<string, Bag>();
  const open = new Set<string>();
  inOrder.forEach((visit, i) => {
    const needed = visit.bags.map((b) => keyOf(visit, b));
    for (const b of visit.bags) bags.set(keyOf(visit, b), b);
    const opens = visit.prepares ? [] : needed.filter((key) => !open.has(key));
    for (const key of needed) open.add(key);
    const inHand = new Set(
      inOrder.slice(0, i + 1).flatMap((v) => (v.endS > visit.startS && !v.prepares ? v.bags.map((b) => keyOf(v, b)) : [])),
    );
    const nextUse = (key: string) => inOrder.findIndex((v, j) => j > i && !v.prepares && v.bags.some((b) => keyOf(v, b) === key));
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
