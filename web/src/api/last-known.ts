import { createStore, delMany, entries, get, set } from 'idb-keyval';

/** What the server last said at an address, and when. */
interface Known {
  readonly body: unknown;
  readonly atMs: number;
}

let store: ReturnType<typeof createStore> | undefined;
const own = () => {
  store ??= createStore('kestfog-last-known', 'answers');
  return store;
};

/** The bench keeps its runs itself, with their clock; what only holds for the moment is not worth keeping. */
const isKept = (path: string): boolean => !/^\/(runs\/|(health|clock|devices|climate)\b)/.test(path);

/** Kept if the browser lets it: private windows may not, and everything else works all the same. */
export async function keepAnswer(path: string, body: unknown): Promise<void> {
  if (!isKept(path)) return;
  const known: Known = { body, atMs: Date.now() };
  try {
    await set(path, known, own()).catch(async () => {
      // Full: the older half of what is kept gives way to what is looked at now.
      forgetting ??= forgetOlderHalf().finally(() => {
        forgetting = null;
      });
      await forgetting;
      await set(path, known, own());
    });
  } catch {
    // A browser without a database of its own, or with no room at all: the page works, only not without the network.
  }
}
/** many answers may come at once; they make room once */
let forgetting: Promise<void> | null = null;
async function forgetOlderHalf(): Promise<void> {
  const kept = (await entries<string, Known>(own())).sort(([, a], [, b]) => a.atMs - b.atMs);
  await delMany(
    kept.slice(0, Math.ceil(kept.length / 2)).map(([path]) => path),
    own(),
  );
}

/** Addresses that are shown as they were last known, since the server does not answer; with since when. */
const shown = new Map<string, number>();
const lookers = new Set<() => void>();
let oldestMs: number | null = null;
function say(): void {
  const next = shown.size === 0 ? null : Math.min(...shown.values());
  if (next === oldestMs) return;
  oldestMs = next;
  for (const look of lookers) look();
}

export async function lastKnown(path: string): Promise<{ readonly body: unknown } | null> {
  if (!isKept(path)) return null;
  try {
    const known = await get<Known>(path, own());
    if (!known) return null;
    shown.set(path, known.atMs);
    say();
    return { body: known.body };
  } catch {
    return null;
  }
}

/** The server answers again: what is shown from before is to be asked for anew. Returns whether there was any. */
export function answersAgain(): boolean {
  if (shown.size === 0) return false;
  shown.clear();
  say();
  return true;
}

/** Since when what is shown is not known any better; null while the server answers. */
export const shownSinceMs = (): number | null => oldestMs;
export const onShown = (look: () => void): (() => void) => {
  lookers.add(look);
  return () => lookers.delete(look);
};
