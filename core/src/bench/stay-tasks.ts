import type { Stay } from '../formats/plan.js';
import { carryIdOf, takeOutIdOf } from '../planning/stays.js';
import type { RunPlan, RunTask } from './run-plan.js';

/** The carrying of a tray to where it dries, and for the dehydrator the taking out. */
export function stayTasks(plan: Pick<RunPlan, 'tasks'>, stay: Pick<Stay, 'id'>): { readonly carry: RunTask | undefined; readonly out: RunTask | undefined } {
  const of = (id: string) => plan.tasks.find((t) => t.id === id);
  return { carry: of(carryIdOf(stay.id)), out: of(takeOutIdOf(stay.id)) };
}
