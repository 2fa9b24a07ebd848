import { describe, expect, it } from 'vitest';
import { plainReading, sharedDictionary } from '@jiko/testing';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type GoalId, type NetId } from '../../board/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { attachedIn, playFaulty, shownVolts, usualSetup } from '../../play/index.ts';
import type { Fault } from '../../faults/index.ts';
import { makeDiagnoser, noEvidence, type Diagnosis } from '../index.ts';
import { mixedLogs } from './meter-gain.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('cairn-14 does not load');
const board = loaded.value;
const setup = usualSetup(board);
const attached = attachedIn(board, setup);
const { stages } = studyHealthyBoard(board, setup);
const dictionary = sharedDictionary(board, setup);
const diagnoser = makeDiagnoser(board, stages, dictionary, setup);
const listed = (is: (fault: Fault) => boolean): Fault => {
  const found = dictionary.faults.find(is);
  if (!found) throw new Error('no such fault');
  return found;
};
const maker = board.chips.find(({ pins, behaviours }) =>
  behaviours.some((does) => does.do === 'regulator' && pins.get(does.sense) === '1V05_S5'),
)!.ref;
const dead = listed((fault) => fault.kind === 'dead' && fault.part === maker && !fault.letsGo);
const low = listed(
  (fault) => fault.kind === 'off-value' && fault.part === maker && fault.factor < 0.9,
);
const rails = ['VIN_JACK', 'VIN', '3V3_EC', '5V_ALW', '3V3_ALW', '1V8_S5', '1V05_S5'] as NetId[];

/** The board with a fault, its rails and some more points read by a meter that is off by a factor. */
function readBy(gain: number, faults: readonly Fault[], more: readonly NetId[]): Diagnosis {
  const play = playFaulty(board, setup, faults);
  const readings = [...rails, ...more].map((net, at) => {
    const snapshot = play.phases.get('trying')!;
    const value = Number((shownVolts(snapshot, net) * gain).toPrecision(4));
    return {
      id: String(at),
      reading: plainReading(
        net,
        'volts',
        'trying',
        { kind: 'number', value, trend: 'steady' },
        { attached },
      ),
    };
  });
  return diagnoser.diagnose(
    { ...noEvidence, readings, goal: 'boots' as GoalId },
    { phase: 'trying', side: '' },
    3,
  );
}

describe('a meter that is off', () => {
  it.each([0.93, 0.96, 1.04, 1.07])('by %s for all its volts accuses nobody else', (gain) => {
    const right = readBy(1, [dead], ['S5_EN' as NetId]);
    const off = readBy(gain, [dead], ['S5_EN' as NetId]);
    expect(off.suspects[0]?.title).toBe(right.suspects[0]?.title);
    expect(off.suspects[0]!.probability).toBeCloseTo(right.suspects[0]!.probability, 1);
    expect(off.none).toBeLessThan(2 * right.none);
  });

  it('is no excuse for one rail alone', () => {
    const found = readBy(1, [low], []);
    expect(found.healthy).toBeLessThan(0.01);
    const titles = found.suspects.slice(0, 2).map(({ title }) => title);
    expect(titles.join()).toMatch(new RegExp(`1V05_S5|${maker}`));
  });
});

it('the mean of likelihoods is taken by row, with their shares', () => {
  const logs = [Float64Array.of(0, -Infinity, -1000), Float64Array.of(-Infinity, -Infinity, -1001)];
  const mixed = mixedLogs(logs, [0.75, 0.25]);
  expect(mixed[0]).toBeCloseTo(Math.log(0.75), 12);
  expect(mixed[1]).toBe(-Infinity);
  expect(mixed[2]).toBeCloseTo(-1000 + Math.log(0.75 + 0.25 / Math.E), 9);
});
