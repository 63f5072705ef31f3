import { dryingRate, lossThrough, secondsToLose } from '../drying/front.js';
import { normalCdf } from '../drying/normal.js';
import { TOO_SLOW_S } from '../drying/outlook.js';
import { MARGIN_Z } from '../drying/uncertainty.js';
import { marginOf } from '../planning/timed-gap.js';
import { airPieces, type StayAir } from '../planning/verify.js';
import type { Gap } from '../steps/step.js';
import { roomAt } from './room.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { RunState } from './run-state.js';

/** Never looked at again sooner than this. */
const AT_LEAST_S = 120;

/**
 * When to touch again what a finger found still wet at `nowS`, seconds since the epoch: the threshold's distribution with
 * everything below what has been lost by now cut off, at the plan's margin. null where the task waits for no drying.
 * `around` is what its tray really stood in.
 */
export function stillWetUntilS(plan: RunPlan, state: RunState, task: RunTask, epochMs: number, nowS: number, around: readonly StayAir[]): number | null {
  let untilS: number | null = null;
  for (const { gap, leftS } of waitsBehind(plan, state, task, epochMs)) {
    const { mean, sigma } = plan.factors[gap.minState as NonNullable<Gap['minState']>];
    const median = gap.minLossKgPerM2 as number;
    const lost = lostBy(plan, around, leftS, nowS);
    // It is not there yet, so its factor lies above what the loss so far would have needed.
    const seen = lost > 0 ? normalCdf((Math.log(lost / median) - mean) / sigma) : 0;
    const wanted = normalCdf(MARGIN_Z[marginOf(gap, plan.margin)]);
    const factor = Math.exp(mean + sigma * quantile(seen + wanted * (1 - seen)));
    // In air that dries nothing any more it is looked at again in three days at the latest, rather than never.
    const dryS = Math.min(TOO_SLOW_S, secondsToLose(dryingRate(roomAt(plan, state.room, nowS)), lost, median * factor));
    const readyS = nowS + Math.max(AT_LEAST_S, dryS);
    untilS = Math.max(untilS ?? 0, Math.ceil(readyS));
  }
  return untilS;
}

/** The drying a task's steps wait for on their own cookies, with when each body was left alone. */
export function waitsBehind(
  plan: RunPlan,
  state: RunState,
  task: RunTask,
  epochMs: number,
): { readonly gap: Gap; readonly from: RunTask; readonly leftS: number }[] {
  const lot = plan.trays.flatMap((t) => t.lots).find((l) => l.id === task.lotId);
  const design = plan.designs.find((d) => d.id === lot?.designId);
  if (!design) return [];
  const doing = (stepId: string) =>
    plan.tasks.filter(
      (t) => t.lotId === task.lotId && t.cookies[0] < task.cookies[1] && task.cookies[0] < t.cookies[1] && t.motions.some((m) => m.stepId === stepId),
    );
  return design.graph.gaps
    .filter((g) => g.minState && g.minLossKgPerM2 !== undefined && task.motions.some((m) => m.stepId === g.to))
    .flatMap((gap) =>
      doing(gap.from).flatMap((from) => {
        const doneAtMs = state.tasks.get(from.id)?.doneAtMs ?? null;
        return from === task || doneAtMs === null ? [] : [{ gap, from, leftS: (doneAtMs - epochMs) / 1000 }];
      }),
    );
}

/** Water a body left alone at `fromS` has lost by `nowS`, kg/m², where its tray stood. */
export function lostBy(plan: RunPlan, stays: readonly StayAir[], fromS: number, nowS: number): number {
  let left = Math.max(0, nowS - fromS);
  const passed = airPieces(fromS, stays, plan.air).flatMap((p) => {
    const seconds = Math.min(left, p.seconds);
    left -= seconds;
    return seconds > 0 ? [{ air: p.air, seconds }] : [];
  });
  return lossThrough(passed);
}

/** Standard normal quantile, by halving; shares beyond a twentieth of a per mille are told as that. */
function quantile(share: number): number {
  let [lo, hi] = [-4, 4];
  for (let i = 0; i < 40; i++) {
    const mid = (lo + hi) / 2;
    if (normalCdf(mid) < share) lo = mid;
    else hi = mid;
  }
  return (lo + hi) / 2;
}
