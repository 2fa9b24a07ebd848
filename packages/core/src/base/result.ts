/** The outcome of anything that reads what comes from outside. Throwing is for bugs. */
export type Result<T, E> = { ok: true; value: T } | { ok: false; error: E };

export const ok = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });
export const fail = <E>(error: E): { ok: false; error: E } => ({ ok: false, error });
