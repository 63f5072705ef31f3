import { type AskedBody, bodiesAsked, furthest } from '../bench/bodies.js';
import type { StoredEvent } from '../bench/event.js';
import { replan } from '../bench/replan.js';
import { gainOf, isWorthIt, movesAnything, SLIP_S, slipOf } from '../bench/revision.js';
import type { RunIndex } from '../bench/run-index.js';
import type { RunTask } from '../bench/run-plan.js';
import { benchView } from '../bench/view.js';
import { lostBy } from '../drying/body.js';
import { lossThrough } from '../drying/front.js';
import { PACE_SPREAD } from '../drying/uncertainty.js';
import { cookieKey } from '../formats/ids.js';
import type { Plan, PlanTask } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { gauss, type Rng, seededRng } from '../time/rng.js';
import type { TaskId } from '../units/id.js';
import { EveningLog } from './evening-log.js';
import { judge } from './judge.js';
import type { Kitchen } from './kitchen.js';
import { isMistimed } from './spoilt.js';
import { isThere, type Truth, trueThreshold, truthOf } from './truth.js';

/**
 * How hands find out that icing is ready: they see the very moment, as the chance takes them to; they put a finger to it when it is due,
 * say what they found and look again when the bench says; or they do that with a bench that plans what is left again.
 */
export type Works = 'sees' | 'looks' | 'replans';

/** An evening as it is worked: at a pace of its own, nothing before its planned moment, nothing on icing that is not ready. */
export function workEvening(plan: Plan, truth: Truth, rng: Rng, works: Works): StoredEvent[] {
  const log = new EveningLog(plan);
  const say = (...said: Parameters<EveningLog['say']>): RunIndex => {
    log.say(...said);
    return log.run();
  };
  const evening = gauss(rng) * PACE_SPREAD.evening;
  const hands = [...new Set(plan.tasks.map((t) => t.by))];
  const busy = new Map<string, { readonly taskId: TaskId; readonly untilS: number }>();
  let nowS = plan.tasks[0]?.startS ?? 0;
  let run = say(nowS, { type: 'runStarted', data: {} });
  const planAgain = (changed: boolean) => {
    const view = benchView(run, run.plan.msOf(nowS));
    if (!changed && slipOf(run.state.plan, view, nowS) < SLIP_S) return;
    const next = replan(run, nowS);
    const takes = changed ? movesAnything(run.state.plan, next.starts) : isWorthIt(gainOf(run.state.plan, view, next));
    if (takes) run = say(nowS, { type: 'planRevised', data: { baseSeq: log.events.length, starts: next.starts } });
  };
  for (;;) {
    const begins = hands.flatMap((by) => (busy.has(by) ? [] : nextOf(run, by, nowS, truth, works)));
    const [begin] = begins.sort((a, b) => a.atS - b.atS);
    const [done] = [...busy].sort(([, a], [, b]) => a.untilS - b.untilS);
    if (done && (!begin || done[1].untilS <= begin.atS)) {
      nowS = done[1].untilS;
      busy.delete(done[0]);
      run = say(nowS, { type: 'taskDone', data: { taskId: done[1].taskId } });
      if (works === 'replans') planAgain(false);
    } else if (begin) {
      nowS = begin.atS;
      const { task } = begin;
      if (begin.wet) {
        const { body, state } = begin.wet;
        run = say(nowS, { type: 'touched', data: { taskId: task.id, cookie: body.cookie, part: body.stepId, state, found: 'not-yet' } });
        if (works === 'replans') planAgain(true);
        continue;
      }
      const takesS = (task.endS - task.startS) * Math.exp(evening + gauss(rng) * PACE_SPREAD.visit);
      busy.set(task.by, { taskId: task.id, untilS: nowS + takesS });
      run = say(nowS, { type: 'taskBegun', data: { taskId: task.id } });
    } else return log.events;
  }
}

interface Begin {
  readonly task: RunTask;
  readonly atS: number;
  /** what is found wet when it is to begin */
  readonly wet: AskedBody | null;
}
/** What one pair of hands does next, and when; nothing where it has nothing left, or waits for other hands. */
function nextOf(run: RunIndex, by: string, nowS: number, truth: Truth, works: Works): Begin[] {
  // The bench takes the next one up by itself: it is begun when hands really are at it.
  const own = run.open.filter((t) => t.by === by);
  const task = own.reduce<RunTask | null>((first, t) => (first && first.startS <= t.startS ? first : t), null);
  const before = task ? run.plan.waitsInto(task.id).flatMap((w) => run.plan.task(w.from) ?? []) : [];
  if (!task || before.some((t) => !run.isDone(t))) return [];
  // What was found wet is looked at again when the bench says so.
  const againMs = run.state.notBeforeMs.get(task.id);
  const atS = run.plan.whenOpen(Math.max(nowS, task.startS, againMs === undefined ? nowS : run.plan.sOf(againMs)));
  const wet = bodiesAsked(run, task).filter((a) => !isThere(truth, nameOf(a), a.body, a.state, atS));
  if (wet.length === 0) return [{ task, atS, wet: null }];
  if (works !== 'sees') return [{ task, atS, wet: furthest(wet, atS) ?? (wet[0] as AskedBody) }];
  const there = wet.map((a) => lostBy(a.body, trueThreshold(truth, nameOf(a), a.body.region, a.state)));
  return [{ task, atS: run.plan.whenOpen(Math.max(atS, ...there)), wet: null }];
}
const nameOf = (a: AskedBody): string => cookieKey(a.body.lotId, a.body.cookie);

/** What a plan comes to over many evenings. */
export interface Proof {
  readonly evenings: number;
  /** share of the evenings in which everything was packed when it was due; null where nothing is due */
  readonly onTime: number | null;
  /** when all was packed, seconds of the plan: in the middle evening, and in the latest of ten */
  readonly endS: { readonly median: number; readonly inTen: number };
  /** share of the cookies that came out right, in the mean */
  readonly saved: number;
  /** of every visit with a window, in how many evenings it held on all its cookies, share */
  readonly windows: readonly { readonly taskId: TaskId; readonly held: number }[];
}
export interface ProofAsk {
  readonly evenings: number;
  readonly seed: number;
  readonly kitchen: (rng: Rng) => Kitchen;
  readonly works: Works;
  readonly onProgress?: (share: number) => void;
}

/** Works a plan evening after evening, each in a kitchen and at a pace of its own: the same seed, the same evenings. */
export function proofOf(plan: Plan, { evenings, seed, kitchen, works, onProgress }: ProofAsk): Proof {
  const index = planIndex(plan);
  const windowed = plan.tasks.filter((t) => t.motions.some((m) => m.windowS !== null));
  const lost = new Map<TaskId, number>();
  const ends: number[] = [];
  let onTime = 0;
  let saved = 0;
  for (let own = 0; own < evenings; own++) {
    const { truth, rng } = eveningOf(kitchen, seed + own);
    const events = workEvening(plan, truth, rng, works);
    const done = new Map(events.flatMap((e) => (e.type === 'taskDone' ? [[e.data.taskId, index.sOf(e.atMs)] as const] : [])));
    const packing = plan.tasks.filter((t) => t.kind === 'pack');
    // What was never packed is packed when the bench shuts for good, and late.
    ends.push(Math.max(0, ...packing.map((t) => done.get(t.id) ?? index.lastClose)));
    if (packing.every((t) => (done.get(t.id) ?? Number.POSITIVE_INFINITY) <= (index.dueOf(t) ?? Number.POSITIVE_INFINITY))) onTime++;
    const verdict = judge(plan, events, truth, 'left-out');
    saved += verdict.saved / Math.max(1, verdict.cookies);
    // Between two visits the verdict knows; within one the hands' own pace decides.
    const late = verdict.spoilt.filter(isMistimed).filter((s) => s.when === 'too-late');
    for (const t of windowed) {
      const own = new Set<string>(t.motions.map((m) => m.stepId));
      const between = late.some((s) => s.taskId === t.id && !own.has(s.onto));
      if (between || shutWithin(plan, t, truth, paceOf(events, t))) lost.set(t.id, (lost.get(t.id) ?? 0) + 1);
    }
    if (own % REPORTED_EVERY === REPORTED_EVERY - 1) onProgress?.((own + 1) / evenings);
  }
  const sorted = [...ends].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(evenings - 1, Math.floor(share * evenings))] ?? 0;
  return {
    evenings,
    onTime: plan.tasks.some((t) => index.dueOf(t) !== null) ? onTime / evenings : null,
    endS: { median: at(0.5), inTen: at(0.9) },
    saved: saved / evenings,
    windows: windowed.map((t) => ({ taskId: t.id, held: 1 - (lost.get(t.id) ?? 0) / evenings })),
  };
}
/** How many times as long as planned a visit took. */
function paceOf(events: readonly StoredEvent[], task: PlanTask): number {
  const at = (type: 'taskBegun' | 'taskDone') => events.findLast((e) => e.type === type && e.data.taskId === task.id)?.atMs;
  const [begunMs, doneMs] = [at('taskBegun'), at('taskDone')];
  return begunMs === undefined || doneMs === undefined ? 1 : (doneMs - begunMs) / 1000 / (task.endS - task.startS);
}

/** Whether on some cookie of a visit a surface it laid itself had shut before its wet work was done, at so many times the planned pace. */
function shutWithin(plan: Plan, task: PlanTask, truth: Truth, times: number): boolean {
  const index = planIndex(plan);
  const graph = index.graphOf(task);
  const motionOf = (stepId: string) => task.motions.find((m) => m.stepId === stepId);
  return (graph?.gaps ?? []).some((gap) => {
    const [laid, worked] = [motionOf(gap.from), motionOf(gap.to)];
    const region = index.step(task, gap.from)?.region;
    if (!laid || !worked || !region || !gap.maxState) return false;
    const state = gap.maxState;
    return worked.endS.some((endS, i) => {
      const lost = lossThrough([{ air: plan.air, seconds: times * (endS - (laid.endS[i] as number)) }]);
      return lost > trueThreshold(truth, cookieKey(task.lotId as string, task.cookies[0] + i), region, state);
    });
  });
}

/** Progress is reported behind so many evenings. */
const REPORTED_EVERY = 5;

/** An evening by its number: how its icing behaves, and the chance its hands go by. */
export function eveningOf(kitchen: (rng: Rng) => Kitchen, seed: number): { readonly truth: Truth; readonly rng: Rng } {
  const rng = seededRng(seed * 7919 + 13);
  return { truth: truthOf(kitchen(rng), seed), rng };
}
