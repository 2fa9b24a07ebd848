import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import { loadSheet } from '../board/index.ts';
import { compareSheets, pinRowsOf, rowsOf, withPinRows, withRows } from './index.ts';
import { changed } from './test-tables.ts';

describe('tables of a sheet', () => {
  it('a cell typed over is that change and no other, comments kept', () => {
    const after = changed(cairnText, 'parts', (rows) =>
      rows.map((row) => (row.name === 'R10' ? { ...row, value: '22k' } : row)),
    );
    expect(compareSheets(cairnText, after)).toEqual([expect.stringMatching(/^R10 \S+ -> 22k$/)]);
    const comments = (text: string): number => text.match(/^\s*#/gm)?.length ?? 0;
    expect(comments(after)).toBe(comments(cairnText));
  });

  it('volts, ranges, lists, pins by name and "no" are read as written', () => {
    let text = changed(beckText, 'nets', (rows) =>
      rows.map((row) =>
        row.name === '5V_RUN'
          ? { ...row, volts: '4,9 to 5.2' }
          : row.name === 'VCORE'
            ? { ...row, volts: '0.9', aliases: 'VDD, +VCC' }
            : row,
      ),
    );
    text = changed(text, 'parts', (rows) => [
      ...rows.map((row) => (row.name === 'R2' ? { ...row, fitted: 'no' } : row)),
      { was: null, name: 'J4', kind: 'connector', pins: '1: 5V_RUN, 2: GND' },
    ]);
    const loaded = loadSheet(text);
    if (!loaded.ok) throw new Error('does not load');
    const net = (id: string) => loaded.value.nets.find((one) => one.id === id);
    expect(net('5V_RUN')?.rangeVolts).toEqual([4.9, 5.2]);
    expect(net('VCORE')).toMatchObject({ volts: 0.9, rangeVolts: null, aliases: ['VDD', '+VCC'] });
    expect(loaded.value.parts.find((one) => one.ref === 'R2')?.fitted).toBe(false);
    expect(loaded.value.parts.find((one) => one.ref === 'J4')?.pins).toEqual([
      { name: '1', net: '5V_RUN' },
      { name: '2', net: 'GND' },
    ]);
  });

  it('a net renamed in its table is renamed where it is used; rows taken out are gone', () => {
    const after = changed(beckText, 'nets', (rows) =>
      rows.map((row) => (row.name === 'PS_ON' ? { ...row, name: 'ON_RUN' } : row)),
    );
    const loaded = loadSheet(after);
    expect(loaded.ok && loaded.value.chips.find((one) => one.ref === 'U1')?.pins.get('ON')).toBe(
      'ON_RUN',
    );
    const fewer = changed(beckText, 'parts', (rows) => rows.filter((row) => row.name !== 'R4'));
    expect(compareSheets(beckText, fewer)).toEqual(['R4 taken out']);
  });

  it('names twice are refused, an unfinished row waits', () => {
    const rows = rowsOf(beckText, 'parts');
    const twice = withRows(beckText, 'parts', [...rows, { was: null, name: 'R1', kind: 'fuse' }]);
    expect(twice.ok ? '' : twice.error.join()).toContain('R1 is there twice');
    const waits = withRows(beckText, 'parts', [...rows, { was: null, name: '', kind: 'fuse' }]);
    expect(waits.ok && compareSheets(beckText, waits.value)).toEqual([]);
  });

  it('pins of a chip are put on other nets, and a new chip is made by its pins', () => {
    const rows = pinRowsOf(fellText).map((row) =>
      row.was === 'U6.EN' ? { ...row, net: 'AON_PG' } : row,
    );
    const done = withPinRows(fellText, [
      ...rows,
      { was: null, chip: 'U30', pin: 'A1', net: '5V_AON' },
    ]);
    if (!done.ok) throw new Error(done.error.join());
    expect(compareSheets(fellText, done.value)).toEqual([
      'U6.EN on PRIM_EN -> AON_PG',
      'U30 added (generic)',
    ]);
  });

  it('numbers of pins are set, changed and taken out in the same table', () => {
    const numbered = (text: string, number: string): string => {
      const rows = pinRowsOf(text).map((row) => (row.was === 'U6.EN' ? { ...row, number } : row));
      const done = withPinRows(text, rows);
      if (!done.ok) throw new Error(done.error.join());
      return done.value;
    };
    const once = numbered(fellText, '7');
    expect(pinRowsOf(once).find((row) => row.was === 'U6.EN')).toMatchObject({ number: '7' });
    expect(compareSheets(fellText, once)).toEqual(['U6.EN is pin 7']);
    const again = numbered(once, 'B2');
    expect(compareSheets(once, again)).toEqual(['U6.EN is pin B2']);
    expect(compareSheets(fellText, numbered(again, ''))).toEqual([]);
  });

  it('500 parts pasted are 500 parts, in less than a second', () => {
    const many = Array.from({ length: 500 }, (_, at) => ({
      was: null,
      name: `R${1000 + at}`,
      kind: 'resistor',
      pins: '5V_RUN, GND',
      value: '10k',
    }));
    const after = changed(beckText, 'parts', (rows) => [...rows, ...many]);
    const loaded = loadSheet(after);
    expect(loaded.ok && loaded.value.parts).toHaveLength(504);
  });
});
