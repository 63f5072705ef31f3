import { type Body, shareAt } from '../drying/body.js';
import type { DryingState } from '../drying/state.js';
import { bodyKey } from '../formats/ids.js';
import { leftToDryS } from '../planning/separation.js';
import type { Gap } from '../steps/step.js';
import type { LotId, StepId } from '../units/id.js';
import { askedState, looksAt } from './looked.js';
import { airsOfTray } from './room.js';
import type { RunIndex } from './run-index.js';
import { isLeftOut, type RunTask } from './run-plan.js';
import { sharedCookies, visitOf } from './visit-of.js';

/** One body of icing that was laid: on which cookie, by which step, and when it was left alone in the air it really had. */
export interface LaidBody extends Body {
  readonly lotId: LotId;
  /** of the lot, from 0 */
  readonly cookie: number;
  readonly stepId: StepId;
  /** nobody said when it was laid: a later step was seen to be under way */
  readonly inferred: boolean;
}

/** The icing one step of a task that is done left on some of its cookies; empty where it leaves none, or was not done. */
export function laidBy(run: RunIndex, task: RunTask, stepId: StepId, cookies: readonly number[]): LaidBody[] {
  const record = run.record(task.id);
  const region = run.plan.step(task, stepId)?.region;
  const visit = visitOf(run.state.plan, task);
  const doneS = run.doneS(task.id);
  if (doneS === null || !record || record.skipped || !region || !visit || task.lotId === null) return [];
  const airs = airsOfTray(run, task.trayId);
  // The visit ended when it ended: each of its cookies was left that much sooner.
  const beganS = doneS - (task.endS - task.startS);
  const { lotId } = task;
  return cookies
    .filter((cookie) => !isLeftOut(task, cookie, stepId))
    .map((cookie): LaidBody => {
      const leftAtS = beganS + leftToDryS(visit, stepId, cookie);
      const looked = looksAt(run.plan, run.state.looks, { lotId, cookie, stepId, region, leftAtS });
      return { lotId, cookie, stepId, region, leftAtS, airs, looked, inferred: record.inferred === true };
    });
}

/** Everything that lies on the cookies by now. */
export const laidBodies = (run: RunIndex): LaidBody[] =>
  run.state.plan.tasks.flatMap((task) => task.motions.flatMap((m) => laidBy(run, task, m.stepId, sharedCookies(task, task))));

/** A body that a task waits for, and the state it is asked for. */
export interface AskedBody {
  readonly body: LaidBody;
  readonly state: DryingState;
  readonly gap: Gap;
  /** names the body and the state */
  readonly key: string;
}

/** Everything a task waits for on its cookies. */
export function bodiesAsked(run: RunIndex, task: RunTask): AskedBody[] {
  const own = new Set(task.motions.map((m) => m.stepId));
  const gaps = (run.plan.graphOf(task)?.gaps ?? []).filter((g) => g.minState && g.minLossKgPerM2 !== undefined && own.has(g.to));
  return gaps.flatMap((gap) =>
    run.plan
      .tasksOnLot(task.lotId)
      .filter((from) => from !== task && from.motions.some((m) => m.stepId === gap.from))
      .flatMap((from) => laidBy(run, from, gap.from, sharedCookies(from, task)))
      .map((body): AskedBody => {
        const state = askedState(gap, body.region);
        return { body, state, gap, key: `${bodyKey(body.lotId, body.cookie, body.stepId)} ${state}` };
      }),
  );
}

/**
 * Of everything a task waits for the body that is furthest from what is asked of it: the one a finger goes to. null where it waits for
 * none.
 */
export function furthest(asked: readonly AskedBody[], atS: number): AskedBody | null {
  let least: { readonly of: AskedBody; readonly share: number } | null = null;
  for (const of of asked) {
    const share = shareAt(of.body, of.state, atS);
    if (share > 0 && (!least || share < least.share)) least = { of, share };
  }
  return least?.of ?? null;
}

/** The same of a task as things stand. */
export const askedNow = (run: RunIndex, task: RunTask, atS: number): AskedBody | null => furthest(bodiesAsked(run, task), atS);
