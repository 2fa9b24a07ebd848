/** Numbers in [0, 1), the same ones for the same seed. */
export type Chance = () => number;

/** Mulberry32, a public-domain 32-bit generator; good enough to draw cases, not for secrets. */
export function seeded(seed: number): Chance {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** One member of a list that is not empty. */
export function draw<T>(list: readonly T[], chance: Chance): T {
  const picked = list[Math.floor(chance() * list.length)];
  if (picked === undefined) throw new Error('draw from an empty list');
  return picked;
}
