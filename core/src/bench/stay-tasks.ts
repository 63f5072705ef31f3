import type { Plan, PlanTask, Stay } from '../formats/plan.js';

/** The carrying of a tray to where it dries, and for the dehydrator the taking out. */
export function stayTasks(
  plan: Pick<Plan, 'tasks'>,
  stay: Pick<Stay, 'trayId' | 'round'>,
): { readonly carry: PlanTask | undefined; readonly out: PlanTask | undefined } {
  const of = (kind: PlanTask['kind']) => plan.tasks.find((t) => t.kind === kind && t.trayId === stay.trayId && t.round === stay.round);
  return { carry: of('carry'), out: of('take-out') };
}
