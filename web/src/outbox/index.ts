import type { DesignEdit } from '@kestfog/core/design';
import type { BagRecord, OrderView, Page, StockItem, StockView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
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
/** Where things of the stock are kept. */
export const STOCK_THINGS = '/stock/things';
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(CHANNEL);

let made = 0;
/** Sorts by time, and within one moment as they were made. */
const nextOrder = (): string => `${String(Date.now()).padStart(15, '0')}-${String(++made).padStart(6, '0')}-${uuid().slice(0, 4)}`;

/** The one outbox of this page. */
export const outbox = new Outbox({
  shelf: deviceShelf(),
  send: (entry) => (entry.kind === 'tap' ? sendTap(entry) : sendRest(entry)),
  // Without locks (plain http in the kitchen's network) tabs may send the same twice: the server counts it once.
  alone: (way, work) => (navigator.locks ? navigator.locks.request(`${CHANNEL}-${way}`, work) : work()),
  tell: () => channel?.postMessage('changed'),
  nowMs: () => Date.now(),
  newId: uuid,
});
if (channel) channel.onmessage = () => void outbox.load();

/** Revisions that changes of this page's own have led to, by the name they were sent under. */
const ownRevision = new Map<string, number>();
const revisionIn = ({ request }: Entry, answer: unknown): number | undefined => {
  const body = (request.body ?? {}) as Partial<BagRecord>;
  // Of an order's bag the whole order is answered.
  const row = request.path.endsWith('/bags')
    ? (answer as OrderView).bags.find((b) => b.colour === body.colour && b.seconds === body.seconds)
    : request.path === STOCK_THINGS
      ? (answer as StockView).items.find((i) => i.item === (request.body as StockItem).item)
      : (answer as { revision?: number } | null);
  return row?.revision;
};

/** Sends what was typed. A change that was typed before one of this page's own was taken goes on from that, not against it. */
async function sendRest(entry: Entry): Promise<unknown> {
  const { method, path, body } = entry.request;
  const own = ownRevision.get(entry.id) ?? 0;
  const from = (key: 'basedOn' | 'revision') => {
    const said = (body as Partial<Record<typeof key, number>> | undefined)?.[key];
    return said === undefined ? {} : { [key]: Math.max(said, own) };
  };
  const answer = await api<unknown>(path, {
    method,
    ...(body === undefined ? {} : { body: { ...body, ...from('basedOn'), ...from('revision') } }),
  });
  const revision = revisionIn(entry, answer);
  if (revision !== undefined) ownRevision.set(entry.id, revision);
  return answer;
}

/** What was sent is what the page shows from then on. */
outbox.hear(null, {
  sent: (entry, answer) => {
    if (entry.kind === 'tap') return;
    takeIn(entry.request, answer);
    // What a plan is made of, or what a list shows, may be another from now on; what is looked at is asked for anew, the rest when it is.
    askAnew();
  },
  // What it went against is not known here yet.
  refused: (entry) => entry.kind !== 'tap' && askAnew(),
});
/** What the server answered takes the place of what was shown as it was typed. */
function takeIn({ method, path }: Entry['request'], answer: unknown): void {
  const [, kind = '', id, more] = path.split('/');
  const without = <T extends { readonly id: string }>(list: readonly T[]): T[] => list.filter((x) => x.id !== id);
  if (kind === 'kitchen') queryClient.setQueryData(['kitchen'], answer);
  else if (kind === 'stock') queryClient.setQueryData(['stock'], (before: unknown) => answer ?? before);
  else if (kind === 'designs' && method === 'PUT') queryClient.setQueryData(['design', id], answer);
  else if (kind === 'orders' && method === 'PUT') queryClient.setQueryData(['orders', id], answer);
  else if (method === 'POST' && id === undefined)
    queryClient.setQueryData([kind], (list: unknown) => (Array.isArray(list) ? [...list, answer] : list));
  else if (method === 'DELETE' && more === undefined) {
    queryClient.setQueryData([kind], (list: unknown) => (Array.isArray(list) ? without(list) : list));
    queryClient.setQueriesData(
      { queryKey: [kind, 'list'] },
      (page: Page<{ id: string }> | undefined) => page && { ...page, items: without(page.items) },
    );
  }
}
function askAnew(): void {
  void queryClient.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'drawing' && q.queryKey[0] !== 'plan' });
}

/** What is typed, in words, and where it is sent to. */
export interface Typed {
  readonly what: string;
  readonly place: string;
  readonly method: 'POST' | 'PUT' | 'DELETE';
  readonly path: string;
  readonly body?: object;
  /** one that waits under the same name gives way to it */
  readonly name?: string;
  /** refused with these, what was wanted is so already */
  readonly soAlready?: readonly string[];
}

/** What was typed is kept: with this answer of the server (null where another tab sent it), or on this device until it can be sent. */
export interface Kept<T> {
  readonly answer: T | null;
  readonly waits: boolean;
}

/** Keeps what was typed on this device and sends it. What the server refuses is thrown, for the form that has it still. */
export async function typed<T>({ what, place, method, path, body, name, soAlready = [] }: Typed): Promise<Kept<T>> {
  const asked = await outbox.ask({
    id: name ?? uuid(),
    // One after the other, in the order it was typed: an order may name a design that waits before it.
    queue: 'typed',
    kind: 'write',
    what,
    place,
    order: nextOrder(),
    notBeforeMs: 0,
    request: { method, path, body },
    quietCodes: soAlready,
    refused: null,
  });
  if (asked.as === 'refused') throw asked.why;
  return { answer: asked.as === 'taken' ? ((asked.answer ?? null) as T | null) : null, waits: asked.as === 'waiting' };
}

/** Deleting, putting back: done twice, it is done. */
export const GONE_ALREADY: readonly string[] = ['not-found'];

const waits = (e: Entry): boolean => e.refused === null && e.kind === 'write';
/** The body of what waits under a name; null where nothing does. */
export const waitingBody = <T>(entries: readonly Entry[], name: string): T | null =>
  (entries.find((e) => e.id === name && waits(e))?.request.body as T | undefined) ?? null;
/** What is to be put to an address, and waits. */
export const waitingBodies = <T>(entries: readonly Entry[], path: string): T[] =>
  entries.filter((e) => waits(e) && e.request.method === 'PUT' && e.request.path === path).map((e) => e.request.body as T);
/** What waits to be made at an address, with when it was typed. */
export const waitingToBeMade = <T>(entries: readonly Entry[], path: string): (T & { readonly at: string })[] =>
  entries
    .filter((e) => waits(e) && e.request.method === 'POST' && e.request.path === path)
    .map((e) => ({ ...(e.request.body as T), at: new Date(typedAtMs(e)).toISOString() }));
/** Whether what is at an address waits to be deleted, and not to be put back after that. */
export const waitsToGo = (entries: readonly Entry[], path: string): boolean =>
  entries.findLast(
    (e) =>
      waits(e) &&
      ((e.request.method === 'DELETE' && e.request.path === path) || (e.request.method === 'POST' && e.request.path === `${path}/restore`)),
  )?.request.method === 'DELETE';
export const typedAtMs = (e: Entry): number => Number(e.order.slice(0, 15));

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
    putEdits(id, msg`a design`, edits);
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
        return Array.isArray(edits)
          ? [{ id: key.slice(prefix.length), edits: edits as DesignEdit[], done: () => localStorage.removeItem(key) }]
          : [];
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
    what: msg`edits of ${name}`,
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
