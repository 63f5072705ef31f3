import { expect, it, vi } from 'vitest';
import { keepAnswer, lastKnown } from './last-known.js';

/** A database of the browser that has room for so many rows. */
const ROOM = 4;
const rows = vi.hoisted(() => new Map<string, unknown>());
vi.mock('idb-keyval', () => ({
  createStore: () => ({}),
  get: async (key: string) => rows.get(key),
  entries: async () => [...rows],
  set: async (key: string, value: unknown) => {
    if (!rows.has(key) && rows.size >= ROOM) throw new DOMException('There is no room.', 'QuotaExceededError');
    rows.set(key, value);
  },
  delMany: async (keys: readonly string[]) => {
    for (const k of keys) rows.delete(k);
  },
}));

it('what was looked at long ago gives way to what is looked at now, where the device is full', async () => {
  vi.useFakeTimers();
  try {
    for (const n of [1, 2, 3, 4, 5]) {
      vi.setSystemTime(n * 1000);
      await keepAnswer(`/orders/${n}`, { n });
    }
  } finally {
    vi.useRealTimers();
  }
  expect(await lastKnown('/orders/5')).toEqual({ body: { n: 5 } });
  expect(await lastKnown('/orders/4')).toEqual({ body: { n: 4 } });
  expect(await lastKnown('/orders/1')).toBeNull();
});
