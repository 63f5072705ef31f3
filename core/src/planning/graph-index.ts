import type { SectionFacts, StepGraph } from '../steps/derive.js';
import type { Step } from '../steps/step.js';

/** The steps of one cookie, looked up instead of searched for. */
export interface GraphIndex {
  readonly step: (id: string) => Step | undefined;
  /** the flood of a section */
  readonly floodOf: (sectionId: string) => Step | undefined;
  /** the detail a part is piped in */
  readonly detailOf: (partId: string) => Step | undefined;
  /** wet work in a section or a bead, in order */
  readonly marksIn: (bodyId: string) => readonly Step[];
  readonly factsOf: (sectionId: string) => SectionFacts | undefined;
}

const known = new WeakMap<StepGraph, GraphIndex>();

/** Made once for each graph: a cookie of three hundred parts asks for each of them hundreds of times. */
export function graphIndex(graph: StepGraph): GraphIndex {
  const found = known.get(graph);
  if (found) return found;
  const steps = new Map<string, Step>();
  const floods = new Map<string, Step>();
  const details = new Map<string, Step>();
  const marks = new Map<string, Step[]>();
  for (const s of graph.steps) {
    if (!steps.has(s.id)) steps.set(s.id, s);
    if (s.kind === 'flood' && !floods.has(s.part)) floods.set(s.part, s);
    if (s.kind === 'detail') for (const part of s.parts) if (!details.has(part)) details.set(part, s);
    if (s.kind === 'mark' && s.sectionId !== null) marks.set(s.sectionId, [...(marks.get(s.sectionId) ?? []), s]);
  }
  const facts = new Map(graph.sections.map((s) => [s.id, s]));
  const made: GraphIndex = {
    step: (id) => steps.get(id),
    floodOf: (id) => floods.get(id),
    detailOf: (id) => details.get(id),
    marksIn: (id) => marks.get(id) ?? [],
    factsOf: (id) => facts.get(id),
  };
  known.set(graph, made);
  return made;
}
