import { bagKey } from '../steps/step.js';
import type { RunPlan } from './run-plan.js';
import type { RunState } from './run-state.js';

/** What is counted next, and what came out of the last count. */
export interface ToolsAsked {
  readonly ask: 'out' | 'in';
  /** sharp tools that were counted out this day; null before */
  readonly sharpsOut: number | null;
  /** bags used this day: as many ends were cut off */
  readonly bagsCut: number;
}

/** Start of the bench day a moment belongs to: the opening it lies in, or the last one before it. */
function dayFromMs(plan: RunPlan, epochMs: number, nowMs: number): number {
  const openings = plan.bench.map(([from]) => epochMs + from * 1000).filter((from) => from <= nowMs);
  return Math.max(Number.NEGATIVE_INFINITY, ...openings);
}

/**
 * Sharp tools and bag ends are counted out once a day and in once: out before the first step, in when the day is over, whether or
 * not they were counted out, and again while something is missing. null where the count was made.
 */
export function toolsAsked(plan: RunPlan, state: RunState, epochMs: number, nowMs: number, dayOver: boolean): ToolsAsked | null {
  if (state.startedAtMs === null) return null;
  const fromMs = dayFromMs(plan, epochMs, nowMs);
  const today = state.toolCounts.filter((c) => c.atMs >= fromMs);
  const last = today.at(-1);
  const out = today.findLast((c) => c.out);
  const used = plan.tasks.filter((t) => (state.tasks.get(t.id)?.doneAtMs ?? Number.NEGATIVE_INFINITY) >= fromMs);
  const bagsCut = new Set(used.flatMap((t) => t.bags.map(bagKey))).size;
  const asked = (ask: 'out' | 'in'): ToolsAsked => ({ ask, sharpsOut: out?.sharps ?? null, bagsCut });
  if (dayOver) return last && !last.out && !missingTools(plan, state, epochMs, nowMs) ? null : asked('in');
  return last ? null : asked('out');
}

/** What is missing after the last count in, with what to do; null where all is there. */
export function missingTools(plan: RunPlan, state: RunState, epochMs: number, nowMs: number): { readonly sharps: number; readonly offcuts: number } | null {
  const fromMs = dayFromMs(plan, epochMs, nowMs);
  const today = state.toolCounts.filter((c) => c.atMs >= fromMs);
  const back = today.at(-1);
  const out = today.findLast((c) => c.out);
  if (!back || back.out) return null;
  const used = plan.tasks.filter((t) => (state.tasks.get(t.id)?.doneAtMs ?? Number.NEGATIVE_INFINITY) >= fromMs && t.bags.length > 0);
  const cut = new Set(used.flatMap((t) => t.bags.map(bagKey))).size;
  const [sharps, offcuts] = [Math.max(0, (out?.sharps ?? 0) - back.sharps), Math.max(0, cut - back.offcuts)];
  return sharps + offcuts > 0 ? { sharps, offcuts } : null;
}
