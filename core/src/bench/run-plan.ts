import type { PlanTask } from '../formats/plan.js';
import type { PlanOf } from '../formats/plan-index.js';

/** A task as the run stands: with what has left it since it was planned. */
export interface RunTask extends PlanTask {
  /** cookies of its range that have left the run: broken, or begun again */
  readonly without?: readonly number[];
  /** steps that are not made on some cookies any more: given up, or done in relief later */
  readonly leftOut?: readonly { readonly stepId: string; readonly cookies: readonly number[] }[];
}

/** The plan as the run stands: its tasks know what has left them. A plan that was just made is one too. */
export type RunPlan = PlanOf<RunTask>;

/** Whether a cookie has left a task, or a step is not made on it any more. */
export const isLeftOut = (task: RunTask, cookie: number, stepId?: string): boolean =>
  stepId === undefined
    ? task.without?.includes(cookie) === true
    : task.leftOut?.some((l) => l.stepId === stepId && l.cookies.includes(cookie)) === true;

/** Cookies of a task not ticked yet, those that left the run not counted. */
export function openCookies(task: RunTask, ticked: readonly number[] = []): number[] {
  const out: number[] = [];
  for (let c = task.cookies[0]; c < task.cookies[1]; c++) if (!ticked.includes(c) && !task.without?.includes(c)) out.push(c);
  return out;
}
