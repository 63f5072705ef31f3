import { actualStays, leastDry, lookNow, type RunIndex } from '@kestfog/core/bench';
import type { SurfaceState } from '@kestfog/core/drying';
import type { Lot, StayPlace } from '@kestfog/core/formats';
import type { CookieLook } from '@kestfog/core/planning';

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

export function traysNow(index: RunIndex, nowMs: number): TrayNow[] {
  const atS = index.plan.sOf(nowMs);
  const stays = actualStays(index);
  return index.state.plan.trays
    .filter((t) => t.lots.length > 0)
    .map((t): TrayNow => {
      const lots = t.lots.flatMap((lot) => {
        const [cookie] = index.cookiesOf(lot);
        return cookie === undefined ? [] : [{ lot, look: lookNow(index, lot, cookie, nowMs) }];
      });
      const tasks = index.plan.tasksOnTray(t.id);
      return {
        trayId: t.id,
        lots,
        least: leastDry(index, t.id, nowMs),
        inHand: tasks.some(index.isInHand),
        away: stays.find((s) => s.trayId === t.id && s.startS <= atS && atS < s.endS)?.where ?? null,
        packed: tasks.filter((x) => x.kind === 'pack').every(index.isDone),
      };
    });
}
