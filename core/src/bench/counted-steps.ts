import type { Design } from '../design/design.js';
import { deriveSteps, type StepGraph } from '../steps/derive.js';
import type { RunPlan } from './run-plan.js';

/** Derivations that were made of a drawing, the latest last. */
const derived = new WeakMap<Design, Map<string, StepGraph>>();
const DERIVED_KEPT = 32;

/** Steps with bags as they were counted: a log is folded again and again, and with every count its steps are the same as the last time. */
export function stepsAsCounted(drawing: Design, { school, tips }: RunPlan['order'], counted: ReadonlyMap<string, number>): StepGraph {
  const known = derived.get(drawing) ?? new Map<string, StepGraph>();
  derived.set(drawing, known);
  const key = JSON.stringify([school, tips, [...counted]]);
  const graph = known.get(key) ?? deriveSteps(drawing, school, { counted, tips });
  known.delete(key);
  known.set(key, graph);
  if (known.size > DERIVED_KEPT) known.delete(known.keys().next().value as string);
  return graph;
}
