import type { PaceKind, VisitPace } from '../calibration/pace.js';
import { secondsByKind } from '../planning/own-pace.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import type { StoredEvent } from './event.js';
import { foldRun } from './fold.js';
import { withoutPausesMs } from './pauses.js';
import { type RunIndex, runIndex } from './run-index.js';
import type { RunPlan, RunTask } from './run-plan.js';

/** A visit so many times as long as planned, and so much longer, was interrupted though nobody said so: *assumed*. */
const INTERRUPTED = { times: 3, moreS: 600 } as const;
/** A visit quicker than this share of what was planned was tapped through, not worked: *assumed*. */
const TAPPED_THROUGH = 0.4;
/** So many times the usual between two cookies, and so long, somebody was called away: *assumed*. */
const CALLED_AWAY = { times: 4, leastS: 120 } as const;

/**
 * How long the visits of a run really took, beside what was assumed of each kind of motion. Pauses and gaps between ticked cookies are
 * cut off; left out is whatever nobody saw begin, was given up, changed under the hands, tapped through, or took so long that it was
 * interrupted.
 */
export function visitPaces(plan: RunPlan, events: readonly StoredEvent[], day: string): VisitPace[] {
  if (events.some((e) => e.doubtful)) return [];
  const run = runIndex(foldRun(plan, events));
  const hands = new Map(plan.order.decorators.map((d) => [d.id, d]));
  return run.state.plan.tasks.flatMap((task): VisitPace[] => {
    const record = run.record(task.id);
    const [begunMs, doneMs] = [run.begunMs(task.id), run.doneMs(task.id)];
    if (begunMs === null || doneMs === null || !record || record.inferred || record.skipped || record.guessed) return [];
    if (task.lotId === null || task.without?.length || task.leftOut?.length) return [];
    const tookS =
      withoutPausesMs(run.state, begunMs, doneMs) / 1000 -
      calledAwayS(run, task) -
      changedS(run, task, begunMs) -
      (task.opening?.seconds ?? 0);
    const plannedS = task.endS - task.startS - (task.opening?.seconds ?? 0);
    if (tookS < TAPPED_THROUGH * plannedS || (tookS > INTERRUPTED.times * plannedS && tookS > plannedS + INTERRUPTED.moreS)) return [];
    const takes = hands.get(task.by)?.takes;
    const assumedS: Partial<Record<PaceKind, number>> = {};
    for (const [kind, seconds] of secondsByKind(plan, task)) assumedS[kind] = seconds / (takes?.[kind] ?? 1);
    return [{ who: task.by, day, tookS, assumedS }];
  });
}

/** What the longest gaps between ticked cookies hold beyond the usual one, seconds. */
function calledAwayS(run: RunIndex, task: RunTask): number {
  const at = run.state.standing.flatMap((e) => (e.type === 'cookieDone' && e.data.taskId === task.id ? [e.atMs] : []));
  const gaps = at.slice(1).map((ms, i) => (ms - (at[i] as number)) / 1000);
  const usual = [...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)] ?? 0;
  return gaps.reduce((s, g) => s + (gaps.length > 2 && g > CALLED_AWAY.times * usual && g > CALLED_AWAY.leastS ? g - usual : 0), 0);
}

/** Taken up right behind another with other bags, a visit begins with the change. */
function changedS(run: RunIndex, task: RunTask, begunMs: number): number {
  const before = run.state.plan.tasks.find((t) => t.by === task.by && t.id !== task.id && run.doneMs(t.id) === begunMs);
  const [a, b] = [before && run.plan.familyOf(before), run.plan.familyOf(task)];
  return a && b && a !== b ? ASSUMED_PACE.changeoverS : 0;
}
