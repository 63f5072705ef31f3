import type { Replanned, RunState } from '@kestfog/core/bench';
import type { Design, DesignDocument } from '@kestfog/core/design';
import type { Air } from '@kestfog/core/drying';
import type { OrderFile, Plan } from '@kestfog/core/formats';
import type { Chance, DesignSuggestion, DesignTotals, PlannedCheck } from '@kestfog/core/planning';
import type { Evenings, Proof } from '@kestfog/core/rehearsal';
import type { School } from '@kestfog/core/steps';
import { msg } from '@kestfog/core/words';
import { proxy, type Remote, wrap } from 'comlink';
import type { Answered, DesignNow, Fit, InSchool, PlanWork } from './plan.worker.js';

export interface Beside<T> {
  /** null where it was cancelled */
  readonly answer: Promise<Answered<T> | null>;
  readonly cancel: () => void;
}

const NOT_STARTED = {
  ok: false,
  code: 'no-worker',
  message: msg`It could not be tried: the part of the page that plans did not start. Load the page again.`,
} as const;

const newWorker = () => new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module', name: 'plan' });
let spare: Worker | null = null;

/** Has a worker ready and warm for what is likely to be asked next: both are most of the wait for a first plan. */
export function warmPlanner(order: OrderFile, designs: readonly Design[]): void {
  if (spare) return;
  spare = newWorker();
  // A worker that cannot be loaded says so when it is asked something that counts.
  void wrap<PlanWork>(spare).warm(order, designs);
}

let trying: Remote<PlanWork> | null = null;
/**
 * What a design would take with something more done to it. One worker is kept for it, since each answer is little work beside what
 * it knows of the answer before; null where it cannot be said.
 */
export async function tryBeside(document: DesignDocument, school: School, now: DesignNow): Promise<DesignTotals | null> {
  if (typeof Worker === 'undefined') return null;
  trying ??= wrap<PlanWork>(newWorker());
  const answer = await trying.trial(document, school, now);
  return answer.ok ? answer.value : null;
}

/** Something computed in a worker of its own, so that cancelling it is ending it. */
function beside<T>(ask: (worker: Remote<PlanWork>) => Promise<Answered<T>>): Beside<T> {
  const worker = spare ?? newWorker();
  spare = null;
  let cancel = () => {};
  const cancelled = new Promise<null>((done) => {
    cancel = () => {
      worker.terminate();
      done(null);
    };
  });
  // Without this a worker that cannot be loaded would look like one that is still thinking.
  const broken = new Promise<Answered<T>>((done) => worker.addEventListener('error', () => done(NOT_STARTED)));
  const answer = ask(wrap<PlanWork>(worker)).finally(() => worker.terminate());
  return { answer: Promise.race([answer, cancelled, broken]), cancel };
}

export const planBeside = (
  order: OrderFile,
  designs: readonly Design[],
  seconds: number,
  passes: number,
  onProgress: (text: string) => void,
  onPlan: (plan: Plan) => void = () => {},
): Beside<Plan> => beside((w) => w.plan(order, designs, seconds, passes, proxy(onProgress), proxy(onPlan)) as Promise<Answered<Plan>>);

export const fewerRoundsBeside = (document: DesignDocument, school: School, air: Air): Beside<readonly DesignSuggestion[]> =>
  beside((w) => w.fewerRounds(document, school, air) as Promise<Answered<readonly DesignSuggestion[]>>);
export const inSchoolBeside = (design: Design, school: School, now: DesignNow): Beside<InSchool> =>
  beside((w) => w.inSchool(design, school, now) as Promise<Answered<InSchool>>);

export const replanBeside = (state: RunState, nowS: number): Beside<Replanned> =>
  beside((w) => w.replan(state, nowS) as Promise<Answered<Replanned>>);
export const checksBeside = (plan: Plan): Beside<readonly PlannedCheck[]> =>
  beside((w) => w.checks(plan) as Promise<Answered<readonly PlannedCheck[]>>);
export const chanceBeside = (plan: Plan): Beside<Chance> => beside((w) => w.chance(plan) as Promise<Answered<Chance>>);
/** So many evenings worked in the planned order, and the same ones with a bench that plans again. */
export const proofBeside = (plan: Plan, evenings: number, onProgress: (share: number) => void): Beside<readonly [Proof, Proof]> =>
  beside((w) => w.proof(plan, evenings, proxy(onProgress)) as Promise<Answered<readonly [Proof, Proof]>>);
/** A plan played so many times by who goes by the bench; how much of it is done is given as a share. */
export const eveningsBeside = (plan: Plan, evenings: number, onProgress: (share: number) => void): Beside<Evenings> =>
  beside((w) => w.evenings(plan, evenings, proxy(onProgress)) as Promise<Answered<Evenings>>);
export const latestStartBeside = (plan: Plan): Beside<number | null> =>
  beside((w) => w.latestStart(plan) as Promise<Answered<number | null>>);
export const fitBeside = (
  order: OrderFile,
  designs: readonly Design[],
  documents: readonly (DesignDocument | null)[],
  onProgress: (text: string) => void,
): Beside<readonly Fit[]> => beside((w) => w.fit(order, designs, documents, proxy(onProgress)) as Promise<Answered<readonly Fit[]>>);
