import type { StepGraph } from '../steps/derive.js';
import { type Bag, bagKey, type Step } from '../steps/step.js';

/** Steps done in one go at the tray, cookie after cookie. */
export interface Bundle {
  readonly id: string;
  readonly kind: 'prepare' | 'outline' | 'wet' | 'detail' | 'pack';
  readonly round: number;
  readonly steps: readonly Step[];
  /** bags used, in the order they are picked up first */
  readonly bags: readonly Bag[];
  /** tasks of different family cost a changeover */
  readonly family: string | null;
}

/** Groups the steps of one cookie into bundles; the wet work of a section never leaves its flood. */
export function bundlesOf(graph: StepGraph, outlineSets: boolean): Bundle[] {
  const out: Bundle[] = [];
  const add = (id: string, kind: Bundle['kind'], round: number, steps: readonly Step[]) => {
    const bags: Bag[] = [];
    for (const s of steps) if (s.bag && !bags.some((b) => bagKey(b) === bagKey(s.bag as Bag))) bags.push(s.bag);
    const tool = steps.some((s) => s.technique === 'pen') ? 'pen' : null;
    out.push({ id, kind, round, steps, bags, family: bags.length > 0 ? bags.map(bagKey).join('+') : tool });
  };
  const of = (...techniques: Step['technique'][]) => graph.steps.filter((s) => techniques.includes(s.technique));
  add('prepare', 'prepare', 0, of('preparation'));
  if (outlineSets) {
    const bare = of('outline').filter((s) => graph.sections.find((f) => f.id === s.part)?.layerOn.length === 0);
    if (bare.length > 0)
      add(
        'outline',
        'outline',
        1,
        [...bare].sort((a, b) => (bagOf(a) < bagOf(b) ? -1 : 1)),
      );
    for (const s of of('outline').filter((o) => !bare.includes(o))) add(`outline.${s.part}`, 'outline', s.round, [s]);
  }
  const wet = new Map<string, Step[]>();
  for (const flood of of('flood')) {
    const key = `r${flood.round}${flood.batch > 1 ? `b${flood.batch}` : ''}.${bagOf(flood).replace('#', '')}`;
    const own = graph.steps.filter((s) => s.sectionId === flood.part && (s.technique !== 'outline' || !outlineSets));
    wet.set(key, [...(wet.get(key) ?? []), ...own]);
  }
  for (const [key, steps] of wet) add(key, 'wet', (steps[0] as Step).round, steps);
  for (const s of of('piped-line', 'pen')) add(s.id, 'detail', s.round, [s]);
  add('pack', 'pack', Math.max(0, ...graph.steps.map((s) => s.round)), of('pack'));
  return out;
}

const bagOf = (s: Step) => (s.bag ? bagKey(s.bag) : '');
