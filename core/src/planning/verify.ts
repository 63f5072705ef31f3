import type { Air } from '../drying/air.js';
import { type AirPiece, secondsToLoseThrough } from '../drying/front.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { Plan, StayPlace, TimedGap } from '../formats/plan.js';
import { leftToDryS } from './separation.js';
import { lossNeeded } from './timed-gap.js';
import type { Visit } from './visit.js';

/** A stay with the air a tray stands in meanwhile. */
export interface StayAir {
  readonly startS: number;
  readonly endS: number;
  readonly air: Air;
}

/** Air before the fan or in the dehydrator of a plan. */
export const airOfStay = (plan: Pick<Plan, 'air' | 'fanAir' | 'boxAir'>, where: StayPlace): Air => (where === 'fan' ? plan.fanAir : plan.boxAir) ?? plan.air;

/** The stays of a tray as the plan has them, with their air. */
export const stayAirs = (plan: Plan, trayId: string): StayAir[] =>
  plan.stays.filter((s) => s.trayId === trayId).map((s) => ({ startS: s.startS, endS: s.endS, air: airOfStay(plan, s.where) }));

/** Air a tray stands in from `fromS` on: the bench's, replaced during its stays. The last piece is endless. */
export function airPieces(fromS: number, stays: readonly StayAir[], air: Air): AirPiece[] {
  const pieces: AirPiece[] = [];
  let atS = fromS;
  for (const s of [...stays].sort((a, b) => a.startS - b.startS)) {
    if (s.endS <= atS) continue;
    if (s.startS > atS) pieces.push({ air, seconds: s.startS - atS });
    pieces.push({ air: s.air, seconds: s.endS - Math.max(s.startS, atS) });
    atS = s.endS;
  }
  pieces.push({ air, seconds: Number.POSITIVE_INFINITY });
  return pieces;
}

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
        let neededS = Number.NEGATIVE_INFINITY;
        for (let cookie = a; cookie < b; cookie++) {
          const left = leftToDryS(from, timed.gap.from, cookie);
          const begins = (to.times.startS.get(timed.gap.to) as readonly number[])[cookie - to.cookies[0]] as number;
          const leftAt = (start[from.id] as number) + left;
          const wait = need > 0 ? secondsToLoseThrough(airPieces(leftAt, staysOf(from.lot.trayId), air), need) : timed.minS;
          neededS = Math.max(neededS, left + Math.max(wait, timed.gap.minSeconds ?? 0) - begins);
        }
        out.push({ from, to, timed, neededS: Math.ceil(neededS), givenS: (start[to.id] as number) - (start[from.id] as number) });
      }
    }
  }
  return out;
}
