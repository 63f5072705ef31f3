import type { Air } from '../drying/air.js';
import { withFan } from '../drying/air.js';
import { type Airs, asAirs } from '../drying/airs.js';
import { airInDehydrator } from '../drying/fan.js';
import { dryingRate } from '../drying/front.js';
import type { StayPlace } from '../formats/plan.js';
import { ofOne } from '../geometry/remembered.js';
import { airOfStay } from '../planning/verify.js';
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
  return plan.order.dehydrator ? airInDehydrator(room, plan.order.dehydrator.tempC, plan.order.dehydrator.airMPerS) : room;
}

/** Air counts as changed where icing dries this much faster or slower in it: *assumed*, well above a sensor's sway. */
const WORTH = 0.08;

/** Whether icing dries clearly faster or slower in one air than in the other. */
export function driesOtherwise(a: Air, b: Air): boolean {
  const [x, y] = [dryingRate(a).fluxKgPerM2S, dryingRate(b).fluxKgPerM2S];
  return Math.abs(x - y) > WORTH * Math.max(x, y);
}

/** What a tray stands in over time: the room as it was read, and where it stood meanwhile. */
export function airsAround(plan: RunPlan, room: readonly RoomAir[], stays: readonly Pick<ActualStay, 'where' | 'startS' | 'endS'>[]): Airs {
  if (stays.length === 0) return asAirs([Number.NEGATIVE_INFINITY, ...room.map((r) => r.fromS)], [plan.air, ...room.map((r) => r.air)]);
  const edges = [...room.map((r) => r.fromS), ...stays.flatMap((s) => [s.startS, s.endS])].filter(Number.isFinite).sort((a, b) => a - b);
  const fromS = [Number.NEGATIVE_INFINITY];
  const air = [plan.air];
  let read = 0;
  let here = plan.air;
  for (const [i, atS] of edges.entries()) {
    if (atS === edges[i - 1]) continue;
    for (let r = room[read]; r && r.fromS <= atS; r = room[read]) {
      here = r.air;
      read += 1;
    }
    const stay = stays.find((s) => s.startS <= atS && atS < s.endS);
    fromS.push(atS);
    air.push(stay ? awayAir(plan, stay.where, here) : here);
  }
  return asAirs(fromS, air);
}

/** Every body on a tray asks for the same airs, and a run as it stands does not change. */
const airsOfRun = ofOne((_run: RunIndex) => new Map<TrayId, Airs>());
/** What a tray really stood in, and stands in now. */
export function airsOfTray(run: RunIndex, trayId: TrayId): Airs {
  const known = airsOfRun(run);
  let airs = known.get(trayId);
  if (!airs) {
    airs = airsAround(
      run.state.plan,
      run.state.room,
      actualStays(run).filter((s) => s.trayId === trayId),
    );
    known.set(trayId, airs);
  }
  return airs;
}
