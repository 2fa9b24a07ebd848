/** Closes a switch over a union: a forgotten member is a type error, an impossible one a bug. */
export function unreachable(value: never): never {
  throw new Error(`unreachable: ${JSON.stringify(value)}`);
}
