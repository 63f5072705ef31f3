import { bodiesAsked, type LaidBody, laidBy } from '../bench/bodies.js';
import type { StoredEvent } from '../bench/event.js';
import { foldRun } from '../bench/fold.js';
import { askedState } from '../bench/looked.js';
import { airsAround } from '../bench/room.js';
import { type RunIndex, runIndex } from '../bench/run-index.js';
import { isLeftOut, type RunPlan, type RunTask } from '../bench/run-plan.js';
import { lostAt, lostBy, shareAt } from '../drying/body.js';
import { normalCdf } from '../drying/normal.js';
import { type DryingState, stateThresholds } from '../drying/state.js';
import { cookieKey } from '../formats/ids.js';
import type { Motion } from '../formats/plan.js';
import type { DefectId } from '../steps/defects/index.js';
import type { Gap } from '../steps/step.js';
import type { TechniqueId } from '../steps/techniques/index.js';
import { whyOf } from '../steps/why.js';
import type { LotId, StepId } from '../units/id.js';
import { isMade, momentsIn } from './done.js';
import { flawsOf } from './flaws.js';
import type { Mistimed, Spoilt } from './spoilt.js';
import { type Truth, trueState, trueThreshold } from './truth.js';

/** What became of an evening. */
export interface Verdict {
  readonly cookies: number;
  /** cookies on which nothing came wrong */
  readonly saved: number;
  readonly spoilt: readonly Spoilt[];
  /** cookies that lack something, since it was given up */
  readonly lacking: number;
  readonly windows: { readonly held: number; readonly lost: number };
  /** seconds in which what was begun next was really ready and nobody was at it, pauses of the bench's closed hours left out */
  readonly needlessS: number;
  readonly handsOnS: number;
  /** looks of which the plan itself did not know the answer beforehand */
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
function defectOf(technique: TechniqueId, gap: Gap, when: Mistimed['when'], isPiece: boolean): DefectId {
  if (when === 'too-late') return LATE[technique] ?? 'stood-up';
  // A piece on parchment is not packed, it is lifted.
  if (isPiece && technique === 'pack') return 'transfer-broke';
  // Strong colours bleed before they run.
  if (gap.facts.kind === 'meeting' && gap.facts.ask === 'contrast') return 'bled';
  if (technique.startsWith('guide-') || technique === 'trace') return 'dent';
  return EARLY[technique] ?? 'sank';
}

/**
 * What no rehearsal can see: nothing that is said at a bench tells how a hand held its bag, which bag it took, or what lay on the tray. It
 * is listed, so that nobody takes a good score for more than it is.
 */
export const OF_THE_HAND: readonly DefectId[] = [
  'broken',
  'overflowed',
  'line-wobbled',
  'wrong-shade',
  'bubbles',
  'dip',
  'crumbs',
  'tip-plugged',
  'bowl-crusted',
  'separated',
];

/** So little short of a state, or beyond it, is not seen on a cookie; as a share of its water, *assumed*. */
const UNSEEN = 0.08;
/** A log tells its moments to the millisecond, a plan to the second. */
const SAME_MOMENT_S = 1;

/**
 * What really became of every cookie of a run, by the same rules the plan was made with and icing that only the rehearsal knew. Risks that
 * were let grow can be left out, where many evenings are played by who does not let them grow.
 */
export function judge(plan: RunPlan, events: readonly StoredEvent[], truth: Truth, risks: 'judged' | 'left-out' = 'judged'): Verdict {
  const run = runIndex(foldRun(plan, events));
  const mistimed: Mistimed[] = [];
  const lacking = new Set<string>();
  let held = 0;
  let lost = 0;
  for (const task of run.state.plan.tasks) {
    const doneS = run.doneS(task.id);
    if (doneS === null || task.lotId === null) continue;
    const { lotId } = task;
    const gaps = run.plan.graphOf(task)?.gaps ?? [];
    const at = momentsIn(run, task, doneS);
    for (let cookie = task.cookies[0]; cookie < task.cookies[1]; cookie++) {
      if (isLeftOut(task, cookie) || run.isOut(lotId, cookie)) continue;
      let isWet = false;
      let shut = false;
      for (const motion of task.motions) {
        if (!isMade(run, task, motion.stepId, cookie)) {
          // Piped in relief later it lacks nothing, and its window was lost all the same.
          if (motion.windowS !== null) shut = true;
          if (motion.kind !== 'prepare' && !isMadeLater(run, task, motion.stepId, cookie)) lacking.add(cookieKey(lotId, cookie));
          continue;
        }
        const i = cookie - task.cookies[0];
        const [fromS, toS] = [at(motion.startS[i] as number), at(motion.endS[i] as number)];
        for (const gap of gaps
          .filter((g) => g.to === motion.stepId)
          .map((g) => (motion.technique === 'relief' ? inReliefOn(run, task, g) : g))) {
          const early = comesEarly(run, truth, task, cookie, gap, fromS);
          if (early) mistimed.push({ ...about(run, task, motion, cookie, gap, 'too-early', fromS), ...early });
          const late = comesLate(run, truth, task, cookie, gap, toS, at);
          if (late !== null && gap.maxState) isWet = true;
          if (late) {
            shut ||= gap.maxState !== undefined;
            mistimed.push({ ...about(run, task, motion, cookie, gap, 'too-late', toS), ...late });
          }
        }
      }
      // One cookie in one visit is one window, however many marks it takes.
      if (shut) lost++;
      else if (isWet) held++;
    }
  }
  const cookies = run.plan.lots.reduce((n, l) => n + l.cookies, 0);
  const spoilt: Spoilt[] = [...mistimed, ...(risks === 'judged' ? flawsOf(plan, run, truth, mistimed) : [])];
  const wrong = new Set([...spoilt.map(nameOf), ...lacking, ...run.state.out.keys()]);
  const saved = cookies - wrong.size;
  const handsOnS = run.state.plan.tasks.reduce((s, t) => s + (run.isDone(t) && !run.record(t.id)?.skipped ? t.endS - t.startS : 0), 0);
  const needlessS = needless(run, truth);
  const looks = run.state.looks.length;
  const windows = held + lost;
  const score =
    70 * (cookies > 0 ? saved / cookies : 1) +
    20 * (windows > 0 ? held / windows : 1) +
    10 * Math.max(0, 1 - needlessS / Math.max(1, handsOnS));
  return {
    cookies,
    saved,
    spoilt,
    lacking: lacking.size,
    windows: { held, lost },
    needlessS,
    handsOnS,
    telling: tellingLooks(run),
    looks,
    score: Math.round(score),
  };
}

/** Whether some other visit made it. */
const isMadeLater = (run: RunIndex, task: RunTask, stepId: StepId, cookie: number): boolean =>
  run.plan
    .tasksOnLot(task.lotId)
    .some(
      (t) =>
        t !== task &&
        run.isDone(t) &&
        t.cookies[0] <= cookie &&
        cookie < t.cookies[1] &&
        t.motions.some((m) => m.stepId === stepId) &&
        isMade(run, t, stepId, cookie),
    );

/** What wet work asks of its flood once it is piped in relief: no window any more, but a crust to stand on. */
function inReliefOn(run: RunIndex, task: RunTask, gap: Gap): Gap {
  const region = run.plan.step(task, gap.from)?.region;
  if (!gap.maxState || !region) return gap;
  const { from, to } = gap;
  return {
    from,
    to,
    minState: 'crusted',
    minLossKgPerM2: stateThresholds(region).crusted,
    rule: 'detail-rests-on',
    facts: { kind: 'relief' },
  };
}

const about = (run: RunIndex, task: RunTask, motion: Motion, cookie: number, gap: Gap, when: Mistimed['when'], atS: number) => ({
  lotId: task.lotId as LotId,
  cookie,
  stepId: motion.stepId,
  onto: gap.from,
  taskId: task.id,
  technique: motion.technique,
  seen: defectOf(motion.technique, gap, when, run.plan.designOf(task)?.drawing.transfer === true),
  when,
  atS,
  why: whyOf(gap),
});

const nameOf = (b: { readonly lotId: LotId; readonly cookie: number }) => cookieKey(b.lotId, b.cookie);

/** What a step laid on one cookie, by whichever visit; null where none did. */
function bodyOf(run: RunIndex, lotId: LotId, stepId: StepId, cookie: number): LaidBody | null {
  for (const t of run.plan.tasksOnLot(lotId)) {
    if (t.cookies[0] > cookie || t.cookies[1] <= cookie || !t.motions.some((m) => m.stepId === stepId)) continue;
    const [body] = laidBy(run, t, stepId, [cookie]);
    if (body) return body;
  }
  return null;
}

/** When another visit was through with a step on a cookie, seconds; null where none was, or it is part of the same visit. */
function doneWithS(run: RunIndex, task: RunTask, stepId: StepId, cookie: number): number | null {
  for (const t of run.plan.tasksOnLot(task.lotId)) {
    const motion = t.motions.find((m) => m.stepId === stepId);
    const doneS = run.doneS(t.id);
    if (t === task || !motion || doneS === null || cookie < t.cookies[0] || cookie >= t.cookies[1] || !isMade(run, t, stepId, cookie))
      continue;
    return momentsIn(run, t, doneS)(motion.endS[cookie - t.cookies[0]] as number);
  }
  return null;
}

type Wrong = Pick<Mistimed, 'state' | 'rightS'>;

/** null where nothing was too early: neither the icing it comes onto, nor the minutes that were to pass. */
function comesEarly(run: RunIndex, truth: Truth, task: RunTask, cookie: number, gap: Gap, atS: number): Wrong | null {
  const body = gap.minState ? bodyOf(run, task.lotId as LotId, gap.from, cookie) : null;
  if (body && body.leftAtS <= atS) {
    const state = askedState(gap, body.region);
    const needed = trueThreshold(truth, nameOf(body), body.region, state);
    if (lostAt(body, atS) < needed * (1 - UNSEEN))
      return { state: trueState(truth, nameOf(body), body, atS), rightS: whenThere(truth, body, state) };
  }
  const beforeS = gap.minSeconds ? doneWithS(run, task, gap.from, cookie) : null;
  if (beforeS === null || beforeS > atS) return null;
  const rightS = beforeS + (gap.minSeconds as number);
  return atS < rightS - SAME_MOMENT_S ? { state: null, rightS } : null;
}

/** null where nothing shuts on this cookie, false where it came in time. `at` tells the moments of the visit. */
function comesLate(
  run: RunIndex,
  truth: Truth,
  task: RunTask,
  cookie: number,
  gap: Gap,
  atS: number,
  at: (offsetS: number) => number,
): Wrong | false | null {
  const body = gap.maxState ? (floodOf(run, task, cookie, gap.from, at) ?? bodyOf(run, task.lotId as LotId, gap.from, cookie)) : null;
  if (body && body.leftAtS <= atS) {
    const state = gap.maxState as DryingState;
    const shuts = trueThreshold(truth, nameOf(body), body.region, state);
    if (lostAt(body, atS) > shuts * (1 + UNSEEN))
      return { state: trueState(truth, nameOf(body), body, atS), rightS: whenThere(truth, body, state) };
  }
  const beforeS = gap.maxSeconds === undefined ? null : doneWithS(run, task, gap.from, cookie);
  if (beforeS !== null && beforeS <= atS) {
    const rightS = beforeS + (gap.maxSeconds as number);
    if (atS > rightS + SAME_MOMENT_S) return { state: null, rightS };
  }
  return body || beforeS !== null ? false : null;
}

/** The flood a visit laid itself: its window counts from its own end, whatever is done in it afterwards. */
function floodOf(run: RunIndex, task: RunTask, cookie: number, stepId: StepId, at: (offsetS: number) => number): LaidBody | null {
  const laid = task.motions.find((m) => m.stepId === stepId);
  const region = run.plan.step(task, stepId)?.region;
  if (!laid || !region) return null;
  const leftAtS = at(laid.endS[cookie - task.cookies[0]] as number);
  return {
    lotId: task.lotId as LotId,
    cookie,
    stepId,
    region,
    leftAtS,
    airs: airsAround(run.state.plan, run.state.room, []),
    looked: [],
    inferred: false,
  };
}

/** When a body really comes to a state; null where it never does in this air. */
function whenThere(truth: Truth, body: LaidBody, state: DryingState): number | null {
  const atS = lostBy(body, trueThreshold(truth, nameOf(body), body.region, state));
  return Number.isFinite(atS) ? atS : null;
}

/**
 * Time between two visits of the same hands in which the second was really ready. Packing is none of it: it is planned for when it is due.
 */
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
      if (!before || begunS <= before.doneS || task.kind === 'pack') continue;
      const ready = bodiesAsked(run, task).map(({ body, state }) => whenThere(truth, body, state) ?? begunS);
      sum += Math.max(0, begunS - Math.max(run.plan.whenOpen(before.doneS), ...ready));
    }
  }
  return sum;
}

/** A look tells something where what the plan believed left the answer open: between one chance in five and four in five, *assumed*. */
const IN_DOUBT = [0.2, 0.8] as const;
const tellingLooks = (run: RunIndex): number =>
  run.state.looks.filter((l) => {
    const task = run.plan.task(l.taskId);
    const asked = task ? bodiesAsked(run, task).find((a) => a.body.cookie === l.cookie && a.body.stepId === l.part) : undefined;
    if (!asked) return false;
    const { mean, sigma } = run.state.plan.factors[asked.state];
    const chance = normalCdf((Math.log(shareAt(asked.body, asked.state, l.atS)) - mean) / sigma);
    return chance >= IN_DOUBT[0] && chance <= IN_DOUBT[1];
  }).length;
