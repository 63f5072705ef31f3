import { type SurfaceState, surfaceStates } from '../drying/state.js';
import type { Lot } from '../formats/plan.js';
import { cookieLook, type Span } from '../planning/look.js';
import { cookieKey } from './fold.js';
import { aroundTray } from './room.js';
import { isLeftOut, type RunPlan, type RunTask } from './run-plan.js';
import type { RunState } from './run-state.js';

export const cookiesOf = (lot: Lot): number[] => Array.from({ length: lot.cookies }, (_, c) => c);

/** Where a task really was in time, seconds since the epoch; null where it was not done, or given up. */
export const actualSpan =
  (state: RunState, epochMs: number) =>
  (task: RunTask): Span | null => {
    const r = state.tasks.get(task.id);
    if (!r || r.begunAtMs === null || r.skipped) return null;
    const startS = (r.begunAtMs - epochMs) / 1000;
    return r.doneAtMs === null ? { startS } : { startS, endS: (r.doneAtMs - epochMs) / 1000 };
  };

/** The least dry surface of a tray's cookies, by the model through the air as it was; null while it is bare. */
export function leastDry(plan: RunPlan, state: RunState, epochMs: number, trayId: string, nowMs: number): SurfaceState | null {
  const tray = plan.trays.find((t) => t.id === trayId);
  const around = aroundTray(plan, state, epochMs, trayId);
  const states = (tray?.lots ?? []).flatMap((lot) => {
    const cookie = cookiesOf(lot).find((c) => !state.out.has(cookieKey(lot.id, c)));
    if (cookie === undefined) return [];
    const look = cookieLook(plan, lot, cookie, (nowMs - epochMs) / 1000, actualSpan(state, epochMs), around, isLeftOut);
    return [...Object.values(look.sections), ...Object.values(look.lines)];
  });
  return states.length === 0 ? null : states.reduce((a, b) => (surfaceStates.indexOf(b) < surfaceStates.indexOf(a) ? b : a));
}

/** Cookies of a design that will be packed as it was ordered, and how many were asked for. */
export interface Tally {
  readonly ordered: number;
  readonly left: number;
}

/** What a cookie more or less means for its design: with `left` above `ordered` there is a spare. */
export function tallyOf(plan: RunPlan, state: RunState, designId: string): Tally {
  const design = plan.designs.find((d) => d.id === designId);
  let left = 0;
  for (const lot of plan.trays.flatMap((t) => t.lots)) {
    if (lot.designId !== designId) continue;
    left += cookiesOf(lot).filter((c) => !state.out.has(cookieKey(lot.id, c))).length;
  }
  return { ordered: design?.count ?? 0, left };
}

/** Cookies that came through, tie-dyes and those begun again among them. */
export const cameThrough = (plan: RunPlan, state: RunState): number =>
  plan.trays.flatMap((t) => t.lots).reduce((sum, lot) => sum + cookiesOf(lot).filter((c) => !state.out.has(cookieKey(lot.id, c))).length, 0);

export interface Morning {
  /** hours since anything was done */
  readonly awayMs: number;
  readonly trays: readonly { readonly trayId: string; readonly least: SurfaceState | null; readonly next: RunTask | null }[];
  readonly left: number;
}

/** Where things stand when the bench opens again: nothing was done since it closed. null in the middle of a day. */
export function morningOf(plan: RunPlan, state: RunState, epochMs: number, nowMs: number): Morning | null {
  const lastMs = state.standing.reduce((last, e) => (e.type === 'airRead' || e.type === 'planRevised' ? last : Math.max(last, e.atMs)), 0);
  const openingOf = (ms: number) => plan.bench.findIndex(([, to]) => ms < epochMs + to * 1000);
  if (state.startedAtMs === null || state.finished || lastMs === 0 || openingOf(lastMs) === openingOf(nowMs)) return null;
  const open = plan.tasks.filter((t) => (state.tasks.get(t.id)?.doneAtMs ?? null) === null);
  return {
    awayMs: nowMs - lastMs,
    left: open.length,
    trays: plan.trays
      .filter((t) => t.lots.length > 0)
      .map((t) => ({ trayId: t.id, least: leastDry(plan, state, epochMs, t.id, nowMs), next: open.find((x) => x.trayId === t.id) ?? null })),
  };
}
