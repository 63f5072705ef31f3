import { BadInput } from '@kestfog/core/units';
import { msg } from '@kestfog/core/words';
import type { Entry } from './outbox.js';

const FORMAT = 'kestfog-waiting/1';
const KINDS: readonly string[] = ['tap', 'design', 'write'] satisfies Entry['kind'][];
const METHODS: readonly string[] = ['POST', 'PUT', 'DELETE'] satisfies Entry['request']['method'][];
/** Of Kestfog's own server and nowhere else. */
const PATH = /^\/[a-z][\w/.-]*$/i;

/** What waits on this device, to be taken to where Kestfog is now: the browser keeps things by address, and shows them nowhere else. */
export const waitingFile = (entries: readonly Entry[]): string =>
  JSON.stringify({ format: FORMAT, entries: entries.filter((e) => e.refused === null) }, null, 1);

/** What waited elsewhere. Everything has its name from where it was typed, so that taken in twice it is kept once. */
export function readWaitingFile(text: string): Entry[] {
  let read: { readonly format?: unknown; readonly entries?: unknown } | null;
  try {
    read = JSON.parse(text) as typeof read;
  } catch {
    read = null;
  }
  if (read?.format !== FORMAT || !Array.isArray(read.entries))
    throw new BadInput('bad-waiting', msg`This file has nothing that waits: choose the one saved under Not kept yet (${FORMAT}).`);
  return read.entries.map((e: unknown, i) => {
    if (!isEntry(e))
      throw new BadInput(
        'bad-waiting',
        msg`Thing ${i + 1} in the file was changed or cut off, so nothing was taken in: save the file anew.`,
      );
    return { ...e, refused: null, notBeforeMs: 0 };
  });
}

function isEntry(e: unknown): e is Entry {
  const { id, queue, kind, what, place, order, request, quietCodes } = (e ?? {}) as Partial<Record<keyof Entry, unknown>>;
  const { method, path, body } = (request ?? {}) as Partial<Entry['request']>;
  const isText = (...values: unknown[]) => values.every((v) => typeof v === 'string' && v.length > 0);
  return (
    isText(id, queue, what, place, order, path) &&
    KINDS.includes(kind as string) &&
    METHODS.includes(method as string) &&
    PATH.test(path as string) &&
    (body === undefined || (typeof body === 'object' && body !== null)) &&
    Array.isArray(quietCodes) &&
    quietCodes.every((c) => typeof c === 'string')
  );
}
