import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import { loadSheet } from '../../board/index.ts';
import { parseSweepPaste } from '../index.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the demo sheet does not load');
const board = loaded.value;
const brief = ({ rows }: ReturnType<typeof parseSweepPaste>) =>
  rows.map(({ reading: { at, mode, value } }) => [
    at.net,
    mode,
    value.kind === 'number' ? value.value : value.kind,
  ]);

describe('cold readings pasted', () => {
  it('from two columns of a spreadsheet, with decimal commas and any name of a net', () => {
    const pasted = parseSweepPaste(board, 'B+\t45k\nVIN\t0,4\nTP4\t900\nVCORE\tOL\n', 'ohms');
    expect(pasted.troubles).toEqual([]);
    expect(brief(pasted)).toEqual([
      ['VMAIN', 'ohms', 45000],
      ['VIN', 'ohms', 0.4],
      ['3V3_ALW', 'ohms', 900],
      ['VCORE', 'ohms', 'over'],
    ]);
    expect(pasted.rows.every(({ reading }) => reading.phase === 'cold')).toBe(true);
  });

  it('from a table with ohms and diode side by side, in any order of columns', () => {
    const text = 'Note,Diode (V),Rail,Ohms\nfirst,0.36,3V3_ALW,900\n,,VMAIN,45k\n';
    const pasted = parseSweepPaste(board, text, 'diode');
    expect(brief(pasted)).toEqual([
      ['3V3_ALW', 'ohms', 900],
      ['3V3_ALW', 'diode', 0.36],
      ['VMAIN', 'ohms', 45000],
    ]);
    expect(pasted.rows[0]?.reading.note).toBe('first');
    expect(pasted.rows[1]?.reading.polarity).toBe('black-on-point');
  });

  it('names every bad row by its line and keeps the others', () => {
    const text =
      'net;mode;value\nVMAIN;ohms;45k\nVMIAN;ohms;45k\nVIN;ohms;abc\n\nVIN;farads;3\nVIN_JACK;ohms;\n';
    const { rows, troubles } = parseSweepPaste(board, text, 'ohms');
    expect(rows.map((one) => one.line)).toEqual([2]);
    expect(troubles.map((one) => one.line)).toEqual([3, 4, 6, 7]);
    expect(troubles[0]?.text).toMatch(/no net or point "VMIAN"/);
    expect(troubles[2]?.text).toMatch(/no mode "farads"/);
    expect(troubles[3]?.text).toMatch(/not measured/);
  });

  it('reads a sweep of sixty rows with three bad ones', () => {
    const nets = board.nets.filter((net) => net.id !== 'GND').slice(0, 60);
    const lines = nets.map(
      (net, index) => `${net.id}\t${index % 20 === 7 ? 'four' : `${index + 1}k`}`,
    );
    const { rows, troubles } = parseSweepPaste(board, lines.join('\r\n'), 'ohms');
    expect(rows).toHaveLength(57);
    expect(troubles.map((one) => one.line)).toEqual([8, 28, 48]);
    expect(rows.at(-1)?.reading.value).toMatchObject({ kind: 'number', value: 60000 });
  });

  it('never takes half of a decimal comma for the value', () => {
    const { rows, troubles } = parseSweepPaste(board, 'VIN,0,4\nVMAIN,45k\n', 'ohms');
    expect(rows.map((one) => one.line)).toEqual([2]);
    expect(troubles).toMatchObject([
      {
        line: 1,
        text: '3 cells for 2 columns. Is "0,4" one number? Write 0.4, or put it in quotes.',
      },
    ]);
  });

  it('never takes 45,2 for 45 under a header either', () => {
    const { rows, troubles } = parseSweepPaste(board, 'net,value\nVMAIN,45,2\nVIN,"0,4"\n', 'ohms');
    expect(brief({ rows, troubles })).toEqual([['VIN', 'ohms', 0.4]]);
    expect(troubles).toMatchObject([{ line: 2, text: expect.stringContaining('Write 45.2') }]);
  });

  it('refuses what a page would refuse: volts are no cold reading, and no ohm is negative', () => {
    const { rows, troubles } = parseSweepPaste(board, 'VMAIN\t-45\nVIN\t12\n', 'ohms');
    expect(brief({ rows, troubles })).toEqual([['VIN', 'ohms', 12]]);
    expect(troubles[0]?.text).toContain('cannot be negative');
  });

  it('says that an empty paste holds nothing', () => {
    expect(parseSweepPaste(board, '  \n\n', 'ohms')).toEqual({ rows: [], troubles: [] });
  });
});
