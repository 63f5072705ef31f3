import { askedState, bodiesAsked, type LaidBody, laidBy } from '../bench/bodies.js';
import type { StoredEvent } from '../bench/event.js';
import { foldRun } from '../bench/fold.js';
import { pausesOf } from '../bench/pauses.js';
import { airsAround } from '../bench/room.js';
import { type RunIndex, runIndex } from '../bench/run-index.js';
import { isLeftOut, type RunPlan, type RunTask } from '../bench/run-plan.js';
import { type Body, lostAt, lostBy } from '../drying/body.js';
import type { DryingState, SurfaceState } from '../drying/state.js';
import { cookieKey } from '../formats/ids.js';
import type { Motion } from '../formats/plan.js';
import type { DefectId } from '../steps/defects/index.js';
import type { Gap } from '../steps/step.js';
import type { TechniqueId } from '../steps/techniques/index.js';
import { type Why, whyOf } from '../steps/why.js';
import type { LotId, StepId, TaskId } from '../units/id.js';
import { type Truth, trueState, trueThresholds } from './truth.js';

/** What came wrong on one cookie, and the moment that would have saved it; seconds of the plan. */
export interface Spoilt {
  readonly lotId: LotId;
  /** of its lot, from 0 */
  readonly cookie: number;
  /** the step that came too early or too late, and the one it came onto or into */
  readonly stepId: StepId;
  readonly onto: StepId;
  readonly taskId: TaskId;
  readonly technique: TechniqueId;
  readonly seen: DefectId;
  readonly when: 'too-early' | 'too-late';
  readonly atS: number;
  /** what a finger would have found there then */
  readonly state: SurfaceState;
  /** the rule that says so */
  readonly why: Why;
  /** when it would have been right: from then on (too early), or until then (too late); null where it never came in this air */
  readonly rightS: number | null;
}

/** What became of an evening. */
export interface Verdict {
  readonly cookies: number;
  /** cookies on which nothing came wrong */
  readonly saved: number;
  readonly spoilt: readonly Spoilt[];
  readonly windows: { readonly held: number; readonly lost: number };
  /** seconds in which what was begun next was really ready and nobody was at it, pauses of the bench's closed hours left out */
  readonly needlessS: number;
  readonly handsOnS: number;
  /** looks of which nobody could have known the answer beforehand */
  readonly telling: number;
  readonly looks: number;
  /** 0 to 100: seven tenths for cookies, two for windows, one for not waiting needlessly */
  readonly score: number;
}

/** What is seen when a technique comes too early, and too late. Common practice, no published source. */
const EARLY: Readonly<Partial<Record<TechniqueId, DefectId>>> = {
  flood: 'ran-together',
  'thin-coat': 'ran-together',
  outline: 'ran-together',
  needle: 'ran-together',
  'wet-drop': 'spread',
  'wet-line': 'spread',
  drag: 'spread',
  pen: 'pen-slipped',
  paint: 'rough',
  dust: 'rough',
  stencil: 'stencil-smeared',
  airbrush: 'ridges',
  wafer: 'paper-lifted',
  crackle: 'dent',
  assembly: 'transfer-broke',
  'glued-transfer': 'sank',
  pack: 'bumped',
};
const LATE: Readonly<Partial<Record<TechniqueId, DefectId>>> = {
  drag: 'dragged-lumps',
  needle: 'dragged-lumps',
  'wet-drop': 'stood-up',
  'wet-line': 'stood-up',
  sprinkle: 'missed-patch',
  'dipped-bead': 'missed-patch',
  'lay-in': 'transfer-broke',
  crackle: 'missed-patch',
};
function defectOf(technique: TechniqueId, gap: Gap, when: Spoilt['when']): DefectId {
  if (when === 'too-late') return LATE[technique] ?? 'stood-up';
  // Strong colours bleed before they run.
  if (gap.facts.kind === 'meeting' && gap.facts.ask === 'contrast') return 'bled';
  if (technique.startsWith('guide-') || technique === 'trace') return 'dent';
  return EARLY[technique] ?? 'sank';
}

/** So little short of a state, or beyond it, is not seen on a cookie; as a share of its water, *assumed*. */
const UNSEEN = 0.08;

/** What really became of every cookie of a run, by the same rules the plan was made with and icing that only the rehearsal knew. */
export function judge(plan: RunPlan, events: readonly StoredEvent[], truth: Truth): Verdict {
  const run = runIndex(foldRun(plan, events));
  const spoilt: Spoilt[] = [];
  let held = 0;
  let lost = 0;
  for (const task of run.state.plan.tasks) {
    const doneS = run.doneS(task.id);
    if (doneS === null || run.record(task.id)?.skipped || task.lotId === null) continue;
    const lotId = task.lotId;
    const gaps = run.plan.graphOf(task)?.gaps ?? [];
    const at = momentsIn(run, task, doneS);
    for (let cookie = task.cookies[0]; cookie < task.cookies[1]; cookie++) {
      let isWet = false;
      let shut = false;
      for (const motion of task.motions) {
        if (isLeftOut(task, cookie) || isLeftOut(task, cookie, motion.stepId) || run.isOut(lotId, cookie)) continue;
        const i = cookie - task.cookies[0];
        const [fromS, toS] = [at(motion.startS[i] as number), at(motion.endS[i] as number)];
        for (const gap of gaps.filter((g) => g.to === motion.stepId)) {
          const early = gap.minState ? comesEarly(run, truth, lotId, cookie, gap, fromS) : null;
          if (early) spoilt.push({ ...about(task, motion, cookie, gap, 'too-early', fromS), ...early });
          const late = gap.maxState ? comesLate(run, truth, task, cookie, gap, toS) : null;
          if (late !== null) isWet = true;
          if (late) {
            shut = true;
            spoilt.push({ ...about(task, motion, cookie, gap, 'too-late', toS), ...late });
          }
        }
      }
      // One cookie in one visit is one window, however many marks it takes.
      if (shut) lost++;
      else if (isWet) held++;
    }
  }
  const cookies = run.plan.lots.reduce((n, l) => n + l.cookies, 0);
  const wrong = new Set([...spoilt.map((s) => `${s.lotId} ${s.cookie}`), ...run.state.out.keys()]);
  const saved = cookies - wrong.size;
  const handsOnS = run.state.plan.tasks.reduce((s, t) => s + (run.isDone(t) ? t.endS - t.startS : 0), 0);
  const needlessS = needless(run, truth);
  const looks = run.state.looks.length;
  const windows = held + lost;
  const score = 70 * (cookies > 0 ? saved / cookies : 1) + 20 * (windows > 0 ? held / windows : 1) + 10 * Math.max(0, 1 - needlessS / Math.max(1, handsOnS));
  return { cookies, saved, spoilt, windows: { held, lost }, needlessS, handsOnS, telling: tellingLooks(run), looks, score: Math.round(score) };
}

/**
 * When what a visit does so many seconds into it was really done. It ended when it ended; where it was interrupted, and said so, what comes
 * behind the interruption came that much later.
 */
function momentsIn(run: RunIndex, task: RunTask, doneS: number): (offsetS: number) => number {
  const begunS = run.begunS(task.id);
  const within = pausesOf(run.state)
    .map(([a, b]) => [run.plan.sOf(a), run.plan.sOf(b)] as const)
    .filter(([a, b]) => begunS !== null && a >= begunS && b <= doneS);
  if (begunS === null || within.length === 0) return (offsetS) => doneS - (task.endS - task.startS) + offsetS;
  return (offsetS) => {
    let atS = begunS + offsetS;
    for (const [a, b] of within) if (a <= atS) atS += b - a;
    return atS;
  };
}

const about = (task: RunTask, motion: Motion, cookie: number, gap: Gap, when: Spoilt['when'], atS: number) => ({
  lotId: task.lotId as LotId,
  cookie,
  stepId: motion.stepId,
  onto: gap.from,
  taskId: task.id,
  technique: motion.technique,
  seen: defectOf(motion.technique, gap, when),
  when,
  atS,
  why: whyOf(gap),
});

const nameOf = (b: Pick<LaidBody, 'lotId' | 'cookie'>) => cookieKey(b.lotId, b.cookie);

/** What a step laid on one cookie, by whichever visit; null where none did. */
function bodyOf(run: RunIndex, lotId: LotId, stepId: StepId, cookie: number): LaidBody | null {
  for (const t of run.plan.tasksOnLot(lotId)) {
    if (t.cookies[0] > cookie || t.cookies[1] <= cookie || !t.motions.some((m) => m.stepId === stepId)) continue;
    const [body] = laidBy(run, t, stepId, [cookie]);
    if (body) return body;
  }
  return null;
}

function comesEarly(run: RunIndex, truth: Truth, lotId: LotId, cookie: number, gap: Gap, atS: number): Pick<Spoilt, 'state' | 'rightS'> | null {
  const body = bodyOf(run, lotId, gap.from, cookie);
  if (!body || body.leftAtS > atS) return null;
  const state = askedState(gap, body.region);
  const needed = trueThresholds(truth, nameOf(body), body.region)[state];
  if (lostAt(body, atS) >= needed * (1 - UNSEEN)) return null;
  return { state: trueState(truth, nameOf(body), body, atS), rightS: whenThere(truth, body, state) };
}

/** null where nothing shuts on this cookie, false where it came in time. */
function comesLate(run: RunIndex, truth: Truth, task: RunTask, cookie: number, gap: Gap, atS: number): Pick<Spoilt, 'state' | 'rightS'> | false | null {
  const state = gap.maxState as DryingState;
  const body = floodOf(run, task, cookie, gap.from) ?? bodyOf(run, task.lotId as LotId, gap.from, cookie);
  if (!body || body.leftAtS > atS) return null;
  const name = nameOf({ lotId: task.lotId as LotId, cookie });
  const shuts = trueThresholds(truth, name, body.region)[state];
  if (lostAt(body, atS) <= shuts * (1 + UNSEEN)) return false;
  return {
    state: trueState(truth, name, body, atS),
    rightS: whenThere(truth, { ...body, lotId: task.lotId as LotId, cookie, stepId: gap.from }, state),
  };
}

/** The flood a visit laid itself: its window counts from its own end, whatever is done in it afterwards. */
function floodOf(run: RunIndex, task: RunTask, cookie: number, stepId: StepId): Body | null {
  const laid = task.motions.find((m) => m.stepId === stepId);
  const region = run.plan.step(task, stepId)?.region;
  const doneS = run.doneS(task.id);
  if (!laid || !region || doneS === null) return null;
  const leftAtS = momentsIn(run, task, doneS)(laid.endS[cookie - task.cookies[0]] as number);
  return { region, leftAtS, airs: airsAround(run.state.plan, run.state.room, []) };
}

/** When a body really comes to a state; null where it never does in this air. */
function whenThere(truth: Truth, body: Body & Pick<LaidBody, 'lotId' | 'cookie' | 'stepId'>, state: DryingState): number | null {
  const atS = lostBy(body, trueThresholds(truth, nameOf(body), body.region)[state]);
  return Number.isFinite(atS) ? atS : null;
}

/** Time between two visits of the same hands in which the second was really ready. */
function needless(run: RunIndex, truth: Truth): number {
  let sum = 0;
  for (const who of new Set(run.state.plan.tasks.map((t) => t.by))) {
    const own = run.state.plan.tasks
      .flatMap((task) => {
        const [begunS, doneS] = [run.begunS(task.id), run.doneS(task.id)];
        return task.by === who && begunS !== null && doneS !== null ? [{ task, begunS, doneS }] : [];
      })
      .sort((a, b) => a.begunS - b.begunS);
    for (const [i, { task, begunS }] of own.entries()) {
      const before = own[i - 1];
      if (!before || begunS <= before.doneS) continue;
      const opens = run.state.plan.openingHours.find(([, shutS]) => before.doneS < shutS)?.[0] ?? before.doneS;
      const ready = bodiesAsked(run, task).map(({ body, state }) => whenThere(truth, body, state) ?? begunS);
      sum += Math.max(0, begunS - Math.max(before.doneS, opens, task.kind === 'pack' ? begunS : 0, ...ready));
    }
  }
  return sum;
}

/** A look is telling where the model itself was in doubt: between one in five and four in five. */
const IN_DOUBT = [0.8, 1.25] as const;
const tellingLooks = (run: RunIndex): number =>
  run.state.looks.filter((l) => {
    const task = run.plan.task(l.taskId);
    const asked = task ? bodiesAsked(run, task).find((a) => a.body.cookie === l.cookie && a.body.stepId === l.part) : undefined;
    if (!asked) return false;
    const share = lostAt(asked.body, l.atS) / (asked.gap.minLossKgPerM2 as number);
    return share >= IN_DOUBT[0] && share <= IN_DOUBT[1];
  }).length;
