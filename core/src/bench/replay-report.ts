import { type FactorPosterior, factorsOf, learnFactors } from '../calibration/drying-factors.js';
import { learnPace, type PaceOf, type VisitPace } from '../calibration/pace.js';
import { type Look, lostAt, stateAfter } from '../drying/body.js';
import { Z_90 } from '../drying/normal.js';
import { type DryingState, dryingStates, type SurfaceState } from '../drying/state.js';
import type { Factors } from '../drying/uncertainty.js';
import { planIndex } from '../formats/plan-index.js';
import { MODEL_VERSION } from '../planning/to-plan.js';
import { type BenchTouch, benchTouches, reportOfBench } from './bench-touches.js';
import { type LaidBody, laidBodies } from './bodies.js';
import { foldRun } from './fold.js';
import type { ExportedRun } from './run-format.js';
import { runIndex } from './run-index.js';
import { benchView } from './view.js';
import { visitPaces } from './visit-paces.js';

/** One body of icing on one cookie as the model sees it at a moment, seconds since the epoch. */
export interface BodyReport {
  readonly lotId: string;
  /** of the lot, from 0 */
  readonly cookie: number;
  readonly stepId: string;
  readonly leftAtS: number;
  readonly lostKgPerM2: number;
  /** at the median, and the least and most of eight in ten */
  readonly state: SurfaceState;
  readonly stateLeast: SurfaceState;
  readonly stateMost: SurfaceState;
  /** what a finger found of it, in order of time */
  readonly looked?: readonly Look[];
  /** nobody said when it was laid: a later step was seen to be under way */
  readonly inferred?: true;
}

/** A task that is not done: when its waits are over, and until when it may begin. null where that is not known yet, or nothing shuts. */
export interface OpenTask {
  readonly taskId: string;
  readonly title: string;
  readonly readyS: number | null;
  readonly openUntilS: number | null;
  /** tasks that have to be done first */
  readonly after: readonly string[];
}

export interface Learned {
  /** how many times the assumed seconds each person takes for each kind of motion */
  readonly pace: Readonly<Record<string, PaceOf>>;
  /** mean and spread of ln F for the next cookie of another day */
  readonly factors: Factors;
  /** bodies that were learned from, by state: found by a finger, and worked on without a word */
  readonly evidence: Readonly<Record<DryingState, { readonly found: number; readonly silent: number }>>;
}

export interface ReplayReport {
  readonly atS: number;
  /** the model it was planned with and the one it is looked at with, where they are not the same */
  readonly otherModel: OtherModel | null;
  readonly tasksDone: number;
  readonly tasks: number;
  readonly bodies: readonly BodyReport[];
  readonly waits: readonly OpenTask[];
  /** windows of wet work in hand */
  readonly windows: readonly {
    readonly taskId: string;
    readonly label: string;
    readonly cookie: number | null;
    readonly closesS: number;
  }[];
  readonly touches: readonly BenchTouch[];
  readonly learned: Learned;
}

/** That a run was planned with another model than the one it is looked at with; null where it was not. */
export interface OtherModel {
  readonly planned: string;
  readonly here: string;
}
export const otherModel = (plan: ExportedRun['plan']): OtherModel | null =>
  plan.modelVersion === MODEL_VERSION ? null : { planned: plan.modelVersion, here: MODEL_VERSION };

/**
 * A run as it stood at `atMs` (its last word where not given): every body's loss and state, what waits, what shuts, and what it
 * taught by then. Events said of later moments are left out.
 */
export function replayReport({ plan, events }: ExportedRun, atMs?: number): ReplayReport {
  const nowMs = atMs ?? Math.max(planIndex(plan).epochMs, ...events.map((e) => e.atMs));
  const known = events.filter((e) => e.atMs <= nowMs);
  const run = runIndex(foldRun(plan, known));
  const { sOf } = run.plan;
  const finiteS = (ms: number) => (Number.isFinite(ms) ? sOf(ms) : null);
  const touches = benchTouches(plan, known);
  return {
    atS: sOf(nowMs),
    otherModel: otherModel(plan),
    tasksDone: run.state.plan.tasks.length - run.open.length,
    tasks: run.state.plan.tasks.length,
    bodies: laidBodies(run).map((b) => bodyReport(b, sOf(nowMs), plan.factors)),
    waits: run.open.map((t): OpenTask => {
      const before = run.plan.waitsInto(t.id).filter((w) => !run.isDone({ id: w.from }));
      return {
        taskId: t.id,
        title: t.title,
        readyS: finiteS(run.readyMs(t)),
        openUntilS: finiteS(run.openUntilMs(t)),
        after: [...new Set(before.map((w) => w.from))],
      };
    }),
    windows: benchView(run, nowMs).closing.map(({ taskId, label, cookie, closesAtMs }) => ({
      taskId,
      label,
      cookie,
      closesS: sOf(closesAtMs),
    })),
    touches,
    learned: learnedFrom([touches], visitPaces(plan, known, 'run')),
  };
}

/** A body with its state at the median, and the least and most of eight in ten. */
function bodyReport(body: LaidBody, atS: number, factors: Factors): BodyReport {
  const { lotId, cookie, stepId, leftAtS, region, looked, inferred } = body;
  const lostKgPerM2 = lostAt(body, atS);
  const stateWith = (z: number) => stateAfter(region, lostKgPerM2, factors, z);
  const states = { state: stateWith(0), stateLeast: stateWith(Z_90), stateMost: stateWith(-Z_90) };
  return {
    lotId,
    cookie,
    stepId,
    leftAtS,
    lostKgPerM2,
    ...states,
    ...(looked.length > 0 ? { looked } : {}),
    ...(inferred ? { inferred } : {}),
  };
}

/** What several runs teach together; the bodies of one run share its day. */
export function learnedFrom(runs: readonly (readonly BenchTouch[])[], visits: readonly VisitPace[]): Learned {
  const posterior: FactorPosterior = learnFactors(runs.flatMap((touches, i) => touches.map((t) => reportOfBench(t, `run ${i}`))));
  const all = runs.flat();
  const of = (state: DryingState, silent: boolean) => all.filter((t) => t.state === state && t.silent === silent).length;
  return {
    pace: Object.fromEntries(learnPace(visits)),
    factors: factorsOf(posterior),
    evidence: Object.fromEntries(dryingStates.map((s) => [s, { found: of(s, false), silent: of(s, true) }])) as Learned['evidence'],
  };
}
