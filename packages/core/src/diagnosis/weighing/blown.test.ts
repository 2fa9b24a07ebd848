import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type GoalId, type NetId } from '../../board/index.ts';
import { faultKey, parseFault, type Fault } from '../../faults/index.ts';
import { plainReading, sharedDictionary } from '@jiko/testing';
import { attachedIn, usualSetup } from '../../play/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { withRoom } from '../../dictionary/index.ts';
import type { ReadingValue } from '../../readings/index.ts';
import { makeDiagnoser, noEvidence } from '../index.ts';
import { blownLogPrior } from './blown.ts';
import { makeTable } from './table.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the demo sheet does not load');
const board = loaded.value;
const setup = usualSetup(board);
const dictionary = sharedDictionary(board, setup);
const rowOf = (text: string): number => {
  const parsed = parseFault(board, text);
  if (!parsed.ok) throw new Error(text);
  const key = faultKey(parsed.value);
  return dictionary.rowOf[dictionary.faults.findIndex((one: Fault) => faultKey(one) === key)]!;
};

describe('a short behind a fuse blows it', () => {
  const table = makeTable(board, dictionary);
  const logs = new Float64Array(dictionary.rows).fill(Math.log(1e-4));
  it.each([
    // The clamp is behind the input fuse and its ferrite, the jack before it.
    ['F1:open', 'D1:short', 0.3e-4],
    ['D1:short=1', 'F1:open', 0.3e-4],
    ['F1:open', 'VIN_F:short=10', 0.3e-4],
    ['F1:open', 'VIN:leak=100', 0],
    ['F1:open', 'VIN_JACK:short', 0],
    ['F1:open', '1V2_MEM:short', 0],
    // A fuse of its own for the backlight, fed from the main rail.
    ['F2:open', 'C84:short', 0.3e-4],
    ['F2:open', 'C6:short', 0],
    // What is no fuse, or not open, blows nothing.
    ['FB20:open', 'C20:short', 0],
    ['F1:high=20', 'D1:short', 0],
  ])('%s with %s: %f', (a, b, share) => {
    expect(Math.exp(blownLogPrior(table, [rowOf(a), rowOf(b)], logs))).toBeCloseTo(share, 9);
  });

  it.each([
    ['PQ1.D-S:short', 'PU1.ACDRV:stuck-released', 0.5e-4],
    ['PU1.ACDRV:stuck-released', 'PQ2:all-short', 0.5e-4],
    // Its gate, or a part that is no FET, holds nothing off; the wrong level lets it conduct.
    ['PQ1.G-S:short', 'PU1.ACDRV:stuck-released', 0],
    ['D1:short', 'PU1.ACDRV:stuck-released', 0],
    ['PQ1.D-S:short', 'PU1.ACDRV:stuck-low', 0],
    ['PQ3.D-S:short', 'PU1.ACDRV:stuck-released', 0],
  ])('what drives FETs holds them off where one is short: %s with %s: %f', (a, b, share) => {
    expect(Math.exp(blownLogPrior(table, [rowOf(a), rowOf(b)], logs))).toBeCloseTo(share, 9);
  });

  it('a third fault is no part of it, and what was not played says nothing', () => {
    const rows = [rowOf('F1:open'), rowOf('D1:short'), rowOf('C50:short')];
    expect(blownLogPrior(table, rows, logs)).toBe(-Infinity);
    const bare = withRoom(dictionary, 0);
    bare.amps.fill(NaN);
    expect(blownLogPrior(makeTable(board, bare), rows.slice(0, 2), logs)).toBe(-Infinity);
  });

  it('so a blown fuse and a shorted clamp are named together', () => {
    const { stages } = studyHealthyBoard(board, setup);
    const read = (net: string, value: number | null, mode: 'volts' | 'ohms', against?: string) => {
      const shown: ReadingValue =
        value === null ? { kind: 'over', limit: 40e6 } : { kind: 'number', value, trend: 'steady' };
      return {
        id: `${net} ${mode}`,
        reading: plainReading(net as NetId, mode, mode === 'volts' ? 'standby' : 'cold', shown, {
          attached: attachedIn(board, setup),
          against: (against ?? null) as NetId | null,
        }),
      };
    };
    const [first] = makeDiagnoser(board, stages, dictionary, setup).diagnose(
      {
        ...noEvidence,
        goal: 'boots' as GoalId,
        readings: [
          read('VIN_JACK', 19.5, 'volts'),
          read('VIN', 0, 'volts'),
          read('VIN', 0.3, 'ohms'),
          read('VIN_JACK', null, 'ohms', 'VIN_F'),
        ],
      },
      { phase: 'cold', side: '' },
      2,
    ).suspects;
    expect(first?.title).toBe(
      'Low resistance on VIN and F1 open or off its value or with a pin cut off',
    );
    expect(first?.probability).toBeGreaterThan(0.8);
  });
});
