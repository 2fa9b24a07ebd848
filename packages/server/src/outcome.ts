/** What a use case answers when it cannot do what was asked; the http layer turns it into RFC 9457. */
export interface Refusal {
  status: 400 | 404 | 409 | 413 | 415;
  title: string;
  detail?: string;
  errors?: { field: string; message: string }[];
}
export type Outcome<T> = { ok: true; value: T } | { ok: false; problem: Refusal };

export const jobProblem = (id: string): { ok: false; problem: Refusal } => ({
  ok: false,
  problem: { status: 404, title: 'No such job', detail: `There is no job ${id}.` },
});

export const boardProblem = (id: string, field: string): { ok: false; problem: Refusal } => ({
  ok: false,
  problem: {
    status: 400,
    title: 'No such board',
    errors: [{ field, message: `there is no board ${id}` }],
  },
});
