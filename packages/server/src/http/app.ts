import compression from 'compression';
import express, { type Express } from 'express';
import helmet from 'helmet';
import pino, { type Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { api, type Health } from '@jiko/contract';
import type { AttachmentUseCases } from '../jobs/attachments.ts';
import type { JobFileUseCases } from '../jobs/job-file.ts';
import type { JobUseCases } from '../jobs/jobs.ts';
import type { LookUseCases } from '../boards/board-look.ts';
import type { DocumentUseCases } from '../boards/documents.ts';
import type { BoardUseCases } from '../boards/boards.ts';
import type { ShopUseCases } from '../shop/shop.ts';
import type { DictionaryUseCases } from '../dictionaries/dictionaries.ts';
import { attachmentRoutes } from './attachment-routes.ts';
import { boardRoutes } from './board-routes.ts';
import { documentRoutes } from './document-routes.ts';
import { dictionaryRoutes } from './dictionary-routes.ts';
import { lookRoutes } from './look-routes.ts';
import { jobFileRoutes } from './job-file-routes.ts';
import { jobRoutes } from './job-routes.ts';
import { keepableOnly } from './keepable.ts';
import { ownPagesOnly } from './own-pages-only.ts';
import { printRoutes } from './print-routes.ts';
import { shelfRoutes } from './shelf-routes.ts';
import { shopRoutes } from './shop-routes.ts';
import { handleErrors, sendProblem } from './problem.ts';
import { loggedError } from '../log-error.ts';

export interface AppParts {
  jobs: JobUseCases;
  boards: BoardUseCases;
  look: LookUseCases;
  documents: DocumentUseCases;
  attachments: AttachmentUseCases;
  dictionaries: DictionaryUseCases;
  jobFiles: JobFileUseCases;
  shop: ShopUseCases;
  shelf: Parameters<typeof shelfRoutes>[0];
  checkDatabase(): Promise<Pick<Health, 'database' | 'because'>>;
  logger: Logger;
  /** Folder of the built web app; null when the dev server serves it. */
  webFolder: string | null;
}

/** So long a failed write is told of, unless another is kept. */
const troubleMilliseconds = 10_000;

export function makeApp(parts: AppParts): Express {
  let trouble: { at: number; words: string } | null = null;
  /** Told until the next start: damage does not pass. */
  let damage: string | null = null;
  const app = express();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger: parts.logger,
      quietReqLogger: true,
      // Wrapped, the library would hand the error's own fields to the log: what was being written.
      wrapSerializers: false,
      serializers: {
        req: pino.stdSerializers.req,
        res: pino.stdSerializers.res,
        err: loggedError,
      },
    }),
  );
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'default-src': ["'self'"],
          'script-src': ["'self'"],
          // antd writes its styles at run time
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'font-src': ["'self'", 'data:'],
          'worker-src': ["'self'", 'blob:'],
          'connect-src': ["'self'"],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(ownPagesOnly);
  app.use(compression());
  app.get(api.health, async (_request, response) => {
    let { database, because } = await parts.checkDatabase();
    // A small write may still find room where entries find none: what they met counts as well.
    if (database === 'ok' && trouble && Date.now() - trouble.at < troubleMilliseconds)
      [database, because] = ['read-only', trouble.words];
    if (database === 'ok' && damage !== null) [database, because] = ['damaged', damage];
    const isWell = database === 'ok';
    response
      .status(isWell ? 200 : 503)
      .json({ status: isWell ? 'ok' : 'failing', database, because } satisfies Health);
  });
  app.use('/api', (request, response, next) => {
    // A customer's words lie in no cache, but where a route says how.
    response.set('Cache-Control', 'no-store');
    // What was kept says more than what was not a moment ago.
    if (request.method === 'POST')
      response.once('finish', () => {
        if (response.statusCode < 300) trouble = null;
      });
    next();
  });
  app.use('/api', express.json({ limit: '2mb' }), keepableOnly);
  app.use(jobRoutes(parts.jobs));
  app.use(jobFileRoutes(parts.jobFiles));
  app.use(boardRoutes(parts.boards));
  app.use(lookRoutes(parts.look));
  app.use(documentRoutes(parts.documents));
  app.use(attachmentRoutes(parts.attachments));
  app.use(dictionaryRoutes(parts.dictionaries));
  app.use(shopRoutes(parts.shop));
  app.use(shelfRoutes(parts.shelf));
  app.use(printRoutes(() => new Date(), parts.attachments));
  app.use('/api', (_request, response) => {
    sendProblem(response, { status: 404, title: 'There is nothing at this address' });
  });
  if (parts.webFolder) {
    const { webFolder } = parts;
    // Their names change with their content.
    app.use('/assets', express.static(`${webFolder}/assets`, { immutable: true, maxAge: '1y' }));
    app.get('/service-worker.js', (_request, response) => {
      response.sendFile('service-worker.js', { root: webFolder, cacheControl: false });
    });
    app.use(express.static(webFolder, { index: false, maxAge: '1h' }));
    app.get('/{*path}', (_request, response) => {
      response.sendFile('index.html', { root: webFolder, cacheControl: false });
    });
  }
  app.use(
    handleErrors((kind, words) => {
      if (kind === 'damaged') damage = words;
      else trouble = { at: Date.now(), words };
    }),
  );
  return app;
}
