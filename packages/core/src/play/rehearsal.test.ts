import { describe, expect, it } from 'vitest';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../sheets/fell-13.yaml?raw';
import { draw, seeded } from '../base/index.ts';
import { loadSheet, asOnBench, type Board } from '../board/index.ts';
import { faultName, listFaults, withFault, type Fault } from '../faults/index.ts';
import { poweredPhases, usualMeter } from '../readings/index.ts';
import { makeColdMeter } from '../cold/index.ts';
import { makeDictionary, outcomeOf, voltsPlace, type Dictionary } from '../dictionary/index.ts';
import { playBoard, playFault, rehearse, shownVolts, usualSetup } from './index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';

const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return loaded.value;
};
const finish = (making: Generator<unknown, Dictionary>): Dictionary => {
  for (;;) {
    const step = making.next();
    if (step.done) return step.value;
  }
};
const chosen = (board: Board, count: number, seed: number): Fault[] => {
  const chance = seeded(seed);
  const faults = listFaults(board);
  return Array.from({ length: count }, () => draw(faults, chance));
};

describe('a play that begins where its fault does', () => {
  it.each([
    ['Cairn 14', load(cairn), 40],
    ['Fell 13', load(fell), 25],
    ['Beck mini', load(beck), 25],
  ])('%s: ends like the same play from the start (drawn with seed 17)', (_name, board, count) => {
    const setup = usualSetup(board);
    const rehearsal = rehearse(board, setup);
    for (const fault of chosen(board, count, 17)) {
      const plain = playBoard(withFault(board, fault), setup);
      const quick = playFault(rehearsal, [fault]);
      expect(quick.status, faultName(fault)).toBe(plain.status);
      for (const phase of poweredPhases) {
        for (const [net, volts] of plain.phases.get(phase)?.volts ?? []) {
          const other = quick.phases.get(phase)?.volts.get(net) ?? 0;
          // Means over a cycle differ in the last digits.
          // ... and a pin that is cut off floats by what leaks into it.
          const floats = net.endsWith('(open)');
          const slack = plain.phases.get(phase)?.swinging.size || floats ? 0.02 : 0.01;
          expect(Math.abs(volts - other), `${faultName(fault)}, ${net} ${phase}`).toBeLessThan(
            slack,
          );
        }
      }
    }
  });
});

describe('the fault dictionary', () => {
  const board = load(fell);
  const setup = usualSetup(board);
  const dictionary = finish(makeDictionary(board, setup));

  it('holds every single fault, and none that could not be played', () => {
    expect(dictionary.faults).toEqual(listFaults(board));
    expect([...dictionary.invalid]).toEqual([]);
    expect(dictionary.rows).toBeLessThan(dictionary.faults.length);
    expect(Math.max(...dictionary.rowOf)).toBe(dictionary.rows - 1);
  });

  it('says what the play says and what the meter reads (drawn with seed 3)', () => {
    const bare = asOnBench(board, setup);
    for (const fault of chosen(board, 12, 3)) {
      const row =
        dictionary.rowOf[dictionary.faults.indexOf(fault)] ??
        dictionary.rowOf[
          dictionary.faults.findIndex((one) => faultName(one) === faultName(fault))
        ]!;
      const faulty = withFault(board, fault);
      const play = playBoard(faulty, setup);
      const meter = makeColdMeter(asOnBench(faulty, setup), usualMeter, bare);
      dictionary.nets.forEach((net, index) => {
        for (const phase of poweredPhases) {
          const said = dictionary.volts[voltsPlace(dictionary, row, phase, index)]!;
          const swings = dictionary.swings.has(voltsPlace(dictionary, row, phase, index));
          const played = shownVolts(play.phases.get(phase)!, net);
          if (!swings)
            expect(Math.abs(said - played), `${faultName(fault)} ${net}`).toBeLessThan(0.02);
        }
        for (const mode of ['ohms', 'diode'] as const) {
          const read = mode === 'ohms' ? meter.ohms(net) : meter.diode(net, 'black-on-point');
          const said = dictionary[mode][row * dictionary.nets.length + index]!;
          if (read.kind === 'over') expect(said).toBe(Infinity);
          // Nets a fault hardly touches keep the healthy reading: within a twentieth.
          if (read.kind === 'value')
            expect(Math.abs(said - read.value)).toBeLessThan(0.05 * Math.max(0.05, read.value));
        }
      });
    }
  });

  it('can be left at any row', () => {
    const making = makeDictionary(board, setup);
    expect(making.next().value).toMatchObject({ done: 0, total: dictionary.rows });
    for (let row = 0; row < 5; row++) making.next();
    expect(making.return(dictionary).done).toBe(true);
    expect(making.next().done).toBe(true);
  });

  it('sums each fault up: the first missing stage, the goals still reached, the draw', () => {
    const { stages } = studyHealthyBoard(board);
    const outcome = (name: string): ReturnType<typeof outcomeOf> => {
      const index = dictionary.faults.findIndex((fault) => faultName(fault) === name);
      return outcomeOf(board, stages, dictionary, dictionary.rowOf[index]!);
    };
    // Its power-good is pulled up all the same: the controller goes on without the rail.
    expect(outcome('U9 dead')).toMatchObject({ firstMissing: 'memory' });
    expect(outcome('U9 pin EN: trace open')).toMatchObject({
      firstMissing: 'memory',
      // It gives up and shuts down: after that it answers no more.
      reached: [],
    });
    expect(outcome('U1 dead')).toMatchObject({ reached: [], swings: false });
    expect(outcome('U1 dead').standbyAmps).toBeLessThan(0.001);
    expect(outcomeOf(board, stages, dictionary, 0)).toMatchObject({
      firstMissing: null,
      reached: ['boots', 'answers'],
      changed: 0,
    });
  });
});
