import type { Air } from '../drying/air.js';
import { type Airs, airsWith, momentOfLoss, type StayAir } from '../drying/airs.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { Plan, StayPlace, TimedGap } from '../formats/plan.js';
import type { TrayId } from '../units/id.js';
import { leftToDryS } from './separation.js';
import { lossNeeded } from './timed-gap.js';
import type { Visit } from './visit.js';

/** Air before the fan or in the dehydrator of a plan. */
export const airOfStay = (plan: Pick<Plan, 'air' | 'fanAir' | 'dehydratorAir'>, where: StayPlace): Air =>
  (where === 'fan' ? plan.fanAir : plan.dehydratorAir) ?? plan.air;

/** What a tray stands in as the plan has it. */
export const plannedAirs = (plan: Plan, trayId: TrayId): Airs =>
  airsWith(
    plan.air,
    plan.stays.filter((s) => s.trayId === trayId).map((s) => ({ startS: s.startS, endS: s.endS, air: airOfStay(plan, s.where) })),
  );

export interface MeasuredGap {
  readonly from: Visit;
  readonly to: Visit;
  readonly timed: TimedGap;
  /** start-to-start lag that the air the plan really gives asks for, over all cookies */
  readonly neededS: number;
  readonly givenS: number;
}

/** Every wait between two visits measured through the air the plan gives, cookie by cookie. */
export function measureGaps(
  visits: readonly Visit[],
  timedByLot: ReadonlyMap<string, readonly TimedGap[]>,
  start: Readonly<Record<string, number>>,
  staysOf: (trayId: string) => readonly StayAir[],
  air: Air,
  margin: Margin,
  factors?: Factors,
): MeasuredGap[] {
  const out: MeasuredGap[] = [];
  for (const from of visits) {
    for (const to of visits) {
      if (from === to || from.lot.id !== to.lot.id) continue;
      const [a, b] = [Math.max(from.cookies[0], to.cookies[0]), Math.min(from.cookies[1], to.cookies[1])];
      if (a >= b) continue;
      for (const timed of timedByLot.get(from.lot.id) ?? []) {
        if (!from.times.endS.has(timed.gap.from) || !to.times.startS.has(timed.gap.to)) continue;
        const need = lossNeeded(timed.gap, margin, factors);
        const airs = airsWith(air, staysOf(from.lot.trayId));
        let neededS = Number.NEGATIVE_INFINITY;
        for (let cookie = a; cookie < b; cookie++) {
          const left = leftToDryS(from, timed.gap.from, cookie);
          const begins = (to.times.startS.get(timed.gap.to) as readonly number[])[cookie - to.cookies[0]] as number;
          const leftAt = (start[from.id] as number) + left;
          const wait = need > 0 ? momentOfLoss(airs, leftAt, need) - leftAt : timed.minS;
          neededS = Math.max(neededS, left + Math.max(wait, timed.gap.minSeconds ?? 0) - begins);
        }
        out.push({ from, to, timed, neededS: Math.ceil(neededS), givenS: (start[to.id] as number) - (start[from.id] as number) });
      }
    }
  }
  return out;
}
