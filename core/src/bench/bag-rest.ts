import { planIndex } from '../formats/plan-index.js';
import { type BagChange, bagChanges, bagUsesOf } from '../planning/open-bags.js';
import { distinctOpenings } from '../steps/bag-amounts.js';
import { type Bag, bagKey } from '../steps/step.js';
import { techniqueById } from '../steps/techniques/index.js';
import { type Opening, TIPLESS } from '../steps/tips.js';
import type { RunIndex } from './run-index.js';
import type { RunPlan, RunTask } from './run-plan.js';

/** Icing that stood longer separates and wants kneading: *assumed*; that it does is common practice, no published source. */
const STANDS_MS = 30 * 60_000;

/** Whether a bag has stood long enough, or was not used at all yet, to be kneaded before it is piped from. */
export function wantsKneading(run: RunIndex, bag: Bag, nowMs: number): boolean {
  const used = run.state.plan.tasks.filter((t) => t.bags.some((b) => bagKey(b) === bagKey(bag))).flatMap((t) => run.doneMs(t.id) ?? []);
  return used.length === 0 || nowMs - Math.max(...used) > STANDS_MS;
}

/**
 * The bags to open and to put away as a task begins, where only so many may lie open, as the run really goes: after a re-plan that may be
 * others than the plan had meant. null where nothing is to be done.
 */
export function bagChangeAt(run: RunIndex, task: RunTask): BagChange | null {
  const { plan } = run.state;
  const most = plan.order.openBags;
  if (most === null) return null;
  return (
    bagChanges(
      bagUsesOf(plan, (t) => run.begunS(t.id) ?? t.startS),
      most,
    ).get(task.id) ?? null
  );
}

/**
 * What a task pipes a bag through, the narrowest first; a plan made before tips were said has the usual openings. A bag that outlines
 * and floods cookie by cookie is snipped once, small.
 */
export function openingsOf(plan: RunPlan, task: RunTask, bag: Bag): Opening[] {
  const stepOf = (id: string) => planIndex(plan).step(task, id);
  const both = ['dam', 'flood'].every((kind) => task.motions.some((m) => m.kind === kind && bagOfMotion(m.stepId) === bagKey(bag)));
  const all = distinctOpenings(
    task.motions.flatMap((m) => {
      const step = stepOf(m.stepId);
      const { openingMm } = techniqueById(m.technique);
      if (!step?.bag || bagKey(step.bag) !== bagKey(bag)) return [];
      return step.openingMm !== undefined
        ? { name: step.tip ?? TIPLESS, openingMm: step.openingMm }
        : openingMm === null
          ? []
          : { name: TIPLESS, openingMm };
    }),
  );
  return both && !task.motions.some((m) => m.technique === 'widen-snip') ? all.slice(0, 1) : all;

  function bagOfMotion(stepId: string): string | undefined {
    const own = stepOf(stepId)?.bag;
    return own ? bagKey(own) : undefined;
  }
}
