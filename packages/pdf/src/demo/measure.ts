import { candidatesOf, foldName, type PageContent } from '@jiko/core/schematic';
import type { DrawnTruth } from './plan.ts';

/** How much of a drawing the reader found, and how much it found that is not there. */
export interface ReaderFigures {
  nets: { there: number; found: number; wrong: string[]; missed: string[] };
  parts: { there: number; found: number; wrong: string[]; missed: string[] };
  /** Pins with the right net, of all that are drawn; and with another net. */
  pins: { there: number; right: number; other: string[] };
}

/** Found means: by its name, on a page where it is drawn, and on no page where it is not. */
export function measureReader(pages: readonly PageContent[], truth: DrawnTruth): ReaderFigures {
  const { nets, parts } = candidatesOf(pages);
  const compare = (
    wanted: ReadonlyMap<string, ReadonlySet<number>>,
    got: readonly { names: string[]; pages: number[] }[],
    fold: (name: string) => string,
  ) => {
    const byName = new Map(got.flatMap((one) => one.names.map((name) => [fold(name), one])));
    const known = new Set([...wanted.keys()].map(fold));
    const missed = [...wanted].filter(([name, on]) => {
      const one = byName.get(fold(name));
      return !one || !one.pages.some((page) => on.has(page));
    });
    const astray = (one: { names: string[]; pages: number[] }): boolean => {
      const name = one.names.map(fold).find((folded) => known.has(folded));
      const on = [...wanted].find(([key]) => fold(key) === name)?.[1];
      return !on || one.pages.some((page) => !on.has(page));
    };
    return {
      there: wanted.size,
      found: wanted.size - missed.length,
      wrong: got.filter(astray).map((one) => one.names[0] as string),
      missed: missed.map(([name]) => name),
    };
  };
  const pagesOf = (places: readonly { page: number }[]): number[] => [
    ...new Set(places.map((one) => one.page)),
  ];
  const read = new Map<string, (string | null)[]>();
  for (const { ref, pins } of parts)
    read.set(
      ref,
      pins.map((one) => one.net),
    );
  const byPin = new Map<string, string | null>(
    parts.flatMap(({ ref, pins }) => pins.map((pin) => [`${ref}.${pin.name}`, pin.net] as const)),
  );
  const drawn = new Map<string, { ref: string; pin: string; net: string }>();
  for (const one of truth.pins) drawn.set(`${one.ref}.${one.pin}`, one);
  const other: string[] = [];
  let right = 0;
  for (const [key, { ref, net }] of drawn) {
    const got = byPin.get(key);
    const same = (one: string | null | undefined): boolean =>
      one !== null && one !== undefined && foldName(one) === foldName(net);
    // Parts with two ends have no names at their pins.
    if (got === undefined ? read.get(ref)?.some(same) : same(got)) right++;
    else if (got) other.push(`${key} ${got} for ${net}`);
  }
  return {
    nets: compare(
      truth.nets,
      nets.map((one) => ({ names: [one.name, ...one.also], pages: pagesOf(one.places) })),
      foldName,
    ),
    parts: compare(
      truth.parts,
      parts.map((one) => ({ names: [one.ref], pages: pagesOf(one.places) })),
      (name) => name,
    ),
    pins: { there: drawn.size, right, other },
  };
}
