/** Tells what is called out where the page is not in front: by the browser, or by its stand-in where the browser has none. */
export interface Notifier {
  /** whether it may tell: allowed, still to be asked for, refused by the user, or not there at all on this address */
  readonly state: () => 'allowed' | 'ask' | 'refused' | 'simulated';
  /** asks the user; to be called by a touch */
  readonly ask: () => Promise<void>;
  /** one with the same tag takes the place of the one before; a touch on it leads to `place` */
  readonly tell: (text: string, tag: string, place: string) => void;
}

const TITLE = 'Kestfog';

/** The browser's own notifications, by the service worker where there is one: some browsers know no other way. */
export const browserNotifier: Notifier = {
  state: () => (Notification.permission === 'granted' ? 'allowed' : Notification.permission === 'denied' ? 'refused' : 'ask'),
  ask: async () => void (await Notification.requestPermission()),
  tell: (text, tag, place) => {
    const what = { body: text, tag, data: { place }, icon: '/icon-192.png', requireInteraction: true };
    void (async () => {
      const kept = await navigator.serviceWorker?.getRegistration();
      if (kept?.active) return kept.showNotification(TITLE, what);
      const shown = new Notification(TITLE, what);
      shown.onclick = () => {
        window.focus();
        shown.close();
      };
    })().catch(() => undefined);
  },
};

/** Stand-in for a browser without notifications: keeps what it was asked to show, for a page to show and a test to read. */
export class SimulatedNotifier implements Notifier {
  readonly shown: { readonly text: string; readonly tag: string; readonly place: string }[] = [];
  private readonly lookers = new Set<() => void>();
  readonly state = (): 'simulated' => 'simulated';
  readonly ask = async (): Promise<void> => undefined;
  readonly tell = (text: string, tag: string, place: string): void => {
    this.shown.push({ text, tag, place });
    for (const look of this.lookers) look();
  };
  readonly onShown = (look: () => void): (() => void) => {
    this.lookers.add(look);
    return () => this.lookers.delete(look);
  };
}

export const simulatedNotifier = new SimulatedNotifier();
/** On an address the browser does not trust it has none. */
export const notifier = (): Notifier =>
  typeof Notification === 'undefined' || !globalThis.isSecureContext ? simulatedNotifier : browserNotifier;
