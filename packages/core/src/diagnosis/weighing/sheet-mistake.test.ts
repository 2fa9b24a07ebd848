import { describe, expect, it } from 'vitest';
import { plainReading, sharedDictionary } from '@jiko/testing';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, sheetLine, type GoalId, type NetId, type PartRef } from '../../board/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { attachedIn, playFaulty, shownVolts, usualSetup } from '../../play/index.ts';
import type { Fault } from '../../faults/index.ts';
import { makeDiagnoser, noEvidence, type Diagnosis } from '../index.ts';

const loadedAs = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet does not load');
  return loaded.value;
};
const board = loadedAs(cairn);
const setup = usualSetup(board);
const attached = attachedIn(board, setup);
const { stages } = studyHealthyBoard(board, setup);
const diagnoser = makeDiagnoser(board, stages, sharedDictionary(board, setup), setup);

/** The board as it really is: a sheet with other text in one place. */
const really = (stated: string, is: string) => {
  expect(cairn.split(stated)).toHaveLength(2);
  return loadedAs(cairn.replace(stated, is));
};
/** What is read in `trying` on a real board with a fault, weighed by the sheet as it is written. */
function read(real: typeof board, faults: readonly Fault[], nets: readonly string[]): Diagnosis {
  const play = playFaulty(real, setup, faults);
  const readings = nets.map((net, at) => {
    const value = Number(shownVolts(play.phases.get('trying')!, net as NetId).toPrecision(4));
    const read = { kind: 'number', value, trend: 'steady' } as const;
    return { id: String(at), reading: plainReading(net, 'volts', 'trying', read, { attached }) };
  });
  return diagnoser.diagnose(
    { ...noEvidence, readings, goal: 'boots' as GoalId },
    { phase: 'trying', side: '' },
    3,
  );
}

const otherMemory = really(
  'title: "1V2_MEM", marking: TV3120, volts: 1.2',
  'title: "1V2_MEM", marking: TV3120, volts: 1.35',
);
const onTheWay = ['VIN', 'VMAIN', '3V3_ALW', '5V_ALW', '1V8_S5', '1V05_S5', 'SUS_EN'];
const behind = ['1V2_MEM', 'MEM_PG', 'RUN_EN', '5V_RUN'];
const points = [...onTheWay, ...behind];
const openCoil: Fault = { kind: 'open', part: 'PL9' as PartRef };
const offBy = (factor: number): Fault => ({
  kind: 'off-value',
  part: 'PU6' as PartRef,
  pin: 'SW',
  factor,
});
const chanceOf = ({ suspects }: Diagnosis, part: string): number =>
  suspects
    .filter(({ faults }) => faults.some(({ fault }) => 'part' in fault && fault.part === part))
    .reduce((sum, one) => sum + one.probability, 0);

describe('a sheet that states other volts than its boards have', () => {
  it('is doubted at that rail, with the line that says so, and the maker of the rail is not accused', () => {
    const diagnosis = read(otherMemory, [openCoil], points);
    const [doubt, ...more] = diagnosis.sheet;
    expect(more).toEqual([]);
    expect(doubt).toMatchObject({ net: '1V2_MEM', path: ['chips', 'PU6'] });
    expect([doubt!.says, doubt!.reads].map((one) => one.toFixed(2))).toEqual(['1.20', '1.35']);
    expect(cairn.split('\n')[sheetLine(board, doubt!.path)! - 1]).toContain('volts: 1.2,');
    expect(doubt!.probability).toBeGreaterThan(0.2);
    expect(chanceOf(diagnosis, 'PU6')).toBeLessThan(0.02);
  });
  it('leaves the fault behind it to be found as by a sheet that is right', () => {
    const all = [...points, '3V3_RUN', 'VCORE', 'RUN_PG'];
    const mistaken = read(otherMemory, [openCoil], all);
    const right = read(board, [openCoil], all);
    expect(right.sheet).toEqual([]);
    expect(mistaken.suspects[0]!.title).toBe(right.suspects[0]!.title);
    expect(chanceOf(mistaken, 'PL9')).toBeCloseTo(chanceOf(right, 'PL9'), 2);
  });
  it('is not doubted where the rail is as it says, at no usual volts, or down', () => {
    expect(read(board, [], points).sheet).toEqual([]);
    expect(read(board, [offBy(0.9)], points).sheet).toEqual([]);
    expect(read(board, [{ kind: 'dead', part: 'PU6' as PartRef }], points).sheet).toEqual([]);
  });
  it('is less likely than a maker off its volts where what hangs behind the rail does not come', () => {
    const diagnosis = read(board, [offBy(0.7)], points);
    expect(diagnosis.suspects[0]!.title).toContain('PU6');
    for (const { probability } of diagnosis.sheet)
      expect(probability).toBeLessThan(diagnosis.suspects[0]!.probability / 3);
  });
});
