import type { PlanWait } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { PIECE_TECHNIQUES } from '../planning/build-problem.js';
import { isBeforeStay } from '../planning/stays.js';
import type { Link, Problem, Solution, Task } from '../scheduling/problem.js';
import { solve } from '../scheduling/solve.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import { type Why, whyOf } from '../steps/why.js';
import { complementIntervals, END_OF_TIME_S } from '../time/interval.js';
import { Recount } from './recount.js';
import { retimed } from './retimed.js';
import { type RunIndex, runIndex } from './run-index.js';
import type { RunPlan, RunTask } from './run-plan.js';

/** A schedule for what is still open, seconds since the epoch. */
export interface Replanned {
  readonly starts: Readonly<Record<string, number>>;
  readonly endS: number;
  /** when the hands are free for the day */
  readonly handsFreeS: number;
  /** how late the latest cookies are packed; 0 where none are */
  readonly lateS: number;
  /** windows that cannot be held any more, by the task that comes too late, with what happens then */
  readonly lost: readonly { readonly taskId: string; readonly bySeconds: number; readonly why: Why }[];
}

/** The next steps of the hands stay as they are unless that loses a window, makes something late or costs more than this. */
const NEXT_STEPS = 2;
export const WORTH_S = 180;
/** Rounds of improvement: a re-planning is answered before the next cookie. */
const PASSES = 24;
/** A step that took longer than planned is taken to need a little more. */
const STILL_S = 30;
/** Where the bench stands for everything that is done: a task of no length at second 0. */
const ORIGIN = '@';

/**
 * Plans what is left of a run from `nowS` on: what is done has left, its waits and windows count from when it was really
 * done; what is in hand is not moved. Windows may be lost, so that there always is a plan; which are, is said.
 */
export function replan(asItStands: RunIndex, nowS: number): Replanned {
  const { plan } = asItStands.state;
  const careful = whereverStaysGo(asItStands, nowS);
  // Waits that were measured through the stays still to come are tried as they are: where every one of them holds in the air the new
  // plan gives, nothing is lost by counting on it.
  if (careful !== plan) {
    const exact = replanned(asItStands, nowS);
    if (holdsAsPlanned(asItStands, exact, nowS)) return exact;
  }
  return replanned(runIndex({ ...asItStands.state, plan: careful }), nowS);
}

/**
 * Trays keep their places a little longer than they need. Where a plan counts on the next tray standing there at once, that may cost a
 * night: then they keep them only so long, as long as no two come to stand in one place by it.
 */
function replanned(run: RunIndex, nowS: number): Replanned {
  const left = remaining(run, nowS, STAY_MORE_S);
  const roomy = solvedLeft(run, left, nowS);
  const planned = new Map(left.problem.tasks.map((t) => [t.id, t.duration]));
  const endAsItStandsS = Math.max(nowS, ...left.open.map((t) => (left.asItStands[t.id] as number) + (planned.get(t.id) ?? 0)));
  if (run.state.plan.stays.length === 0 || roomy.endS <= endAsItStandsS + WORTH_S) return roomy;
  const tight = solvedLeft(run, remaining(run, nowS, 0), nowS);
  return keepsPlaces(run, tight) ? worthMore(tight, roomy) : roomy;
}

/** Whether never more trays stand before the fan or in the dehydrator than have a place, from when each is there until it is out. */
function keepsPlaces(run: RunIndex, { starts }: Replanned): boolean {
  const { plan } = run.state;
  const endS = (t: RunTask) => Math.round(run.doneS(t.id) ?? (starts[t.id] as number) + t.endS - t.startS);
  const stand = plan.stays.flatMap((s) => {
    const [carry, out] = [run.plan.carryOf(s), run.plan.takeOutOf(s)];
    return carry && out ? [{ where: s.where, fromS: endS(carry), toS: endS(out) }] : [];
  });
  return stand.every(
    ({ where, fromS }) =>
      stand.filter((o) => o.where === where && o.fromS <= fromS && fromS < o.toS).length <= (plan.order[where]?.places ?? 1),
  );
}

/** The next steps of the hands as they are, or all in the best order where that is worth it. */
function solvedLeft(run: RunIndex, left: Left, nowS: number): Replanned {
  const { plan } = run.state;
  const free = solveLeft(left, []);
  const keeping = solveLeft(left, left.next);
  if (!keeping) return judged(plan, left, free ?? left.asItStands, nowS);
  if (!free) return judged(plan, left, keeping, nowS);
  return worthMore(judged(plan, left, free, nowS), judged(plan, left, keeping, nowS));
}

/** A schedule where it is worth more than the one there is: it loses less, is less late, or ends sooner by what a change is worth. */
const worthMore = (b: Replanned, a: Replanned): Replanned =>
  b.lost.length < a.lost.length ||
  b.lateS < a.lateS ||
  b.endS < a.endS - WORTH_S ||
  (b.endS <= a.endS && b.handsFreeS < a.handsFreeS - WORTH_S)
    ? b
    : a;

/** Whether no open task of a re-plan begins before its waits are over in the air that the re-plan itself gives. */
function holdsAsPlanned(run: RunIndex, { starts }: Replanned, nowS: number): boolean {
  // What is done stands where it ended, as its cookies were left then.
  const was = run.state.plan.tasks.flatMap((t) => {
    const endS = run.doneS(t.id);
    return endS === null ? [] : [[t.id, endS - (t.endS - t.startS)] as const];
  });
  const plan = retimed(run.state.plan, { ...Object.fromEntries(was), ...starts });
  const { waits } = new Recount({ ...run.state, plan, atS: nowS }, undefined, 'as-planned').plan();
  return waits.every((w) => w.slackS >= 0 || run.doneS(w.to) !== null || run.begunS(w.to) !== null);
}

/**
 * Waits that were measured through the stays the plan had chosen hold for those moments only: a tray may have been carried later, and a
 * re-plan may move what is still to come. Stays that have been are counted as they were, those to come where they help least; and waits
 * never come out shorter.
 */
function whereverStaysGo(run: RunIndex, nowS: number): RunPlan {
  const { plan } = run.state;
  const away = new Set(plan.stays.map((s) => s.trayId));
  if (away.size === 0) return plan;
  const safe = new Recount({ ...run.state, atS: nowS }).plan();
  return {
    ...plan,
    waits: plan.waits.map((w, i): PlanWait => {
      const minS = safe.waits[i]?.minS ?? w.minS;
      return away.has(run.plan.task(w.to)?.trayId ?? '') && minS > w.minS ? { ...w, minS } : w;
    }),
  };
}

interface Left {
  readonly problem: Problem;
  readonly frozen: Readonly<Record<string, number>>;
  /** every open task where it would stand if the order were only shifted right */
  readonly asItStands: Readonly<Record<string, number>>;
  /** the next steps, in order */
  readonly next: readonly RunTask[];
  readonly open: readonly RunTask[];
}

/** `placeMoreS`: how much longer than it needs a tray keeps its place, until it is lifted out */
function remaining(run: RunIndex, nowS: number, placeMoreS: number): Left {
  const { plan: index, state, open } = run;
  const { plan } = state;
  const begunS = (t: RunTask) => {
    const s = run.begunS(t.id);
    return s === null ? null : Math.round(s);
  };
  const openIds = new Set(open.map((t) => t.id));
  const now = Math.ceil(nowS);
  const tasks: Task[] = [{ id: ORIGIN, duration: 0, release: 0 }];
  const links: Link[] = [];
  const frozen: Record<string, number> = { [ORIGIN]: 0 };
  const { openBags, decorators, pins } = plan.order;
  // One pair of hands never has more bags in hand than its visit needs: the plan has seen to that. Those put away keep their time.
  const sharesBags = openBags !== null && decorators.length > 1;
  const bagsOf = (t: RunTask): Record<string, number> => (sharesBags && t.bags.length > 0 ? { bags: t.bags.length } : {});
  for (const t of open) {
    const planned = Math.ceil(t.endS - t.startS);
    const begun = begunS(t);
    const due = index.latestEndOf(t);
    if (begun === null)
      tasks.push({
        id: t.id,
        duration: planned,
        uses: { [t.by]: 1, ...bagsOf(t) },
        family: index.familyOf(t),
        release: Math.max(
          now,
          Math.ceil(index.sOf(state.notBeforeMs.get(t.id) ?? index.epochMs)),
          t.motions.some((m) => PIECE_TECHNIQUES.includes(m.technique)) ? (plan.order.piecesFrom ?? 0) : 0,
          ...pins.map((p) => (p.kind === 'not-before' && p.tray === t.trayId ? p.at : 0)),
        ),
        due,
      });
    else {
      // It stands where it is, early or late, whatever it should have waited for; its hands are taken until it is done.
      const duration = Math.max(planned, now - begun + STILL_S);
      tasks.push({ id: t.id, duration, uses: bagsOf(t), release: 0, due });
      frozen[t.id] = begun;
      for (const o of open) if (o.by === t.by && begunS(o) === null) links.push({ from: t.id, to: o.id, min: ASSUMED_PACE.changeoverS });
    }
  }
  // A tray left in the dehydrator keeps its place from the next one: that window is the last to be given up.
  const takesOut = new Set(plan.tasks.filter((t) => t.kind === 'take-out').map((t) => t.id));
  const softOf = (w: PlanWait) => (takesOut.has(w.to) ? TAKE_OUT_WEIGHT : 1);
  for (const w of plan.waits) {
    if (!openIds.has(w.to) || frozen[w.to] !== undefined) continue;
    if (openIds.has(w.from)) {
      links.push({
        from: w.from,
        to: w.to,
        anchor: 'start',
        min: Math.ceil(w.minS),
        ...(w.maxS === null ? {} : { max: Math.floor(w.maxS), soft: softOf(w) }),
      });
      continue;
    }
    const from = index.task(w.from) as RunTask;
    // As if it had begun so that it ended when it did: its cookies dry from when they were left.
    // Waits are rounded up and windows down, against the hands.
    const asBegun = (run.doneS(w.from) ?? 0) - (from.endS - from.startS);
    links.push({
      from: ORIGIN,
      to: w.to,
      anchor: 'start',
      min: Math.max(0, Math.ceil(asBegun + w.minS)),
      ...(w.maxS === null ? {} : { max: Math.max(0, Math.floor(asBegun + w.maxS)), soft: softOf(w) }),
    });
  }
  for (const s of plan.stays) {
    const [carry, out] = [index.carryOf(s), index.takeOutOf(s)];
    if (!carry) continue;
    const { id } = s;
    if (!openIds.has(carry.id)) {
      // A tray already there: what has to wait for it counts from when it was carried, by the waits above; it keeps its place.
      const sinceS = Math.round(run.doneS(carry.id) ?? 0);
      if (out ? !openIds.has(out.id) : sinceS + s.forS <= now) continue;
      const heldS = out ? Math.max(s.forS, now - sinceS) + placeMoreS + (out.endS - out.startS) : s.forS;
      tasks.push({ id, duration: Math.ceil(heldS), uses: { [s.where]: 1 }, release: 0 });
      frozen[id] = sinceS;
      // Nothing is piped on it before hands have fetched it.
      if (out && frozen[out.id] === undefined)
        for (const t of open)
          if (
            t !== out &&
            t.trayId === s.trayId &&
            t.kind !== 'carry' &&
            t.kind !== 'take-out' &&
            !isBeforeStay(t, s) &&
            frozen[t.id] === undefined
          )
            links.push({ from: out.id, to: t.id, min: 0 });
      continue;
    }
    tasks.push({ id, duration: Math.ceil(out ? s.forS + placeMoreS + (out.endS - out.startS) : s.forS), uses: { [s.where]: 1 } });
    links.push({ from: carry.id, to: id, anchor: 'end', min: 0, max: 0 });
    // Its place is kept so long: fetched later, another tray might already stand there.
    if (out && openIds.has(out.id) && frozen[out.id] === undefined)
      links.push({
        from: id,
        to: out.id,
        anchor: 'start',
        min: s.forS,
        max: Math.ceil(s.forS + placeMoreS),
        soft: PLACE_WEIGHT,
      });
    for (const t of open) {
      if (t.trayId !== s.trayId || t.kind === 'carry' || t.kind === 'take-out') continue;
      // What is still to be done before the tray is carried comes first; what follows waits until it is back.
      if (isBeforeStay(t, s)) {
        if (frozen[carry.id] === undefined) links.push({ from: t.id, to: carry.id, min: 0 });
      } else if (frozen[t.id] === undefined)
        links.push(out && openIds.has(out.id) ? { from: out.id, to: t.id, min: 0 } : { from: id, to: t.id, min: 0 });
    }
  }
  const problem: Problem = {
    format: 'kestfog-problem/1',
    resources: [
      ...plan.order.decorators.map((d) => ({ id: d.id, capacity: 1, closed: away(plan, d.id, now), changeover: ASSUMED_PACE.changeoverS })),
      ...(['fan', 'dehydrator'] as const).flatMap((where) =>
        plan.stays.some((s) => s.where === where) ? [{ id: where, capacity: plan.order[where]?.places ?? 1 }] : [],
      ),
      ...(sharesBags ? [{ id: 'bags', capacity: openBags }] : []),
    ],
    tasks,
    links,
    objective: ['soft', 'tardiness', 'makespan'],
  };
  const shift = Math.max(0, now - Math.min(now, ...open.filter((t) => frozen[t.id] === undefined).map((t) => t.startS)));
  return {
    problem,
    frozen,
    asItStands: Object.fromEntries(open.map((t) => [t.id, frozen[t.id] ?? t.startS + shift])),
    next: open.filter((t) => frozen[t.id] === undefined).slice(0, NEXT_STEPS),
    open,
  };
}

/** A tray in the dehydrator keeps its place a little longer than it needs, until hands are free. */
const STAY_MORE_S = 120;
/** What a second of a tray left standing where another is to come weighs, beside windows. */
const PLACE_WEIGHT = 1;
const TAKE_OUT_WEIGHT = 50;

/** Hours without these hands. Who stands at the bench now keeps it open, whatever its hours say, and the last opening has no end. */
function away(plan: RunPlan, who: string, nowS: number): [number, number][] {
  const last = plan.openingHours.length - 1;
  const open = plan.openingHours.map(([fromS, toS], i) => ({ fromS, toS: i === last ? END_OF_TIME_S : toS }));
  const here = { fromS: 0, toS: nowS + STAYS_OPEN_S };
  const pinned = plan.order.pins.flatMap((p): [number, number][] =>
    p.kind === 'away' && (p.who === null || p.who === who) && p.to > nowS ? [[Math.max(p.from, nowS), p.to]] : [],
  );
  return [...complementIntervals([here, ...open]).map((c): [number, number] => [c.fromS, c.toS]), ...pinned];
}
const STAYS_OPEN_S = 600;

/** Starts of the open tasks, with `first` done before all else by the same hands; null where that cannot be. */
function solveLeft(left: Left, first: readonly RunTask[]): Readonly<Record<string, number>> | null {
  const links: Link[] = [];
  for (const [i, t] of first.entries())
    for (const o of left.open)
      if (o.by === t.by && left.frozen[o.id] === undefined && !first.slice(0, i + 1).includes(o))
        links.push({ from: t.id, to: o.id, min: 0 });
  const answer = solve(
    { ...left.problem, links: [...left.problem.links, ...links] },
    { passes: PASSES, seed: 1, frozen: left.frozen, warm: left.asItStands },
  );
  return 'start' in answer ? (answer as Solution).start : null;
}

/** Seconds by which a visit's own wet work overruns its windows on the worst cookie; 0 or less where all hold. */
function tooLongS(task: RunTask): number {
  return Math.max(
    0,
    ...task.motions.flatMap((m) => {
      const from = task.motions.find((x) => x.stepId === m.windowFrom);
      const { windowS } = m;
      if (windowS === null || !from) return [];
      const gone = (cookie: number) =>
        task.without?.includes(cookie) || task.leftOut?.some((l) => l.stepId === m.stepId && l.cookies.includes(cookie));
      return m.endS.flatMap((end, i) => (gone(task.cookies[0] + i) ? [] : [end - (from.endS[i] as number) - windowS]));
    }),
  );
}

function judged(plan: RunPlan, left: Left, start: Readonly<Record<string, number>>, nowS: number): Replanned {
  const index = planIndex(plan);
  const closes = index.closesAfter(nowS);
  const duration = new Map(left.problem.tasks.map((t) => [t.id, t.duration]));
  const endOf = (id: string) => (start[id] ?? 0) + (duration.get(id) ?? 0);
  const due = new Map(left.problem.tasks.map((t) => [t.id, t.due ?? null]));
  const whyOfWindow = new Map(plan.waits.filter((w) => w.maxS !== null).map((w) => [w.to as string, whyOf(w)]));
  const lost = left.problem.links.flatMap((l) => {
    if (l.max === null || l.max === undefined || !l.soft) return [];
    const by = (start[l.to] ?? 0) - (l.from === ORIGIN ? 0 : (start[l.from] ?? 0)) - l.max;
    const why = whyOfWindow.get(l.to);
    return by > 0 && why ? [{ taskId: l.to, bySeconds: by, why }] : [];
  });
  for (const t of left.open) {
    // Air that made a window too short even for one cookie at a time loses it wherever the visit stands.
    const over = Math.ceil(tooLongS(t));
    const gaps = index.graphOf(t)?.gaps ?? [];
    const gap =
      over > 0 ? gaps.find((g) => t.motions.some((m) => m.windowS !== null && m.stepId === g.to && m.windowFrom === g.from)) : undefined;
    if (gap) lost.push({ taskId: t.id, bySeconds: over, why: whyOf(gap) });
  }
  return {
    starts: Object.fromEntries(left.open.map((t) => [t.id, start[t.id] as number])),
    endS: Math.max(nowS, ...left.open.map((t) => endOf(t.id))),
    handsFreeS: Math.max(nowS, ...left.open.filter((t) => (start[t.id] as number) < closes).map((t) => endOf(t.id))),
    lateS: Math.max(0, ...left.open.map((t) => endOf(t.id) - (due.get(t.id) ?? Number.POSITIVE_INFINITY))),
    lost,
  };
}
