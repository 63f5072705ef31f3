import { asSaidNow, type RunEvent } from '@kestfog/core/bench';
import { v4 as uuid } from 'uuid';

const DEVICE_KEY = 'kestfog.device';
const boxKey = (runId: string) => `kestfog.outbox.${runId}`;

/** This browser's own name in the log. */
export function deviceId(): string {
  const kept = localStorage.getItem(DEVICE_KEY);
  if (kept) return kept;
  const made = uuid();
  localStorage.setItem(DEVICE_KEY, made);
  return made;
}

/** Taps the server has not acknowledged yet; kept across a reload. */
export function readOutbox(runId: string): RunEvent[] {
  try {
    const list = JSON.parse(localStorage.getItem(boxKey(runId)) ?? '[]') as unknown;
    // What was tapped before an update is said the way it is said now.
    return Array.isArray(list) ? (list as RunEvent[]).map(asSaidNow) : [];
  } catch {
    return [];
  }
}

export function writeOutbox(runId: string, events: readonly RunEvent[]): void {
  try {
    if (events.length === 0) localStorage.removeItem(boxKey(runId));
    else localStorage.setItem(boxKey(runId), JSON.stringify(events));
  } catch {
    // A browser that keeps nothing (full, or private) still sends them; only a reload would lose what is not sent yet.
  }
}

export function newEvent(known: readonly RunEvent[], body: Pick<RunEvent, 'type' | 'data'>, atMs: number): RunEvent {
  const device = deviceId();
  const deviceSeq = 1 + Math.max(0, ...known.filter((e) => e.deviceId === device).map((e) => e.deviceSeq));
  return { id: uuid(), deviceId: device, deviceSeq, atMs, ...body } as RunEvent;
}

/** After another tab of this browser wrote first: the same taps, numbered behind what the server has. */
export function renumbered(outbox: readonly RunEvent[], stored: readonly RunEvent[]): RunEvent[] {
  const device = deviceId();
  let seq = Math.max(0, ...stored.filter((e) => e.deviceId === device).map((e) => e.deviceSeq));
  return outbox
    .filter((e) => !stored.some((s) => s.id === e.id))
    .map((e) => {
      seq += 1;
      return { ...e, deviceSeq: seq };
    });
}
