import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Entry } from './outbox.js';
import { deviceShelf } from './shelf.js';

/** The browser's database: rows, and whether it answers just now. */
const database = vi.hoisted(() => ({ rows: new Map<string, unknown>(), fails: new Set<'read' | 'write'>() }));
vi.mock('idb-keyval', () => {
  const asked = async (what: 'read' | 'write') => {
    if (database.fails.has(what)) throw new DOMException('The connection was closed.', 'InvalidStateError');
  };
  return {
    createStore: () => ({}),
    entries: async () => asked('read').then(() => [...database.rows]),
    set: async (key: string, value: unknown) => asked('write').then(() => void database.rows.set(key, value)),
    del: async (key: string) => asked('write').then(() => void database.rows.delete(key)),
  };
});

const entry = (id: string): Entry => ({
  id,
  queue: 'run:1',
  kind: 'tap',
  what: 'a pause',
  place: '/',
  order: id,
  notBeforeMs: 0,
  request: { method: 'POST', path: '/', body: {} },
  quietCodes: [],
  refused: null,
});
const idsOf = async (shelf: ReturnType<typeof deviceShelf>) => (await shelf.all()).map((e) => e.id).sort();

describe('what waits on this device', () => {
  beforeEach(() => {
    database.rows.clear();
    database.fails.clear();
  });

  it('is at hand also while its database does not answer: what was put before, and what is put meanwhile', async () => {
    const shelf = deviceShelf();
    await shelf.put(entry('a'));
    database.fails.add('read');
    expect(await idsOf(shelf)).toEqual(['a']);
    database.fails.add('write');
    await shelf.put(entry('b'));
    expect(await idsOf(shelf)).toEqual(['a', 'b']);
    database.fails.clear();
    expect(await idsOf(shelf)).toEqual(['a', 'b']);
  });

  it('does not come back once it was let go while the database did not answer', async () => {
    const shelf = deviceShelf();
    await shelf.put(entry('a'));
    database.fails.add('write');
    await shelf.remove('a');
    expect(await idsOf(shelf)).toEqual([]);
    database.fails.clear();
    expect(await idsOf(shelf)).toEqual([]);
    expect([...database.rows.keys()]).toEqual([]);
  });

  it('does not come back where it is let go while what could not be kept is written again', async () => {
    const shelf = deviceShelf();
    database.fails.add('write');
    await shelf.put(entry('a'));
    await shelf.put(entry('b'));
    database.fails.clear();
    const reading = shelf.all();
    await shelf.remove('b');
    await reading;
    expect(await idsOf(shelf)).toEqual(['a']);
    expect([...database.rows.keys()]).toEqual(['a']);
  });

  it('of other tabs is read anew', async () => {
    const [one, two] = [deviceShelf(), deviceShelf()];
    await one.put(entry('a'));
    expect(await idsOf(two)).toEqual(['a']);
    await one.remove('a');
    expect(await idsOf(two)).toEqual([]);
    database.fails.add('read');
    expect(await idsOf(two)).toEqual([]);
  });
});
