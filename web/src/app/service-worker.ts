/**
 * The page kept on the device, so that it opens without the network. A newer one is taken up only when a page is opened
 * away from the bench, before anything is shown; resolves when the page may be shown.
 */
export async function keepPage(): Promise<void> {
  if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return;
  try {
    // A network that hangs does not keep the page waiting.
    const registration = await Promise.race([navigator.serviceWorker.register('/service-worker.js'), later(1000)]);
    if (!registration?.waiting || location.pathname.startsWith('/runs/')) return;
    const taken = new Promise<true>((done) => navigator.serviceWorker.addEventListener('controllerchange', () => done(true), { once: true }));
    registration.waiting.postMessage('take over');
    // Another tab may be at the bench: then the old page is good for now.
    if ((await Promise.race([taken, later(1500)])) === true) location.reload();
  } catch {
    // Private windows and untrusted certificates have none: the page works, only not without the network.
  }
}

const later = (ms: number): Promise<null> => new Promise((done) => setTimeout(() => done(null), ms));
