import type { TouchReport } from '../calibration/drying-factors.js';
import { shareAt } from '../drying/body.js';
import type { DryingState } from '../drying/state.js';
import { bodyKey } from '../formats/ids.js';
import type { Facts } from '../steps/why.js';
import { type AskedBody, bodiesAsked, furthest } from './bodies.js';
import type { StoredEvent, Touched } from './event.js';
import { replayRun } from './fold.js';
import { airsAround } from './room.js';
import { type RunIndex, runIndex } from './run-index.js';
import type { RunPlan, RunTask } from './run-plan.js';

/** What is known of one body of icing on one cookie for one state: not there yet by then, there by then, as the model saw it. */
export interface BenchTouch {
  /** lot, cookie and step that laid it, and the state */
  readonly body: string;
  /** when it was last looked at */
  readonly atMs: number;
  readonly state: DryingState;
  /**
   * shares of that state's own median threshold that were lost when it was last found not to be there, and first there; null where it
   * was not
   */
  readonly notYetShare: number | null;
  readonly reachedShare: number | null;
  /** work was begun on it without a word: nobody said that it was looked at */
  readonly silent: boolean;
  /** what was waited for */
  readonly about: Facts;
}

interface Known {
  readonly atMs: number;
  readonly state: DryingState;
  readonly about: Facts;
  readonly notYet: number;
  readonly reached: number;
  readonly silent: boolean;
}

/**
 * What a run teaches about its kitchen's drying, one interval a body: what was found still wet, what was found ready, and what was
 * worked on without complaint. Nothing is learned from doubtful moments, from bodies nobody said were laid, or from one that was
 * found ready before it was found wet.
 */
export function benchTouches(plan: RunPlan, events: readonly StoredEvent[]): BenchTouch[] {
  const bodies = new Map<string, Known>();
  const note = (
    { key, state, gap }: Pick<AskedBody, 'key' | 'state' | 'gap'>,
    atMs: number,
    found: { notYet?: number; reached?: number; silent: boolean },
  ) => {
    const known = bodies.get(key) ?? { atMs, state, about: gap.facts, notYet: 0, reached: Number.POSITIVE_INFINITY, silent: true };
    const reached = found.reached ?? Number.POSITIVE_INFINITY;
    // A finger's word stands before what was merely begun.
    const kept = reached < known.reached && (!found.silent || known.reached === Number.POSITIVE_INFINITY);
    bodies.set(key, {
      ...known,
      atMs,
      notYet: Math.max(known.notYet, found.notYet ?? 0),
      reached: kept ? reached : known.reached,
      silent: known.silent && found.silent,
    });
  };
  replayRun(plan, events, (event, before) => {
    const e = event as StoredEvent;
    if (e.doubtful || (e.type !== 'touched' && e.type !== 'taskDone')) return;
    const run = runIndex(before());
    const task = run.plan.task(e.data.taskId);
    if (!task || (e.type === 'taskDone' && run.isDone(task))) return;
    // Work that was done was begun on what its waits had asked for; what was found meanwhile was said.
    const lookedMs = e.type === 'taskDone' ? run.begunMs(task.id) : e.atMs;
    if (lookedMs === null) return;
    const atS = run.plan.sOf(lookedMs);
    // Nobody said when it was laid: nothing can be learned from it.
    const asked = bodiesAsked(run, task).filter((a) => !a.body.inferred && shareAt(a.body, a.state, atS) > 0);
    if (e.type === 'taskDone') {
      // A finger goes to the body that is furthest behind; what is said of none of the others is known of none of them.
      const first = furthest(asked, atS);
      if (first) note(first, lookedMs, { reached: shareAt(first.body, first.state, atS), silent: true });
    } else {
      const meant = e.data.found === 'past' ? gonePast(run, task, e.data, atS) : (named(asked, e.data) ?? furthest(asked, atS));
      const share = meant ? shareAt(meant.body, meant.state, atS) : 0;
      if (meant && share > 0)
        note(meant, e.atMs, e.data.found === 'not-yet' ? { notYet: share, silent: false } : { reached: share, silent: false });
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
      about: b.about,
    }),
  );
}

/** The body a look spoke of, where it said which. */
const named = (asked: readonly AskedBody[], { cookie, part, state }: Touched): AskedBody | undefined =>
  cookie === null || part === null
    ? undefined
    : asked.find((a) => a.body.cookie === cookie && a.body.stepId === part && (state === null || a.state === state));

/**
 * The flood in hand whose window was found to have shut: it has come to the state that shuts it. Of several the one that was named,
 * else the first laid.
 */
function gonePast(run: RunIndex, task: RunTask, { cookie, part }: Touched, atS: number): AskedBody | null {
  const begunS = run.begunS(task.id);
  const graph = run.plan.graphOf(task);
  if (begunS === null || !graph || task.lotId === null) return null;
  const own = new Set(task.motions.map((m) => m.stepId));
  for (const gap of graph.gaps) {
    const region = run.plan.step(task, gap.from)?.region;
    const laid = task.motions.find((m) => m.stepId === gap.from);
    if (!gap.maxState || !region || !laid || !own.has(gap.to) || (part !== null && gap.from !== part)) continue;
    const which = cookie ?? task.cookies[0];
    const leftAtS = begunS + (laid.endS[which - task.cookies[0]] ?? Number.POSITIVE_INFINITY);
    if (leftAtS >= atS) continue;
    const airs = airsAround(run.state.plan, run.state.room, []);
    const body = { lotId: task.lotId, cookie: which, stepId: gap.from, region, leftAtS, airs, looked: [], inferred: false };
    return { body, state: gap.maxState, gap, key: `${bodyKey(task.lotId, which, gap.from)} ${gap.maxState}` };
  }
  return null;
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
