import type { Stay } from '../formats/plan.js';
import type { RunPlan, RunTask } from './run-plan.js';

/** The carrying of a tray to where it dries, and for the dehydrator the taking out. */
export function stayTasks(
  plan: Pick<RunPlan, 'tasks'>,
  stay: Pick<Stay, 'trayId' | 'round'>,
): { readonly carry: RunTask | undefined; readonly out: RunTask | undefined } {
  const of = (kind: RunTask['kind']) => plan.tasks.find((t) => t.kind === kind && t.trayId === stay.trayId && t.round === stay.round);
  return { carry: of('carry'), out: of('take-out') };
}
