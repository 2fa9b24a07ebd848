import type { Board } from '../board/index.ts';
import { isPlayed, makeDictionary, outlineDictionary, type Dictionary } from './dictionary.ts';
import { takeRows, type RowsPacket } from './rows.ts';
import type { PlaySetup } from '../play/index.ts';

/**
 * Holds a dictionary somebody else made against this board on this bench: its outline, that every row
 * was played, and the rows asked for played anew. Why it is not to be trusted; null where it is.
 */
export function troubleWithDictionary(
  board: Board,
  setup: PlaySetup,
  sent: Dictionary,
  rows: readonly number[],
): string | null {
  const { dictionary: outline } = outlineDictionary(board, setup);
  if (sent.key !== outline.key) return 'it is of another sheet or bench';
  const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
  for (const name of [
    'nets',
    'rows',
    'faults',
    'lights',
    'heated',
    'codeless',
    'dark',
    'goneRow',
    'off',
  ] as const)
    if (!same(sent[name], outline[name])) return `its ${name} are not those of the sheet`;
  if (!same([...sent.rowOf], [...outline.rowOf])) return 'its faults lie in other rows';
  const lists = [
    'volts',
    'amps',
    'ohms',
    'diode',
    'lit',
    'turning',
    'heat',
    'offAfter',
    'startsItself',
    'islandVolts',
  ] as const;
  for (const name of lists)
    if (sent[name].length !== outline[name].length) return `its ${name} have another length`;
  for (let row = 0; row < sent.rows; row++)
    if (!isPlayed(sent, row) && !sent.invalid.has(row)) return `row ${row} was never played`;

  const making = makeDictionary(board, setup, undefined, { order: [0, ...rows] });
  let mine: Dictionary;
  for (;;) {
    const step = making.next();
    if (step.done) {
      mine = step.value;
      break;
    }
  }
  if (!same(sent.goalNets, mine.goalNets)) return 'its goals are not those of the sheet';
  for (const row of [0, ...rows]) {
    const what = difference(takeRows(sent, [row]), takeRows(mine, [row]));
    if (what !== null) return `row ${row} plays otherwise: ${what}`;
  }
  return null;
}

/** Engines differ in the last digits of their arithmetic; plays do not. */
const isClose = (a: number, b: number): boolean =>
  Object.is(a, b) ||
  a === b ||
  (Number.isFinite(a) &&
    Number.isFinite(b) &&
    Math.abs(a - b) <= 1e-6 + 0.002 * Math.max(Math.abs(a), Math.abs(b)));

function difference(a: RowsPacket, b: RowsPacket): string | null {
  for (const [name, list] of Object.entries(a.lists)) {
    const other = b.lists[name as keyof RowsPacket['lists']];
    // A byte of heat is twenty steps a decade: one up or down is the same.
    const step = name === 'heat' ? 1 : 0;
    if (!list.every((one, at) => isClose(one, other[at]!) || Math.abs(one - other[at]!) <= step))
      return name;
  }
  if (a.swings.length !== b.swings.length) return 'what swings';
  const swings = new Map(b.swings);
  for (const [place, [low, high]] of a.swings) {
    const other = swings.get(place);
    if (!other || !isClose(low, other[0]) || !isClose(high, other[1])) return 'what swings';
  }
  return a.invalid.length === b.invalid.length ? null : 'what may not be trusted';
}
