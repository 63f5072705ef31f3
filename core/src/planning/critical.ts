import type { Plan, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import type { TaskId } from '../units/id.js';

/**
 * How much later each task could begin, seconds, with every other at its latest, before something is packed late or worked
 * past closing: a backward pass over waits, hands in their order, and stays (the critical path method; Kelley & Walker 1959).
 * Windows that shut are left out: they bind tasks to each other, not to the end.
 */
export function slacks(plan: Plan): ReadonlyMap<TaskId, number> {
  const index = planIndex(plan);
  const latest = new Map<TaskId, number>();
  const tasks = [...plan.tasks].sort((a, b) => b.startS - a.startS || b.endS - a.endS);
  const next = new Map<string, PlanTask>();
  for (const t of tasks) {
    const duration = t.endS - t.startS;
    let at = index.latestEndOf(t) - duration;
    for (const w of index.waitsFrom(t.id)) at = Math.min(at, (latest.get(w.to) ?? Number.POSITIVE_INFINITY) - w.minS);
    const following = next.get(t.by);
    if (following)
      at = Math.min(
        at,
        (latest.get(following.id) as number) - duration - Math.max(0, Math.min(ASSUMED_PACE.changeoverS, following.startS - t.endS)),
      );
    // A task is never pushed into a night: the end of its opening is as late as it goes before the next one.
    const opening = plan.openingHours[index.openingDuring(at)];
    if (opening && at + duration > opening[1]) at = opening[1] - duration;
    else if (!opening) {
      const before = plan.openingHours.filter(([, to]) => to <= at).at(-1);
      if (before) at = before[1] - duration;
    }
    latest.set(t.id, Math.max(at, t.startS));
    next.set(t.by, t);
  }
  return new Map(tasks.map((t) => [t.id, (latest.get(t.id) as number) - t.startS]));
}

/** The chain that sets the end: from the last task back, by what each one waited for. In order of time. */
export function criticalChain(plan: Plan): readonly string[] {
  const chain: string[] = [];
  let at = plan.tasks.reduce<PlanTask | undefined>((a, b) => (!a || b.endS > a.endS ? b : a), undefined);
  while (at && !chain.includes(at.id)) {
    chain.push(at.id);
    const { because } = at;
    if (because.kind === 'first') break;
    at = 'fromTask' in because ? planIndex(plan).task(because.fromTask) : beforeOf(plan, at);
  }
  return chain.reverse();
}

/** What the same hands did before a task that only the bench's hours held back. */
function beforeOf(plan: Plan, task: PlanTask): PlanTask | undefined {
  return plan.tasks
    .filter((t) => t.by === task.by && t.endS <= task.startS)
    .reduce<PlanTask | undefined>((a, b) => (!a || b.endS > a.endS ? b : a), undefined);
}
