import type { TouchReport } from '../calibration/drying-factors.js';
import { type DryingState, dryingStates, type Region, stateThresholds } from '../drying/state.js';
import { leftToDryS } from '../planning/separation.js';
import type { Gap } from '../steps/step.js';
import type { StoredEvent } from './event.js';
import { replayRun } from './fold.js';
import { aroundTray } from './room.js';
import type { RunPlan, RunTask } from './run-plan.js';
import type { RunState } from './run-state.js';
import { lostBy } from './still-wet.js';
import { sharedCookies, visitOf } from './visit-of.js';

/** What is known of one body of icing on one cookie for one state: not there yet by then, there by then, as the model saw it. */
export interface BenchTouch {
  /** lot, cookie and step that laid it, and the state */
  readonly body: string;
  /** when it was last looked at */
  readonly atMs: number;
  readonly state: DryingState;
  /** shares of that state's own median threshold that were lost when it was last found not to be there, and first there; null where it was not */
  readonly notYetShare: number | null;
  readonly reachedShare: number | null;
  /** work was begun on it without a word: nobody said that it was looked at */
  readonly silent: boolean;
  /** what was waited for, in the words of the plan */
  readonly reason: string;
}

/**
 * The state a wait is looked at by: a finger knows no multiples. A neighbour wait of so many crusts asks for a skin below one, a
 * crust below three, and set icing from there on; any other wait asks for its own state.
 */
export function askedState(gap: Gap, region: Region): DryingState {
  const own = gap.minState as DryingState;
  const times = (gap.minLossKgPerM2 as number) / stateThresholds(region)[own];
  if (own !== 'crusted' || Math.abs(times - 1) < 1e-6) return own;
  return times < 1 ? 'skinned' : times < 3 - 1e-6 ? 'crusted' : 'set';
}

/** A wait of a task on one of its cookies, behind a body that was left to dry. */
interface Behind {
  readonly key: string;
  readonly state: DryingState;
  readonly share: number;
  readonly reason: string;
}

/** Everything a task waits for on its cookies, each body once, with what it had lost of the state asked by `nowS`. */
function bodiesBehind(plan: RunPlan, state: RunState, task: RunTask, epochMs: number, nowS: number): Behind[] {
  const lot = plan.trays.flatMap((t) => t.lots).find((l) => l.id === task.lotId);
  const graph = plan.designs.find((d) => d.id === lot?.designId)?.graph;
  if (!graph) return [];
  const around = aroundTray(plan, state, epochMs, task.trayId);
  return graph.gaps
    .filter((g) => g.minState && g.minLossKgPerM2 !== undefined && task.motions.some((m) => m.stepId === g.to))
    .flatMap((gap) => {
      const region = graph.steps.find((s) => s.id === gap.from)?.region;
      if (!region) return [];
      const asked = askedState(gap, region);
      return plan.tasks
        .filter((from) => from !== task && from.lotId === task.lotId && from.motions.some((m) => m.stepId === gap.from))
        .flatMap((from) => {
          const record = state.tasks.get(from.id);
          const visit = visitOf(plan, from);
          // Nobody said when it was laid: nothing can be learned from it.
          if (record?.doneAtMs == null || record.inferred || record.skipped || !visit) return [];
          const doneS = (record.doneAtMs - epochMs) / 1000;
          return sharedCookies(from, task).map((cookie): Behind => {
            // The visit ended when it ended: each of its cookies was left that much sooner.
            const leftS = doneS - (from.endS - from.startS) + leftToDryS(visit, gap.from, cookie);
            const share = lostBy(plan, around, leftS, nowS) / stateThresholds(region)[asked];
            return { key: `${task.lotId} ${cookie} ${gap.from} ${asked}`, state: asked, share, reason: gap.reason };
          });
        });
    });
}

/**
 * What a run teaches about its kitchen's drying, one interval a body: what was found still wet, what was found ready, and what was
 * worked on without complaint. Nothing is learned from doubtful moments, from bodies nobody said were laid, or from one that was
 * found ready before it was found wet.
 */
export function benchTouches(plan: RunPlan, events: readonly StoredEvent[]): BenchTouch[] {
  const epochMs = Date.parse(plan.epoch ?? '') || 0;
  const bodies = new Map<string, { atMs: number; state: DryingState; reason: string; notYet: number; reached: number; silent: boolean }>();
  const note = (b: Behind, atMs: number, found: { notYet?: number; reached?: number; silent: boolean }) => {
    const known = bodies.get(b.key) ?? { atMs, state: b.state, reason: b.reason, notYet: 0, reached: Number.POSITIVE_INFINITY, silent: true };
    const reached = found.reached ?? Number.POSITIVE_INFINITY;
    // A finger's word stands before what was merely begun.
    const kept = reached < known.reached && (!found.silent || known.reached === Number.POSITIVE_INFINITY);
    bodies.set(b.key, {
      ...known,
      atMs,
      notYet: Math.max(known.notYet, found.notYet ?? 0),
      reached: kept ? reached : known.reached,
      silent: known.silent && found.silent,
    });
  };
  replayRun(plan, events, (event, state) => {
    const e = event as StoredEvent;
    if (e.doubtful || (e.type !== 'stillWet' && e.type !== 'crustedAlready' && e.type !== 'taskDone')) return;
    const task = state.plan.tasks.find((t) => t.id === e.data.taskId);
    if (!task || (e.type === 'taskDone' && (state.tasks.get(task.id)?.doneAtMs ?? null) !== null)) return;
    // Work that was done was begun on what its waits had asked for; what was found meanwhile was said.
    const begunAtMs = e.type === 'taskDone' ? (state.tasks.get(task.id)?.begunAtMs ?? null) : e.atMs;
    if (begunAtMs === null) return;
    const behind = bodiesBehind(state.plan, state, task, epochMs, (begunAtMs - epochMs) / 1000).filter((b) => b.share > 0);
    if (e.type === 'taskDone') for (const b of firstOfEach(behind)) note(b, begunAtMs, { reached: b.share, silent: true });
    else {
      // Of several bodies only the one that is furthest from what was asked is sure to be the one that was meant.
      const [least] = [...behind].sort((a, b) => a.share - b.share);
      if (least) note(least, e.atMs, e.type === 'stillWet' ? { notYet: least.share, silent: false } : { reached: least.share, silent: false });
    }
  });
  return [...bodies].map(
    ([body, b]): BenchTouch => ({
      body,
      atMs: b.atMs,
      state: b.state,
      notYetShare: b.notYet > 0 ? b.notYet : null,
      reachedShare: Number.isFinite(b.reached) ? b.reached : null,
      silent: b.silent,
      reason: b.reason,
    }),
  );
}

/** Of the bodies of one state on one part the one that had lost least: the others had come if it had. */
function firstOfEach(behind: readonly Behind[]): Behind[] {
  const least = new Map<string, Behind>();
  for (const b of behind) {
    const part = b.key.replace(/ \d+ /, ' ');
    const known = least.get(part);
    if (!known || b.share < known.share) least.set(part, b);
  }
  return [...least.values()].sort((a, b) => dryingStates.indexOf(a.state) - dryingStates.indexOf(b.state));
}

/** A body's interval as it is learned from; `day` is what it shares a day with. */
export const reportOfBench = (t: BenchTouch, day?: string): TouchReport => ({
  state: t.state,
  notYetRatio: t.notYetShare ?? 0,
  reachedRatio: t.reachedShare ?? Number.POSITIVE_INFINITY,
  // What was looked at and then found ready was not begun in silence.
  silent: t.silent,
  ...(day === undefined ? {} : { day }),
});

/** What runs teach: each run is a day of its own, and those that were left out teach nothing. */
export const reportsOfRuns = (touches: readonly (BenchTouch & { readonly runId: string; readonly leftOut: boolean })[]): TouchReport[] =>
  touches.filter((t) => !t.leftOut).map((t) => reportOfBench(t, t.runId));
