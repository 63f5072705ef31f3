import type { Air } from '../drying/air.js';
import { type Factors, type Margin } from '../drying/uncertainty.js';
import { type BagAmount, bagAmounts } from '../steps/bag-amounts.js';
import type { StepGraph } from '../steps/derive.js';
import { type Gap } from '../steps/step.js';
import { graphIndex } from './graph-index.js';
import { waitS } from './timed-gap.js';

/** What a cookie of this design takes, at the margin. */
export interface DesignTotals {
  readonly rounds: number;
  readonly handsOnS: number;
  /** longest chain of drying and work of one cookie, hands always free; null where something never dries */
  readonly throughS: number | null;
  readonly bags: readonly BagAmount[];
}

export function designTotals(graph: StepGraph, air: Air, margin: Margin, factors?: Factors): DesignTotals {
  return {
    rounds: graph.rounds,
    handsOnS: graph.steps.reduce((s, x) => s + x.seconds, 0),
    throughS: longestChain(graph, air, margin, factors),
    bags: bagAmounts(graph, 1),
  };
}

/** Longest chain from preparing to packing one cookie, seconds; null where some wait never ends. */
function longestChain(graph: StepGraph, air: Air, margin: Margin, factors?: Factors): number | null {
  const end = new Map(graph.steps.map((s) => [s.id, s.seconds]));
  const waits = new Map<Gap, number>();
  for (const gap of graph.gaps) {
    const minS = waitS(gap, air, margin, factors);
    if (minS === null) return null;
    waits.set(gap, minS);
  }
  for (let pass = 0, changed = true; changed && pass <= graph.steps.length; pass++) {
    changed = false;
    for (const gap of graph.gaps) {
      const to = graphIndex(graph).step(gap.to);
      const at = (end.get(gap.from) ?? 0) + (waits.get(gap) ?? 0) + (to?.seconds ?? 0);
      if (at > (end.get(gap.to) ?? 0) + 1e-9) {
        end.set(gap.to, at);
        changed = true;
      }
    }
  }
  return Math.max(0, ...end.values());
}
