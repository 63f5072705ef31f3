import { type Design, partById } from '../design/design.js';
import { BEAD_DEPTH_PER_BORE, type DryingState, type Region, stateThresholds } from '../drying/state.js';
import { coverStepIdOf, coverTaskIdOf, freeName, isCoverStep } from '../formats/ids.js';
import type { PlanDesign } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import { separation } from '../planning/separation.js';
import { timeGap } from '../planning/timed-gap.js';
import { waitsOf } from '../planning/to-plan.js';
import { defectById } from '../steps/defects/index.js';
import type { StepGraph } from '../steps/derive.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import type { Gap, Step } from '../steps/step.js';
import { techniqueById } from '../steps/techniques/index.js';
import { type Why, whyOf } from '../steps/why.js';
import { msg } from '../words/index.js';
import { inOrder } from './amend.js';
import type { DefectReport } from './event.js';
import type { RunPlan, RunTask } from './run-plan.js';
import { visitOf } from './visit-of.js';

/** A graph derived anew, with the covers that came to the old one at the bench. */
export const withCovers = (graph: StepGraph, before: StepGraph): StepGraph => ({
  ...graph,
  steps: [...graph.steps, ...before.steps.filter((s) => isCoverStep(s.id))],
  gaps: [...graph.gaps, ...before.gaps.filter((g) => isCoverStep(g.to) || isCoverStep(g.from))],
});

/** What a part of a cookie lies in or is: the section of a mark, else the part itself. */
const bodyOf = (design: Design, part: string | null): string | null => {
  const found = part === null ? undefined : partById(design, part);
  return found?.role === 'mark' ? found.sectionId : (found?.id ?? null);
};

/**
 * A defect that cannot be covered yet as a step of its own on that cookie: once what it is on has reached the state that bears a
 * cover, and before the cookie is packed. The plan stays as it is where nothing can cover it.
 */
export function withCover(plan: RunPlan, report: DefectReport, atS: number): RunPlan {
  const { cover } = defectById(report.seen);
  const lot = planIndex(plan).lot(report.lotId);
  const design = planIndex(plan).designOf(report.lotId);
  if (!cover || !lot || !design) return plan;
  const { graph } = design;
  const body = bodyOf(design.drawing, report.part);
  const bears = graph.steps.filter(
    (s) => s.region && (body === null ? s.kind === 'flood' : s.kind !== 'dam' && s.parts.includes(body)) && !isCoverStep(s.id),
  );
  const id = freeName(
    coverStepIdOf(lot.id, report.cookie),
    (x) => graph.steps.some((s) => s.id === x),
    (n) => `~${n}`,
  );
  const round = Math.max(1, ...bears.map((s) => s.round)) + 1;
  const { school } = plan.order;
  // A bead or a film over it, as thick as a usual piped line.
  const region: Region = {
    seconds: school.pipingS,
    depthMm: BEAD_DEPTH_PER_BORE * (techniqueById('piped-line').openingMm as number),
    on: 'cookie',
  };
  const name = body === null ? design.drawing.name : (partById(design.drawing, body)?.name ?? body);
  const step: Step = {
    id,
    technique: 'piped-line',
    kind: 'detail',
    part: body ?? 'cookie',
    parts: [],
    label: msg`cover on ${name}`,
    round,
    batch: 1,
    seconds: ASSUMED_PACE.coverS,
    bag: null,
    sectionId: null,
    inside: [],
    region,
  };
  const after = (from: Step, to: string, state: Exclude<DryingState, 'crackleShut'>, why: Why): Gap => {
    const thresholds = stateThresholds(from.region as Region);
    return { from: from.id, to, minState: state, minLossKgPerM2: thresholds[state], firmLossKgPerM2: thresholds.firm, ...why };
  };
  const pack = graph.steps.find((s) => s.kind === 'pack');
  const gaps: Gap[] = [
    ...bears.flatMap((s) =>
      cover.from === 'wet'
        ? []
        : after(s, id, cover.from, {
            rule: 'detail-rests-on',
            facts: { kind: 'cover', work: s.label, state: cover.from, defect: report.seen },
          }),
    ),
    ...(pack ? [after(step, pack.id, 'dry', { rule: 'pack-when-dry', facts: { kind: 'cover-dry' } })] : []),
  ];
  const now: PlanDesign = { ...design, graph: { ...graph, steps: [...graph.steps, step], gaps: [...graph.gaps, ...gaps] } };
  const own = planIndex(plan)
    .tasksOnLot(lot.id)
    .filter((t) => t.cookies[0] <= report.cookie && report.cookie < t.cookies[1]);
  const handlingS = ASSUMED_PACE.handlingSPerCookie;
  const endS = handlingS + step.seconds;
  const task: RunTask = {
    id: coverTaskIdOf(lot.id, id),
    by: own[0]?.by ?? plan.order.decorators[0]?.id ?? '',
    kind: 'detail',
    trayId: lot.trayId,
    lotId: lot.id,
    cookies: [report.cookie, report.cookie + 1],
    round,
    batch: 1,
    title: `${name}: ${cover.text}`,
    startS: atS,
    endS: atS + endS,
    bags: [],
    way: 'cookie-by-cookie',
    motions: [
      {
        stepId: id,
        technique: step.technique,
        kind: step.kind,
        label: step.label,
        startS: [handlingS],
        endS: [endS],
        windowS: null,
        windowFrom: null,
      },
    ],
    because: { kind: 'first' },
  };
  const withTask: RunPlan = { ...plan, designs: plan.designs.map((d) => (d === design ? now : d)), tasks: [...plan.tasks, task] };
  const lags = gaps.flatMap((gap) => {
    const timed = timeGap(gap, plan.air, plan.margin, plan.factors);
    return own.flatMap((t) => {
      const [a, b] = (gap.to === id ? [t, task] : [task, t]).map((x) => visitOf(withTask, x));
      if (!a || !b || !a.times.endS.has(gap.from) || !b.times.endS.has(gap.to)) return [];
      const s = separation(a, b, timed);
      return s?.minS == null ? [] : [{ from: a.id, to: b.id, minS: s.minS, maxS: s.maxS, ...whyOf(gap) }];
    });
  });
  const startOf = (taskId: string) => planIndex(plan).task(taskId)?.startS ?? atS;
  const startS = Math.ceil(Math.max(atS, ...lags.filter((l) => l.to === task.id).map((l) => startOf(l.from) + l.minS)));
  const placed = { ...task, startS, endS: startS + endS };
  return inOrder({
    ...withTask,
    tasks: [...plan.tasks, placed],
    waits: [...plan.waits, ...waitsOf(lags, (x) => (x === task.id ? startS : startOf(x)))],
  });
}
