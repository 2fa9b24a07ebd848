import { normal } from '../../inference/index.ts';
import { findPart, type Board, type PartKind } from '../../board/index.ts';
import type { Fault } from '../../faults/index.ts';
import { heatPhases, isPlayed, wattsIn } from '../../dictionary/index.ts';
import type { Reading } from '../../readings/index.ts';
import type { Observation } from './observation.ts';
import { faultAt, type Table } from './table.ts';

// Temperatures read at a part are held against the heat the plays put into it. How warm a watt makes
// a part hangs on its copper and the air: common practice, no source, and believed accordingly.

/** A bench, in degrees, and how far one differs from it. */
const roomCelsius = 24;
const roomSpread = 5;
/** Kelvin a watt warms a part by, on a board in still air. */
const kelvinPerWatt = { chip: 35, power: 60, small: 150 } as const;
const powerKinds: readonly PartKind[] = ['coil', 'pfet', 'nfet', 'fan'];
/** The rise is known to about this part of itself. */
const risePart = 0.6;
/** Hotter than this a part does not stay: it burns out, or the source gives in. */
const mostRise = 120;
/** Warm from a neighbour, or a short that heats what feeds it in bursts no play shows. */
const wrongShare = 0.15;
const spanCelsius = 150;
/** What is broken may be so hot as no play says. A guess. */
const anyHeat = 0.5;

/** Natural logarithm of the likelihood of degrees at a part that turns so many watts to heat. */
export function warmthLogLikelihood(celsius: number, watts: number, perWatt: number): number {
  const rise = Math.min(mostRise, watts * perWatt);
  const sigma = Math.hypot(roomSpread, risePart * rise);
  const density = normal(celsius - roomCelsius - rise, sigma);
  return Math.log(wrongShare / spanCelsius + (1 - wrongShare) * density);
}

const perWattOf = (board: Board, ref: string): number => {
  const part = findPart(board, ref);
  if (!part) return kelvinPerWatt.chip;
  return powerKinds.includes(part.kind) ? kelvinPerWatt.power : kelvinPerWatt.small;
};

/** Why degrees say nothing; null where they do. */
export function whyNoWarmth({ dictionary }: Table, reading: Reading): string | null {
  if (reading.phase === 'cold') return 'nothing is warm without a source';
  if (reading.value.kind !== 'number') return 'only degrees that were read count';
  if (reading.at.part === null) return 'temperatures count at a part: say which';
  return dictionary.heated.includes(reading.at.part)
    ? null
    : `${reading.at.part} does not get warm in any play`;
}

/** Degrees at a part under every row. */
export function warmthObservation(table: Table, id: string, reading: Reading): Observation | null {
  const { board, dictionary } = table;
  const { value, at } = reading;
  if (whyNoWarmth(table, reading) !== null || value.kind !== 'number' || at.part === null)
    return null;
  const part = dictionary.heated.indexOf(at.part);
  const phase = reading.phase === 'standby' ? heatPhases[0] : heatPhases[1];
  const perWatt = perWattOf(board, at.part);
  const of = (row: number, place: number): number =>
    warmthLogLikelihood(value.value, wattsIn(dictionary, row, phase, place), perWatt);
  // A fault of no list: as warm as on a good board, or anything.
  const byNone = Math.log(0.8 * Math.exp(of(0, part)) + 0.2 / spanCelsius);
  const byRow = new Float64Array(dictionary.rows);
  for (let row = 0; row < dictionary.rows; row++)
    byRow[row] = isPlayed(dictionary, row) ? of(row, part) : byNone;
  // Faults that read alike share a row, which was played with one of them: the heat is at the part that is
  // broken, whichever of them was played. A chip gets warm by what it feeds as well.
  const isPart = board.parts.some((one) => one.ref === at.part);
  let isMoved = false;
  const byFault = Float64Array.from(dictionary.faults, (fault, index) => {
    const row = dictionary.rowOf[index]!;
    const own = partOf(fault);
    const played = dictionary.heated.indexOf(partOf(faultAt(table, row)) ?? '');
    if (!isPart || !isPlayed(dictionary, row) || own === null || played < 0) return byRow[row]!;
    if (own !== at.part && played !== part) return byRow[row]!;
    if (own !== at.part && dictionary.heated[played] === own) return byRow[row]!;
    isMoved = true;
    if (own !== at.part) return of(0, part);
    // How hot a short gets hangs on its ohms and on what the source gives into it: anything.
    return Math.log((1 - anyHeat) * Math.exp(of(row, played)) + anyHeat / spanCelsius);
  });
  return { id, text: `${at.part} warm`, byRow, byNone, ...(isMoved ? { byFault } : {}) };
}

const partOf = (fault: Fault | null): string | null =>
  fault && 'part' in fault ? fault.part : null;
