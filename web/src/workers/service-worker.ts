import { cleanupOutdatedCaches, createHandlerBoundToURL, type PrecacheEntry, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { mayTakeOver } from './may-take-over.js';

/** What of a service worker's own world is used here; the page's types know nothing of it. */
interface Worker {
  readonly __WB_MANIFEST: readonly (PrecacheEntry | string)[];
  readonly clients: {
    matchAll(of: { type: 'window'; includeUncontrolled: true }): Promise<readonly Window[]>;
    openWindow(url: string): Promise<unknown>;
  };
  skipWaiting(): Promise<void>;
  addEventListener(type: 'notificationclick', on: (e: NotificationTouch) => void): void;
  addEventListener(type: 'message', on: (e: { readonly data: unknown; waitUntil(p: Promise<unknown>): void }) => void): void;
}
interface Window {
  readonly url: string;
  focus(): Promise<unknown>;
}
interface NotificationTouch {
  readonly notification: { readonly data: { readonly place?: string } | null; close(): void };
  waitUntil(p: Promise<unknown>): void;
}
declare const self: Worker;

cleanupOutdatedCaches();
precacheAndRoute([...self.__WB_MANIFEST]);
// Every place of the page is the same document; what the server knows is never kept here.
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/api\//] }));

/** A newer page takes over only where no bench is open on this device: never during a run. */
async function takeOver(): Promise<void> {
  const open = await self.clients.matchAll({ type: 'window', includeUncontrolled: true });
  if (mayTakeOver(open.map((c) => c.url))) await self.skipWaiting();
}
self.addEventListener('message', (e) => {
  if (e.data === 'take over') e.waitUntil(takeOver());
});

/** A touch on a notification leads to the bench it came from: to the page that has it open, or to a new one. */
async function lead(place: string): Promise<void> {
  const open = await self.clients.matchAll({ type: 'window', includeUncontrolled: true });
  const there = open.find((c) => new URL(c.url).pathname === place);
  await (there ? there.focus() : self.clients.openWindow(place));
}
self.addEventListener('notificationclick', (e) => {
  e.notification.close();
  e.waitUntil(lead(e.notification.data?.place ?? '/orders'));
});
