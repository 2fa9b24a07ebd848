import Papa from 'papaparse';
import { fail, ok, type Result } from '../../base/index.ts';

/** Degrees over a picture: rows from the top, columns from the left. */
export interface TemperatureGrid {
  rows: number;
  columns: number;
  celsius: number[][];
}

const mostCells = 2_000_000;
const leastSide = 4;

/**
 * A grid of degrees as thermal cameras write it in CSV: one line per row of pixels, commas, semicolons
 * or tabs, a decimal comma where the cells are not parted by one. Lines of words before the grid are
 * passed over. Bad input says the line.
 */
export function parseTemperatureCsv(text: string): Result<TemperatureGrid, string> {
  const delimiter = ['\t', ';'].find((one) => text.includes(one)) ?? ',';
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    delimiter,
    skipEmptyLines: 'greedy',
  });
  const celsius: number[][] = [];
  let width = 0;
  for (const [index, line] of data.entries()) {
    const cells = line.map((cell) => cell.trim());
    while (cells.length > 0 && cells.at(-1) === '') cells.pop();
    const row = cells.map((cell) =>
      /^[-+]?\d+([.,]\d+)?$/.test(cell) ? Number(cell.replace(',', '.')) : NaN,
    );
    const isGrid = row.length >= leastSide && row.every((one) => !Number.isNaN(one));
    if (!isGrid) {
      if (celsius.length === 0) continue;
      return fail(`Line ${index + 1} is no row of degrees.`);
    }
    if (celsius.length > 0 && row.length !== width)
      return fail(`Line ${index + 1} has ${row.length} cells, the lines before it ${width}.`);
    const odd = row.find((one) => one < -60 || one > 1000);
    if (odd !== undefined)
      return fail(`Line ${index + 1}: ${odd} °C is no temperature of a board. Export degrees.`);
    width = row.length;
    celsius.push(row);
    if (celsius.length * width > mostCells) return fail('More than two million cells.');
  }
  if (celsius.length < leastSide)
    return fail(
      `No grid of degrees: at least ${leastSide} rows of ${leastSide} numbers are wanted.`,
    );
  return ok({ rows: celsius.length, columns: width, celsius });
}
