import { planIndex } from '../formats/plan-index.js';
import { isBeforeStay } from '../planning/stays.js';
import { changesTasks, type RunEvent } from './event.js';
import { Folding } from './folding.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { RunState } from './run-state.js';

/** Task an event speaks of, where it speaks of one. */
const taskIn = (e: RunEvent): string | null => ('taskId' in e.data ? e.data.taskId : null);
/** Events that changed what there is to do, not only when. */
const changesWork = (e: RunEvent): boolean =>
  e.type === 'imHere' || e.type === 'skipped' || e.type === 'windowShut' || (e.type === 'defect' && changesTasks(e.data.outcome));

/** Why an event cannot be undone; null where it can. */
export function whyNotUndone(
  plan: RunPlan,
  standing: readonly RunEvent[],
  eventId: string,
): { code: 'unknown' | 'undo-of-undo' | 'built-upon'; facts: Record<string, string> } | null {
  const index = standing.findLastIndex((e) => e.id === eventId);
  const target = standing[index];
  if (!target) return { code: 'unknown', facts: { eventId } };
  if (target.type === 'undone') return { code: 'undo-of-undo', facts: { eventId } };
  const builtUpon = (e: RunEvent | undefined) => (e ? { code: 'built-upon' as const, facts: { taskId: taskIn(e) ?? '' } } : null);
  const steps = standing
    .slice(index + 1)
    .filter((e) => e.type === 'taskDone' || e.type === 'taskBegun' || e.type === 'cookieDone' || e.type === 'imHere');
  if (target.type === 'runStarted' || changesWork(target)) return builtUpon(steps[0]);
  if (target.type !== 'taskDone' && target.type !== 'cookieDone') return null;
  // Nothing came after it: the plan as it was amended meanwhile need not be asked.
  if (steps.length === 0 && !standing.slice(index + 1).some((e) => e.type === 'carried')) return null;
  const now = standing.some(changesWork) ? asAmended(plan, standing) : plan;
  const after = steps.find((e) =>
    planIndex(now)
      .waitsInto(taskIn(e) ?? '')
      .some((w) => w.from === target.data.taskId),
  );
  if (after) return builtUpon(after);
  const work = planIndex(now).task(target.data.taskId);
  return work && standing.slice(index + 1).some((e) => carriesOff(now, e, work))
    ? { code: 'built-upon', facts: { trayId: work.trayId } }
    : null;
}

/** Whether an event says that a tray was carried to where it dries, with what a task had laid on it. */
function carriesOff(plan: RunPlan, e: RunEvent, work: RunTask): boolean {
  if (e.type === 'carried') return e.data.trayId === work.trayId;
  if (e.type !== 'taskDone') return false;
  return plan.stays.some((s) => s.trayId === work.trayId && planIndex(plan).carryOf(s)?.id === e.data.taskId && isBeforeStay(work, s));
}

/** The plan with what came to it at the bench: a cookie begun again has steps and waits of its own. */
function asAmended(plan: RunPlan, standing: readonly RunEvent[]): RunPlan {
  const run = new Folding(plan);
  for (const e of standing) run.apply(e);
  return run.amended;
}

/** What a plain "undo" takes back; beginning, re-plans and the air are taken back otherwise or not at all. */
const isStep = (e: RunEvent): boolean => !['runStarted', 'resumed', 'undone', 'planRevised', 'airRead'].includes(e.type);

/** The event a plain "undo" takes back: this device's last standing step. */
export const lastToUndo = (state: RunState, deviceId: string): RunEvent | null =>
  lastOf(state.standing.filter((e) => e.deviceId === deviceId && isStep(e)));
/** The device's own numbers say what it said last, whenever it was. */
const lastOf = (own: readonly RunEvent[]): RunEvent | null =>
  own.reduce<RunEvent | null>((a, b) => (a && a.deviceSeq > b.deviceSeq ? a : b), null);
