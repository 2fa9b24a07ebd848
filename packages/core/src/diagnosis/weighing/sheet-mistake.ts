import { joinedNets, netById, type NetId, type Origin } from '../../board/index.ts';
import { somethingVolts, type Reading } from '../../readings/index.ts';
import type { Evidence } from '../evidence/evidence.ts';
import type { Observation } from './observation.ts';
import { logLikelihood } from './likelihood.ts';
import { voltsSigma } from './volts-likelihood.ts';
import { valuesAt, type Table } from './table.ts';

// A sheet may state other volts for a rail than its boards have: written down from a board of another memory,
// or slipped by a line. Then the rail reads another usual voltage on every good board, and no part is at fault.
// All readings of the rail share that one mistake, whatever else is wrong.

/** How often a sheet states wrong volts for a rail, by where they come from. Guesses, no source. */
const mistakeShare: Record<Origin, number> = {
  schematic: 0.003,
  datasheet: 0.003,
  'known-good': 0.001,
  'rule-of-thumb': 0.02,
  guess: 0.02,
};
/** Volts that rails of mainboards are made for (common practice, no source; memory: JEDEC nominal volts, from memory). */
const usualRails = [
  0.6, 0.75, 0.9, 1, 1.05, 1.1, 1.2, 1.35, 1.5, 1.8, 2.5, 3.3, 5, 8, 12, 15, 19,
] as const;
/** Others than these parts of what the sheet says are no slip of a line. */
const withinParts = [0.4, 2.6] as const;
/** So many standard deviations off the sheet's volts it is worth asking; so near to usual ones they are meant. */
const offSpreads = 3;

/** A rail of which the sheet may state the wrong volts. */
export interface SheetDoubt {
  net: NetId;
  /** What the sheet makes of it and what it reads, in volts. */
  says: number;
  reads: number;
  /** Where the sheet says so: the entry of the net, or of the chip that makes its volts (see `sheetLine`). */
  path: readonly ['nets' | 'chips', string];
  probability: number;
}

/** A doubt before it is weighed: by row, how much of the rail's readings the mistake explains (0 to 1). */
export interface Doubted extends Omit<SheetDoubt, 'probability'> {
  share: Float64Array;
}

/**
 * The observations with the readings of each rail that stands at other usual volts weighed as one: as the
 * sheet has it, or as a sheet with that mistake would. `strength` is what each of them counts, a power.
 */
export function withSheetMistakes(
  table: Table,
  evidence: Evidence,
  used: readonly Observation[],
  strength: number,
): { used: Observation[]; doubts: Doubted[] } {
  const readings = new Map(evidence.readings.map(({ id, reading }) => [id, reading]));
  const byPlace = new Map<number, { observation: Observation; reading: Reading }[]>();
  for (const observation of used) {
    const { at, id, stint, byFault } = observation;
    const reading = id === null ? undefined : readings.get(id);
    const place = at?.nets[0];
    if (!at?.steady || !reading || place === undefined || stint !== undefined || byFault) continue;
    if (table.where[place] !== 'rail' || table.isCore[place] || table.ranges[place]) continue;
    byPlace.set(place, [...(byPlace.get(place) ?? []), { observation, reading }]);
  }
  const replaced = new Map<Observation, Observation>();
  const doubts: Doubted[] = [];
  for (const [place, own] of byPlace) {
    const found = mistakeAt(table, place, own);
    if (!found) continue;
    const rows = table.dictionary.rows;
    const share = new Float64Array(rows);
    const [first, ...others] = own.map(({ observation }) => observation) as [
      Observation,
      ...Observation[],
    ];
    const byRow = new Float64Array(rows);
    for (let row = 0; row < rows; row++) {
      let asStated = 0;
      for (const { observation } of own) asStated += strength * observation.byRow[row]!;
      const stated = Math.log(1 - found.prior) + asStated;
      const mistaken = Math.log(found.prior) + strength * found.logs[row]!;
      const most = Math.max(stated, mistaken);
      const both = most + Math.log(Math.exp(stated - most) + Math.exp(mistaken - most));
      byRow[row] = both / strength;
      share[row] = Math.exp(mistaken - both);
    }
    // The first of its readings stands for all of them; sizes on the way know nothing of the mistake.
    replaced.set(first, { ...first, byRow, between: undefined });
    for (const other of others)
      replaced.set(other, { ...other, byRow: new Float64Array(rows), between: undefined });
    const net = table.dictionary.nets[place]!;
    doubts.push({ net, says: found.says, reads: found.reads, path: pathOf(table, net), share });
  }
  return { used: used.map((one) => replaced.get(one) ?? one), doubts };
}

/** The other usual volts a rail stands at; null where it stands as the sheet has it, or at none. */
function mistakeAt(
  table: Table,
  place: number,
  own: readonly { observation: Observation; reading: Reading }[],
): { says: number; reads: number; prior: number; logs: Float64Array } | null {
  const { dictionary, tolerances } = table;
  const tolerance = tolerances[place]!;
  let found: { says: number; reads: number; usual: number; of: number } | null = null;
  for (const { observation } of own) {
    const { volts, phase } = observation.at!.steady!;
    const says = valuesAt(table, 'volts', phase, place).value(0);
    if (!(says > somethingVolts) || volts < somethingVolts) continue;
    if (Math.abs(volts - says) < offSpreads * voltsSigma(says, 'rail', tolerance)) continue;
    const near = usualRails.filter(
      (one) =>
        one > withinParts[0] * says &&
        one < withinParts[1] * says &&
        Math.abs(one - says) > offSpreads * voltsSigma(says, 'rail'),
    );
    const usual = near.find((one) => Math.abs(one - volts) < offSpreads * voltsSigma(one, 'rail'));
    if (usual !== undefined) found ??= { says, reads: volts, usual, of: near.length };
  }
  if (!found) return null;
  const { says, reads, usual, of } = found;
  const origin = netById(table.board, dictionary.nets[place]!)?.origin ?? 'guess';
  const logs = new Float64Array(dictionary.rows);
  for (const { reading } of own) {
    const values = valuesAt(table, 'volts', reading.phase, place);
    const point = {
      where: 'rail' as const,
      healthy: values.value(0) > somethingVolts ? usual : values.value(0),
      upVolts: usual,
      cold: { kind: 'drawn' as const },
      isCore: false,
    };
    for (let row = 0; row < dictionary.rows; row++) {
      const value = (values.value(row) * usual) / says;
      const prediction = { value, swing: null, span: null, near: [] };
      const log = logLikelihood('volts', reading.value, prediction, point);
      logs[row]! += Number.isNaN(log) ? own[0]!.observation.byNone : log;
    }
  }
  return { says, reads, prior: mistakeShare[origin] / of, logs };
}

/** The entry of the chip that makes its volts, else that of the net. */
function pathOf({ board }: Table, net: NetId): SheetDoubt['path'] {
  const groups = joinedNets(board);
  const isSame = (other: NetId | undefined): boolean =>
    other === net || (other !== undefined && groups.get(other) === groups.get(net));
  for (const { ref, behaviours, pins } of board.chips)
    for (const one of behaviours)
      if (one.do === 'regulator' && isSame(pins.get(one.sense))) return ['chips', ref];
  return ['nets', net];
}

/** How likely each mistake is, under all rows and their weights. */
export const weighDoubts = (doubts: readonly Doubted[], weights: Float64Array): SheetDoubt[] =>
  doubts
    .map(({ share, ...doubt }) => ({
      ...doubt,
      probability: share.reduce((sum, part, row) => sum + part * weights[row]!, 0),
    }))
    .sort((a, b) => b.probability - a.probability);
