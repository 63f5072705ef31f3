import { bagKey } from '../steps/step.js';
import type { RunIndex } from './run-index.js';

/** What is counted next, and what came out of the last count. */
export interface ToolsAsked {
  readonly ask: 'out' | 'in';
  /** sharp tools that were counted out this day; null before */
  readonly sharpsOut: number | null;
  /** bags used this day: as many ends were cut off */
  readonly bagsCut: number;
}

/** This day's counts and bags: since the opening a moment lies in, or the last one before it. */
function today(run: RunIndex, nowMs: number) {
  const openings = run.state.plan.openingHours.map(([from]) => run.plan.msOf(from)).filter((ms) => ms <= nowMs);
  const fromMs = Math.max(Number.NEGATIVE_INFINITY, ...openings);
  const counts = run.state.toolCounts.filter((c) => c.atMs >= fromMs);
  const used = run.state.plan.tasks.filter((t) => (run.doneMs(t.id) ?? Number.NEGATIVE_INFINITY) >= fromMs);
  return { last: counts.at(-1), out: counts.findLast((c) => c.out), bagsCut: new Set(used.flatMap((t) => t.bags.map(bagKey))).size };
}

/**
 * Sharp tools and bag ends are counted out once a day and in once: out before the first step, in when the day is over, whether or
 * not they were counted out, and again while something is missing. null where the count was made.
 */
export function toolsAsked(run: RunIndex, nowMs: number, dayOver: boolean): ToolsAsked | null {
  if (run.state.startedAtMs === null) return null;
  const { last, out, bagsCut } = today(run, nowMs);
  const asked = (ask: 'out' | 'in'): ToolsAsked => ({ ask, sharpsOut: out?.sharps ?? null, bagsCut });
  if (dayOver) return last && !last.out && !missingTools(run, nowMs) ? null : asked('in');
  return last ? null : asked('out');
}

/** What is missing after the last count in; null where all is there. */
export function missingTools(run: RunIndex, nowMs: number): { readonly sharps: number; readonly offcuts: number } | null {
  const { last, out, bagsCut } = today(run, nowMs);
  if (!last || last.out) return null;
  const [sharps, offcuts] = [Math.max(0, (out?.sharps ?? 0) - last.sharps), Math.max(0, bagsCut - last.offcuts)];
  return sharps + offcuts > 0 ? { sharps, offcuts } : null;
}
