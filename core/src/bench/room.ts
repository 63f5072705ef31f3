import type { Air } from '../drying/air.js';
import { withFan } from '../drying/air.js';
import { airInBox } from '../drying/fan.js';
import { dryingRate } from '../drying/front.js';
import type { StayPlace } from '../formats/plan.js';
import { airOfStay, type StayAir } from '../planning/verify.js';
import type { TrayId } from '../units/id.js';
import { type ActualStay, actualStays } from './actual-stays.js';
import type { RunIndex } from './run-index.js';
import type { RunPlan } from './run-plan.js';
import type { RoomAir } from './run-state.js';

/** The room's air at a moment: as last read before it, or as planned. */
export const roomAt = (plan: RunPlan, room: readonly RoomAir[], atS: number): Air => room.findLast((r) => r.fromS <= atS)?.air ?? plan.air;

/** Air before the fan or in the dehydrator while the room has this air. */
export function awayAir(plan: RunPlan, where: StayPlace, room: Air): Air {
  if (room === plan.air) return airOfStay(plan, where);
  if (where === 'fan') return withFan(room, plan.order.fan?.airMPerS);
  return plan.order.box ? airInBox(room, plan.order.box.tempC, plan.order.box.airMPerS) : room;
}

/** Air counts as changed where icing dries this much faster or slower in it: *assumed*, well above a sensor's sway. */
const WORTH = 0.08;

/** Whether icing dries clearly faster or slower in one air than in the other. */
export function driesOtherwise(a: Air, b: Air): boolean {
  const [x, y] = [dryingRate(a).fluxKgPerM2S, dryingRate(b).fluxKgPerM2S];
  return Math.abs(x - y) > WORTH * Math.max(x, y);
}

/** What a tray stands in where that is not the air the plan counts on: its stays, and the room once it has changed. */
export function surroundings(plan: RunPlan, room: readonly RoomAir[], stays: readonly Pick<ActualStay, 'where' | 'startS' | 'endS'>[]): StayAir[] {
  const edges = [...new Set([...room.map((r) => r.fromS), ...stays.flatMap((s) => [s.startS, s.endS])])].filter(Number.isFinite).sort((a, b) => a - b);
  return edges.flatMap((startS, i): StayAir[] => {
    const endS = edges[i + 1] ?? Number.POSITIVE_INFINITY;
    const stay = stays.find((s) => s.startS <= startS && startS < s.endS);
    const air = roomAt(plan, room, startS);
    if (!stay && air === plan.air) return [];
    return [{ startS, endS, air: stay ? awayAir(plan, stay.where, air) : air }];
  });
}

/** What a tray really stood in, and stands in now. */
export const aroundTray = (run: RunIndex, trayId: TrayId): StayAir[] =>
  surroundings(
    run.state.plan,
    run.state.room,
    actualStays(run).filter((s) => s.trayId === trayId),
  );
