import type { Lot } from '../formats/plan.js';
import type { Visit } from '../planning/visits.js';
import type { RunPlan, RunTask } from './run-plan.js';

export const lotOf = (plan: RunPlan, lotId: string | null): Lot | undefined => plan.trays.flatMap((t) => t.lots).find((l) => l.id === lotId);

/** A task of a plan as the visit it was made from: the moments of every step on every cookie. null for what works on no lot. */
export function visitOf(plan: RunPlan, task: RunTask): Visit | null {
  const lot = lotOf(plan, task.lotId);
  const graph = plan.designs.find((d) => d.id === lot?.designId)?.graph;
  if (!lot || !graph) return null;
  return {
    id: task.id,
    lot,
    cookies: task.cookies,
    bundle: {
      id: task.id,
      kind: task.kind as Visit['bundle']['kind'],
      round: task.round,
      batch: task.batch,
      steps: task.motions.flatMap((m) => graph.steps.find((s) => s.id === m.stepId) ?? []),
      bags: task.bags,
      family: null,
    },
    times: {
      durationS: task.endS - task.startS,
      startS: new Map(task.motions.map((m) => [m.stepId, m.startS])),
      endS: new Map(task.motions.map((m) => [m.stepId, m.endS])),
      way: task.way,
      widened: [],
    },
  };
}

/** Cookies two tasks both work on, those that have left the run not counted. */
export function sharedCookies(a: RunTask, b: RunTask): number[] {
  if (a.lotId !== b.lotId) return [];
  const out: number[] = [];
  for (let c = Math.max(a.cookies[0], b.cookies[0]); c < Math.min(a.cookies[1], b.cookies[1]); c++) if (!b.without?.includes(c)) out.push(c);
  return out;
}
