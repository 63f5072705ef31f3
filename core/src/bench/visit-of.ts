import { planIndex } from '../formats/plan-index.js';
import type { Visit } from '../planning/visit.js';
import type { StepGraph } from '../steps/derive.js';
import type { RunPlan, RunTask } from './run-plan.js';

const known = new WeakMap<RunTask, { readonly graph: StepGraph; readonly visit: Visit }>();

/** A task of a plan as the visit it was made from: the moments of every step on every cookie. null for what works on no lot. */
export function visitOf(plan: RunPlan, task: RunTask): Visit | null {
  const index = planIndex(plan);
  const lot = index.lot(task.lotId);
  const graph = index.graphOf(task);
  if (!lot || !graph) return null;
  const made = known.get(task);
  if (made?.graph === graph) return made.visit;
  const visit: Visit = {
    id: task.id,
    lot,
    cookies: task.cookies,
    bundle: {
      id: task.id,
      kind: task.kind as Visit['bundle']['kind'],
      round: task.round,
      batch: task.batch,
      steps: task.motions.flatMap((m) => index.step(task, m.stepId) ?? []),
      bags: task.bags,
      family: index.familyOf(task),
    },
    times: {
      durationS: task.endS - task.startS,
      startS: new Map(task.motions.map((m) => [m.stepId, m.startS])),
      endS: new Map(task.motions.map((m) => [m.stepId, m.endS])),
      way: task.way,
      widened: [],
      parts: task.parts ?? 1,
      firstPartS: new Map(task.motions.flatMap((m) => (m.firstPartS ? [[m.stepId, m.firstPartS] as const] : []))),
    },
  };
  known.set(task, { graph, visit });
  return visit;
}

/** Cookies two tasks both work on, those that have left the run not counted. */
export function sharedCookies(a: RunTask, b: RunTask): number[] {
  if (a.lotId !== b.lotId) return [];
  const out: number[] = [];
  for (let c = Math.max(a.cookies[0], b.cookies[0]); c < Math.min(a.cookies[1], b.cookies[1]); c++)
    if (!b.without?.includes(c)) out.push(c);
  return out;
}
