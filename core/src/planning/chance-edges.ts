import type { Plan, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { disturbs, type Gap, type Step } from '../steps/step.js';
import type { StepId } from '../units/id.js';

/** A gap between two tasks (or within one) on the first and last cookie they share, in seconds from their starts. */
export interface Edge {
  readonly gap: Gap;
  readonly from: PlanTask;
  readonly to: PlanTask;
  readonly label: string;
  readonly closes: boolean;
  readonly ends: readonly { readonly leftS: number; readonly endS: number; readonly beginsS: number; readonly doneS: number }[];
}

export function edgesOf(plan: Plan, tasks: readonly PlanTask[]): Edge[] {
  const out: Edge[] = [];
  const index = planIndex(plan);
  for (const design of plan.designs) {
    const steps = new Map(design.graph.steps.map((s) => [s.id, s]));
    const own = tasks.filter((t) => index.designOf(t) === design);
    for (const gap of design.graph.gaps) {
      const doing = (stepId: StepId) => own.filter((t) => t.motions.some((m) => m.stepId === stepId));
      const label = steps.get(gap.to)?.label ?? gap.to;
      for (const from of doing(gap.from))
        for (const to of doing(gap.to)) {
          const shared = [Math.max(from.cookies[0], to.cookies[0]), Math.min(from.cookies[1], to.cookies[1]) - 1] as const;
          if (from.lotId !== to.lotId || shared[0] > shared[1]) continue;
          const closes = gap.maxLossKgPerM2 !== undefined || gap.maxSeconds !== undefined;
          // Within one visit only what closes is of interest: its own order of motions keeps the waits.
          if (from === to && !closes) continue;
          const ends = [...new Set(shared)].map((cookie) => {
            const at = (t: PlanTask, stepId: StepId, which: 'startS' | 'endS') =>
              t.motions.find((m) => m.stepId === stepId)?.[which][cookie - t.cookies[0]] as number;
            return {
              leftS: leftAlone(from, gap.from, cookie, steps),
              endS: at(from, gap.from, 'endS'),
              beginsS: at(to, gap.to, 'startS'),
              doneS: at(to, gap.to, 'endS'),
            };
          });
          out.push({ gap, from, to, label, closes, ends });
        }
    }
  }
  return out;
}

/** When a body is left alone on a cookie: after the last wet work in it in the same visit. */
function leftAlone(task: PlanTask, stepId: StepId, cookie: number, steps: ReadonlyMap<string, Step>): number {
  const step = steps.get(stepId);
  const i = cookie - task.cookies[0];
  return Math.max(
    ...task.motions
      .filter((m) => {
        const own = steps.get(m.stepId);
        return m.stepId === stepId || (step !== undefined && own !== undefined && disturbs(own, step));
      })
      .map((m) => m.endS[i] as number),
  );
}
