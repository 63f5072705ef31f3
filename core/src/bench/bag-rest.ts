import { type Bag, bagKey } from '../steps/step.js';
import { techniqueById } from '../steps/techniques/index.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { RunState } from './run-state.js';

/** Icing that stood longer separates and wants kneading: *assumed*; that it does is common practice, no published source. */
const STANDS_MS = 30 * 60_000;

/** Whether a bag has stood long enough, or was not used at all yet, to be kneaded before it is piped from. */
export function wantsKneading(plan: RunPlan, state: RunState, bag: Bag, nowMs: number): boolean {
  const used = plan.tasks.filter((t) => t.bags.some((b) => bagKey(b) === bagKey(bag))).flatMap((t) => state.tasks.get(t.id)?.doneAtMs ?? []);
  return used.length === 0 || nowMs - Math.max(...used) > STANDS_MS;
}

/** Opening a task asks of a bag, mm; null where it is not said. */
export function openingOf(plan: RunPlan, task: RunTask, bag: Bag): number | null {
  const steps = plan.designs.flatMap((d) => d.graph.steps);
  const asked = task.motions.flatMap((m) => {
    const step = steps.find((s) => s.id === m.stepId);
    return step?.bag && bagKey(step.bag) === bagKey(bag) ? (techniqueById(m.technique).openingMm ?? []) : [];
  });
  return asked.length > 0 ? Math.min(...asked) : null;
}
