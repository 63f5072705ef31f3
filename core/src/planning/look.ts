import { type Design, linesOf, marksOf, sectionsOf } from '../design/design.js';
import type { Airs } from '../drying/airs.js';
import { stateAt } from '../drying/body.js';
import type { Region, SurfaceState } from '../drying/state.js';
import type { Lot, Plan, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { damOf } from '../steps/filling.js';
import type { Step } from '../steps/step.js';
import { USUAL_TIPS } from '../steps/tips.js';

/** How one cookie looks at one moment: what is on it and the state of each surface, at the medians. */
export interface CookieLook {
  readonly sections: Readonly<Record<string, SurfaceState>>;
  readonly lines: Readonly<Record<string, SurfaceState>>;
  readonly marks: readonly string[];
  /** how each flood is laid, by section */
  readonly laid?: Readonly<Record<string, LaidFlood>>;
}

/** A flood as it is poured: how deep, how far short of its line, and the wall round it. */
export interface LaidFlood {
  readonly depthMm: number;
  readonly edgeMm: number;
  /** width of the dam, all its rings; 0 without one */
  readonly damMm: number;
  readonly damColour: string | null;
}

/** How the floods of a cookie are laid, from its steps. */
export function laidFloods(steps: readonly Step[]): Record<string, LaidFlood> {
  const dams = new Map(steps.filter((s) => s.kind === 'dam').map((s) => [s.part, s]));
  return Object.fromEntries(
    steps
      .filter((s) => s.kind === 'flood' && s.region)
      .map((s): [string, LaidFlood] => {
        const dam = dams.get(s.part);
        return [
          s.part,
          {
            depthMm: s.region?.depthMm ?? 0,
            edgeMm: s.edgeMm ?? 0,
            damMm: (dam?.openingMm ?? 0) * (dam?.rings ?? 1),
            damColour: dam?.bag?.colour ?? null,
          },
        ];
      }),
  );
}

/** Everything on, all of it in one state: how the design looks in the box, where nothing else is said. */
export function finishedLook(design: Design, state: SurfaceState = 'dry'): CookieLook {
  return {
    sections: Object.fromEntries(sectionsOf(design).map((s) => [s.id, state])),
    lines: Object.fromEntries(linesOf(design).map((l) => [l.id, state])),
    marks: marksOf(design).map((m) => m.id),
    laid: Object.fromEntries(
      sectionsOf(design).map((s): [string, LaidFlood] => {
        const dam = damOf(s, USUAL_TIPS);
        return [
          s.id,
          {
            depthMm: s.depthMm,
            edgeMm: s.words?.edgeMm ?? 0,
            damMm: dam.opening.openingMm * dam.rings,
            damColour: dam.rings > 0 ? dam.colour : null,
          },
        ];
      }),
    ),
  };
}

export interface Span {
  readonly startS: number;
  /** undefined while it is still in hand */
  readonly endS?: number;
}

/** Whether a cookie has left a task (or one of its steps) since it was planned: only a run knows. */
export type LeftOut = (task: PlanTask, cookie: number, stepId?: string) => boolean;

const NOTHING_YET: CookieLook = { sections: {}, lines: {}, marks: [] };

/**
 * The look of a lot's cookie at `atS`, from when each task was (or will be) done. `spanOf` gives planned times on the
 * Rack and actual ones at the Bench; `airs` likewise; `isLeftOut` says what a run has left out. Stays and spans in seconds since the epoch.
 */
export function cookieLook(
  plan: Plan,
  lot: Lot,
  cookie: number,
  atS: number,
  spanOf: (task: PlanTask) => Span | null,
  airs: Airs,
  isLeftOut: LeftOut = () => false,
): CookieLook {
  const index = planIndex(plan);
  const design = index.design(lot.designId);
  if (!design) return NOTHING_YET;
  const sections: Record<string, SurfaceState> = {};
  const lines: Record<string, SurfaceState> = {};
  const marks: string[] = [];
  const stateOf = (region: Region, leftAtS: number): SurfaceState => (atS <= leftAtS ? 'wet' : stateAt({ region, leftAtS, airs }, atS));
  for (const task of index.tasksOnLot(lot.id)) {
    if (cookie < task.cookies[0] || cookie >= task.cookies[1] || isLeftOut(task, cookie)) continue;
    const span = spanOf(task);
    if (!span || span.startS > atS) continue;
    const planned = task.endS - task.startS;
    const stretch = span.endS === undefined || planned === 0 ? 1 : (span.endS - span.startS) / planned;
    const i = cookie - task.cookies[0];
    // Icing is disturbed until the last wet work on its section ends.
    const lastOn = new Map<string, number>();
    for (const m of task.motions) {
      const step = index.step(task, m.stepId);
      if (!step || isLeftOut(task, cookie, m.stepId)) continue;
      const doneS = span.startS + (m.endS[i] as number) * stretch;
      if (doneS > atS && step.kind !== 'flood') continue;
      if (span.startS + (m.startS[i] as number) * stretch > atS) continue;
      // A mark piped in relief later leaves the crust under it as it is.
      if (step.sectionId && task.kind !== 'detail') lastOn.set(step.sectionId, Math.max(lastOn.get(step.sectionId) ?? 0, doneS));
      if (step.kind === 'flood') sections[step.part] = 'wet';
      else if (step.kind === 'mark') marks.push(...step.parts);
      else if (step.kind === 'detail') for (const part of step.parts) lines[part] = step.region ? stateOf(step.region, doneS) : 'dry';
    }
    for (const [sectionId, sinceS] of lastOn) {
      const flood = design.graph.steps.find((s) => s.kind === 'flood' && s.part === sectionId);
      if (flood?.region && sections[sectionId]) sections[sectionId] = stateOf(flood.region, sinceS);
    }
  }
  return { sections, lines, marks, laid: laidFloods(design.graph.steps) };
}

/** The look after one task is done, everything before it in the plan or done already included: the picture of a step. */
export function lookAfter(plan: Plan, task: PlanTask, design: Design, isDone: (t: PlanTask) => boolean = () => false): CookieLook {
  const sections: Record<string, SurfaceState> = {};
  const lines: Record<string, SurfaceState> = {};
  const marks: string[] = [];
  const graph = plan.designs.find((d) => d.drawing === design)?.graph;
  for (const t of plan.tasks) {
    const before =
      t.lotId === task.lotId &&
      (t.startS <= task.startS || isDone(t)) &&
      t.cookies[0] < Math.max(task.cookies[1], 1) &&
      t.cookies[1] > task.cookies[0];
    if (!before || !graph) continue;
    for (const m of t.motions) {
      const step = graph.steps.find((s) => s.id === m.stepId);
      if (!step) continue;
      const fresh = t.id === task.id;
      if (step.kind === 'flood') sections[step.part] = fresh ? 'wet' : 'set';
      else if (step.kind === 'mark') marks.push(...step.parts);
      else if (step.kind === 'detail') for (const part of step.parts) lines[part] = !step.region ? 'dry' : fresh ? 'wet' : 'set';
    }
  }
  return { sections, lines, marks, laid: laidFloods(graph?.steps ?? []) };
}
