import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import { compareSheets, pinRowsOf, rowsOf, tables, withPinRows, type SheetTable } from './index.ts';
import { changed } from './test-tables.ts';

describe('tables of a whole sheet', () => {
  it('what was changed reads as it does after a fresh look at its text', () => {
    let text = cairnText;
    const edits: [SheetTable, string, string, string][] = [
      ['parts', 'R2', 'value', '022'],
      ['parts', 'F1', 'title', 'yes: a "fuse"'],
      ['nets', 'VMAIN', 'name', 'VMAIN_A'],
      ['chips', 'U22', 'marking', '1e3'],
      ['parts', 'C1', 'pins', 'VIN, GND'],
    ];
    for (const [table, of, key, value] of edits) {
      text = changed(text, table, (rows) =>
        rows.map((row) => (row.was === of ? { ...row, [key]: value } : row)),
      );
      for (const one of Object.keys(tables) as SheetTable[])
        expect(rowsOf(text, one)).toEqual(rowsOf(`${text}# read anew\n`, one));
    }
    expect(pinRowsOf(text)).toEqual(pinRowsOf(`${text}# read anew\n`));
  });

  it('rows put back as they are change nothing the sheet says', () => {
    for (const text of [cairnText, beckText, fellText]) {
      for (const table of Object.keys(tables) as SheetTable[])
        expect(
          compareSheets(
            text,
            changed(text, table, (rows) => rows),
          ),
        ).toEqual([]);
      const pins = withPinRows(text, pinRowsOf(text));
      expect(pins.ok && compareSheets(text, pins.value)).toEqual([]);
    }
  });
});
