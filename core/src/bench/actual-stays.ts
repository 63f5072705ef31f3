import type { StayAir } from '../drying/airs.js';
import type { StayPlace } from '../formats/plan.js';
import { airOfStay } from '../planning/verify.js';
import type { StayId, TrayId } from '../units/id.js';
import type { RunIndex } from './run-index.js';
import type { Carry } from './run-state.js';

/** A stay as it really was: from when the tray was carried there, seconds since the epoch. */
export interface ActualStay extends StayAir {
  readonly trayId: TrayId;
  readonly where: StayPlace;
  /** of the plan's stay; null where it was said at the bench */
  readonly id: StayId | null;
  /** how long it needs */
  readonly forS: number;
}

/**
 * When a tray carried away unplanned left that air: before the fan after its minutes, in the dehydrator when it was brought back;
 * Infinity until then.
 */
export const endOfCarry = (c: Carry): number => c.endS ?? (c.where === 'fan' ? c.startS + c.forS : Number.POSITIVE_INFINITY);

/**
 * Stays as they really began and ended: when hands took the tray away, Infinity until then. Plans of before version 4 had nobody fetch
 * a tray from the fan: there it ended after its time.
 */
export function actualStays(run: RunIndex): ActualStay[] {
  const { plan } = run.plan;
  const planned = plan.stays.flatMap((s): ActualStay[] => {
    const [carry, out] = [run.plan.carryOf(s), run.plan.takeOutOf(s)];
    const startS = carry ? run.doneS(carry.id) : null;
    if (startS === null) return [];
    const endS = out ? (run.doneS(out.id) ?? Number.POSITIVE_INFINITY) : startS + s.forS;
    return [{ trayId: s.trayId, where: s.where, id: s.id, forS: s.forS, startS, endS, air: airOfStay(plan, s.where) }];
  });
  const carried = run.state.carries.map((c): ActualStay => ({ ...c, id: null, endS: endOfCarry(c), air: airOfStay(plan, c.where) }));
  return [...planned, ...carried];
}
