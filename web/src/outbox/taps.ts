import { asSaidNow, type RunEvent, type StoredEvent } from '@kestfog/core/bench';
import type { RunView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { v4 as uuid } from 'uuid';
import { ApiFailure, api } from '../api/client.js';
import type { Entry } from './outbox.js';

const DEVICE_KEY = 'kestfog.device';

/** This browser's own name in the log. */
export function deviceId(): string {
  const kept = localStorage.getItem(DEVICE_KEY);
  if (kept) return kept;
  const made = uuid();
  localStorage.setItem(DEVICE_KEY, made);
  return made;
}

export const runQueue = (runId: string): string => `run:${runId}`;

/** A tap, numbered behind what this device is known to have said. */
export function newEvent(known: readonly RunEvent[], body: Pick<RunEvent, 'type' | 'data'>, atMs: number): RunEvent {
  const device = deviceId();
  return { id: uuid(), deviceId: device, deviceSeq: 1 + lastOf(known, device), atMs, ...body } as RunEvent;
}
const lastOf = (known: readonly RunEvent[], device: string): number =>
  Math.max(0, ...known.filter((e) => e.deviceId === device).map((e) => e.deviceSeq));

/** Taps of a run among the entries, behind what the server has; one that waits in the order it was made. */
export const tapsIn = (entries: readonly Entry[], runId: string): RunEvent[] =>
  entries.filter((e) => e.queue === runQueue(runId) && e.refused === null).map((e) => e.request.body as RunEvent);

export const tapEntry = (runId: string, event: RunEvent, order: string): Entry => ({
  id: event.id,
  queue: runQueue(runId),
  kind: 'tap',
  what: `${tapWords[event.type] ?? event.type}${'taskId' in event.data && event.data.taskId ? `: ${event.data.taskId}` : ''}`,
  place: `/runs/${runId}`,
  order,
  notBeforeMs: 0,
  request: { method: 'POST', path: `/runs/${runId}/events`, body: event },
  // The bench has gone on since: it is planned again from there.
  quietCodes: ['plan-base'],
  refused: null,
});
const tapWords: Partial<Record<RunEvent['type'], string>> = {
  runStarted: msg`the run begun`,
  taskBegun: msg`a step begun`,
  taskDone: msg`a step done`,
  cookieDone: msg`a cookie done`,
  imHere: msg`where you are`,
  swapped: msg`another step taken up`,
  paused: msg`a pause`,
  resumed: msg`the end of a pause`,
  touched: msg`what a finger found`,
  windowShut: msg`a window that shut`,
  skipped: msg`a step skipped`,
  bagCounted: msg`a bag counted`,
  defect: msg`a defect`,
  airRead: msg`the air read`,
  carried: msg`a tray carried away`,
  broughtBack: msg`a tray brought back`,
  toolsCounted: msg`tools counted`,
  dehydratorOff: msg`the dehydrator switched off`,
  planRevised: msg`a new plan`,
  undone: msg`a step taken back`,
};

/** What was tapped before this way of keeping it: one list a run, as text. Taken over once; what cannot be read is left where it is. */
export function earlierTaps(): { readonly runId: string; readonly events: readonly RunEvent[]; readonly done: () => void }[] {
  return Object.keys(localStorage)
    .filter((k) => k.startsWith('kestfog.outbox.'))
    .flatMap((key) => {
      try {
        const list = JSON.parse(localStorage.getItem(key) ?? '[]') as unknown;
        if (!Array.isArray(list)) return [];
        return [
          {
            runId: key.slice('kestfog.outbox.'.length),
            events: (list as RunEvent[]).map(asSaidNow),
            done: () => localStorage.removeItem(key),
          },
        ];
      } catch {
        return [];
      }
    });
}

/** The number a device's next tap gets, by run, as far as this tab knows. */
const nextNumber = new Map<string, number>();
/** What the server has of a run: this device's next tap comes behind it. */
export function noteTaken(runId: string, stored: readonly StoredEvent[]): void {
  nextNumber.set(runId, Math.max(nextNumber.get(runId) ?? 0, 1 + lastOf(stored, deviceId())));
}

/**
 * Sends a tap with the number that is next. Where another tab of this browser, or an answer that was lost, had come first, the log is
 * asked, and the tap is numbered behind it; one that is in it already has been sent.
 */
export async function sendTap(entry: Entry): Promise<StoredEvent> {
  const tap = entry.request.body as RunEvent;
  const runId = entry.queue.slice('run:'.length);
  const post = async () => {
    const event = { ...tap, deviceSeq: nextNumber.get(runId) ?? tap.deviceSeq };
    const stored = await api<StoredEvent>(entry.request.path, { method: 'POST', body: event });
    nextNumber.set(runId, Math.max(nextNumber.get(runId) ?? 0, stored.deviceSeq + 1));
    return stored;
  };
  try {
    return await post();
  } catch (error) {
    if (!(error instanceof ApiFailure) || error.code !== 'device-seq') throw error;
    const { events } = await api<RunView>(`/runs/${runId}`);
    nextNumber.delete(runId);
    noteTaken(runId, events);
    return events.find((e) => e.id === tap.id) ?? post();
  }
}
