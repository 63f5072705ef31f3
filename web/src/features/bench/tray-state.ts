import {
  actualStays,
  type CookieLook,
  cookieLook,
  type Lot,
  type Plan,
  type PlanTask,
  type RunState,
  type Span,
  type StayPlace,
  type SurfaceState,
  surfaceStates,
} from '@kestfog/core';

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

export const actualSpan =
  (state: RunState, epochMs: number) =>
  (task: PlanTask): Span | null => {
    const r = state.tasks.get(task.id);
    if (!r || r.begunAtMs === null) return null;
    const startS = (r.begunAtMs - epochMs) / 1000;
    return r.doneAtMs === null ? { startS } : { startS, endS: (r.doneAtMs - epochMs) / 1000 };
  };

export function traysNow(plan: Plan, state: RunState, epochMs: number, nowMs: number): TrayNow[] {
  const atS = (nowMs - epochMs) / 1000;
  const stays = actualStays(plan, state, epochMs);
  const spanOf = actualSpan(state, epochMs);
  return plan.trays
    .filter((t) => t.lots.length > 0)
    .map((t): TrayNow => {
      const own = stays.filter((s) => s.trayId === t.id);
      const lots = t.lots.map((lot) => ({ lot, look: cookieLook(plan, lot, 0, atS, spanOf, own) }));
      const states = lots.flatMap((l) => Object.values(l.look.sections));
      const tasks = plan.tasks.filter((x) => x.trayId === t.id);
      return {
        trayId: t.id,
        lots,
        least: states.length === 0 ? null : states.reduce((a, b) => (surfaceStates.indexOf(b) < surfaceStates.indexOf(a) ? b : a)),
        inHand: tasks.some((x) => {
          const r = state.tasks.get(x.id);
          return r !== undefined && r.begunAtMs !== null && r.doneAtMs === null;
        }),
        away: own.find((s) => s.startS <= atS && atS < s.endS)?.where ?? null,
        packed: tasks.filter((x) => x.kind === 'pack').every((x) => (state.tasks.get(x.id)?.doneAtMs ?? null) !== null),
      };
    });
}
