import { type SurfaceState, surfaceStates } from '../drying/state.js';
import type { Lot } from '../formats/plan.js';
import { type CookieLook, cookieLook, type Span } from '../planning/look.js';
import type { DesignId, TrayId } from '../units/id.js';
import { airsOfTray } from './room.js';
import { type RunIndex } from './run-index.js';
import { isLeftOut, type RunTask } from './run-plan.js';

/** Where a task really was in time, seconds since the epoch; null where it was not done, or given up. */
export const actualSpan =
  (run: RunIndex) =>
  (task: Pick<RunTask, 'id'>): Span | null => {
    const [startS, endS] = [run.begunS(task.id), run.doneS(task.id)];
    if (startS === null || run.record(task.id)?.skipped) return null;
    return endS === null ? { startS } : { startS, endS };
  };

/** One cookie as it is at a moment, by the model, through the air and the times as they were. */
export const lookNow = (run: RunIndex, lot: Lot, cookie: number, nowMs: number): CookieLook =>
  cookieLook(run.state.plan, lot, cookie, run.plan.sOf(nowMs), actualSpan(run), airsOfTray(run, lot.trayId), isLeftOut);

/** The least dry surface of a tray's cookies, by the model through the air as it was; null while it is bare. */
export function leastDry(run: RunIndex, trayId: TrayId, nowMs: number): SurfaceState | null {
  const tray = run.state.plan.trays.find((t) => t.id === trayId);
  const states = (tray?.lots ?? []).flatMap((lot) => {
    const [cookie] = run.cookiesOf(lot);
    if (cookie === undefined) return [];
    const look = lookNow(run, lot, cookie, nowMs);
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
export const tallyOf = (run: RunIndex, designId: DesignId): Tally => ({
  ordered: run.plan.design(designId)?.count ?? 0,
  left: run.plan.lotsOf(designId).reduce((sum, lot) => sum + run.cookiesOf(lot).length, 0),
});

/** Cookies that came through, tie-dyes and those begun again among them. */
export const cameThrough = (run: RunIndex): number => run.plan.lots.reduce((sum, lot) => sum + run.cookiesOf(lot).length, 0);

export interface Morning {
  /** hours since anything was done */
  readonly awayMs: number;
  readonly trays: readonly { readonly trayId: string; readonly least: SurfaceState | null; readonly next: RunTask | null }[];
  readonly left: number;
}

/** Where things stand when the bench opens again: nothing was done since it closed. null in the middle of a day. */
export function morningOf(run: RunIndex, nowMs: number): Morning | null {
  const { plan: index, state, open } = run;
  const lastMs = state.standing.reduce((last, e) => (e.type === 'airRead' || e.type === 'planRevised' ? last : Math.max(last, e.atMs)), 0);
  const openingOf = (ms: number) => index.openingAt(index.sOf(ms));
  if (state.startedAtMs === null || state.finished || lastMs === 0 || openingOf(lastMs) === openingOf(nowMs)) return null;
  return {
    awayMs: nowMs - lastMs,
    left: open.length,
    trays: state.plan.trays
      .filter((t) => t.lots.length > 0)
      .map((t) => ({ trayId: t.id, least: leastDry(run, t.id, nowMs), next: open.find((x) => x.trayId === t.id) ?? null })),
  };
}
