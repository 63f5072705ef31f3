import { useSyncExternalStore } from 'react';
import { mayTakeOver } from '../workers/may-take-over.js';

/** What this page is made of; empty where it was not built, as in development. */
const own = (): string => document.querySelector('meta[name="kestfog-page"]')?.getAttribute('content') ?? '';
const TRIED = 'kestfog.newer-page';

let newer: string | null = null;
const lookers = new Set<() => void>();

/** Notes which page the server has. */
export function notePage(theirs: string | null): void {
  const mine = own();
  const next = theirs && mine && theirs !== mine ? theirs : null;
  if (next === newer) return;
  newer = next;
  for (const look of lookers) look();
}

/** Which page the server has, where it is not this one. */
export const useNewerPage = (): string | null =>
  useSyncExternalStore(
    (look) => {
      lookers.add(look);
      return () => lookers.delete(look);
    },
    () => newer,
  );

/** Loads the page anew, once the newer one is at hand on this device where it is kept there. */
export async function takeUpNewer(): Promise<void> {
  const kept = await navigator.serviceWorker?.getRegistration().catch(() => undefined);
  await kept?.update().catch(() => undefined);
  const fresh = kept?.installing;
  if (fresh)
    await new Promise<void>((done) => {
      setTimeout(done, INSTALLED_WITHIN_MS);
      fresh.addEventListener('statechange', () => fresh.state !== 'installing' && done());
    });
  location.reload();
}
const INSTALLED_WITHIN_MS = 10_000;

/**
 * Takes the newer page up by itself when nobody looks at this one, and never at the bench. What was typed is kept through it. Once for each
 * newer page: where it does not come, it is not asked for again and again.
 */
export function takeUpUnseen(): void {
  clearTimeout(unseen);
  if (document.visibilityState !== 'hidden') return;
  // A page that is being left is not seen either, for a moment.
  unseen = setTimeout(() => {
    if (!newer || !mayTakeOver([location.href]) || sessionStorage.getItem(TRIED) === newer) return;
    sessionStorage.setItem(TRIED, newer);
    void takeUpNewer();
  }, UNSEEN_FOR_MS);
}
let unseen: ReturnType<typeof setTimeout> | undefined;
const UNSEEN_FOR_MS = 1_000;
