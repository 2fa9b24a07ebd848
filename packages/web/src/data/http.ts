import { problemSchema, type Problem } from '@jiko/contract';
import type { z } from 'zod';

/** What went wrong with a request: unreachable, or refused with the server's words. */
export class RequestTrouble extends Error {
  readonly problem: Problem | null;

  constructor(problem: Problem | null) {
    super(problem ? problemText(problem) : 'The server cannot be reached.');
    this.problem = problem;
  }

  /** Worth sending again as it is. */
  get isPassing(): boolean {
    const { status } = this.problem ?? {};
    // Timed out, too early, too many: the same words as a server in trouble.
    return status === undefined || status >= 500 || [408, 425, 429].includes(status);
  }
}

export async function request<S extends z.ZodType>(
  schema: S,
  path: string,
  init?: RequestInit,
  timeoutMilliseconds = 20_000,
): Promise<z.output<S>> {
  let response: Response;
  try {
    response = await fetch(path, { ...init, signal: AbortSignal.timeout(timeoutMilliseconds) });
  } catch {
    throw new RequestTrouble(null);
  }
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok && response.status !== 503) throw troubleOf(response, body);
  const parsed = schema.safeParse(body);
  if (!parsed.success) throw new RequestTrouble(null);
  return parsed.data;
}

function troubleOf({ status }: Response, body: unknown): RequestTrouble {
  const problem = problemSchema.safeParse(body);
  return new RequestTrouble(
    problem.success
      ? problem.data
      : { type: 'about:blank', title: 'The server gave no answer it should', status },
  );
}

/** Sends something and takes a file back. */
export async function requestBlob(path: string, body: unknown): Promise<Blob> {
  let response: Response;
  try {
    response = await fetch(path, { ...postJson(body), signal: AbortSignal.timeout(30_000) });
  } catch {
    throw new RequestTrouble(null);
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
