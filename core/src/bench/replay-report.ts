import { type FactorPosterior, factorsOf, learnFactors } from '../calibration/drying-factors.js';
import { Z_90 } from '../drying/normal.js';
import { type DryingState, dryingStates, type Region, type SurfaceState, stateAtLoss, stateThresholds } from '../drying/state.js';
import type { Factors } from '../drying/uncertainty.js';
import { leftToDryS } from '../planning/separation.js';
import { MODEL_VERSION } from '../planning/to-plan.js';
import { type BenchTouch, benchTouches, reportOfBench } from './bench-touches.js';
import { foldRun, readyAtMs } from './fold.js';
import { aroundTray } from './room.js';
import type { ExportedRun } from './run-format.js';
import { isLeftOut, type RunPlan, type RunTask } from './run-plan.js';
import type { RunState } from './run-state.js';
import { lostBy } from './still-wet.js';
import { benchView, openUntilMs } from './view.js';
import { sharedCookies, visitOf } from './visit-of.js';

/** One body of icing on one cookie as the model sees it at a moment, seconds since the epoch. */
export interface LaidBody {
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
  /** mean and spread of ln F for the next cookie of another day */
  readonly factors: Factors;
  /** bodies that were learned from, by state: found by a finger, and worked on without a word */
  readonly evidence: Readonly<Record<DryingState, { readonly found: number; readonly silent: number }>>;
}

export interface ReplayReport {
  readonly atS: number;
  /** the model it was planned with and the one it is looked at with, where they are not the same */
  readonly otherModel: { readonly planned: string; readonly here: string } | null;
  readonly tasksDone: number;
  readonly tasks: number;
  readonly bodies: readonly LaidBody[];
  readonly waits: readonly OpenTask[];
  /** windows of wet work in hand */
  readonly windows: readonly { readonly taskId: string; readonly label: string; readonly cookie: number | null; readonly closesS: number }[];
  readonly touches: readonly BenchTouch[];
  readonly learned: Learned;
}

const secondsSince = (epochMs: number) => (ms: number) => (ms - epochMs) / 1000;

/**
 * A run as it stood at `atMs` (its last word where not given): every body's loss and state, what waits, what shuts, and what it
 * taught by then. Events said of later moments are left out.
 */
export function replayReport({ plan, events }: ExportedRun, atMs?: number): ReplayReport {
  const epochMs = Date.parse(plan.epoch ?? '') || 0;
  const nowMs = atMs ?? Math.max(epochMs, ...events.map((e) => e.atMs));
  const known = events.filter((e) => e.atMs <= nowMs);
  const state = foldRun(plan, known);
  const toS = secondsSince(epochMs);
  const touches = benchTouches(plan, known);
  const open = state.plan.tasks.filter((t) => !isDone(state, t.id));
  return {
    atS: toS(nowMs),
    otherModel: plan.modelVersion === MODEL_VERSION ? null : { planned: plan.modelVersion, here: MODEL_VERSION },
    tasksDone: state.plan.tasks.length - open.length,
    tasks: state.plan.tasks.length,
    bodies: laidBodies(state.plan, state, epochMs, toS(nowMs)),
    waits: open.map((t): OpenTask => {
      const readyMs = readyAtMs(state.plan, t, state.tasks, state.notBeforeMs);
      const untilMs = openUntilMs(state.plan, t, state.tasks);
      return {
        taskId: t.id,
        title: t.title,
        readyS: Number.isFinite(readyMs) ? toS(readyMs) : null,
        openUntilS: Number.isFinite(untilMs) ? toS(untilMs) : null,
        after: [...new Set(state.plan.waits.filter((w) => w.to === t.id && !isDone(state, w.from)).map((w) => w.from))],
      };
    }),
    windows: benchView(state.plan, state, epochMs, nowMs).closing.map(({ taskId, label, cookie, closesAtMs }) => ({
      taskId,
      label,
      cookie,
      closesS: toS(closesAtMs),
    })),
    touches,
    learned: learnedFrom([touches]),
  };
}

/** What several runs teach together; the bodies of one run share its day. */
export function learnedFrom(runs: readonly (readonly BenchTouch[])[]): Learned {
  const posterior: FactorPosterior = learnFactors(runs.flatMap((touches, i) => touches.map((t) => reportOfBench(t, `run ${i}`))));
  const all = runs.flat();
  const of = (state: DryingState, silent: boolean) => all.filter((t) => t.state === state && t.silent === silent).length;
  return {
    factors: factorsOf(posterior),
    evidence: Object.fromEntries(dryingStates.map((s) => [s, { found: of(s, false), silent: of(s, true) }])) as Learned['evidence'],
  };
}

const isDone = (state: RunState, taskId: string): boolean => (state.tasks.get(taskId)?.doneAtMs ?? null) !== null;

/** Every body of icing laid by `nowS`, where its tray really stood. */
function laidBodies(plan: RunPlan, state: RunState, epochMs: number, nowS: number): LaidBody[] {
  const graphOf = new Map(plan.trays.flatMap((t) => t.lots.map((l) => [l.id, plan.designs.find((d) => d.id === l.designId)?.graph] as const)));
  return plan.tasks.flatMap((task) => {
    const record = state.tasks.get(task.id);
    const visit = visitOf(plan, task);
    if (record?.doneAtMs == null || record.skipped || !visit || task.lotId === null) return [];
    const around = aroundTray(plan, state, epochMs, task.trayId);
    // The visit ended when it ended: each of its cookies was left that much sooner.
    const beganS = (record.doneAtMs - epochMs) / 1000 - (task.endS - task.startS);
    return task.motions.flatMap(({ stepId }) => {
      const region = graphOf.get(task.lotId as string)?.steps.find((s) => s.id === stepId)?.region;
      if (!region) return [];
      return sharedCookies(task, task)
        .filter((cookie) => !isLeftOut(task as RunTask, cookie, stepId))
        .map((cookie): LaidBody => {
          const leftAtS = beganS + leftToDryS(visit, stepId, cookie);
          const lostKgPerM2 = lostBy(plan, around, leftAtS, nowS);
          return {
            lotId: task.lotId as string,
            cookie,
            stepId,
            leftAtS,
            lostKgPerM2,
            state: stateWith(region, plan.factors, lostKgPerM2, 0),
            stateLeast: stateWith(region, plan.factors, lostKgPerM2, Z_90),
            stateMost: stateWith(region, plan.factors, lostKgPerM2, -Z_90),
            ...(record.inferred ? { inferred: true as const } : {}),
          };
        });
    });
  });
}

/** The state at a loss when every threshold lies `z` of its spreads above its median. */
function stateWith(region: Region, factors: Factors, lostKgPerM2: number, z: number): SurfaceState {
  const book = stateThresholds(region);
  const moved = Object.fromEntries(dryingStates.map((s) => [s, book[s] * Math.exp(factors[s].mean + z * factors[s].sigma)])) as typeof book;
  return stateAtLoss(moved, lostKgPerM2);
}
