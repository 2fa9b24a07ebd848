import {
  asOnBench,
  isSeriesPart,
  pinsOnNet,
  type Board,
  type NetId,
  type PartKind,
  findPart,
  netById,
} from '../board/index.ts';
import type { InCircuit, Meter } from '../readings/index.ts';
import { diesOf, makeColdBench, readingOf } from './cold-meter.ts';

/** Chips beside a resistor conduct between a third and three times what was played. */
const chipFactor = 3;
/** Resistors drawn beside it are of 5 %. */
const drawnPart = 0.05;
/** A chip's pin of which nothing is stated leaks no more than this: common practice, no source. */
const pinOhms = 300_000;

/**
 * What a good resistor reads on the unpowered board, between the ends of it: the resistor beside all other
 * ways from one end to the other. Null for links and for what is no resistor.
 */
export function resistorInCircuit(
  board: Board,
  ref: string,
  meter: Meter,
  /** Parts off the board; the resistor itself among them has one end up. */
  lifted: readonly string[] = [],
): InCircuit | null {
  const key = `${ref} ${[...lifted].sort().join()}`;
  let known = solved.get(board);
  if (!known) solved.set(board, (known = new Map()));
  let found = known.get(key);
  if (found === undefined) known.set(key, (found = solveResistor(board, ref, meter, lifted)));
  return found;
}

/** Readings are judged again with every change of a page: each resistor of a board is solved once. */
const solved = new WeakMap<Board, Map<string, InCircuit | null>>();

function solveResistor(
  board: Board,
  ref: string,
  meter: Meter,
  lifted: readonly string[],
): InCircuit | null {
  const part = findPart(board, ref);
  if (!part || part.kind !== 'resistor' || !part.fitted || !part.value || isSeriesPart(part))
    return null;
  const [a, b] = part.pins.map((pin) => pin.net) as [NetId, NetId];
  const isUp = lifted.includes(ref);
  const siemens = (dies: ReturnType<typeof diesOf>, off: readonly string[] = []): number => {
    if (isUp) return 0;
    const without = asOnBench(board, { lifted: [ref, ...lifted, ...off] });
    const bench = makeColdBench(without, dies, new Map(), meter.mostDiodeVolts, b);
    const read = readingOf(bench, meter, a, 'ohms');
    return read.kind === 'value' ? 1 / Math.max(read.value, 1e-3) : 0;
  };
  const drawn = siemens([]);
  // A junction may leak as its model says, or not at all: only resistors conduct for sure.
  const surely = drawn > 0 ? siemens([], junctionsOf(board)) : 0;
  const chips = Math.max(0, siemens(diesOf(board, meter)) - drawn);
  const unstated =
    !isUp &&
    [a, b].some((net) => {
      const stated = netById(board, net)?.coldOhms ?? null;
      return (
        net !== board.ground &&
        stated === null &&
        pinsOnNet(board, net).some((pin) => board.chips.some((chip) => chip.ref === pin.ref))
      );
    });
  const ohmsOf = (conducts: number): number => (conducts > 0 ? 1 / conducts : Infinity);
  return {
    part: ref,
    ohms: part.value,
    beside: ohmsOf(drawn + chips),
    besideLow: ohmsOf(drawn * (1 + drawnPart) + chips * chipFactor + (unstated ? 1 / pinOhms : 0)),
    besideHigh: ohmsOf(surely * (1 - drawnPart) + chips / chipFactor),
    expected: 1 / (1 / part.value + drawn + chips),
    lift: endToLift(board, part.pins),
  };
}

const junctions: ReadonlySet<PartKind> = new Set([
  'diode',
  'schottky',
  'zener',
  'tvs',
  'led',
  'pfet',
  'nfet',
  'npn',
  'pnp',
]);
const junctionsOf = (board: Board): string[] =>
  board.parts.filter((one) => one.fitted && junctions.has(one.kind)).map((one) => one.ref);

/** The end that comes off with the least heat: fewest pins on its net, ground and rails last. */
function endToLift(board: Board, pins: readonly { name: string; net: NetId }[]): InCircuit['lift'] {
  const weight = (net: NetId): number =>
    net === board.ground
      ? 1000
      : pinsOnNet(board, net).length + (netById(board, net)?.kind === 'rail' ? 100 : 0);
  const [end] = [...pins].sort((x, y) => weight(x.net) - weight(y.net));
  return { pin: end?.name ?? '', net: end?.net ?? '' };
}
