import { actualSpan, actualStays, aroundTray, cookieKey, cookiesOf, isLeftOut, leastDry, type RunState } from '@kestfog/core/bench';
import type { SurfaceState } from '@kestfog/core/drying';
import type { Lot, Plan, StayPlace } from '@kestfog/core/formats';
import { type CookieLook, cookieLook } from '@kestfog/core/planning';

/** Each tray as it is now, by the model, through the times it really was worked. */
export interface TrayNow {
  readonly trayId: string;
  readonly lots: readonly { readonly lot: Lot; readonly look: CookieLook }[];
  /** the least dry surface on it; null while it is bare */
  readonly least: SurfaceState | null;
  readonly inHand: boolean;
  /** where it dries, away from the bench */
  readonly away: StayPlace | null;
  readonly packed: boolean;
}

/** One cookie as it is now, by the model, through the air and the times as they were. */
export const lookOf = (plan: Plan, state: RunState, epochMs: number, lot: Lot, cookie: number, nowMs: number): CookieLook =>
  cookieLook(plan, lot, cookie, (nowMs - epochMs) / 1000, actualSpan(state, epochMs), aroundTray(plan, state, epochMs, lot.trayId), isLeftOut);

export function traysNow(plan: Plan, state: RunState, epochMs: number, nowMs: number): TrayNow[] {
  const atS = (nowMs - epochMs) / 1000;
  const stays = actualStays(plan, state, epochMs);
  return plan.trays
    .filter((t) => t.lots.length > 0)
    .map((t): TrayNow => {
      const own = stays.filter((s) => s.trayId === t.id);
      const lots = t.lots.flatMap((lot) => {
        const cookie = cookiesOf(lot).find((c) => !state.out.has(cookieKey(lot.id, c)));
        return cookie === undefined ? [] : [{ lot, look: lookOf(plan, state, epochMs, lot, cookie, nowMs) }];
      });
      const tasks = plan.tasks.filter((x) => x.trayId === t.id);
      return {
        trayId: t.id,
        lots,
        least: leastDry(plan, state, epochMs, t.id, nowMs),
        inHand: tasks.some((x) => {
          const r = state.tasks.get(x.id);
          return r !== undefined && r.begunAtMs !== null && r.doneAtMs === null;
        }),
        away: own.find((s) => s.startS <= atS && atS < s.endS)?.where ?? null,
        packed: tasks.filter((x) => x.kind === 'pack').every((x) => (state.tasks.get(x.id)?.doneAtMs ?? null) !== null),
      };
    });
}
