import type { Motion, PlanTask } from '@kestfog/core/formats';

/** One motion for each kind of wet work, that with the shortest window. */
export function soonestWindows(task: PlanTask): Motion[] {
  const best = new Map<string, Motion>();
  for (const m of task.motions) {
    if (m.windowS === null) continue;
    const known = best.get(m.label);
    if (!known || m.windowS < (known.windowS as number)) best.set(m.label, m);
  }
  return [...best.values()];
}
