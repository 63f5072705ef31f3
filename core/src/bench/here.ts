import { planIndex } from '../formats/plan-index.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { TaskRecord } from './run-state.js';

/**
 * What must have been done when the hands are at a task: what it waits for, and what came before it on the same cookies. In the plan's
 * order.
 */
export function impliedBy(plan: RunPlan, task: RunTask, isDone: (t: RunTask) => boolean): RunTask[] {
  const implied = new Set<string>();
  const overlaps = (t: RunTask) => t.lotId === task.lotId && t.cookies[0] < task.cookies[1] && task.cookies[0] < t.cookies[1];
  const upTo = planIndex(plan).placeOf(task.id);
  for (const t of plan.tasks.slice(0, upTo))
    if (t.trayId === task.trayId && (overlaps(t) || (t.lotId === null && t.round < task.round))) implied.add(t.id);
  const follow = (id: string) => {
    for (const w of planIndex(plan).waitsInto(id)) {
      if (implied.has(w.from)) continue;
      implied.add(w.from);
      follow(w.from);
    }
  };
  for (const id of [task.id, ...implied]) follow(id);
  return plan.tasks.filter((t) => implied.has(t.id) && t.id !== task.id && !isDone(t));
}

/**
 * When those were probably done, ms: one after the other as late as can be, but no later than the waits the task had, since
 * whoever works on it found its surface ready. Marked as inferred, and not learned from.
 */
export function inferredTimes(
  plan: RunPlan,
  task: RunTask,
  implied: readonly RunTask[],
  atMs: number,
): Map<string, Pick<TaskRecord, 'begunAtMs' | 'doneAtMs'>> {
  const out = new Map<string, { begunAtMs: number; doneAtMs: number }>();
  let endMs = atMs;
  for (const t of [...implied].reverse()) {
    const dur = (t.endS - t.startS) * 1000;
    const kept = planIndex(plan)
      .waitsFrom(t.id)
      .filter((w) => w.minS > 0)
      .flatMap((w) =>
        (w.to === task.id ? [atMs] : out.has(w.to) ? [(out.get(w.to) as { begunAtMs: number }).begunAtMs] : []).map(
          (ms) => ms - w.minS * 1000 + dur,
        ),
      );
    const doneAtMs = Math.min(endMs, ...kept);
    out.set(t.id, { begunAtMs: doneAtMs - dur, doneAtMs });
    endMs = doneAtMs - dur;
  }
  return out;
}
