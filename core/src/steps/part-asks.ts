import type { DryingState } from '../drying/state.js';
import type { StepGraph } from './derive.js';
import type { Gap } from './step.js';
import { type Why, whyOf } from './why.js';

/** What one part asks of another before it begins. */
export interface PartAsk extends Why {
  readonly of: string;
  readonly state?: DryingState;
  /** least seconds, where it is given in time or by order alone */
  readonly seconds?: number;
}

/** What a part asks of others: every gap that holds one of its steps back, listed once. */
export function asksOfPart(graph: StepGraph, part: string): PartAsk[] {
  const seen = new Set<string>();
  return gapsInto(graph, part).flatMap(({ gap, of }): PartAsk[] => {
    const ask: PartAsk = { of, ...(gap.minState ? { state: gap.minState } : { seconds: gap.minSeconds ?? 0 }), ...whyOf(gap) };
    const key = JSON.stringify(ask);
    if (seen.has(key)) return [];
    seen.add(key);
    return [ask];
  });
}

/** Gaps from other parts into the steps of a part, with the part each comes from. */
export function gapsInto(graph: StepGraph, part: string): { readonly gap: Gap; readonly of: string }[] {
  const byId = new Map(graph.steps.map((s) => [s.id, s]));
  return graph.gaps.flatMap((gap) => {
    const [from, to] = [byId.get(gap.from), byId.get(gap.to)];
    if (!from || !to?.parts.includes(part) || from.kind === 'prepare' || from.parts.includes(part)) return [];
    return [{ gap, of: from.part }];
  });
}
