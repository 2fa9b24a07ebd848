import type { ErrorRequestHandler, Request, Response } from 'express';
import type { Problem } from '@jiko/contract';
import { largestAttachmentBytes } from '@jiko/contract';
import multer from 'multer';
import type { ZodError } from 'zod';
import { drained } from './drained.ts';

type Refused = Omit<Problem, 'type'>;

/** Answers with problem details (RFC 9457). */
export function sendProblem(response: Response, problem: Refused): void {
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(JSON.stringify({ type: 'about:blank', ...problem }));
}

export function invalid(response: Response, error: ZodError): void {
  sendProblem(response, {
    status: 400,
    title: 'The request is not valid',
    errors: error.issues.slice(0, 30).map((issue) => ({
      field: issue.path.map(String).join('.'),
      message: issue.message,
    })),
  });
}

/**
 * Not the request's fault: no connection (class 08), no room or memory (53), stopping or starting
 * (57), no disk (58), read-only (25006) by SQLSTATE; or the socket's own errors.
 */
function isOfTheDatabase(error: unknown): boolean {
  const { code, message } = error as { code?: unknown; message?: string };
  if (typeof code === 'string')
    return /^(08|53|57P|58)/.test(code) || code === '25006' || /^E(CONN|PIPE|TIMEDOUT)/.test(code);
  return /Connection terminated|timeout exceeded when trying to connect|not connected|Driver not Connected|already released/i.test(
    message ?? '',
  );
}

/** Two changes that met, again and again: deadlock and serialization failure (class 40). */
const isMeeting = (error: unknown): boolean =>
  /^40/.test(String((error as { code?: unknown }).code ?? ''));

/** The database found its own files damaged (class XX): only a backup helps. */
const isDamage = (error: unknown): boolean =>
  /^XX/.test(String((error as { code?: unknown }).code ?? ''));

export type Trouble = 'read-only' | 'damaged';

/** Last in line: known troubles get their status, the rest a plain 500 without its stack. */
export function handleErrors(
  onDatabaseTrouble: (kind: Trouble, words: string) => void,
): ErrorRequestHandler {
  const answer = answerWith(onDatabaseTrouble);
  return (error: unknown, request, response, next) => {
    if (response.headersSent) next(error);
    else void drained(request).then(() => answer(error, request, response));
  };
}

/** Says what went wrong, once the sender is through with sending. */
function answerWith(onDatabaseTrouble: (kind: Trouble, words: string) => void) {
  return (error: unknown, request: Request, response: Response): void => {
    const { status, type } = error as { status?: number; type?: string };
    if (error instanceof multer.MulterError) {
      const tooLarge = error.code === 'LIMIT_FILE_SIZE';
      sendProblem(response, {
        status: tooLarge ? 413 : 400,
        title: tooLarge ? 'The file is too large' : 'The upload is not valid',
        detail: tooLarge
          ? `At most ${((error as { largestBytes?: number }).largestBytes ?? largestAttachmentBytes) / 1024 / 1024} MB are taken. Nothing was stored.`
          : error.message,
        errors: [{ field: error.field ?? 'file', message: error.message }],
      });
    } else if (type === 'entity.too.large') {
      sendProblem(response, {
        status: 413,
        title: 'The request is too large',
        detail: 'Nothing was stored.',
      });
    } else if (type === 'entity.parse.failed') {
      sendProblem(response, { status: 400, title: 'The request is not readable JSON' });
    } else if (status !== undefined && status >= 400 && status < 500) {
      // What breaks off is the sender's, whatever its code looks like.
      sendProblem(response, { status, title: 'The request is not valid' });
    } else if (isOfTheDatabase(error)) {
      request.log.error({ err: error }, 'the database keeps nothing');
      onDatabaseTrouble('read-only', (error as Error).message);
      sendProblem(response, {
        status: 503,
        title: 'The database cannot be reached, or keeps nothing at present',
        detail: 'What was sent was not recorded. It is safe to send it again.',
      });
    } else if (isMeeting(error)) {
      request.log.warn({ err: error }, 'changes met too often');
      sendProblem(response, {
        status: 503,
        title: 'Others changed the same at the same time',
        detail: 'Nothing was recorded. It is safe to send it again.',
      });
    } else if (isDamage(error)) {
      request.log.error({ err: error }, 'the database is damaged');
      onDatabaseTrouble('damaged', (error as Error).message);
      sendProblem(response, {
        status: 500,
        title: 'The database found its files damaged',
        detail:
          'Copy the data folder away as it is, check the disk, then restore a backup from before (npx jiko restore FILE --replace).',
      });
    } else {
      request.log.error({ err: error }, 'request failed');
      sendProblem(response, {
        status: 500,
        title: 'Something went wrong on the server',
        detail: 'What was sent may not have been recorded. It is safe to send it again.',
      });
    }
  };
}
