import { always } from '../src/drying/index.js';
import type { Plan, PlanTask } from '../src/formats/index.js';
import { type CookieLook, cookieLook } from '../src/planning/index.js';

/** A moment when everything of a plan is done and dry. */
export const finishedBy = (plan: Plan): number => plan.endS + 10 * 86_400;

/** How the first cookie of a plan looks at a moment, with every task done at its planned time. */
export function lookOfAll(plan: Plan, atS: number): CookieLook {
  const lot = plan.trays.flatMap((t) => t.lots)[0];
  if (!lot) throw new Error('a plan without cookies');
  return cookieLook(plan, lot, 0, atS, (t: PlanTask) => ({ startS: t.startS, endS: t.endS }), always(plan.air));
}
