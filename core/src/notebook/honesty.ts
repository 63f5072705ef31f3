import type { BenchTouch } from '../bench/bench-touches.js';
import type { RunPlan } from '../bench/run-plan.js';
import { MARGIN_SHARE, waitFactor } from '../drying/uncertainty.js';
import { type Rate, rateOf } from './rate.js';

/**
 * What is known of one body of icing, in shares of what its planned wait gave it: not there yet after so much, there after so much; null
 * where it was never found to be. Below 1 the wait was long enough.
 */
export type WaitKnown = readonly [notYet: number, there: number | null];
/** Whether waits were long enough for as many as the plan's margin says: `promised` of all. */
export interface Honesty {
  readonly promised: number;
  readonly waits: readonly WaitKnown[];
}

/** What a run tells of its waits. */
export function honestyOf(plan: RunPlan, touches: readonly BenchTouch[]): Honesty {
  const { margin } = plan.order;
  const waits = touches.flatMap((t): WaitKnown[] => {
    const asked = waitFactor(t.state, margin, plan.factors);
    const shareOf = (lost: number) => Math.round((1000 * lost) / asked) / 1000;
    const [notYet, there] = [shareOf(t.notYetShare ?? 0), t.reachedShare === null ? null : shareOf(t.reachedShare)];
    // Found wet after it was found ready, it says nothing; nor does what nobody ever looked at.
    return (there ?? Number.POSITIVE_INFINITY) > notYet && (notYet > 0 || there !== null) ? [[notYet, there]] : [];
  });
  return { promised: MARGIN_SHARE[margin], waits };
}

/** So much more than a wait gave may have passed where hands came to it at once. */
const AT_ONCE = 1.1;
/** Share of the waits that were long enough, by as many bodies as somebody felt, or came to at once. */
export function longEnough(waits: readonly WaitKnown[]): Rate {
  const known = waits.filter(([notYet, there]) => notYet > 0 || (there !== null && there <= AT_ONCE)).length;
  return rateOf(known === 0 ? 0 : shareWithin(waits) * known, known);
}

const ENOUGH_ROUNDS = 1000;
const SETTLED = 1e-6;
/**
 * Share of cases at or below 1 where of each only an interval is known (Turnbull, JRSS B 38, 1976, 290–295: each case is spread over its
 * interval as the others tell, until nothing changes). To count the certain ones alone would count too few of those that failed: found
 * wet they are left alone for longer, and by how much they failed is seen late.
 */
export function shareWithin(cases: readonly WaitKnown[]): number {
  const cuts = [...new Set([0, 1, ...cases.flatMap(([a, b]) => (b === null ? [a] : [a, b]))])].sort((a, b) => a - b);
  const place = new Map(cuts.map((c, i) => [c, i]));
  // Cell i lies above cut i, up to the next and with that; the last has no end.
  const spans = cases.map(([a, b]) => [place.get(a) as number, b === null ? cuts.length : (place.get(b) as number)] as const);
  const upTo = place.get(1) as number;
  let share = cuts.map(() => 1 / cuts.length);
  let within = Number.NaN;
  for (let round = 0; round < ENOUGH_ROUNDS; round++) {
    const below = sums(share);
    const steps = new Array<number>(cuts.length + 1).fill(0);
    for (const [from, to] of spans) {
      const own = (below[to] as number) - (below[from] as number);
      if (own <= 0) continue;
      steps[from] = (steps[from] as number) + 1 / own;
      steps[to] = (steps[to] as number) - 1 / own;
    }
    let sum = 0;
    share = share.map((s, i) => {
      sum += steps[i] as number;
      return (s * sum) / cases.length;
    });
    const now = sums(share)[upTo] as number;
    if (Math.abs(now - within) < SETTLED) break;
    within = now;
  }
  return Math.min(1, Math.max(0, within));
}
/** Of so many values how much lies before each, and before the end of them. */
function sums(values: readonly number[]): number[] {
  const out = [0];
  for (const v of values) out.push((out.at(-1) as number) + v);
  return out;
}

/** Whether plans kept what they promised, by the margin of which most is known. */
export type HonestyWord = 'unknown' | 'as-promised' | 'too-short' | 'more-careful';
export function honestyWord(told: readonly (Rate & { readonly promised: number })[]): HonestyWord {
  const [main] = [...told].sort((a, b) => b.all - a.all);
  if (!main || main.all === 0) return 'unknown';
  if (main.least <= main.promised && main.promised <= main.most) return 'as-promised';
  return main.share < main.promised ? 'too-short' : 'more-careful';
}
