import { isSeriesPart, type Board, type NetId, type Part, joinedTo } from '../board/index.ts';

// Where a current runs along a rail, from the places the sheet gives: enough to say which of two places
// is nearer to where it leaves.

/** A pad on the rail, in millimetres. */
export interface Pad {
  ref: string;
  pin: string;
  net: NetId;
  side: string;
  x: number;
  y: number;
}

/** Pads of a rail and the ohms of copper between any two of them. */
export interface Copper {
  pads: readonly Pad[];
  padOf(ref: string): Pad | null;
  /** Infinity where nothing joins them. */
  ohms(a: string, b: string): number;
  /** The same in millimetres as the crow flies along the rail. */
  millimetres(a: string, b: string): number;
}

/** A rail of 3 mm in 35 µm copper: milliohms a millimetre. Common practice; see the sum `drop-distance`. */
export const railOhmsPerMillimetre = 1 / 58e6 / (3e-3 * 34.8e-6) / 1000;

/** Ohms of what joins nets of one rail; common practice, no source. */
const seriesOhms: Record<string, number> = {
  coil: 0.006,
  fuse: 0.008,
  ferrite: 0.01,
  jumper: 0.002,
};

/** Pads of everything placed on the rail; parts lifted do not join it. */
export function copperOf(board: Board, net: NetId, lifted: readonly string[] = []): Copper {
  const rail = joinedTo(board, [net]);
  const placed = [
    ...board.parts.map((one) => ({ ...one, pins: one.pins, chip: false })),
    ...board.chips.map((one) => ({
      ...one,
      pins: [...one.pins].map(([name, on]) => ({ name, net: on })),
      chip: true,
    })),
  ];
  const pads = placed.flatMap((one) => {
    const { x, y } = one;
    if (!one.fitted || x === null || y === null || lifted.includes(one.ref)) return [];
    const seen = new Set<NetId>();
    return one.pins.flatMap((pin): Pad[] => {
      if (!rail.has(pin.net) || seen.has(pin.net)) return [];
      seen.add(pin.net);
      return [{ ref: one.ref, pin: pin.name, net: pin.net, side: one.side ?? '', x, y }];
    });
  });
  const count = pads.length;
  const [ohms, far] = [0, 1].map(() => new Float64Array(count * count).fill(Infinity)) as [
    Float64Array,
    Float64Array,
  ];
  const seriesOf = new Map<string, Part>(
    board.parts.filter(isSeriesPart).map((one) => [one.ref, one]),
  );
  pads.forEach((a, i) =>
    pads.forEach((b, j) => {
      if (i === j) {
        ohms[i * count + j] = far[i * count + j] = 0;
      } else if (a.net === b.net) {
        const millimetres = Math.hypot(a.x - b.x, a.y - b.y);
        far[i * count + j] = millimetres;
        ohms[i * count + j] = millimetres * railOhmsPerMillimetre;
      } else if (a.ref === b.ref && seriesOf.has(a.ref)) {
        const part = seriesOf.get(a.ref)!;
        far[i * count + j] = 0;
        ohms[i * count + j] =
          part.kind === 'resistor' ? (part.value ?? 0) : (seriesOhms[part.kind] ?? 0.005);
      }
    }),
  );
  for (const matrix of [ohms, far])
    for (let k = 0; k < count; k++)
      for (let i = 0; i < count; i++)
        for (let j = 0; j < count; j++) {
          const by = matrix[i * count + k]! + matrix[k * count + j]!;
          if (by < matrix[i * count + j]!) matrix[i * count + j] = by;
        }
  const indexOf = new Map<string, number[]>();
  pads.forEach((pad, index) => indexOf.set(pad.ref, [...(indexOf.get(pad.ref) ?? []), index]));
  const least = (matrix: Float64Array, a: string, b: string): number => {
    let best = Infinity;
    for (const i of indexOf.get(a) ?? [])
      for (const j of indexOf.get(b) ?? []) best = Math.min(best, matrix[i * count + j]!);
    return best;
  };
  return {
    pads,
    padOf: (ref) => pads[indexOf.get(ref)?.[0] ?? -1] ?? null,
    ohms: (a, b) => least(ohms, a, b),
    millimetres: (a, b) => least(far, a, b),
  };
}

/**
 * Ohms that a current from `feed` into `short` shares with the way to `place`: what the volts there stand
 * above those at the short, for each ampere. In a tree of copper half of what two ways have in common.
 */
export const sharedOhms = (copper: Copper, feed: string, short: string, place: string): number =>
  Math.max(
    0,
    (copper.ohms(feed, short) + copper.ohms(place, short) - copper.ohms(feed, place)) / 2,
  );

/** The smallest distance along the rail a meter's step resolves, in millimetres. */
export const leastMillimetres = (amps: number, stepVolts: number): number =>
  stepVolts / (amps * railOhmsPerMillimetre);
