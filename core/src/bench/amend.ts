import { type Region, stateThresholds } from '../drying/state.js';
import { freeName, newLotIdOf, reliefIdOf, rescuedDesignId, TIE_DYE } from '../formats/ids.js';
import type { Lag, Lot, Motion, PlanDesign, PlanWait } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { graphAtOwnPace, paceOfHands } from '../planning/own-pace.js';
import { separation } from '../planning/separation.js';
import { timeGap } from '../planning/timed-gap.js';
import { taskOfVisit, waitsOf } from '../planning/to-plan.js';
import { visitsOf } from '../planning/visits.js';
import { deriveSteps } from '../steps/derive.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import { bagKey, type Step } from '../steps/step.js';
import { whyOf } from '../steps/why.js';
import { mergeIntervals } from '../time/interval.js';
import { NoAnswer } from '../units/bad-input.js';
import { msg } from '../words/index.js';
import type { RunPlan, RunTask } from './run-plan.js';
import { tieDye } from './tie-dye.js';
import { sharedCookies } from './visit-of.js';

/** Plans changed by what happened to single cookies: pure, so that the log replays to the same plan anywhere. */

type IsDone = (task: RunTask) => boolean;
type IsBegun = (task: RunTask) => boolean;

const cookiesLeft = (t: RunTask) => t.cookies[1] - t.cookies[0] - (t.without?.length ?? 0);
const startsOf = (tasks: readonly RunTask[]) => new Map(tasks.map((t) => [t.id, t.startS]));

/** Without one cookie in what is still open: its tasks get shorter, those that were for it alone are gone. */
export function withoutCookie(plan: RunPlan, lotId: string, cookie: number, isDone: IsDone): RunPlan {
  const shorter = new Map<string, number>();
  const tasks = plan.tasks.flatMap((t): RunTask[] => {
    const has = t.lotId === lotId && t.cookies[0] <= cookie && cookie < t.cookies[1] && !t.without?.includes(cookie);
    if (!has || isDone(t)) return [t];
    if (cookiesLeft(t) <= 1) return [];
    const { task, lessS } = cutOut(t, cookie);
    shorter.set(t.id, lessS);
    return [task];
  });
  const kept = new Set(tasks.map((t) => t.id));
  // With a cookie fewer before it, the next is reached sooner: what had to dry waits that much longer from the start.
  const waits = plan.waits
    .filter((w) => kept.has(w.from) && kept.has(w.to))
    .map((w) => (w.minS > 0 && shorter.has(w.to) ? { ...w, minS: w.minS + (shorter.get(w.to) as number) } : w));
  return { ...plan, tasks, waits };
}

/** A task with the motions of one cookie cut out of its time, and by how much it got shorter; turning to the cookies stays as it was. */
function cutOut(task: RunTask, cookie: number): { task: RunTask; lessS: number } {
  const i = cookie - task.cookies[0];
  // A snip is widened for all of them, whoever is left.
  const own = task.motions.filter((m) => m.technique !== 'widen-snip');
  // A large flood and its outline take turns: their times lie in each other.
  const gone = mergeIntervals(own.map((m) => ({ fromS: m.startS[i] as number, toS: m.endS[i] as number })));
  const shifted = (s: number) => s - gone.reduce((sum, { fromS, toS }) => sum + Math.max(0, Math.min(s, toS) - fromS), 0);
  const lessS = Math.floor(gone.reduce((sum, { fromS, toS }) => sum + toS - fromS, 0));
  const motions = task.motions.map((m) => ({ ...m, startS: m.startS.map(shifted), endS: m.endS.map(shifted) }));
  return { task: { ...task, without: [...(task.without ?? []), cookie], endS: task.endS - lessS, motions }, lessS };
}

/**
 * A cookie scraped and begun again with its own design, or rescued as a tie-dye: a lot of its own on the same tray, worked from `atS`
 * on. `isBegun` tells which trays are away.
 */
export function withNewCookie(
  plan: RunPlan,
  lotId: string,
  cookie: number,
  as: 'again' | typeof TIE_DYE,
  atS: number,
  isBegun: IsBegun,
): RunPlan {
  const index = planIndex(plan);
  const lot = index.lot(lotId);
  const design = index.designOf(lotId);
  if (!lot || !design) return plan;
  const id = freeName(newLotIdOf(lotId, as, cookie), (x) => index.lot(x) !== undefined);
  const by = index.tasksOnTray(lot.trayId)[0]?.by ?? plan.order.decorators[0]?.id ?? '';
  const planned = firstThatCanBeDone(plan, lot, cookie, id, as === 'again' ? [design] : tieDyesOf(plan, design), by);
  // Where not even one cookie's windows would hold, the cookie is out and nothing takes its place.
  if (!planned) return plan;
  const { target, own, timed, visits } = planned;
  const lags = timed.flatMap((t) =>
    visits.flatMap((from) =>
      visits.flatMap((to): Lag[] => {
        if (from === to || !from.times.endS.has(t.gap.from) || !to.times.endS.has(t.gap.to)) return [];
        const s = separation(from, to, t);
        return s?.minS == null ? [] : [{ from: from.id, to: to.id, minS: s.minS, maxS: s.maxS, ...whyOf(t.gap) }];
      }),
    ),
  );
  for (const v of visits) lags.push(...awayLags(plan, lot.trayId, v.id, isBegun));
  const starts = new Map<string, number>();
  let freeS = atS;
  for (const v of visits) {
    const ready = Math.max(
      freeS,
      ...lags.filter((l) => l.to === v.id && starts.has(l.from)).map((l) => (starts.get(l.from) as number) + l.minS),
    );
    starts.set(v.id, ready);
    freeS = ready + v.times.durationS;
  }
  const tasks = visits.map((v) => taskOfVisit(v, target.drawing, timed, by, starts.get(v.id) as number));
  const trays = plan.trays.map((t) => (t.id === lot.trayId ? { ...t, lots: [...t.lots, own] } : t));
  const designs = plan.designs.includes(target) ? plan.designs : [...plan.designs, target];
  return inOrder({
    ...plan,
    designs,
    trays,
    tasks: [...plan.tasks, ...tasks],
    waits: [...plan.waits, ...waitsOf(lags, (x) => starts.get(x) as number)],
  });
}

/** A tray that is away is not worked on before it is back. */
function awayLags(plan: RunPlan, trayId: string, taskId: string, isBegun: IsBegun): Lag[] {
  return plan.stays
    .filter((s) => s.trayId === trayId)
    .flatMap((s): Lag[] => {
      const [carry, out] = [planIndex(plan).carryOf(s), planIndex(plan).takeOutOf(s)];
      const back = out ?? carry;
      if (!carry || !back || !isBegun(carry)) return [];
      const minS = back.endS - back.startS + (back === carry ? s.forS : 0);
      return [{ from: back.id, to: taskId, minS, maxS: null, rule: 'away-drying', facts: { kind: 'away', trayId } }];
    });
}

/** One cookie planned by the first of several designs whose windows hold; null where none does. */
function firstThatCanBeDone(plan: RunPlan, lot: Lot, cookie: number, id: string, designs: readonly PlanDesign[], by: string) {
  const { decorators } = plan.order;
  const hands = decorators.find((d) => d.id === by);
  const pace = paceOfHands(hands);
  for (const target of designs) {
    const own: Lot = {
      id,
      trayId: lot.trayId,
      designId: target.id,
      cookies: 1,
      firstPlace: lot.firstPlace + cookie,
      ...(lot.at?.[cookie] ? { at: [lot.at[cookie]] } : {}),
    };
    try {
      const timed = target.graph.gaps.map((g) => timeGap(g, plan.air, plan.margin, plan.factors));
      // Its bags are open already and it is cool: it begins with its first icing.
      const visits = visitsOf(own, graphAtOwnPace(target.graph, hands), timed, pace, target.drawing.name).filter(
        (v) => v.bundle.kind !== 'prepare',
      );
      return { target, own, timed, visits };
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error;
    }
  }
  return null;
}

/** The tie-dye of a design's own outline, packed with it; where its wet work would take too long, flooded only. */
function tieDyesOf(plan: RunPlan, of: PlanDesign): PlanDesign[] {
  const drawing = tieDye(of.drawing);
  return [drawing, { ...drawing, parts: drawing.parts.filter((p) => p.role !== 'mark') }].map((d, i) => {
    const id = rescuedDesignId(of.id, i > 0);
    return (
      plan.designs.find((x) => x.id === id) ?? {
        ...of,
        id,
        count: 0,
        spares: 0,
        graph: deriveSteps(d, plan.order.school, { tips: plan.order.tips }),
        drawing: d,
      }
    );
  });
}

/** Wet work that came too late on some cookies left out of its visit. */
export function leftOutOf(plan: RunPlan, taskId: string, cookies: readonly number[]): RunPlan {
  return {
    ...plan,
    tasks: plan.tasks.map((t) =>
      t.id === taskId
        ? {
            ...t,
            leftOut: [
              ...(t.leftOut ?? []),
              ...t.motions.filter((m) => m.kind === 'mark' || m.kind === 'detail').map((m) => ({ stepId: m.stepId, cookies })),
            ],
          }
        : t,
    ),
  };
}

/** Wet work of a visit that could be piped in relief later: a drag needs what it pulls wet, only what is piped can be piped later. */
export function pipedMarks(plan: RunPlan, task: RunTask): Motion[] {
  return task.motions.filter((m) => m.kind === 'mark' && planIndex(plan).step(task, m.stepId)?.bag);
}

/** The same work done in relief later, once the flood has crusted: a task of its own, and what waits for the visit waits for it too. */
export function inRelief(plan: RunPlan, taskId: string, cookies: readonly number[], isBegun: IsBegun): RunPlan {
  const index = planIndex(plan);
  const task = index.task(taskId);
  const marks = task ? pipedMarks(plan, task) : [];
  if (!task || marks.length === 0 || cookies.length === 0) return plan;
  const id = freeName(reliefIdOf(taskId), (x) => index.task(x) !== undefined);
  const span: [number, number] = [Math.min(...cookies), Math.max(...cookies) + 1];
  const without = Array.from({ length: span[1] - span[0] }, (_, i) => span[0] + i).filter((c) => !cookies.includes(c));
  const stepOf = (stepId: string) => index.step(task, stepId) as Step;
  let atS = 0;
  const motions = marks.map((m) => {
    const startS: number[] = [];
    const endS: number[] = [];
    for (let c = span[0]; c < span[1]; c++) {
      startS.push(atS);
      if (cookies.includes(c)) atS += stepOf(m.stepId).seconds + ASSUMED_PACE.handlingSPerCookie;
      endS.push(atS);
    }
    return { ...m, startS, endS, technique: 'relief' as const, windowS: null, windowFrom: null };
  });
  const bags = [...new Map(marks.flatMap((m) => stepOf(m.stepId).bag ?? []).map((b) => [bagKey(b), b])).values()];
  const floods = task.motions.filter((m) => m.kind === 'flood').flatMap((m) => stepOf(m.stepId).region ?? []);
  const crustS = Math.max(0, ...floods.map((region) => crustsIn(plan, region)));
  const dur = task.endS - task.startS;
  const labels = [...new Set(marks.map((m) => m.label))];
  // What was left out of the visit is what is made here.
  const { leftOut: _left, ...visit } = task;
  const relief: RunTask = {
    ...visit,
    id,
    kind: 'detail',
    // After whatever stay its flood is dried by.
    round: task.round + 1,
    cookies: span,
    without,
    title: msg`pipe ${labels.join(', ')} in relief`,
    startS: task.startS + dur + crustS,
    endS: task.startS + dur + crustS + Math.ceil(atS),
    bags,
    way: 'colour-by-colour',
    motions,
  };
  const wait: PlanWait = {
    from: taskId,
    to: id,
    minS: dur + crustS,
    maxS: null,
    slackS: 0,
    rule: 'detail-rests-on',
    facts: { kind: 'relief' },
  };
  // A bead is no deeper than its flood: what waits for the flood to dry waits as long for the relief on it.
  const after = plan.waits.flatMap((w): PlanWait[] => {
    const to = index.task(w.to);
    return w.from === taskId && to?.kind === 'pack' && sharedCookies(relief, to).length > 0 ? [{ ...w, from: id }] : [];
  });
  return inOrder({
    ...plan,
    tasks: [...plan.tasks, relief],
    waits: [...plan.waits, wait, ...after, ...waitsOf(awayLags(plan, task.trayId, id, isBegun), () => 0)],
  });
}

const crustsIn = (plan: RunPlan, region: Region): number =>
  timeGap(
    {
      from: '',
      to: '',
      minState: 'crusted',
      minLossKgPerM2: stateThresholds(region).crusted,
      rule: 'detail-rests-on',
      facts: { kind: 'relief' },
    },
    plan.air,
    plan.margin,
    plan.factors,
  ).minS;

/** In order of time, slack found anew. */
export function inOrder(plan: RunPlan): RunPlan {
  const tasks = [...plan.tasks].sort((a, b) => a.startS - b.startS || a.endS - b.endS);
  const at = startsOf(tasks);
  return {
    ...plan,
    tasks,
    waits: plan.waits.map((w) => ({ ...w, slackS: (at.get(w.to) ?? 0) - (at.get(w.from) ?? 0) - w.minS })),
    endS: Math.max(...tasks.map((t) => t.endS)),
    proven: false,
  };
}
