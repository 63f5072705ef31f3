import type { PaceKind } from '../calibration/pace.js';
import type { Decorator } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import { planIndex } from '../formats/plan-index.js';
import type { StepGraph } from '../steps/derive.js';
import { ASSUMED_PACE, type Pace, scaledPace } from '../steps/pace.js';
import type { Step } from '../steps/step.js';

type Hands = Pick<Decorator, 'pace' | 'takes'>;
const takesOf = (hands: Hands | undefined, kind: PaceKind): number => hands?.takes?.[kind] ?? 1;

/** The pace of somebody's hands: as it was said, and handling as it was learned. */
export function paceOfHands(hands: Hands | undefined, base: Pace = ASSUMED_PACE): Pace {
  const own = scaledPace(base, hands?.pace ?? 1);
  const handling = takesOf(hands, 'handling');
  return handling === 1 ? own : { ...own, handlingSPerCookie: own.handlingSPerCookie * handling, bagPickUpS: own.bagPickUpS * handling };
}

/** Steps at the pace that was learned of somebody, by kind of motion; their waits are the icing's and stay. */
export function atOwnPace(steps: readonly Step[], hands: Hands | undefined): Step[] {
  return steps.map((s) => (takesOf(hands, s.kind) === 1 ? s : { ...s, seconds: s.seconds * takesOf(hands, s.kind) }));
}
export const graphAtOwnPace = (graph: StepGraph, hands: Hands | undefined): StepGraph =>
  hands?.takes === undefined ? graph : { ...graph, steps: atOwnPace(graph.steps, hands) };

/** What the learned paces of a plan change: whose, which motions, and how much work they make of it in all. */
export interface PaceEffect {
  /** seconds of hands more (or, negative, less) than at the assumed pace */
  readonly moreS: number;
  readonly own: readonly { readonly who: string; readonly kind: PaceKind; readonly takes: number }[];
}

/** null where nothing was learned of the hands of a plan. */
export function paceEffect(plan: Plan): PaceEffect | null {
  const hands = new Map(plan.order.decorators.map((d) => [d.id, d]));
  let moreS = 0;
  const own = new Map<string, { who: string; kind: PaceKind; takes: number }>();
  for (const task of plan.tasks) {
    const d = hands.get(task.by);
    if (!d?.takes || task.lotId === null) continue;
    const byKind = secondsByKind(plan, task);
    for (const [kind, seconds] of byKind) {
      const takes = takesOf(d, kind);
      moreS += seconds - seconds / takes;
      if (takes !== 1) own.set(`${d.id} ${kind}`, { who: d.id, kind, takes });
    }
  }
  return own.size === 0 ? null : { moreS, own: [...own.values()] };
}

/** What a task spends on each kind of motion as it was planned, seconds; the rest but opening bags is handling. */
export function secondsByKind(plan: Plan, task: Plan['tasks'][number]): Map<PaceKind, number> {
  const out = new Map<PaceKind, number>();
  let motions = 0;
  const stepOf = (m: Plan['tasks'][number]['motions'][number]) => planIndex(plan).step(task, m.stepId);
  for (const m of task.motions) {
    const step = stepOf(m);
    const kind = step?.kind ?? m.kind;
    // A large flood and its outline take turns: their times lie in each other, so the outline has its parts and the flood the rest.
    const other =
      task.parts && (kind === 'dam' || kind === 'flood') ? task.motions.find((o) => o !== m && stepOf(o)?.part === step?.part) : undefined;
    const seconds = m.startS.reduce((s, from, i) => {
      if (!other) return s + (m.endS[i] as number) - from;
      const [dam, flood] = kind === 'dam' ? [m, other] : [other, m];
      const outlineS = (task.parts as number) * ((flood.startS[i] as number) - (dam.startS[i] as number));
      return s + (kind === 'dam' ? outlineS : (flood.endS[i] as number) - (dam.startS[i] as number) - outlineS);
    }, 0);
    motions += seconds;
    out.set(kind, (out.get(kind) ?? 0) + seconds);
  }
  const rest = task.endS - task.startS - (task.opening?.seconds ?? 0) - motions;
  if (rest > 0) out.set('handling', rest);
  return out;
}
