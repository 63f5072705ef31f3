import { carryIdOf, takeOutIdOf } from '../formats/ids.js';
import { withReasons } from '../planning/to-plan.js';
import { ASSUMED_PACE } from '../steps/pace.js';
import type { RunPlan, RunTask } from './run-plan.js';

/** The plan with its open tasks at other times, in order, with its reasons found anew. */
export function retimed(plan: RunPlan, starts: Readonly<Record<string, number>>): RunPlan {
  const at = (t: RunTask) => starts[t.id] ?? t.startS;
  const moved = plan.tasks
    .map((t) => ({ ...t, startS: at(t), endS: at(t) + t.endS - t.startS }))
    .sort((a, b) => a.startS - b.startS || a.endS - b.endS);
  const byId = new Map(moved.map((t) => [t.id, t]));
  const startOf = (id: string) => byId.get(id)?.startS ?? 0;
  const waits = plan.waits.map((w) => ({ ...w, slackS: startOf(w.to) - startOf(w.from) - w.minS }));
  const stays = plan.stays.map((s) => {
    const [carry, out] = [byId.get(carryIdOf(s.id)), byId.get(takeOutIdOf(s.id))];
    const startS = carry?.endS ?? s.startS;
    return { ...s, startS, endS: out?.startS ?? startS + s.forS };
  });
  return {
    ...plan,
    tasks: withReasons(moved, waits, stays, ASSUMED_PACE, plan.order),
    waits,
    stays,
    endS: Math.max(...moved.map((t) => t.endS)),
    proven: false,
  };
}
