import { createStore, del, entries, set } from 'idb-keyval';
import type { Entry, Shelf } from './outbox.js';

/**
 * Entries in the browser's own database, one row each, so that tabs do not write over each other's. A browser that keeps nothing (a
 * private window, a full disk) still sends them: they are kept in memory, and only a reload would lose what is not sent yet.
 */
export function deviceShelf(): Shelf {
  const memory = new Map<string, Entry>();
  let store: ReturnType<typeof createStore> | undefined;
  const kept = async <T>(work: (s: ReturnType<typeof createStore>) => Promise<T>): Promise<T | null> => {
    try {
      store ??= createStore('kestfog-outbox', 'entries');
      return await work(store);
    } catch {
      return null;
    }
  };
  return {
    async all() {
      const rows = await kept((s) => entries<string, Entry>(s));
      const found = new Map(rows ?? []);
      for (const [id, e] of memory) found.set(id, e);
      return [...found.values()];
    },
    async put(entry) {
      const done = await kept((s) => set(entry.id, entry, s).then(() => true));
      if (done) memory.delete(entry.id);
      else memory.set(entry.id, entry);
    },
    async remove(id) {
      memory.delete(id);
      await kept((s) => del(id, s));
    },
  };
}
