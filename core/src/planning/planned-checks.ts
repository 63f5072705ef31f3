import type { Pin } from '../formats/order.js';
import type { Plan, PlanDesign, StayPlace } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { bagKey } from '../steps/step.js';
import { coursesOf } from './course.js';
import { type DesignCheck } from './design-check.js';
import { checkDesign } from './design-checks.js';

/** What may go wrong on one design of a plan, reckoned with its real waits, stays, fill and air. */
export interface PlannedCheck extends DesignCheck {
  readonly designId: string;
  readonly name: string;
  /** stays that would set the small pools it is about, one for each tray; empty where none can be added */
  readonly stays: readonly (Pin & { readonly kind: 'stay' })[];
}

/** Checks of every design as it is planned, worst first. */
export function plannedChecks(plan: Plan): PlannedCheck[] {
  const { order } = plan;
  const out = plan.designs.flatMap((design) => {
    const found = checkDesign(design.drawing, design.graph, {
      school: order.school,
      air: plan.air,
      margin: plan.margin,
      factors: plan.factors,
      airAt: { fan: plan.fanAir, dehydrator: plan.dehydratorAir },
      courses: coursesOf(plan, design.id),
      counted: new Map(order.bags.map((b) => [bagKey(b), b.countedS])),
      tips: order.tips,
    });
    return found.map(
      (c): PlannedCheck => ({
        ...c,
        designId: design.id,
        name: design.drawing.name,
        stays: c.kind === 'crater' ? staysFor(plan, design, c.part) : [],
      }),
    );
  });
  return out.sort((a, b) => b.risk - a.risk);
}

/** A stay after the round a pool is flooded in, on each of its trays that has none there yet. */
function staysFor(plan: Plan, design: PlanDesign, part: string): PlannedCheck['stays'] {
  const { order } = plan;
  const where: StayPlace | null = order.dehydrator ? 'dehydrator' : order.fan ? 'fan' : null;
  const flood = design.graph.steps.find((s) => s.kind === 'flood' && s.part === part);
  // Where a crust is waited for afterwards, moving or warm air would shut that window.
  const crackles = design.graph.gaps.some(
    (g) => g.rule === 'crackle-window' && design.graph.steps.find((s) => s.id === g.from)?.round === flood?.round,
  );
  if (!where || !flood || crackles) return [];
  const minutes = where === 'dehydrator' ? order.school.quickSetDehydratorMin : order.school.quickSetFanMin;
  const lots = new Set(
    planIndex(plan)
      .lotsOf(design.id)
      .map((l) => l.id),
  );
  const trays = new Set(
    plan.tasks.filter((t) => lots.has(t.lotId ?? '') && t.motions.some((m) => m.stepId === flood.id)).map((t) => t.trayId),
  );
  return [...trays]
    .filter((tray) => !plan.stays.some((s) => s.why !== 'time' && s.trayId === tray && s.round === flood.round))
    .map((tray) => ({ kind: 'stay', tray, round: flood.round, where, minutes }));
}
