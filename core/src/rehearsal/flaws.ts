import { airsOfTray } from '../bench/room.js';
import type { RunIndex } from '../bench/run-index.js';
import { isLeftOut, type RunPlan, type RunTask } from '../bench/run-plan.js';
import { dryingStates } from '../drying/state.js';
import type { Factors } from '../drying/uncertainty.js';
import { cookieKey } from '../formats/ids.js';
import type { Lot, Motion, PlanDesign } from '../formats/plan.js';
import { courseFrom, courseOf } from '../planning/course.js';
import { surfaceChecks } from '../planning/course-checks.js';
import type { CheckInput, CheckKind } from '../planning/design-check.js';
import { drawnChecks } from '../planning/drawn-checks.js';
import type { DefectId } from '../steps/defects/index.js';
import type { CountedBags } from '../steps/derive.js';
import { bagKey } from '../steps/step.js';
import { isMade, momentsIn } from './done.js';
import type { Flaw, Mistimed } from './spoilt.js';
import type { Truth } from './truth.js';

/**
 * What the checks call a risk, as it is seen on a cookie. Bleeding is not among them: the wait for it is a rule, and judged as one. Nor is
 * overflowing: how much icing is laid follows from the drawing, and nobody at this bench lays more.
 */
const SEEN: Readonly<Partial<Record<CheckKind, DefectId>>> = {
  crater: 'crater',
  ridges: 'ridges',
  lumps: 'dragged-lumps',
  spread: 'spread',
};
/** Only what is so much likelier than as planned was brought about; the rest the plan had taken upon itself. *Assumed*. */
const CLEARLY = 0.15;

/**
 * What came of risks on every cookie: the same checks the plan is shown with, asked of what was really done, in the air there was, with
 * icing that only the rehearsal knew. What the plan accepted is not held against whoever worked it.
 */
export function flawsOf(plan: RunPlan, run: RunIndex, truth: Truth, mistimed: readonly Mistimed[]): Flaw[] {
  const known = new Set(mistimed.map((m) => `${cookieKey(m.lotId, m.cookie)} ${m.stepId}`));
  return run.plan.lots.flatMap((lot) => {
    const now = run.state.plan.designs.find((d) => d.id === lot.designId);
    const planned = plan.designs.find((d) => d.id === lot.designId);
    if (!now || !planned) return [];
    const out: Flaw[] = [];
    // What the drawing decides is as planned, unless a bag turned out looser or stiffer.
    const counted = new Map(plan.order.bags.map((b) => [bagKey(b), b.countedS]));
    const drawn = (d: PlanDesign, counts: CountedBags) =>
      run.state.counted.size > 0 ? drawnChecks(d.drawing, d.graph, { ...inputOf(plan, plan.factors), counted: counts }) : [];
    const [drawnNow, drawnPlanned] = [drawn(now, new Map([...counted, ...run.state.counted])), drawn(planned, counted)];
    for (let cookie = 0; cookie < lot.cookies; cookie++) {
      const key = cookieKey(lot.id, cookie);
      if (run.isOut(lot.id, cookie)) continue;
      const done = stepsDone(run, lot, cookie);
      const input = inputOf(run.state.plan, trueFactors(truth, key));
      const risks = [...surfaceChecks(now.drawing, now.graph, input, courseFrom(done, airsOfTray(run, lot.trayId))), ...drawnNow];
      // The same icing, worked as it was planned: a slow evening is nobody's doing.
      const asPlanned = surfaceChecks(planned.drawing, planned.graph, input, courseOf(plan, lot, cookie));
      const accepted = new Map([...asPlanned, ...drawnPlanned].map((c) => [`${c.kind} ${c.part}`, c.risk]));
      for (const check of risks) {
        const seen = SEEN[check.kind];
        const step = now.graph.steps.find((s) => s.technique !== 'outline' && s.parts.includes(check.part));
        const made = step && done.get(step.id);
        const plannedRisk = accepted.get(`${check.kind} ${check.part}`) ?? 0;
        if (!seen || !made || check.risk - plannedRisk < CLEARLY || known.has(`${key} ${made.motion.stepId}`)) continue;
        // Given that the plan's own share of it was spared, it comes as often as it is likelier.
        if (truth.draw(`${key} ${check.kind} ${check.part}`) >= (check.risk - plannedRisk) / (1 - plannedRisk)) continue;
        const { task, motion, endS } = made;
        const about = { lotId: lot.id, cookie, stepId: motion.stepId, taskId: task.id, technique: motion.technique };
        out.push({ ...about, seen, when: 'risk', atS: endS, risk: check.risk, plannedRisk, reasons: check.text, change: check.change });
      }
    }
    return out;
  });
}

interface Done {
  readonly task: RunTask;
  readonly motion: Motion;
  readonly startS: number;
  readonly endS: number;
}
/** Every step that was made on a cookie, with when it really was; the last visit that made it. */
function stepsDone(run: RunIndex, lot: Lot, cookie: number): Map<string, Done> {
  const out = new Map<string, Done>();
  for (const task of run.plan.tasksOnLot(lot.id)) {
    const doneS = run.doneS(task.id);
    if (doneS === null || cookie < task.cookies[0] || cookie >= task.cookies[1] || isLeftOut(task, cookie)) continue;
    const at = momentsIn(run, task, doneS);
    const i = cookie - task.cookies[0];
    for (const motion of task.motions)
      if (isMade(run, task, motion.stepId, cookie))
        out.set(motion.stepId, { task, motion, startS: at(motion.startS[i] as number), endS: at(motion.endS[i] as number) });
  }
  return out;
}

const inputOf = (plan: RunPlan, factors: Factors): CheckInput => ({
  school: plan.order.school,
  air: plan.air,
  margin: plan.margin,
  factors,
  airAt: { fan: plan.fanAir, dehydrator: plan.dehydratorAir },
  tips: plan.order.tips,
});
const trueFactors = (truth: Truth, cookie: string): Factors =>
  Object.fromEntries(dryingStates.map((s) => [s, { mean: Math.log(truth.factor(cookie, s)), sigma: 0 }])) as unknown as Factors;
