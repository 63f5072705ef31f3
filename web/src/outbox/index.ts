import type { DesignEdit } from '@kestfog/core/design';
import type { DesignView } from '@kestfog/core/wire';
import { useSyncExternalStore } from 'react';
import { v4 as uuid } from 'uuid';
import { api } from '../api/client.js';
import { queryClient } from '../app/query.js';
import { type Entry, Outbox } from './outbox.js';
import { deviceShelf } from './shelf.js';
import { earlierTaps, sendTap, tapEntry } from './taps.js';

/** Edits that follow each other within this are sent together. */
const RESTS_MS = 500;
const CHANNEL = 'kestfog-outbox';
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(CHANNEL);

let made = 0;
/** Sorts by time, and within one moment as they were made. */
const nextOrder = (): string => `${String(Date.now()).padStart(15, '0')}-${String(++made).padStart(6, '0')}-${uuid().slice(0, 4)}`;

/** The one outbox of this page. */
export const outbox = new Outbox({
  shelf: deviceShelf(),
  send: (entry) => (entry.kind === 'tap' ? sendTap(entry) : api(entry.request.path, { method: entry.request.method, body: entry.request.body })),
  // Without locks (plain http in the kitchen's network) tabs may send the same twice: the server counts it once.
  alone: (work) => (navigator.locks ? navigator.locks.request(CHANNEL, work) : work()),
  tell: () => channel?.postMessage('changed'),
  nowMs: () => Date.now(),
  newId: uuid,
});
if (channel) channel.onmessage = () => void outbox.load();

/** What was sent is what the page shows from then on. */
outbox.hear(null, {
  sent: (entry, answer) => {
    if (entry.kind !== 'design') return;
    const view = answer as DesignView;
    queryClient.setQueryData(['design', view.id], view);
    void queryClient.invalidateQueries({ queryKey: ['designs'] });
    void queryClient.invalidateQueries({ queryKey: ['orders'] });
  },
});

/**
 * Takes over what earlier visits kept, and sends it. Resolves when all of it is at hand: a page that was shown before would begin without
 * it, and what is typed then would take its place.
 */
export async function beginOutbox(): Promise<void> {
  for (const { runId, events, done } of earlierTaps()) {
    for (const e of events) outbox.put(tapEntry(runId, e, nextOrder()));
    done();
  }
  for (const { id, edits, done } of earlierEdits()) {
    putEdits(id, 'a design', edits);
    done();
  }
  window.addEventListener('online', () => void outbox.send());
  // What is kept must not be swept away when the disk runs full, where the browser lets us ask.
  void navigator.storage?.persist?.().catch(() => false);
  await outbox.load();
  void outbox.send();
}

/** Edits that an earlier release kept as text, one list a design. Taken over once; what cannot be read is left where it is. */
export function earlierEdits(): { readonly id: string; readonly edits: readonly DesignEdit[]; readonly done: () => void }[] {
  const prefix = 'kestfog.design.';
  return Object.keys(localStorage)
    .filter((k) => k.startsWith(prefix))
    .flatMap((key) => {
      try {
        const edits = JSON.parse(localStorage.getItem(key) ?? 'null') as unknown;
        return Array.isArray(edits) ? [{ id: key.slice(prefix.length), edits: edits as DesignEdit[], done: () => localStorage.removeItem(key) }] : [];
      } catch {
        return [];
      }
    });
}

export const putTap = (runId: string, event: Parameters<typeof tapEntry>[1]): void => outbox.put(tapEntry(runId, event, nextOrder()));

export const designQueue = (id: string): string => `design:${id}`;
/** All edits of a design so far; the newest list takes the place of the one before. */
export function putEdits(id: string, name: string, edits: readonly DesignEdit[]): void {
  outbox.put({
    id: designQueue(id),
    queue: designQueue(id),
    kind: 'design',
    what: `edits of ${name}`,
    place: `/designs/${id}`,
    order: nextOrder(),
    notBeforeMs: Date.now() + RESTS_MS,
    request: { method: 'PUT', path: `/designs/${id}`, body: { edits } },
    quietCodes: [],
    refused: null,
  });
}

/** Edits of a design that wait on this device; null where none do. */
export const waitingEdits = (entries: readonly Entry[], id: string): readonly DesignEdit[] | null => {
  const entry = entries.find((e) => e.id === designQueue(id) && e.refused === null);
  return entry ? (entry.request.body as { edits: readonly DesignEdit[] }).edits : null;
};

export const useOutbox = (): readonly Entry[] => useSyncExternalStore(outbox.subscribe, outbox.all);
