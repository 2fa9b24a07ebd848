/// <reference lib="webworker" />
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching';
import { registerRoute } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';

declare const self: ServiceWorkerGlobalScope;

// With the server away a reload still opens what was open: the app from the cache, and of its answers
// the last one there was. With the server there, it is asked first: nothing old is shown. What is
// recorded waits in the outbox, not here.

registerRoute(
  ({ request, url }) => request.mode === 'navigate' && !url.pathname.startsWith('/api/'),
  async ({ request }) => {
    try {
      return await fetch(request);
    } catch {
      return (await matchPrecache('/index.html')) ?? Response.error();
    }
  },
);

/** Filled in by the build (vite.config.ts): every file of the app. */
precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();

/** Health is asked to know whether the server is there: never answered from a cache. */
const isKept = (path: string): boolean =>
  /^\/api\/(jobs|boards|attachments|board-pictures)(\/|$)/.test(path) && !path.endsWith('/file');
registerRoute(
  ({ url, request }) =>
    request.method === 'GET' && url.origin === self.location.origin && isKept(url.pathname),
  // The name is kept-answers.ts's too: a worker is one file and can share none with the app.
  new NetworkFirst({ cacheName: 'jiko-answers', networkTimeoutSeconds: 10 }),
);

self.addEventListener('install', () => void self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
