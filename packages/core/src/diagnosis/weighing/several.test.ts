import { describe, expect, it } from 'vitest';
import fell from '../../../../../sheets/fell-13.yaml?raw';
import { loadSheet, type Board, type GoalId, type NetId } from '../../board/index.ts';
import { parseFault, withFaults, type Fault } from '../../faults/index.ts';
import { plainReading, sharedDictionary } from '@jiko/testing';
import { attachedIn, playBoard, shownVolts, usualSetup } from '../../play/index.ts';
import { makeRowPlayer, voltsPlace, withRoom } from '../../dictionary/index.ts';
import { readCold } from '../../cold/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { usualMeter, type Phase, type ReadingValue } from '../../readings/index.ts';
import { makeDiagnoser, noEvidence, type Diagnosis, type Evidence } from '../index.ts';

const loaded = loadSheet(fell);
if (!loaded.ok) throw new Error('the sheet does not load');
const board: Board = loaded.value;
const setup = usualSetup(board);
const dictionary = sharedDictionary(board, setup);
const { stages } = studyHealthyBoard(board, setup);
const faultsOf = (...names: string[]): Fault[] =>
  names.map((name) => {
    const parsed = parseFault(board, name);
    if (!parsed.ok) throw new Error(name);
    return parsed.value;
  });

/** What the board with these faults reads at some points, exactly. */
function evidence(
  faults: readonly Fault[],
  points: readonly (readonly [string, Phase])[],
): Evidence {
  const play = playBoard(withFaults(board, faults), setup);
  const cold = readCold(board, setup, faults, usualMeter);
  const nets = board.nets.filter((net) => net.id !== board.ground);
  return {
    ...noEvidence,
    goal: 'boots' as GoalId,
    readings: points.flatMap(([name, phase]) => {
      const net = name as NetId;
      const place = nets.findIndex((one) => one.id === net);
      const modes = phase === 'cold' ? (['ohms', 'diode'] as const) : (['volts'] as const);
      return modes.map((mode) => {
        const value =
          mode === 'volts' ? play.phases.get(phase as 'run')!.volts.get(net)! : cold[mode][place]!;
        const limit = mode === 'ohms' ? usualMeter.mostOhms : usualMeter.mostDiodeVolts;
        const read: ReadingValue =
          value === Infinity ? { kind: 'over', limit } : { kind: 'number', value, trend: 'steady' };
        return {
          id: `${name} ${mode} ${phase}`,
          reading: plainReading(net, mode, phase, read, { attached: attachedIn(board, setup) }),
        };
      });
    }),
  };
}

describe('rows of several faults', () => {
  it('read what a play of the board with all of them reads, powered and cold', () => {
    const faults = faultsOf('U6.OUT:short', 'U4:dead');
    const row = dictionary.rows;
    const grown = { ...withRoom(dictionary, 3), rows: row + 1 };
    const player = makeRowPlayer(board, setup);
    // A row that was another's before holds nothing of it.
    player.write(grown, row, faultsOf('U3.OUT:short'));
    player.write(grown, row, faults);
    const play = playBoard(withFaults(board, faults), setup);
    const cold = readCold(board, setup, faults, usualMeter);
    grown.nets.forEach((net, place) => {
      for (const phase of ['standby', 'trying', 'run'] as const)
        expect(grown.volts[voltsPlace(grown, row, phase, place)], `${net} ${phase}`).toBeCloseTo(
          shownVolts(play.phases.get(phase)!, net),
          3,
        );
      const [here, there] = [grown.ohms[row * grown.nets.length + place]!, cold.ohms[place]!];
      if (there !== Infinity) expect(Math.abs(here / there - 1), net).toBeLessThan(0.03);
      else expect(here, net).toBe(Infinity);
    });
    // What was there stays as it was.
    expect(grown.volts.slice(0, dictionary.volts.length)).toEqual(dictionary.volts);
    for (const place of grown.swings.keys())
      if (place >= dictionary.volts.length)
        expect(play.phases.get('run')!.swinging.size).not.toBe(0);
  });
});

describe('several faults as suspects', () => {
  // Powered, the first of the two hides the second; cold, both read low.
  const two = ['U6.OUT:short', 'U9.OUT:short'] as const;
  const points = [
    ['3V3_AON', 'standby'],
    ['5V_AON', 'standby'],
    ['1V8_PRIM', 'trying'],
    ['1V1_MEM', 'trying'],
    ['1V8_PRIM', 'cold'],
    ['1V1_MEM', 'cold'],
  ] as const;
  const diagnose = (text: Evidence): Diagnosis =>
    makeDiagnoser(board, stages, dictionary, setup).diagnose(
      text,
      { phase: 'standby', side: 'top' },
      4,
    );

  it('are named where no single fault explains what was seen, with the one to prove first', () => {
    const seen = evidence(faultsOf(...two), points);
    const { suspects } = diagnose(seen);
    expect(suspects[0]?.title).toMatch(/ and /);
    expect(suspects[0]?.faults[0]?.also).toHaveLength(1);
    expect(suspects[0]?.probability).toBeGreaterThan(0.4);
    expect(suspects[0]?.separate.text).toMatch(/^Prove one at a time/);
  });

  it('stay away where one fault is enough', () => {
    const { suspects } = diagnose(evidence(faultsOf(two[0]), points));
    expect(suspects[0]?.title).not.toMatch(/ and /);
    expect(suspects.filter((one) => one.title.includes(' and '))).toEqual([]);
  });
});
