import { isObservation, type RunEvent } from './event.js';

/**
 * The log in the order it counts: observations are put in among what was done by their own time, those of one moment by device. What
 * was done moves the clock on, and never back.
 */
export function inOwnTime(events: readonly RunEvent[]): RunEvent[] {
  const seen = events.filter(isObservation);
  if (seen.length === 0) return [...events];
  seen.sort((a, b) => a.atMs - b.atMs || (a.deviceId < b.deviceId ? -1 : a.deviceId > b.deviceId ? 1 : a.deviceSeq - b.deviceSeq));
  const out: RunEvent[] = [];
  let next = 0;
  let clockMs = Number.NEGATIVE_INFINITY;
  for (const e of events) {
    if (isObservation(e)) continue;
    clockMs = Math.max(clockMs, e.atMs);
    for (let o = seen[next]; o && comesBefore(o, e, clockMs); o = seen[next]) {
      out.push(o);
      next += 1;
    }
    out.push(e);
  }
  return [...out, ...seen.slice(next)];
}
/** Of one moment, one device's own numbers say what came first; else what was done did. */
const comesBefore = (o: RunEvent, done: RunEvent, clockMs: number): boolean =>
  o.atMs < clockMs || (o.atMs === clockMs && o.deviceId === done.deviceId && o.deviceSeq < done.deviceSeq);
