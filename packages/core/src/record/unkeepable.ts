// Characters no store can keep: NUL, and halves of surrogate pairs.

// eslint-disable-next-line no-control-regex -- it is what is looked for
const bad = /\u0000|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g;

/** Nothing that is recorded is nested deeper; what is was made to fill a stack. */
const mostDepth = 100;

/**
 * Where in a value made of plain data such a character stands, or it is nested too deep; null where it
 * can be kept.
 */
export function unkeepable(value: unknown, path = '', depth = 0): string | null {
  if (depth > mostDepth) return path;
  if (typeof value === 'string') return value.search(bad) >= 0 ? path : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inner] of Object.entries(value)) {
    const here = path === '' ? key : `${path}.${key}`;
    if (key.search(bad) >= 0) return path;
    const found = unkeepable(inner, here, depth + 1);
    if (found !== null) return found;
  }
  return null;
}

/** The same value without them. */
export function withoutUnkeepable<T>(value: T): T {
  if (typeof value === 'string') return value.replace(bad, '') as T;
  if (Array.isArray(value)) return value.map((one: unknown) => withoutUnkeepable(one)) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [key, withoutUnkeepable<unknown>(inner)]),
  ) as T;
}
