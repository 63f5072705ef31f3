import type { Air } from '../drying/air.js';
import { type Airs, piecesFrom } from '../drying/airs.js';
import type { AirPiece } from '../drying/front.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { Lot, Plan, StayPlace } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { isSmallPool, type StepGraph } from '../steps/derive.js';
import type { School } from '../steps/school.js';
import type { Step } from '../steps/step.js';
import { graphIndex } from './graph-index.js';
import { stepSequence } from './step-sequence.js';
import { plannedAirs } from './verify.js';

/** What really happens to one cookie: when each step is done, and the air it stands in afterwards. */
export interface Course {
  /** seconds from the end of one step to the beginning of another; null where one of them is not made */
  readonly betweenS: (from: Step, to: Step) => number | null;
  /** the airs a step's icing stands in from when it is laid; the last is endless */
  readonly airsAfter: (step: Step) => readonly AirPiece[];
}

/** What a course needs to know of a kitchen without a plan. */
export interface Making {
  readonly school: School;
  readonly air: Air;
  readonly margin: Margin;
  readonly factors?: Factors | undefined;
  /** air before the fan and in the dehydrator, where there is one */
  readonly airAt?: Readonly<Record<StayPlace, Air | null>> | undefined;
}

/** One cookie by itself, hands always free: every step as soon as its waits allow, small pools quick-set where the school does so. */
export function courseAlone(graph: StepGraph, { school, air, margin, factors, airAt }: Making): Course {
  const ended = new Map(stepSequence(graph, air, margin, factors).map((s) => [s.step.id, s.endS]));
  const endless: AirPiece = { air, seconds: Number.POSITIVE_INFINITY };
  const away: AirPiece | null = !school.quickSets
    ? null
    : airAt?.dehydrator
      ? { air: airAt.dehydrator, seconds: 60 * school.quickSetDehydratorMin }
      : airAt?.fan
        ? { air: airAt.fan, seconds: 60 * school.quickSetFanMin }
        : null;
  return {
    betweenS: (from, to) => {
      const [a, b] = [ended.get(from.id), ended.get(to.id)];
      return a === undefined || b === undefined ? null : b - to.seconds - a;
    },
    airsAfter: (step) => (away && step.kind === 'flood' && isSmallPool(graphIndex(graph).factsOf(step.part)) ? [away, endless] : [endless]),
  };
}

/** The first and the last cookie of every lot of a design, as a plan has them: real waits, real stays. */
export function coursesOf(plan: Plan, designId: string): Course[] {
  const lots = planIndex(plan).lotsOf(designId);
  return lots.flatMap((lot) => [...new Set([0, lot.cookies - 1])].map((cookie) => courseOf(plan, lot, cookie)));
}

/** One cookie of a lot as it is planned. */
export function courseOf(plan: Plan, lot: Lot, cookie: number): Course {
  const spans = new Map<string, { startS: number; endS: number }>();
  for (const task of planIndex(plan)
    .tasksOnLot(lot.id)
    .filter((t) => t.cookies[0] <= cookie && cookie < t.cookies[1]))
    for (const m of task.motions) {
      const i = cookie - task.cookies[0];
      spans.set(m.stepId, { startS: task.startS + (m.startS[i] as number), endS: task.startS + (m.endS[i] as number) });
    }
  return courseFrom(spans, plannedAirs(plan, lot.trayId));
}

/** A course by when each step was done, by its name, in the airs its tray stood in. */
export const courseFrom = (spans: ReadonlyMap<string, { readonly startS: number; readonly endS: number }>, airs: Airs): Course => ({
  betweenS: (from, to) => {
    const [a, b] = [spans.get(from.id), spans.get(to.id)];
    return a && b ? b.startS - a.endS : null;
  },
  airsAfter: (step) => piecesFrom(airs, spans.get(step.id)?.endS ?? 0),
});
