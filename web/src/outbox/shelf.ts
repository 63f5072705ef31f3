import { createStore, del, entries, set } from 'idb-keyval';
import type { Entry, Shelf } from './outbox.js';

/**
 * Entries in the browser's own database, one row each, so that tabs do not write over each other's. A database that does not answer, for
 * a moment (a busy or full disk) or at all (a private window), takes nothing away: what this tab knows of is at hand in memory, and only
 * a reload would lose what is not sent by then.
 */
export function deviceShelf(): Shelf {
  /** the rows, as far as this tab knows */
  let known = new Map<string, Entry>();
  /** what the database does not have yet: an entry, or null for one that is let go */
  const owed = new Map<string, { readonly entry: Entry | null; failed: boolean }>();
  let changes = 0;
  let store: ReturnType<typeof createStore> | undefined;
  const asked = async <T>(work: (s: ReturnType<typeof createStore>) => Promise<T>): Promise<{ readonly answer: T } | null> => {
    try {
      store ??= createStore('kestfog-outbox', 'entries');
      return { answer: await work(store) };
    } catch {
      // Opened anew the next time: a connection that broke stays so.
      store = undefined;
      return null;
    }
  };
  const note = (id: string, entry: Entry | null): void => {
    if (entry) known.set(id, entry);
    else known.delete(id);
  };
  const write = async (id: string, entry: Entry | null): Promise<void> => {
    changes += 1;
    // Owed until the database has it: of two writes that overlap, the later one counts.
    const own = { entry, failed: false };
    owed.set(id, own);
    note(id, entry);
    if (!(await asked((s) => (entry ? set(id, entry, s) : del(id, s))))) own.failed = true;
    else if (owed.get(id) === own) owed.delete(id);
  };
  return {
    async all() {
      // Only what failed, and only while nothing was said of it since: what was let go meanwhile must not come back.
      for (const [id, own] of [...owed]) if (own.failed && owed.get(id) === own) await write(id, own.entry);
      let before: number;
      do {
        before = changes;
        const rows = await asked((s) => entries<string, Entry>(s));
        if (rows) known = new Map(rows.answer);
        // What was written while it was read may be missing in it: it is read again.
      } while (before !== changes);
      for (const [id, { entry }] of owed) note(id, entry);
      return [...known.values()];
    },
    put: (entry) => write(entry.id, entry),
    remove: (id) => write(id, null),
  };
}
