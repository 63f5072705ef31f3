import { type Design, sectionsOf } from '../design/design.js';
import type { Air } from '../drying/air.js';
import { dryingRate, lossAfter } from '../drying/front.js';
import { type SurfaceState, stateAtLoss, stateThresholds } from '../drying/state.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { StepGraph } from '../steps/derive.js';
import { disturbs, type Gap, type Step } from '../steps/step.js';
import { type CookieLook, laidFloods } from './look.js';
import { waitS } from './timed-gap.js';

/** One step of a single cookie with the moment it ends, hands always free. */
export interface SequencedStep {
  readonly step: Step;
  readonly endS: number;
  /** the wait it had, and why; null where nothing held it */
  readonly waitedFor: { readonly gap: Gap; readonly seconds: number } | null;
}

/** Steps of one cookie in the order they can be done, each as soon as its waits allow; null times where one never dries. */
export function stepSequence(graph: StepGraph, air: Air, margin: Margin, factors?: Factors): readonly SequencedStep[] {
  const minS = new Map<Gap, number>();
  // What never dries is shown by the checks; the order of steps is still shown.
  for (const gap of graph.gaps) minS.set(gap, waitS(gap, air, margin, factors) ?? 0);
  const index = new Map(graph.steps.map((s, i) => [s.id, i]));
  const end = graph.steps.map((s) => s.seconds);
  const held: SequencedStep['waitedFor'][] = graph.steps.map(() => null);
  for (let pass = 0, changed = true; changed && pass <= graph.steps.length; pass++) {
    changed = false;
    for (const gap of graph.gaps) {
      const [from, to] = [index.get(gap.from) as number, index.get(gap.to) as number];
      const wait = minS.get(gap) as number;
      const at = (end[from] as number) + wait + (graph.steps[to] as Step).seconds;
      if (at <= (end[to] as number) + 1e-9) continue;
      end[to] = at;
      if (wait > 0) held[to] = { gap, seconds: wait };
      changed = true;
    }
  }
  return graph.steps
    .map((step, i): SequencedStep => ({ step, endS: end[i] as number, waitedFor: held[i] ?? null }))
    .sort((a, b) => a.endS - b.endS || (index.get(a.step.id) as number) - (index.get(b.step.id) as number));
}

/** The cookie as it looks after the first `count` steps of its sequence, every surface in the state it has by then. */
export function lookAfterSteps(design: Design, sequence: readonly SequencedStep[], count: number, air: Air): CookieLook {
  const done = sequence.slice(0, count);
  const nowS = done.at(-1)?.endS ?? 0;
  const sections: Record<string, SurfaceState> = {};
  const lines: Record<string, SurfaceState> = {};
  const marks: string[] = [];
  const rate = dryingRate(air);
  for (const { step, endS } of done) {
    const state = step.region ? stateAtLoss(stateThresholds(step.region), lossAfter(rate, 0, nowS - endS)) : 'dry';
    if (step.kind === 'flood') {
      const touchedS = Math.max(endS, ...done.filter((d) => disturbs(d.step, step)).map((d) => d.endS));
      sections[step.part] = step.region ? stateAtLoss(stateThresholds(step.region), lossAfter(rate, 0, nowS - touchedS)) : 'dry';
    } else if (step.kind === 'mark') marks.push(...step.parts);
    else if (step.kind === 'detail') for (const part of step.parts) lines[part] = state;
  }
  return {
    sections: Object.fromEntries(
      sectionsOf(design)
        .filter((s) => sections[s.id])
        .map((s) => [s.id, sections[s.id] as SurfaceState]),
    ),
    lines,
    marks,
    laid: laidFloods(sequence.map((s) => s.step)),
  };
}
