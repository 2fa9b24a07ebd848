import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { readCsv, writeCsv } from './csv.ts';

describe('cells a spreadsheet would run', () => {
  it.each(["=cmd|'/c calc'!A1", '+1+1', '-1+1', '@SUM(A1)', '\t=1', '+5V_ALW', '-12V', '＝1'])(
    '%j is text for a spreadsheet, and reads back as it was',
    (cell) => {
      const text = writeCsv([['name', cell]]);
      // As any other program reads it.
      expect(Papa.parse<string[]>(text.trim()).data[0]?.[1]).toBe(`'${cell}`);
      expect(readCsv(text.trim()).data[0]).toEqual(['name', cell]);
    },
  );
  it.each(['-0.5', '+3.3', '1e-3', '-.5', '3V3', "it's", "'quoted'", ''])(
    '%j is left as it is',
    (cell) => {
      expect(Papa.parse<string[]>(writeCsv([['a', cell]]).trim()).data[0]?.[1] ?? '').toBe(cell);
      expect(readCsv(writeCsv([['a', cell]]).trim()).data[0]).toEqual(['a', cell]);
    },
  );
  it('any cells come back as they were', () => {
    const cell = fc.oneof(
      fc.string({ unit: 'grapheme' }),
      fc.stringMatching(/^'{0,3}[=+\-@\t].{0,5}$/),
    );
    fc.assert(
      fc.property(fc.array(cell, { minLength: 2, maxLength: 4 }), (cells) => {
        expect(readCsv(writeCsv([cells]).replace(/\r\n$/, ''), { delimiter: ',' }).data[0]).toEqual(
          cells,
        );
      }),
    );
  });
});
