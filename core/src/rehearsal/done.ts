import { pausesOf } from '../bench/pauses.js';
import type { RunIndex } from '../bench/run-index.js';
import { isLeftOut, type RunTask } from '../bench/run-plan.js';
import type { StepId } from '../units/id.js';

/** Whether a visit that is over made a step on a cookie: it was not given up there. */
export const isMade = (run: RunIndex, task: RunTask, stepId: StepId, cookie: number): boolean =>
  !run.record(task.id)?.skipped && !isLeftOut(task, cookie) && !isLeftOut(task, cookie, stepId);
/**
 * When what a visit does so many seconds into it was really done. It ended when it ended; where it was interrupted, and said so, what comes
 * behind the interruption came that much later.
 */
export function momentsIn(run: RunIndex, task: RunTask, doneS: number): (offsetS: number) => number {
  const begunS = run.begunS(task.id);
  const within = pausesOf(run.state)
    .map(([a, b]) => [run.plan.sOf(a), run.plan.sOf(b)] as const)
    .filter(([a, b]) => begunS !== null && a >= begunS && b <= doneS);
  if (begunS === null || within.length === 0) return (offsetS) => doneS - (task.endS - task.startS) + offsetS;
  return (offsetS) => {
    let atS = begunS + offsetS;
    for (const [a, b] of within) if (a <= atS) atS += b - a;
    return atS;
  };
}
