import Papa from 'papaparse';
import type { Board } from '../../board/index.ts';
import type { Reading } from '../../readings/index.ts';
import { extraCells, readRow, type Column, type FileTrouble } from './readings-csv.ts';

export interface PastedSweep {
  /** Rows that can be recorded, each with its line. */
  rows: { line: number; reading: Reading }[];
  /** Rows that cannot, and why; lines count from 1. */
  troubles: FileTrouble[];
}

/** How columns may be headed in a technician's own table. */
const headings: Record<string, Column | 'ohms' | 'diode'> = {
  net: 'net',
  rail: 'net',
  name: 'net',
  point: 'point',
  pin: 'point',
  place: 'point',
  reference: 'reference',
  against: 'reference',
  mode: 'mode',
  value: 'value',
  reading: 'value',
  measured: 'value',
  ohms: 'ohms',
  ohm: 'ohms',
  resistance: 'ohms',
  diode: 'diode',
  note: 'note',
  notes: 'note',
};

/**
 * Cold readings pasted from a spreadsheet or a CSV file (RFC 4180; tabs, semicolons and commas are
 * told apart). With a header line, columns are found by name, and `ohms` and `diode` may stand side
 * by side; without one, a row is point and value, or point, mode and value, with `mode` where none is
 * written. Each row stands for itself: those that cannot be read are named, the others can be kept.
 */
export function parseSweepPaste(board: Board, text: string, mode: 'ohms' | 'diode'): PastedSweep {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    // Where there are tabs or semicolons, a comma is a decimal one.
    delimiter: ['\t', ';'].find((one) => text.includes(one)) ?? ',',
  });
  const troubles: FileTrouble[] = parsed.errors
    .filter((error) => error.type !== 'Delimiter')
    .map((error) => ({ line: (error.row ?? 0) + 1, text: `${error.message}.` }));
  const [first = []] = parsed.data;
  const named = first.map(
    (cell) =>
      headings[
        cell
          .trim()
          .toLowerCase()
          .replace(/[\s(].*$/, '')
      ],
  );
  const hasHeader =
    named.some((one) => one === 'net' || one === 'point') &&
    named.some((one) => one === 'value' || one === 'ohms' || one === 'diode');
  const rows: PastedSweep['rows'] = [];
  parsed.data.forEach((cells, index) => {
    const line = index + 1;
    if ((hasHeader && index === 0) || cells.every((cell) => cell.trim() === '')) return;
    if (!hasHeader && cells.slice(3).some((cell) => cell.trim() !== '')) {
      troubles.push({
        line,
        text: 'more than point, mode and value: without a header line nothing tells what the rest is.',
      });
      return;
    }
    if (hasHeader && cells.slice(first.length).some((cell) => cell.trim() !== '')) {
      troubles.push({ line, text: extraCells(cells, first.length) });
      return;
    }
    // Without a header, digits after digits are half of a decimal comma, or nobody knows what.
    if (!hasHeader && cells.length === 3 && /^\s*\d+\s*$/.test(cells[1] ?? '')) {
      troubles.push({ line, text: extraCells(cells, 2) });
      return;
    }
    for (const { written, of } of readingsOf(cells, hasHeader ? named : null, mode)) {
      if (written === '') {
        troubles.push({ line, text: `${of('net') || of('point')}: no value, not measured.` });
        continue;
      }
      const read = readRow(board, of, []);
      if (read.ok) rows.push({ line, reading: read.value });
      else troubles.push(...read.error.map((why) => ({ line, text: why })));
    }
  });
  return { rows, troubles: troubles.sort((a, b) => a.line - b.line) };
}

interface Cells {
  written: string;
  of: (column: Column) => string;
}

/** The readings one row stands for: more than one where ohms and diode stand side by side. */
function readingsOf(
  cells: readonly string[],
  named: readonly (Column | 'ohms' | 'diode' | undefined)[] | null,
  mode: 'ohms' | 'diode',
): Cells[] {
  const cell = (at: number): string => cells[at]?.trim() ?? '';
  const make = (known: Partial<Record<Column, string>>): Cells => ({
    written: known.value ?? '',
    of: (column) => (column === 'phase' ? 'cold' : (known[column] ?? '')),
  });
  if (!named) {
    if (cells.length < 2) return [make({ net: cell(0), mode })];
    // Three cells whose middle is no mode: a comma too many is told by the mode that is not one.
    const three = cells.length > 2 && cell(2) !== '';
    return [
      make({
        net: cell(0),
        mode: three ? modeOf(cell(1)) : mode,
        value: three ? cell(2) : cell(1),
      }),
    ];
  }
  const known: Partial<Record<Column, string>> = {};
  named.forEach((column, at) => {
    if (column && column !== 'ohms' && column !== 'diode') known[column] = cell(at);
  });
  const modes = (['ohms', 'diode'] as const).filter((one) => named.includes(one));
  if (modes.length === 0) return [make({ ...known, mode: modeOf(known.mode ?? '') || mode })];
  const filled = modes.filter((one) => cell(named.indexOf(one)) !== '');
  // Often only one of the two was taken: the other is not missing.
  return (filled.length > 0 ? filled : modes.slice(0, 1)).map((one) =>
    make({ ...known, mode: one, value: cell(named.indexOf(one)) }),
  );
}

const modeOf = (written: string): string => {
  const text = written.trim().toLowerCase();
  return text === 'ohm' ? 'ohms' : text;
};
