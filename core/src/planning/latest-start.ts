import type { Plan } from '../formats/plan.js';
import { NoAnswer } from '../units/bad-input.js';
import { arrange, attempt, dueS, isInTime, type PlanInput, preparePlanning } from './planning.js';
import type { StayChoice } from './stays.js';

const GRID_S = 900;
const HOUR_S = 3600;
/** Passes for each start that is tried: whether it can be done at all, not how well. */
const TRY_PASSES = 16;

/**
 * The latest start, seconds since the epoch, at which nothing is packed late at the plan's margin; null where the plan's own
 * start is the latest there is. With a night between, a later start may fit where an earlier one does not, so every hour
 * inside the bench's hours is tried, the last first, then the quarters of the hour after it. Trays, hands and stays stay as
 * the plan has them.
 */
export function latestSafeStart(input: PlanInput, plan: Plan, stop: () => boolean = () => false): number | null {
  const planning = preparePlanning(input);
  const arranged = arrange(planning, plan.arrangement.way);
  const stays = plan.stays.map(
    (s): StayChoice => ({ where: s.where, trayId: s.trayId, round: s.round, batch: s.batch, seconds: s.forS, why: s.why }),
  );
  const last = Math.max(...planning.ids.map((id) => dueS(planning, id)));
  const hands = planning.order.decorators.length;
  const openFrom = (s: number) =>
    planning.order.openingHours.reduce((sum, [from, to]) => sum + Math.max(0, Math.min(to, last) - Math.max(from, s)), 0);
  const begins = plan.tasks[0]?.startS ?? 0;
  const fits = (startS: number): boolean => {
    if (openFrom(startS) * hands < plan.handsOnS) return false;
    try {
      return isInTime(attempt(arranged, { stays, passes: TRY_PASSES, notBeforeS: startS }));
    } catch (error) {
      if (error instanceof NoAnswer) return false;
      throw error;
    }
  };
  const hours: number[] = [];
  for (const [from, to] of planning.order.openingHours)
    for (let s = from; s < Math.min(to, last); s += HOUR_S) if (s > begins) hours.push(s);
  for (const hour of hours.sort((a, b) => b - a)) {
    if (stop()) return null;
    if (!fits(hour)) continue;
    for (let k = 3; k > 0; k--) {
      const s = hour + k * GRID_S;
      if (planning.order.openingHours.some(([from, to]) => from <= s && s < to) && fits(s)) return s;
    }
    return hour;
  }
  return null;
}
