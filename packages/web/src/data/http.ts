import { problemSchema, type Problem } from '@jiko/contract';
import { unreachable } from '@jiko/core/base';
import type { z } from 'zod';

/**
 * What went wrong with a request: nobody answered, the server said why not, or its answer is none this
 * page can read.
 */
export class RequestTrouble extends Error {
  readonly kind: 'no-answer' | 'refused' | 'unexpected';
  /** The server's words; null where there are none. */
  readonly problem: Problem | null;
  /** What of an answer could not be read. */
  readonly issues: readonly string[];

  constructor(
    what:
      | { kind: 'no-answer' }
      | { kind: 'refused'; problem: Problem }
      | { kind: 'unexpected'; issues: readonly string[] },
  ) {
    super(wordsOf(what));
    this.kind = what.kind;
    this.problem = what.kind === 'refused' ? what.problem : null;
    this.issues = what.kind === 'unexpected' ? what.issues : [];
  }

  /** Worth sending again as it is. */
  get isPassing(): boolean {
    const { status } = this.problem ?? {};
    // Timed out, too early, too many: the same words as a server in trouble.
    return status === undefined || status >= 500 || [408, 425, 429].includes(status);
  }
}

function wordsOf(what: ConstructorParameters<typeof RequestTrouble>[0]): string {
  switch (what.kind) {
    case 'no-answer':
      return 'The server cannot be reached.';
    case 'refused':
      return problemText(what.problem);
    case 'unexpected':
      return `The server's answer is none this page can read: reload it, it may be older than the server. ${what.issues.slice(0, 2).join('; ')}`.trim();
    default:
      return unreachable(what);
  }
}

export interface Ask extends RequestInit {
  timeoutMilliseconds?: number;
  /** Other answers than good ones that are read like them. */
  alsoRead?: readonly number[];
}

export async function request<S extends z.ZodType>(
  schema: S,
  path: string,
  { timeoutMilliseconds = 20_000, alsoRead = [], ...init }: Ask = {},
): Promise<z.output<S>> {
  let response: Response;
  try {
    response = await fetch(path, { ...init, signal: AbortSignal.timeout(timeoutMilliseconds) });
  } catch {
    throw new RequestTrouble({ kind: 'no-answer' });
  }
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok && !alsoRead.includes(response.status)) throw troubleOf(response, body);
  const parsed = schema.safeParse(body);
  if (parsed.success) return parsed.data;
  const issues = parsed.error.issues.map((one) =>
    [one.path.join('.'), one.message].filter(Boolean).join(': '),
  );
  throw new RequestTrouble({ kind: 'unexpected', issues });
}

function troubleOf({ status }: Response, body: unknown): RequestTrouble {
  const problem = problemSchema.safeParse(body);
  return new RequestTrouble({
    kind: 'refused',
    problem: problem.success
      ? problem.data
      : { type: 'about:blank', title: 'The server gave no answer it should', status },
  });
}

/** Sends something and takes a file back. */
export async function requestBlob(path: string, body: unknown): Promise<Blob> {
  let response: Response;
  try {
    response = await fetch(path, { ...postJson(body), signal: AbortSignal.timeout(30_000) });
  } catch {
    throw new RequestTrouble({ kind: 'no-answer' });
  }
  if (!response.ok) throw troubleOf(response, await response.json().catch(() => null));
  return response.blob();
}

export const postJson = (body: unknown): RequestInit => ({
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});

function problemText(problem: Problem): string {
  const fields = (problem.errors ?? []).map((error) =>
    error.message.startsWith('Line') ? error.message : `${error.field}: ${error.message}`,
  );
  return [problem.title + '.', problem.detail ?? '', ...fields].filter(Boolean).join(' ');
}
