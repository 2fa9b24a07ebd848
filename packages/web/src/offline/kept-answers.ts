/** Where service-worker.ts keeps the last answer of each address, for when the server is away. */
const answersCache = 'jiko-answers';

/**
 * Puts what an address would answer by now over what the worker kept of it: what was recorded since is
 * still there after a reload without a server.
 */
export async function keepAnswer(path: string, answer: unknown): Promise<void> {
  if (typeof caches === 'undefined' || !navigator.serviceWorker?.controller) return;
  try {
    const cache = await caches.open(answersCache);
    const headers = { 'Content-Type': 'application/json' };
    await cache.put(path, new Response(JSON.stringify(answer), { headers }));
  } catch {
    // No room, or no leave to keep anything: the page and the server have it.
  }
}
