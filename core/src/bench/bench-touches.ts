import type { TouchReport } from '../calibration/drying-factors.js';
import type { DryingState } from '../drying/state.js';
import type { RunEvent, StoredEvent } from './event.js';
import { foldRun } from './fold.js';
import { aroundTray } from './room.js';
import type { RunPlan } from './run-plan.js';
import { lostBy, waitsBehind } from './still-wet.js';

/** What a finger found at the bench, as the model saw it then. */
export interface BenchTouch {
  readonly eventId: string;
  readonly atMs: number;
  readonly state: DryingState;
  readonly found: 'not-yet' | 'reached';
  /** share of the median threshold that was lost by then, through the air as it was */
  readonly share: number;
  /** what was looked at, in the words of the plan */
  readonly reason: string;
}

/**
 * What a run teaches about its kitchen's drying: every "still wet" and "crusted already" that stands. Not learned from where
 * the moment is doubtful or where nobody said when the icing was laid.
 */
export function benchTouches(plan: RunPlan, events: readonly StoredEvent[]): BenchTouch[] {
  const epochMs = Date.parse(plan.epoch ?? '') || 0;
  const whole = foldRun(plan, events);
  const standing = whole.standing as readonly StoredEvent[];
  return standing.flatMap((e, i): BenchTouch[] => {
    if ((e.type !== 'stillWet' && e.type !== 'crustedAlready') || e.doubtful) return [];
    const state = foldRun(plan, standing.slice(0, i) as readonly RunEvent[]);
    const task = state.plan.tasks.find((t) => t.id === e.data.taskId);
    if (!task) return [];
    const nowS = (e.atMs - epochMs) / 1000;
    const around = aroundTray(state.plan, state, epochMs, task.trayId);
    const bodies = waitsBehind(state.plan, state, task, epochMs)
      .filter((b) => !state.tasks.get(b.from.id)?.inferred)
      .map((b) => ({ ...b, share: lostBy(state.plan, around, b.leftS, nowS) / (b.gap.minLossKgPerM2 as number) }))
      .sort((a, b) => a.share - b.share);
    // Of several bodies only the one that is furthest from being dry is sure to be the one that was meant.
    const body = bodies[0];
    if (!body || body.share <= 0) return [];
    const found = e.type === 'stillWet' ? ('not-yet' as const) : ('reached' as const);
    return [{ eventId: e.id, atMs: e.atMs, state: body.gap.minState as DryingState, found, share: body.share, reason: body.gap.reason }];
  });
}

export const reportOfBench = (t: BenchTouch): TouchReport =>
  t.found === 'not-yet'
    ? { state: t.state, notYetRatio: t.share, reachedRatio: Number.POSITIVE_INFINITY }
    : { state: t.state, notYetRatio: 0, reachedRatio: t.share };
