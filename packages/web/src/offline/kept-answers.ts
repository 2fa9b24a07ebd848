import { api } from '@jiko/contract';
import { serially } from '@jiko/core/base';

/** Where service-worker.ts keeps the last answer of each address, for when the server is away. */
const answersCache = 'jiko-answers';

/** One after the other: an older answer never comes over a newer one. */
const inTurn = serially();

/**
 * Puts what an address would answer by now over what the worker kept of it: what was recorded since is
 * still there after a reload without a server.
 */
export function keepAnswer(path: string, answer: unknown): void {
  if (typeof caches === 'undefined' || !navigator.serviceWorker?.controller) return;
  const text = JSON.stringify(answer);
  void inTurn(() => put(path, text));
}

/**
 * Takes the pictures that were part of an answer out of what the worker kept, and the list of jobs, which
 * had words of it: they were erased.
 */
export function forgetPictures(answer: unknown): void {
  if (typeof caches === 'undefined') return;
  const text = JSON.stringify(answer);
  void inTurn(() => forget(text));
}

async function forget(text: string): Promise<void> {
  try {
    const cache = await caches.open(answersCache);
    for (const request of await cache.keys()) {
      const [, id] = /^\/api\/attachments\/([^/]+)$/.exec(new URL(request.url).pathname) ?? [];
      if (id && text.includes(id)) await cache.delete(request);
    }
    await cache.delete(api.jobs);
  } catch {
    // Nothing is kept here.
  }
}

async function put(path: string, text: string): Promise<void> {
  try {
    const cache = await caches.open(answersCache);
    await cache.put(path, new Response(text, { headers: { 'Content-Type': 'application/json' } }));
  } catch {
    // No room, or no leave to keep anything: the page and the server have it.
  }
}
