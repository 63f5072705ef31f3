import type { Design } from '@kestfog/core/design';
import { checkDesign, type DesignCheck, type DesignTotals, designTotals, type SequencedStep, stepSequence } from '@kestfog/core/planning';
import type { School, StepGraph } from '@kestfog/core/steps';
import { useDeferredValue, useEffect, useMemo, useRef } from 'react';
import type { KitchenNow } from '../../api/use-making.js';
import { type StackRow, stackRows } from './parts.js';
import { stepsOrBefore } from './steps-of.js';

export interface Worked {
  /** what all that follows speaks of: the design of a moment ago, until what follows from the newest is worked out */
  readonly later: { readonly design: Design; readonly graph: StepGraph; readonly school: School };
  readonly sequence: readonly SequencedStep[];
  readonly rows: readonly StackRow[];
  readonly totals: DesignTotals;
  readonly checks: readonly DesignCheck[];
}

/** What comes of a design. What was done to it is painted first; its order, waits and checks come a moment later. */
export function useWorked(design: Design, school: School, { air, airAt, factors, tips }: KitchenNow): Worked {
  const soon = useDeferredValue(useMemo(() => ({ design, school }), [design, school]));
  const before = useRef<StepGraph | null>(null);
  const later = useMemo(() => ({ ...soon, graph: stepsOrBefore(soon.design, soon.school, tips, before.current) }), [soon, tips]);
  const { graph } = later;
  useEffect(() => {
    before.current = graph;
  }, [graph]);
  const { margin } = later.school;
  const sequence = useMemo(() => stepSequence(later.graph, air, margin, factors), [later, air, margin, factors]);
  const rows = useMemo(() => stackRows(later.design, sequence), [later, sequence]);
  const totals = useMemo(() => designTotals(later.graph, air, margin, factors), [later, air, margin, factors]);
  const checks = useMemo(
    () => checkDesign(later.design, later.graph, { school: later.school, air, airAt, margin, factors, tips }),
    [later, air, airAt, margin, factors, tips],
  );
  return { later, sequence, rows, totals, checks };
}
