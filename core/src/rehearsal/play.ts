import { bodiesAsked } from '../bench/bodies.js';
import type { StoredEvent } from '../bench/event.js';
import type { RunIndex } from '../bench/run-index.js';
import type { RunTask } from '../bench/run-plan.js';
import { lostBy } from '../drying/body.js';
import { cookieKey } from '../formats/ids.js';
import type { Plan } from '../formats/plan.js';
import { EveningLog } from './evening-log.js';
import { type Truth, trueThreshold } from './truth.js';

/** Who plays an evening without anybody watching. */
export type Player =
  /** goes by the bench: waits so much of each wait, 1 for all of it, 0.5 for who begins half way through */
  | { readonly goesBy: 'bench'; readonly patience: number }
  /** goes by the finger: begins once everything it works on is really there, however long or short that takes */
  | { readonly goesBy: 'finger' };
export const PERFECT: Player = { goesBy: 'finger' };
export const TRUSTING: Player = { goesBy: 'bench', patience: 1 };
export const IMPATIENT: Player = { goesBy: 'bench', patience: 0.5 };

/** An evening at the bench, played to its end: the log of a plan, in the plan's order. */
export function playEvening(plan: Plan, truth: Truth, player: Player): StoredEvent[] {
  const log = new EveningLog(plan);
  let handsS = plan.tasks[0]?.startS ?? 0;
  log.say(handsS, { type: 'runStarted', data: {} });
  for (const { id } of plan.tasks) {
    const run = log.run();
    const task = run.plan.task(id);
    if (!task) continue;
    const atS = run.plan.whenOpen(Math.max(handsS, begins(run, task, handsS, truth, player)));
    log.say(atS, { type: 'taskBegun', data: { taskId: id } });
    handsS = atS + task.endS - task.startS;
    log.say(handsS, { type: 'taskDone', data: { taskId: id } });
  }
  return log.events;
}

function begins(run: RunIndex, task: RunTask, handsS: number, truth: Truth, player: Player): number {
  if (player.goesBy === 'finger')
    return Math.max(
      handsS,
      ...bodiesAsked(run, task).map(({ body, state }) =>
        lostBy(body, trueThreshold(truth, cookieKey(body.lotId, body.cookie), body.region, state)),
      ),
    );
  const readyMs = run.readyMs(task);
  return Number.isFinite(readyMs) ? handsS + player.patience * (run.plan.sOf(readyMs) - handsS) : handsS;
}
