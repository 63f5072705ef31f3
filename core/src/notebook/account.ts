import { type BenchTouch, benchTouches } from '../bench/bench-touches.js';
import type { CookieOutcome, ShutChoice, StoredEvent } from '../bench/event.js';
import { foldRun } from '../bench/fold.js';
import { pausesOf, withoutPausesMs } from '../bench/pauses.js';
import { type RunIndex, runIndex } from '../bench/run-index.js';
import { isLeftOut, type RunPlan, type RunTask } from '../bench/run-plan.js';
import type { Design } from '../design/design.js';
import type { Finding } from '../drying/body.js';
import type { DryingState } from '../drying/state.js';
import { planIndex } from '../formats/plan-index.js';
import { ICING_DENSITY_KG_PER_M3 } from '../icing/density.js';
import { bagsOf } from '../planning/order-bags.js';
import type { DefectId } from '../steps/defects/index.js';
import type { DesignId } from '../units/id.js';
import { type BagCount, bagCounts } from './counts.js';
import { type Honesty, honestyOf } from './honesty.js';

/** A visit as it was planned and as it was done; seconds since 1970. */
export interface VisitAccount {
  readonly taskId: string;
  readonly title: string;
  readonly kind: RunTask['kind'];
  readonly trayId: string;
  readonly who: string;
  /** design it was for; null where it was for the tray */
  readonly design: string | null;
  readonly cookies: number;
  readonly plannedStartS: number;
  readonly plannedEndS: number;
  /** null where nobody was seen to begin, or it was not done */
  readonly begunS: number | null;
  readonly doneS: number | null;
  /** time of hands in it, pauses left out; null where it was not seen */
  readonly tookS: number | null;
  /** events that say so, so that a moment that was entered wrongly can be put right */
  readonly begunBy: string | null;
  readonly doneBy: string | null;
  /** "guessed": only its end was said; "inferred": a later step was seen; "skipped": given up; "open": never done */
  readonly said: 'seen' | 'guessed' | 'inferred' | 'skipped' | 'open';
}

/**
 * Where lateness came from. "longer": the work took longer than planned; "not-ready": a finger found it not to be there yet; "drying": what
 * it waits for was late itself; "pause"; "hands": it could have been begun. Below nothing, time was made good.
 */
export const slipKinds = ['longer', 'not-ready', 'drying', 'pause', 'hands'] as const;
export type SlipKind = (typeof slipKinds)[number];
export interface Slip {
  readonly kind: SlipKind;
  readonly taskId: string;
  readonly title: string;
  readonly trayId: string;
  readonly who: string;
  readonly seconds: number;
}

export interface DefectAccount {
  readonly atS: number;
  readonly design: string;
  readonly part: string | null;
  /** the part's own name in its drawing, where one was named */
  readonly partId: string | null;
  readonly trayId: string | null;
  /** of its lot, from 1 */
  readonly cookie: number;
  readonly seen: DefectId;
  readonly outcome: CookieOutcome;
}
export interface DesignAccount {
  readonly name: string;
  readonly planned: number;
  readonly packed: number;
  /** time of hands that was for it alone, as planned and as it was */
  readonly plannedHandsOnS: number;
  readonly handsOnS: number;
  /** cookies whose window of wet work was lost */
  readonly windowsLost: number;
}

/** A run in a few figures: lists and answers across runs go by these. */
export interface AccountSummary {
  readonly startedS: number;
  readonly endedS: number;
  readonly plannedEndS: number;
  readonly packByS: number | null;
  readonly designs: readonly DesignAccount[];
  readonly cookies: number;
  readonly packed: number;
  readonly handsOnS: number;
  readonly plannedHandsOnS: number;
  /** wet windows worked in, and cookies whose window was lost */
  readonly windows: { readonly held: number; readonly lost: number };
  readonly defects: readonly DefectAccount[];
  readonly honesty: Honesty;
  readonly air: { readonly tempC: number; readonly humidityPct: number };
  /** icing that was to be mixed, waste included, and what of it lies on cookies, g; null of runs that were kept before this was */
  readonly icing: { readonly toMixG: number; readonly onCookiesG: number } | null;
  /** the way of working it was planned in, by its label */
  readonly school: string;
  /** every bag that was counted, and of which recipe; missing of runs that were kept before this was */
  readonly counts?: { readonly recipe: string | null; readonly counts: readonly BagCount[] };
}
/** A finished run as the notebook keeps it. */
export interface RunAccount {
  readonly summary: AccountSummary;
  readonly visits: readonly VisitAccount[];
  /** the largest first */
  readonly slips: readonly Slip[];
  readonly shut: readonly {
    readonly atS: number;
    readonly taskId: string;
    readonly title: string;
    readonly trayId: string;
    readonly design: string | null;
    readonly cookies: number;
    readonly choice: ShutChoice;
  }[];
  readonly found: readonly {
    readonly atS: number;
    readonly title: string;
    readonly trayId: string;
    readonly cookie: number | null;
    readonly state: DryingState | null;
    readonly found: Finding;
  }[];
  /** at the bench */
  readonly counted: readonly BagCount[];
  /** drawings of the designs on which something was seen, to paint it on; kept here, since a drawing can be deleted */
  readonly drawings: readonly Design[];
  readonly airs: readonly { readonly atS: number; readonly tempC: number; readonly humidityPct: number }[];
}

/** Less than this is no slip: a hand goes to the next tray in it. */
const NO_SLIP_S = 30;

/**
 * A run compared with the plan it was begun with; `touches` are what it taught, where that is known already, `recipe` the name of what its
 * icing was mixed by.
 */
export function runAccount(
  plan: RunPlan,
  events: readonly StoredEvent[],
  touches: readonly BenchTouch[] = benchTouches(plan, events),
  recipe: string | null = null,
): RunAccount {
  const state = foldRun(plan, events);
  const run = runIndex(state);
  const first = planIndex(plan);
  const secondsOf = (s: number) => Math.round(first.msOf(s)) / 1000;
  const visits = state.plan.tasks.map((task): VisitAccount => {
    // What the run brought with it, work that was begun again, was planned when it came.
    const planned = first.task(task.id) ?? task;
    const record = run.record(task.id);
    const [begunMs, doneMs] = [record?.guessed ? null : run.begunMs(task.id), run.doneMs(task.id)];
    const said = record?.skipped
      ? 'skipped'
      : doneMs === null
        ? 'open'
        : record?.inferred
          ? 'inferred'
          : begunMs === null
            ? 'guessed'
            : 'seen';
    const wasSeen = said === 'seen';
    return {
      taskId: task.id,
      title: task.title,
      kind: task.kind,
      trayId: task.trayId,
      who: task.by,
      design: run.plan.designOf(task)?.drawing.name ?? null,
      cookies: task.cookies[1] - task.cookies[0],
      plannedStartS: secondsOf(planned.startS),
      plannedEndS: secondsOf(planned.endS),
      begunS: wasSeen && begunMs !== null ? begunMs / 1000 : null,
      doneS: said === 'skipped' || doneMs === null ? null : doneMs / 1000,
      tookS: wasSeen && begunMs !== null && doneMs !== null ? withoutPausesMs(state, begunMs, doneMs) / 1000 : null,
      begunBy: state.standing.findLast((e) => e.type === 'taskBegun' && e.data.taskId === task.id)?.id ?? null,
      doneBy: record?.doneBy ?? null,
      said,
    };
  });
  const titles = new Map(state.plan.tasks.map((t) => [t.id as string, t]));
  const ofTask = (id: string) => ({ title: titles.get(id)?.title ?? id, trayId: titles.get(id)?.trayId ?? '' });
  const designOf = (id: string) => visits.find((v) => v.taskId === id)?.design ?? null;
  const found = state.looks.map((l) => ({
    atS: secondsOf(l.atS),
    ...ofTask(l.taskId),
    cookie: l.cookie === null ? null : l.cookie + 1,
    state: l.state,
    found: l.found,
  }));
  const shut = state.standing.flatMap((e) =>
    e.type === 'windowShut'
      ? [
          {
            atS: e.atMs / 1000,
            taskId: e.data.taskId,
            ...ofTask(e.data.taskId),
            design: designOf(e.data.taskId),
            cookies: e.data.cookies.length,
            choice: e.data.choice,
          },
        ]
      : [],
  );
  const defects = state.standing.flatMap((e): DefectAccount[] => {
    if (e.type !== 'defect') return [];
    const lot = run.plan.lot(e.data.lotId);
    const design = lot ? run.plan.design(lot.designId)?.drawing : undefined;
    return [
      {
        atS: e.atMs / 1000,
        design: design?.name ?? '',
        part: design?.parts.find((p) => p.id === e.data.part)?.name ?? null,
        partId: design?.parts.find((p) => p.id === e.data.part)?.id ?? null,
        trayId: state.plan.trays.find((t) => t.lots.some((l) => l.id === e.data.lotId))?.id ?? null,
        cookie: e.data.cookie + 1,
        seen: e.data.seen,
        outcome: e.data.outcome,
      },
    ];
  });
  const doneMs = visits.flatMap((v) => (v.doneS === null ? [] : [v.doneS * 1000]));
  const startedMs = state.startedAtMs ?? first.epochMs;
  const { mixed, atBench } = bagCounts(run, plan, startedMs);
  const wet = state.plan.tasks.filter((t) => t.motions.some((m) => m.windowS !== null));
  const lost = shut.reduce((n, s) => n + s.cookies, 0);
  return {
    summary: {
      startedS: startedMs / 1000,
      endedS: Math.max(startedMs, ...doneMs) / 1000,
      plannedEndS: secondsOf(plan.endS),
      packByS: plan.packBy === null ? null : secondsOf(plan.packBy),
      designs: designsOf(run, plan, visits, shut),
      cookies: plan.trays.flatMap((t) => t.lots).reduce((n, l) => n + l.cookies, 0),
      packed: run.plan.lots.reduce((n, lot) => n + run.cookiesOf(lot).length, 0),
      handsOnS: handsOn(visits),
      plannedHandsOnS: plannedHandsOn(visits),
      windows: { held: Math.max(0, wet.reduce((n, t) => n + (run.isDone(t) ? t.cookies[1] - t.cookies[0] : 0), 0) - lost), lost },
      defects,
      honesty: honestyOf(plan, touches),
      air: { tempC: plan.air.tempC, humidityPct: Math.round(plan.air.humidityFrac * 100) },
      icing: { toMixG: bagsOf(plan).reduce((g, b) => g + b.mixG, 0), onCookiesG: onCookiesG(run) },
      school: plan.order.school.label,
      counts: { recipe, counts: [...mixed, ...atBench] },
    },
    visits,
    slips: slipsOf(run, visits),
    shut,
    found,
    counted: atBench,
    drawings: state.plan.designs.map((d) => d.drawing).filter((d) => defects.some((x) => isSeenOn(x, d))),
    airs: state.room.map((r) => ({ atS: secondsOf(r.fromS), tempC: r.air.tempC, humidityPct: Math.round(r.air.humidityFrac * 100) })),
  };
}

/** Icing that was laid, cookie by cookie, what was left out of a visit not counted, g. */
function onCookiesG(run: RunIndex): number {
  let ml = 0;
  for (const task of run.state.plan.tasks) {
    if (!run.isDone(task) || run.record(task.id)?.skipped) continue;
    for (const motion of task.motions)
      for (let cookie = task.cookies[0]; cookie < task.cookies[1]; cookie++)
        if (!isLeftOut(task, cookie) && !isLeftOut(task, cookie, motion.stepId)) ml += run.plan.step(task, motion.stepId)?.ml ?? 0;
  }
  return (ml * ICING_DENSITY_KG_PER_M3) / 1000;
}

/** Whether a defect was seen on a part of a drawing; two designs may have one name. */
export const isSeenOn = (defect: Pick<DefectAccount, 'design' | 'partId'>, drawing: Design): boolean =>
  defect.design === drawing.name && drawing.parts.some((p) => p.id === defect.partId);

const handsOn = (visits: readonly VisitAccount[]) => visits.reduce((s, v) => s + (v.tookS ?? 0), 0);
/** What was planned for what was seen, so that both tell of the same work. */
const plannedHandsOn = (visits: readonly VisitAccount[]) =>
  visits.reduce((s, v) => s + (v.tookS === null ? 0 : v.plannedEndS - v.plannedStartS), 0);

function designsOf(run: RunIndex, plan: RunPlan, visits: readonly VisitAccount[], shut: RunAccount['shut']): DesignAccount[] {
  // Two designs may have one name: they are told apart by what was worked on.
  const designIdOf = new Map(run.state.plan.tasks.map((t) => [t.id as string, run.plan.designOf(t)?.id]));
  const isFor = (id: DesignId) => (of: { readonly taskId: string }) => designIdOf.get(of.taskId) === id;
  return plan.designs.map((d) => {
    const own = visits.filter(isFor(d.id));
    return {
      name: d.drawing.name,
      planned: plan.trays.flatMap((t) => t.lots.filter((l) => l.designId === d.id)).reduce((n, l) => n + l.cookies, 0),
      packed: run.plan.lotsOf(d.id).reduce((n, l) => n + run.cookiesOf(l).length, 0),
      plannedHandsOnS: plannedHandsOn(own),
      handsOnS: handsOn(own),
      windowsLost: shut.filter(isFor(d.id)).reduce((n, s) => n + s.cookies, 0),
    };
  });
}

/**
 * What made each pair of hands late, visit after visit: what a visit took longer, and what lies between the end of one and the beginning of
 * the next. All of them together are how late the hands were at their last visit.
 */
function slipsOf(run: RunIndex, visits: readonly VisitAccount[]): Slip[] {
  const out: Slip[] = [];
  const pauses = pausesOf(run.state);
  for (const who of new Set(visits.map((v) => v.who))) {
    const seen = visits
      .filter((v) => v.who === who && v.begunS !== null && v.doneS !== null)
      .sort((a, b) => (a.begunS as number) - (b.begunS as number));
    let lateS = 0;
    let freeS: number | null = null;
    for (const v of seen) {
      const [begunS, doneS] = [v.begunS as number, v.doneS as number];
      const note = (kind: SlipKind, seconds: number) => {
        if (Math.abs(seconds) >= NO_SLIP_S)
          out.push({ kind, taskId: v.taskId, title: v.title, trayId: v.trayId, who, seconds: Math.round(seconds) });
      };
      // Done with one, the hands are at the next: what was taken up sooner for that, and took longer by it, is neither.
      const gapS = begunS - v.plannedStartS - lateS;
      const longerS = (v.tookS as number) - (v.plannedEndS - v.plannedStartS);
      const soonerS = Math.max(0, Math.min(-gapS, longerS));
      note(gapKind(run, v, freeS, pauses), gapS + soonerS);
      note('pause', doneS - begunS - (v.tookS as number));
      note('longer', longerS - soonerS);
      lateS = doneS - v.plannedEndS;
      freeS = doneS;
    }
  }
  return out.sort((a, b) => b.seconds - a.seconds);
}

/** Why a visit was begun later than the hands were free for it. */
function gapKind(run: RunIndex, v: VisitAccount, freeS: number | null, pauses: readonly (readonly [number, number])[]): SlipKind {
  const begunS = v.begunS as number;
  const from = freeS ?? v.plannedStartS;
  if (run.state.looks.some((l) => l.taskId === v.taskId && l.found === 'not-yet' && run.plan.msOf(l.atS) / 1000 <= begunS))
    return 'not-ready';
  if (pauses.some(([a, b]) => a / 1000 < begunS && b / 1000 > from)) return 'pause';
  const task = run.plan.task(v.taskId as RunTask['id']);
  const readyMs = task ? run.readyMs(task) : Number.NaN;
  return Number.isFinite(readyMs) && readyMs / 1000 > from + NO_SLIP_S && begunS - readyMs / 1000 < NO_SLIP_S ? 'drying' : 'hands';
}
