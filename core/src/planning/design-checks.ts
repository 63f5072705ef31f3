import { type Design } from '../design/design.js';
import type { StepGraph } from '../steps/derive.js';
import { courseAlone } from './course.js';
import { courseChecks } from './course-checks.js';
import type { CheckInput, DesignCheck } from './design-check.js';
import { drawnChecks } from './drawn-checks.js';

const RANK = { likely: 0, watch: 1, low: 2 } as const;

/** What may go wrong on this design, made like this: the worst of its cookies, worst first. */
export function checkDesign(design: Design, graph: StepGraph, input: CheckInput): DesignCheck[] {
  return assessDesign(design, graph, input)
    .filter((c) => c.word !== 'low')
    .sort((a, b) => RANK[a.word] - RANK[b.word]);
}

/** Every risk there is, the low ones too: the worst of all cookies for each kind and part. */
export function assessDesign(design: Design, graph: StepGraph, input: CheckInput): DesignCheck[] {
  const courses = input.courses?.length ? input.courses : [courseAlone(graph, input)];
  const all = [...drawnChecks(design, graph, input), ...courses.flatMap((c) => courseChecks(design, graph, input, c))];
  const worst = new Map<string, DesignCheck>();
  for (const c of all) {
    const key = `${c.kind} ${c.part}`;
    const known = worst.get(key);
    if (!known || c.risk > known.risk) worst.set(key, c);
  }
  return [...worst.values()];
}
