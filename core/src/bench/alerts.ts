import { partById } from '../design/design.js';
import type { StayPlace } from '../formats/plan.js';
import type { StayId } from '../units/id.js';
import { msg } from '../words/index.js';
import { actualStays } from './actual-stays.js';
import type { RunIndex } from './run-index.js';
import type { RunTask } from './run-plan.js';
import type { BenchView } from './view.js';

/** A tray that dries away from the bench. */
export interface AwayTray {
  readonly trayId: string;
  readonly where: StayPlace;
  /** of the plan's stay; null where it was said at the bench */
  readonly stayId: StayId | null;
  /** when it has been there long enough */
  readonly outAtMs: number;
}

/** What the bench calls out; a new id is a new call. */
export interface Alert {
  readonly id: string;
  readonly kind: 'window-closing' | 'tray-ready' | 'take-out';
  readonly trayId: string;
  /** shown, and spoken where the user has no words of their own */
  readonly text: string;
  /** the step it is about */
  readonly what: string;
}

/** A window is called out once, when so little of it is left. */
const CLOSING_MS = 30_000;
/** A tray left in the dehydrator is called out anew every so often. */
const NAG_MS = 60_000;
/** An empty one left on is called out this often. */
const NAG_DEHYDRATOR_MS = 300_000;

/**
 * Trays before the fan or in the dehydrator now, from when they really were carried there. A tray at the fan needs nobody to take it
 * away.
 */
export function awayTrays(run: RunIndex, nowMs: number): AwayTray[] {
  return actualStays(run)
    .filter((s) => nowMs < run.plan.msOf(s.endS))
    .map((s) => ({ trayId: s.trayId, where: s.where, stayId: s.id, outAtMs: run.plan.msOf(s.startS + s.forS) }));
}

/** What has to be called out now; the caller remembers which ids it has called. */
export function alertsOf(run: RunIndex, view: BenchView, nowMs: number): Alert[] {
  const { state } = run;
  if (state.startedAtMs === null || state.finished) return [];
  const out: Alert[] = [];
  for (const a of awayTrays(run, nowMs)) {
    if (a.where !== 'dehydrator' || nowMs < a.outAtMs) continue;
    const minutes = Math.floor((nowMs - a.outAtMs) / NAG_MS);
    out.push({
      id: `out ${a.trayId} ${a.stayId ?? a.outAtMs} ${minutes}`,
      kind: 'take-out',
      trayId: a.trayId,
      what: 'dehydrator',
      text:
        minutes === 0
          ? msg`Take tray ${a.trayId} out of the dehydrator`
          : msg`Tray ${a.trayId} is still in the dehydrator, ${minutes} min too long`,
    });
  }
  if (dehydratorLeftOn(run, nowMs)) {
    const every = Math.floor(nowMs / NAG_DEHYDRATOR_MS);
    out.push({
      id: `dehydrator on ${every}`,
      kind: 'take-out',
      trayId: '',
      what: 'dehydrator',
      text: msg`The dehydrator is still on, and empty: switch it off`,
    });
  }
  for (const c of view.closing) {
    const leftMs = c.closesAtMs - nowMs;
    if (leftMs > 0 && leftMs <= CLOSING_MS)
      out.push({
        id: `window ${c.taskId} ${c.label}`,
        kind: 'window-closing',
        trayId: c.trayId,
        what: c.label,
        text: msg`${c.label}: ${Math.ceil(leftMs / 1000)} seconds, tray ${c.trayId}`,
      });
  }
  const { now } = view;
  if (now && view.inHandSinceMs === null && !view.waiting && state.pausedAtMs === null && now.task.because.kind === 'drying')
    out.push({
      id: `ready ${now.task.id}`,
      kind: 'tray-ready',
      trayId: now.task.trayId,
      what: now.task.title,
      text: msg`Tray ${now.task.trayId} is ready: ${now.task.title}`,
    });
  return out;
}

/** The dehydrator is switched off by hand: true once no tray needs it any more today and nobody said that it is off. */
export function dehydratorLeftOn(run: RunIndex, nowMs: number): boolean {
  const { plan: index, state } = run;
  const closesS = index.closesAfter(index.sOf(nowMs));
  const used = actualStays(run).filter((s) => s.where === 'dehydrator');
  const lastS = Math.max(...used.map((s) => s.endS));
  const toCome = state.plan.stays.filter((s) => s.where === 'dehydrator').flatMap((s) => [index.carryOf(s), index.takeOutOf(s)]);
  const again = toCome.some((t) => t && t.startS < closesS && !run.isDone(t));
  return (
    used.length > 0 && Number.isFinite(lastS) && !again && (state.dehydratorOffAtMs === null || state.dehydratorOffAtMs < index.msOf(lastS))
  );
}

export interface DayEnd {
  readonly backAtMs: number;
  /** steps still to do */
  readonly left: number;
  /** trays with icing on them that dry on meanwhile */
  readonly drying: readonly string[];
}

/** That the hands are done for the day: what is next lies beyond the closing of the bench. null while it does not. */
export function endOfDay(run: RunIndex, view: BenchView, nowMs: number): DayEnd | null {
  const { plan: index } = run;
  const { now } = view;
  if (!now || !view.waiting) return null;
  const then = index.openingDuring(index.sOf(now.startMs));
  if (then < 0 || then === index.openingDuring(index.sOf(nowMs))) return null;
  const wet = run.state.plan.trays
    .map((t) => t.id)
    .filter((id) => {
      const own = index.tasksOnTray(id);
      return own.some((t) => t.kind === 'wet' && run.isDone(t)) && !own.filter((t) => t.kind === 'pack').every(run.isDone);
    });
  return { backAtMs: now.startMs, left: view.total - view.done, drying: wet };
}

/** Cookies stencilled before a stencil has to be washed, where the drawing does not say: 6 to 12, common practice, no published source. */
export const STENCIL_USES = 8;

/** A stencil at the bench: cookies it may still print with a task before it is washed, and how often it is washed at all. */
export interface StencilUse {
  readonly name: string;
  readonly left: number;
  readonly every: number;
}

/** Each stencil counts its own prints, over all trays of its drawing; empty where a task stencils nothing. */
export function stencilUses(run: RunIndex, task: RunTask): StencilUse[] {
  const design = run.plan.designOf(task);
  return task.motions
    .filter((m) => m.technique === 'stencil')
    .map((m): StencilUse => {
      const part = run.plan.step(task, m.stepId)?.part ?? m.label;
      const every = (design && partById(design.drawing, part)?.words?.washAfter) ?? STENCIL_USES;
      const prints = run.state.plan.tasks
        .filter(
          (t) =>
            t.id !== task.id && run.plan.designOf(t)?.drawing.name === design?.drawing.name && run.isDone(t) && !run.record(t.id)?.skipped,
        )
        .reduce(
          (sum, t) =>
            sum + t.motions.filter((x) => x.stepId === m.stepId).length * (t.cookies[1] - t.cookies[0] - (t.without?.length ?? 0)),
          0,
        );
      return { name: m.label, left: every - (prints % every), every };
    });
}
