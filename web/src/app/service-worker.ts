/** So long the first picture waits at most for what this device knows of itself. */
const KNOWN_WITHIN_MS = 300;
const TAKEN_WITHIN_MS = 1500;

/**
 * A newer page that was fetched meanwhile is taken up as a page is opened away from the bench, before anything is shown; resolves when the
 * page may be shown. Without one this takes no time: nothing is fetched here.
 */
export async function takeUpKept(): Promise<void> {
  if (!import.meta.env.PROD || !('serviceWorker' in navigator) || location.pathname.startsWith('/runs/')) return;
  try {
    const known = await Promise.race([navigator.serviceWorker.getRegistration(), later(KNOWN_WITHIN_MS)]);
    if (!known?.waiting) return;
    const taken = new Promise<true>((done) =>
      navigator.serviceWorker.addEventListener('controllerchange', () => done(true), { once: true }),
    );
    known.waiting.postMessage('take over');
    // Another tab may be at the bench: then the old page is good for now.
    if ((await Promise.race([taken, later(TAKEN_WITHIN_MS)])) === true) location.reload();
  } catch {
    // Private windows and untrusted certificates have none: the page works, only not without the network.
  }
}

/** The page kept on the device, so that it opens without the network; once there is something to see. */
export function keepPage(): void {
  if (import.meta.env.PROD && 'serviceWorker' in navigator) navigator.serviceWorker.register('/service-worker.js').catch(() => undefined);
}

const later = (ms: number): Promise<null> => new Promise((done) => setTimeout(() => done(null), ms));
