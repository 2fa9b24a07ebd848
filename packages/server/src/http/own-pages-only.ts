import type { RequestHandler } from 'express';
import { sendProblem } from './problem.ts';

const loopback = /^(localhost|127(\.\d{1,3}){3}|\[::1\])(:\d{1,5})?$/i;

/**
 * The app has no accounts: who reaches it may read and write everything. So it answers only requests
 * to this machine's own name, which no foreign name that points here has (DNS rebinding), and only from
 * its own pages, or from programs, which send neither header (Fetch Metadata; RFC 6454).
 */
export const ownPagesOnly: RequestHandler = (request, response, next) => {
  const { host = '', origin } = request.headers;
  const site = request.headers['sec-fetch-site'];
  const isForeign =
    (origin !== undefined && !isOwn(origin, host)) ||
    // A page opened from elsewhere by a link may be shown; nothing of it may be read from there.
    (site !== undefined &&
      site !== 'same-origin' &&
      site !== 'none' &&
      !(request.headers['sec-fetch-mode'] === 'navigate' && isRead(request.method)));
  if (loopback.test(host) && !isForeign) return next();
  sendProblem(response, {
    status: 403,
    title: 'Only pages of Jiko on this machine are answered',
    detail: 'Open it by the address the start printed.',
  });
};

/** A foreign link may open a page; a foreign form may change nothing. */
const isRead = (method: string): boolean => method === 'GET' || method === 'HEAD';

function isOwn(origin: string, host: string): boolean {
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}
