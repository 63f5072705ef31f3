import type { RunState } from './run-state.js';

type Paused = Pick<RunState, 'standing' | 'pausedAtMs'>;

/** Pauses that were said, from when to when, milliseconds; one that goes on has no end yet. */
export function pausesOf({ standing, pausedAtMs }: Paused): (readonly [number, number])[] {
  const out: [number, number][] = [];
  let from: number | null = null;
  for (const e of standing) {
    if (e.type === 'paused') from ??= e.atMs;
    else if (e.type === 'resumed' && from !== null) {
      out.push([from, e.atMs]);
      from = null;
    }
  }
  return pausedAtMs === null ? out : [...out, [pausedAtMs, Number.POSITIVE_INFINITY]];
}

/** How long hands were at something between two moments, pauses left out, milliseconds. */
export const withoutPausesMs = (run: Paused, fromMs: number, toMs: number): number =>
  pausesOf(run).reduce((ms, [from, to]) => ms - Math.max(0, Math.min(toMs, to) - Math.max(fromMs, from)), toMs - fromMs);
