import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import { loadSheet, netOf, type NetId } from '../board/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { sums, workSum } from '../sums/index.ts';
import { sumFills } from './index.ts';

const boardOf = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('a demo sheet does not load');
  return loaded.value;
};
const cairn = boardOf(cairnText);

describe('sums filled in from the sheet', () => {
  it('every fill is one the sum takes, and gives figures', () => {
    for (const sum of sums)
      for (const { label, typed } of sumFills(cairn, sum.id)) {
        const usual = Object.fromEntries(sum.inputs.map((one) => [one.key, one.usual]));
        expect([sum.id, label, Object.keys(typed).filter((key) => !(key in usual))]).toEqual([
          sum.id,
          label,
          [],
        ]);
        expect([sum.id, label, workSum(sum, { ...usual, ...typed }).ok]).toEqual([
          sum.id,
          label,
          true,
        ]);
      }
  });

  it('a divider worked out is what the healthy board plays there', () => {
    const healthy = studyHealthyBoard(cairn);
    const divider = sums.find((one) => one.id === 'divider');
    const fill = sumFills(cairn, 'divider').find((one) => one.label.startsWith('ACDET'));
    if (!divider || !fill) throw new Error('ACDET has no divider');
    const done = workSum(divider, { ...fill.typed, load: '10M', tolerance: '0' });
    const middle = done.ok ? done.answer.results[0]?.value : null;
    const played = healthy.play.phases.get('standby')?.volts.get('ACDET' as NetId) ?? 0;
    expect(middle).toBeCloseTo(played, 1);
    expect(netOf(cairn, 'ACDET' as NetId).volts).toBeCloseTo(Number(middle), 1);
  });

  it('sense resistors, rails with their capacitors, lines with one', () => {
    expect(sumFills(cairn, 'sense').map((one) => one.label.split(' ')[0])).toContain('PR1');
    const main = sumFills(cairn, 'energy').find((one) => one.label.startsWith('VMAIN'));
    expect(Number(main?.typed.farads)).toBeGreaterThan(10e-6);
    expect(sumFills(cairn, 'rc').length).toBeGreaterThan(0);
    // A sheet without parts has little to fill in, and nothing of it is made up.
    expect(sumFills(boardOf(beckText), 'divider')).toEqual([]);
    expect(sumFills(cairn, 'gauge')).toEqual([]);
  });
});
