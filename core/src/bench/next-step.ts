import { type AskedBody, askedNow } from './bodies.js';
import type { RunEvent } from './event.js';

import type { RunIndex } from './run-index.js';
import { openCookies, type RunTask } from './run-plan.js';
import type { RunState, TaskRecord } from './run-state.js';
import type { BenchView } from './view.js';

type Body = Pick<RunEvent, 'type' | 'data'>;

/** What one step forward is, as things stand, for who ticks visits or every cookie; null where there is none. */
export function nextStep(state: RunState, view: BenchView, byCookie: boolean): Body | null {
  if (state.startedAtMs === null) return { type: 'runStarted', data: {} };
  if (state.pausedAtMs !== null) return { type: 'resumed', data: {} };
  if (!view.now) return null;
  const { task } = view.now;
  if (view.inHandSinceMs === null) return { type: 'taskBegun', data: { taskId: task.id } };
  const cookie = byCookie && task.lotId ? openCookies(task, state.tasks.get(task.id)?.ticked)[0] : undefined;
  return cookie === undefined ? { type: 'taskDone', data: { taskId: task.id } } : { type: 'cookieDone', data: { taskId: task.id, cookie } };
}

/** So long after a step was taken up, a finger may still say that it is too wet for it; *assumed*. */
const TOUCH_MS = 120_000;

/** What a finger may be asked now, of the step in hand or the next: not there yet, there already, or neither. */
export interface MayTouch {
  readonly notYet: boolean;
  readonly reached: boolean;
  readonly body: AskedBody;
}

/** The body a finger may speak of now; null where the step waits for none that is laid, or was taken up some time ago. */
export function mayTouch(run: RunIndex, view: BenchView, nowMs: number): MayTouch | null {
  const { now } = view;
  const { state } = run;
  if (!now || state.pausedAtMs !== null || state.startedAtMs === null) return null;
  if (view.inHandSinceMs !== null && nowMs - view.inHandSinceMs >= TOUCH_MS) return null;
  const body = askedNow(run, now.task, run.plan.sOf(nowMs));
  return body && { body, notYet: !view.waiting, reached: view.waiting };
}

/** What a glance at another tray may find: of the icing its next step waits for, the body that is furthest behind. */
export interface MayTouchInPassing {
  readonly task: RunTask;
  readonly body: AskedBody;
}

/** Of a tray whose next step is not in hand; null where that waits for no icing that is laid. */
export function mayTouchInPassing(run: RunIndex, trayId: string, nowMs: number): MayTouchInPassing | null {
  if (run.state.pausedAtMs !== null || run.state.startedAtMs === null) return null;
  const task = run.open.find((t) => t.trayId === trayId && t.lotId !== null);
  if (!task || run.isInHand(task)) return null;
  const body = askedNow(run, task, run.plan.sOf(nowMs));
  return body && { task, body };
}

/** Cookies whose wet work the planned pace has not finished yet; all open ones where they are ticked one by one or nothing closes. */
export function notReached(task: RunTask, record: TaskRecord | undefined, nowMs: number): number[] {
  const open = openCookies(task, record?.ticked);
  const windowed = task.motions.filter((m) => m.windowS !== null);
  if (record?.begunAtMs == null || (record.ticked?.length ?? 0) > 0 || windowed.length === 0) return open;
  const elapsedS = (nowMs - record.begunAtMs) / 1000;
  return open.filter((c) => windowed.some((m) => (m.endS[c - task.cookies[0]] as number) > elapsedS));
}
