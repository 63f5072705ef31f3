import type { Design } from '@kestfog/core/design';
import { deriveSteps, type School, type StepGraph, type Tip } from '@kestfog/core/steps';

const known = new WeakMap<Design, { readonly school: School; readonly tips: readonly Tip[]; readonly graph: StepGraph }>();

/** The steps of a design, derived once in the same school with the same tips: an edit is checked by them and then shown by them. */
export function stepsOf(design: Design, school: School, tips: readonly Tip[]): StepGraph {
  const found = known.get(design);
  if (found && found.school === school && found.tips === tips) return found.graph;
  const graph = deriveSteps(design, school, { tips });
  known.set(design, { school, tips, graph });
  return graph;
}

/** The same, or what was known before where the design contradicts itself: it is about to be taken back. */
export function stepsOrBefore(design: Design, school: School, tips: readonly Tip[], before: StepGraph | null): StepGraph {
  try {
    return stepsOf(design, school, tips);
  } catch (error) {
    if (before) return before;
    throw error;
  }
}
