import type { Body, Look } from '../drying/body.js';
import { type DryingState, type Region, stateThresholds } from '../drying/state.js';
import type { PlanIndex } from '../formats/plan-index.js';
import type { Gap } from '../steps/step.js';
import type { LotId, StepId } from '../units/id.js';
import { isLeftOut, type RunTask } from './run-plan.js';
import type { TaskLook } from './run-state.js';

/**
 * The state a wait is looked at by: a finger knows no multiples. A neighbour wait of so many crusts asks for a skin below one, a
 * crust below three, and set icing from there on; any other wait asks for its own state.
 */
export function askedState(gap: Gap, region: Region): DryingState {
  const own = gap.minState as DryingState;
  const times = (gap.minLossKgPerM2 as number) / stateThresholds(region)[own];
  if (own !== 'crusted' || Math.abs(times - 1) < 1e-6) return own;
  return times < 1 ? 'skinned' : times < 3 - 1e-6 ? 'crusted' : 'set';
}

/**
 * What was found of the icing one step left on a cookie, in order of time. A look that named no cookie or no part speaks of every one
 * its visit waits for.
 */
export function looksAt(
  index: PlanIndex<RunTask>,
  looks: readonly TaskLook[],
  { lotId, cookie, stepId, region, leftAtS }: Pick<Body, 'region' | 'leftAtS'> & { lotId: LotId; cookie: number; stepId: StepId },
): Look[] {
  return looks.flatMap((l): Look[] => {
    const task = index.task(l.taskId);
    if (!task || task.lotId !== lotId || l.atS < leftAtS || (l.cookie ?? cookie) !== cookie || (l.part ?? stepId) !== stepId) return [];
    if (cookie < task.cookies[0] || cookie >= task.cookies[1] || isLeftOut(task, cookie)) return [];
    const own = new Set(task.motions.map((m) => m.stepId));
    const behind = (index.graphOf(task)?.gaps ?? []).filter((g) => g.from === stepId && own.has(g.to));
    // What shuts a window is another state than what is waited for.
    const states = behind.flatMap((g) => (l.found === 'past' ? (g.maxState ?? []) : g.minState ? askedState(g, region) : []));
    const state = states.find((s) => s === l.state) ?? states[0];
    return state ? [{ atS: l.atS, state, found: l.found }] : [];
  });
}
