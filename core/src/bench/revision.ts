import { planIndex } from '../formats/plan-index.js';
import { type RunEvent, takesOut } from './event.js';
import { type Replanned, WORTH_S } from './replan.js';
import type { RunPlan } from './run-plan.js';
import type { BenchView } from './view.js';

/** Slips under this are silent. */
export const SLIP_S = 90;

/** Whether what just happened can have moved the plan: not a re-plan itself, nor its being taken back. */
export function asksForReplan(events: readonly RunEvent[]): boolean {
  const last = events.at(-1);
  if (!last) return false;
  if (last.type === 'undone') return events.find((e) => e.id === last.data.eventId)?.type !== 'planRevised';
  return last.type !== 'planRevised' && last.type !== 'runStarted' && last.type !== 'paused' && last.type !== 'dehydratorOff';
}

/**
 * Whether it changed what there is to do or how long it waits, so that what was planned no longer holds: planned again however small
 * the slip.
 */
export function changesPlan(events: readonly RunEvent[]): boolean {
  const last = events.at(-1);
  const what = last?.type === 'undone' ? events.find((e) => e.id === last.data.eventId) : last;
  switch (what?.type) {
    case 'touched':
      return what.data.found !== 'past';
    case 'windowShut':
    case 'skipped':
    case 'imHere':
    case 'swapped':
    case 'bagCounted':
    case 'airRead':
      return true;
    case 'defect':
      return takesOut(what.data.outcome);
    default:
      return false;
  }
}

export interface Gain {
  readonly endS: number;
  readonly handsFreeS: number;
}

/** What a re-plan wins over just going on in the same order, seconds sooner. */
export function gainOf(
  plan: RunPlan,
  view: Pick<BenchView, 'expectedEndMs' | 'handsFreeMs'>,
  next: Pick<Replanned, 'endS' | 'handsFreeS'>,
): Gain {
  const { sOf } = planIndex(plan);
  return { endS: sOf(view.expectedEndMs) - next.endS, handsFreeS: sOf(view.handsFreeMs) - next.handsFreeS };
}

/** All packed clearly sooner, or the hands free sooner today and nothing later at the end. */
export const isWorthIt = (gain: Gain): boolean => gain.endS >= WORTH_S || (gain.endS > -SLIP_S && gain.handsFreeS >= WORTH_S);

/** By how much the run is behind its plan, at the end or at the end of today, seconds. */
export function slipOf(plan: RunPlan, view: Pick<BenchView, 'expectedEndMs' | 'handsFreeMs'>, nowS: number): number {
  const { sOf } = planIndex(plan);
  const closes = planIndex(plan).closesAfter(nowS);
  const free = Math.max(nowS, ...plan.tasks.filter((t) => t.startS < closes).map((t) => t.endS));
  return Math.max(sOf(view.expectedEndMs) - plan.endS, sOf(view.handsFreeMs) - free);
}

/** Less than this is not worth moving a task, s. */
const SAME_S = 30;
/** Whether a re-plan after a report is not the old plan over again. */
export const movesAnything = (plan: RunPlan, starts: Replanned['starts']): boolean =>
  plan.tasks.some((t) => starts[t.id] !== undefined && Math.abs((starts[t.id] as number) - t.startS) >= SAME_S);
