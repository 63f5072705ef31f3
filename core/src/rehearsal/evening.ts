import { type AskedBody, askedNow, bodiesAsked } from '../bench/bodies.js';
import type { StoredEvent } from '../bench/event.js';
import type { RunIndex } from '../bench/run-index.js';
import { shareAt } from '../drying/body.js';
import { cookieKey } from '../formats/ids.js';
import type { Plan } from '../formats/plan.js';
import type { Rng } from '../time/rng.js';
import type { TaskId } from '../units/id.js';
import { EveningLog } from './evening-log.js';
import type { Kitchen } from './kitchen.js';
import { isThere, truthOf } from './truth.js';

/**
 * Simulated kitchens that work whole orders through the bench's own log. Icing dries by factors that only the simulation knows; hands
 * do what the bench says, a finger goes to the body the bench names, and says what it finds.
 */

/** How somebody works. */
export interface Habits {
  /** share of the waits in which a finger is already put there half way through */
  readonly early: number;
  /** share of the visits before which a finger is put, in passing, to a crust that is waited for elsewhere */
  readonly passing?: number;
  /** how many times as long as planned a visit takes; as planned where it is left out */
  readonly takes?: number;
  /** share of the visits before which somebody is called away, and for how long, s */
  readonly calledAway?: { readonly share: number; readonly s: number };
}
/** Hands that put a finger to every other wait before its time, and do not work on what is not there. */
export const USUAL: Habits = { early: 0.5 };
/** A day at the bench: the log of a plan worked to its end. */
export function worked(
  plan: Plan,
  kitchen: Kitchen,
  rng: Rng,
  { early, passing = 0, takes = 1, calledAway }: Habits = USUAL,
): StoredEvent[] {
  const log = new EveningLog(plan);
  const truth = truthOf(kitchen, Math.floor(rng() * 2 ** 32));
  const isFound = ({ body, state }: AskedBody, atS: number) => isThere(truth, cookieKey(body.lotId, body.cookie), body, state, atS);
  log.say(plan.tasks[0]?.startS ?? 0, { type: 'runStarted', data: {} });
  let handsS = plan.tasks[0]?.startS ?? 0;
  for (const task of plan.tasks) {
    for (let looks = 0; ; looks++) {
      const run = log.run();
      const now = run.plan.task(task.id);
      if (!now) break;
      const readyMs = run.readyMs(now);
      const readyS = Number.isFinite(readyMs) ? run.plan.sOf(readyMs) : handsS;
      if (looks === 0 && readyS > handsS + 300 && rng() < early) {
        const halfS = handsS + (readyS - handsS) * (0.4 + 0.5 * rng());
        const body = askedNow(run, now, halfS);
        if (body) {
          const { cookie, stepId } = body.body;
          log.say(halfS, {
            type: 'touched',
            data: { taskId: task.id, cookie, part: stepId, state: body.state, found: isFound(body, halfS) ? 'reached' : 'not-yet' },
          });
          handsS = halfS + 1;
          continue;
        }
      }
      const atS = run.plan.whenOpen(Math.max(handsS, readyS));
      const body = askedNow(run, now, atS);
      const seen = body && run.state.looks.findLast((l) => l.taskId === task.id)?.found === 'reached' ? null : body;
      if (seen && looks < 12 && !isFound(seen, atS)) {
        const { cookie, stepId } = seen.body;
        log.say(atS, { type: 'touched', data: { taskId: task.id, cookie, part: stepId, state: seen.state, found: 'not-yet' } });
        handsS = atS + 1;
        continue;
      }
      if (passing > 0 && rng() < passing) {
        const other = crustElsewhere(run, task.id, atS);
        if (other) {
          const { taskId, asked } = other;
          const { cookie, stepId } = asked.body;
          const found = isFound(asked, atS) ? 'reached' : 'not-yet';
          log.say(atS, { type: 'touched', data: { taskId, cookie, part: stepId, state: asked.state, found } });
        }
      }
      const awayS = calledAway && rng() < calledAway.share ? calledAway.s : 0;
      log.say(atS + awayS, { type: 'taskBegun', data: { taskId: task.id } });
      handsS = atS + awayS + takes * (now.endS - now.startS);
      log.say(handsS, { type: 'taskDone', data: { taskId: task.id } });
      handsS += 5;
      break;
    }
  }
  return log.events;
}

/** A glance goes to what has lost from two thirds of its state's water to half as much again: this far off as a logarithm. *Assumed*. */
const WORTH_A_GLANCE = 0.4;

/** The crust another visit waits for that is nearest to coming: what a glance in passing goes to. */
function crustElsewhere(run: RunIndex, taskId: string, atS: number): { readonly taskId: TaskId; readonly asked: AskedBody } | null {
  const waiting = run.open
    .filter((t) => t.id !== taskId)
    .flatMap((t) => bodiesAsked(run, t).flatMap((asked) => (asked.state === 'crusted' ? [{ taskId: t.id, asked }] : [])));
  const far = ({ asked }: (typeof waiting)[number]) => Math.abs(Math.log(shareAt(asked.body, asked.state, atS)));
  const near = waiting.filter((w) => far(w) < WORTH_A_GLANCE);
  return near.reduce<(typeof near)[number] | null>((best, w) => (best && far(best) <= far(w) ? best : w), null);
}
