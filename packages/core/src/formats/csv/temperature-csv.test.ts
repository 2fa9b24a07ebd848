import { describe, expect, it } from 'vitest';
import { parseTemperatureCsv } from './temperature-csv.ts';

const grid = (separator: string, cell = (n: number) => String(20 + n)): string =>
  [0, 1, 2, 3].map((row) => [0, 1, 2, 3].map((one) => cell(row + one)).join(separator)).join('\n');

describe('a grid of degrees', () => {
  it.each([
    ['commas', grid(',')],
    ['semicolons and decimal commas', grid(';', (n) => `${20 + n},5`)],
    ['tabs, a heading and an empty end', `Camera export\n\n${grid('\t')}\n\n`],
    ['a comma at the end of each line', grid(',').replaceAll('\n', ',\n')],
  ])('with %s', (_, text) => {
    const read = parseTemperatureCsv(text);
    expect(read.ok && [read.value.rows, read.value.columns]).toEqual([4, 4]);
    if (read.ok) expect(Math.floor(read.value.celsius[3]![3]!)).toBe(26);
  });

  it.each([
    ['', /No grid/],
    ['a,b\nc,d', /No grid/],
    [`${grid(',')}\n1,2,3`, /Line 5 is no row/],
    [`${grid(',')}\n1,2,3,4,5`, /Line 5 has 5 cells, the lines before it 4/],
    [grid(',', () => '29815'), /Line 1: 29815 °C/],
    [`${grid(',')}\n1,2,x,4`, /Line 5 is no row/],
  ])('%j is refused with its line', (text, said) => {
    const read = parseTemperatureCsv(text);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.error).toMatch(said);
  });
});
