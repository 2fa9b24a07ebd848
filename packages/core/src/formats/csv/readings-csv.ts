import { fail, ok, unreachable, type Result } from '../../base/index.ts';
import { findNet, type Board, type NetId, findChip, findPart } from '../../board/index.ts';
import {
  makeReading,
  modes,
  oddReading,
  phases,
  type Mode,
  type Phase,
  type ProbePlace,
  type Reading,
  type ReadingValue,
  usualMeter,
} from '../../readings/index.ts';
import { readCsv, writeCsv } from './csv.ts';

/** What cannot be read in a file, on which line; lines count from 1. */
export interface FileTrouble {
  line: number;
  text: string;
}

const columns = [
  'net',
  'point',
  'reference',
  'polarity',
  'mode',
  'phase',
  'value',
  'attached',
  'lifted',
  'source',
  'note',
] as const;
export type Column = (typeof columns)[number];

/**
 * Readings from CSV (RFC 4180) with a header line. Needed are `net` or `point` (an id of the sheet's
 * points, or PART.PIN), `mode`, `phase` and `value` (as on the entry line: `1.79`, `2k2`, `OL`,
 * `0.2~0.6`). `reference` is a net or point, `attached` and `lifted` are lists split by spaces;
 * where `attached` is left empty it is `usuallyAttached`, and `none` is nothing at all. Every line that cannot be read is named; nothing is skipped.
 */
export function parseReadingsCsv(
  board: Board,
  text: string,
  usuallyAttached: readonly string[] = [],
): Result<Reading[], FileTrouble[]> {
  const parsed = readCsv(text.trimEnd());
  const [header, ...rows] = parsed.data;
  if (!header) return fail([{ line: 1, text: 'the file is empty: it needs a header line.' }]);
  const troubles: FileTrouble[] = parsed.errors.map((error) => ({
    line: (error.row ?? 0) + 1,
    text: `${error.message}.`,
  }));
  const names = header.map((name) => name.trim().toLowerCase());
  const strange = names.filter((name) => !columns.includes(name as Column));
  if (strange.length > 0)
    troubles.push({
      line: 1,
      text: `there is no column ${strange.join(', ')}: columns are ${columns.join(', ')}.`,
    });
  for (const needed of ['mode', 'phase', 'value'])
    if (!names.includes(needed))
      troubles.push({ line: 1, text: `the column ${needed} is missing.` });
  if (!names.includes('net') && !names.includes('point'))
    troubles.push({ line: 1, text: 'a column net or point is missing.' });
  if (troubles.length > 0) return fail(troubles);

  const readings: Reading[] = [];
  rows.forEach((cells, index) => {
    const line = index + 2;
    if (cells.every((cell) => cell.trim() === '')) return;
    const extra = cells.slice(names.length).filter((cell) => cell.trim() !== '');
    if (extra.length > 0) {
      troubles.push({ line, text: extraCells(cells, names.length) });
      return;
    }
    const of = (column: Column): string => cells[names.indexOf(column)]?.trim() ?? '';
    const read = readRow(board, of, usuallyAttached);
    if (read.ok) readings.push(read.value);
    else troubles.push(...read.error.map((why) => ({ line, text: why })));
  });
  return troubles.length > 0 ? fail(troubles) : ok(readings);
}

/**
 * Readings as CSV (RFC 4180, comma, CRLF) that reads back as the same readings: place, mode, phase, value,
 * what was attached and lifted. Lost: who and when, the meter, what a bench supply was set to, the version
 * of the sheet, and that a value had not settled.
 */
export function readingsCsv(board: Board, readings: readonly Reading[]): string {
  const rows = readings.map((reading) => {
    const { at, reference, polarity, mode, phase, attached, lifted, source, note } = reading;
    return [
      // A place says its net itself.
      at.part === null ? at.net : '',
      at.part === null ? '' : at.pin === null ? at.part : `${at.part}.${at.pin}`,
      reference?.net ?? '',
      mode === 'diode' ? polarity : '',
      mode,
      phase,
      writtenCell(board, reading),
      attached.length > 0 ? attached.join(' ') : 'none',
      lifted.join(' '),
      source?.id ?? '',
      note,
    ];
  });
  return writeCsv([[...columns], ...rows]);
}

/** Behind a value that is asked for once more on the entry line: it is what the meter showed. */
const confirmed = '!';

/** The value with all that was said of it. */
function writtenCell(board: Board, reading: Reading): string {
  const { value, state, moves, ripple } = reading;
  return [
    writtenValue(value),
    state,
    moves === undefined ? undefined : moves ? 'moves' : 'still',
    ripple === undefined ? undefined : `r${ripple}`,
    oddReading(board, reading) === null ? undefined : confirmed,
  ]
    .filter((word) => word !== undefined)
    .join(' ');
}

/** As the entry line takes it, to the last digit. */
function writtenValue(value: ReadingValue): string {
  switch (value.kind) {
    case 'number':
      return `${value.value}${value.trend === 'rising' ? '^' : value.trend === 'falling' ? '_' : ''}`;
    case 'swinging':
      return `${value.low}~${value.high}`;
    // A bound that is not the meter's own was typed as one.
    case 'over':
      return ownLimits.includes(value.limit) ? 'OL' : `>${value.limit}`;
    case 'beep':
      return value.limit === usualMeter.beepOhms ? 'beep' : `<${value.limit}`;
    case 'unreached':
      return '?';
    default:
      return unreachable(value);
  }
}

const ownLimits = [usualMeter.mostOhms, usualMeter.mostDiodeVolts, usualMeter.mostVolts];

/** More cells than columns: mostly a decimal comma that was taken for the end of a cell. */
export function extraCells(cells: readonly string[], columns: number): string {
  const isDigits = (cell: string | undefined): boolean => /^\s*\d+\s*$/.test(cell ?? '');
  const at = cells.findIndex((cell, place) => isDigits(cell) && isDigits(cells[place + 1]));
  const about =
    at >= 0
      ? ` Is "${cells[at]},${cells[at + 1]}" one number? Write ${cells[at]}.${cells[at + 1]}, or put it in quotes.`
      : '';
  return `${cells.length} cells for ${columns} columns.${about}`;
}

/** One row, its cells by column; every trouble in it is named. */
export function readRow(
  board: Board,
  of: (column: Column) => string,
  usuallyAttached: readonly string[],
): Result<Reading, string[]> {
  const troubles: string[] = [];
  const at = placeOf(board, of('net'), of('point'));
  if (typeof at === 'string') troubles.push(at);
  const reference = of('reference') ? placeOf(board, of('reference'), '') : null;
  if (typeof reference === 'string') troubles.push(reference);
  const mode = of('mode') as Mode;
  if (!modes.includes(mode))
    troubles.push(`there is no mode "${of('mode')}": one of ${modes.join(', ')}.`);
  const phase = of('phase') as Phase;
  if (!phases.includes(phase))
    troubles.push(`there is no phase "${of('phase')}": one of ${phases.join(', ')}.`);
  const written = of('polarity');
  const polarity = polarities.find((one) => one === written);
  if (written && !polarity)
    troubles.push(`there is no polarity "${written}": one of ${polarities.join(', ')}.`);
  const list = (text: string): string[] => text.split(/[\s,]+/).filter((one) => one !== '');
  const source = of('source');
  const attached =
    of('attached') === ''
      ? [...usuallyAttached]
      : list(of('attached')).filter((one) => one !== 'none');
  const lifted = list(of('lifted'));
  const check = (what: string, names: readonly string[], known: readonly string[]): void => {
    for (const name of names)
      if (!known.includes(name)) troubles.push(`there is no ${what} ${name} on this board.`);
  };
  check(
    'source',
    source ? [source] : [],
    board.sources.map((one) => one.id),
  );
  check(
    'attachment',
    attached,
    board.attachments.map((one) => one.id),
  );
  check(
    'part',
    lifted,
    [...board.parts, ...board.chips].map((one) => one.ref),
  );
  if (troubles.length > 0 || typeof at === 'string' || typeof reference === 'string')
    return fail(troubles);
  const isConfirmed = of('value').endsWith(confirmed);
  const text = isConfirmed ? of('value').slice(0, -confirmed.length).trim() : of('value');
  const made = makeReading(
    board,
    { at, reference, mode, text, polarity, note: of('note') },
    { phase, source: source || null, attached, lifted },
  );
  // A file cannot be asked.
  const odd = made.ok && !isConfirmed ? oddReading(board, made.value) : null;
  return odd === null ? made : fail([`${odd} In the file ${text}${confirmed} says so.`]);
}

const polarities = ['red-on-point', 'black-on-point'] as const;

/** A net by any of its names, a point of the sheet, or PART.PIN. */
function placeOf(board: Board, net: string, point: string): ProbePlace | string {
  const found = net ? findNet(board, net) : null;
  if (found) return { net: found.id, part: null, pin: null };
  const name = point || net;
  const known = board.points.find((one) => one.id.toUpperCase() === name.toUpperCase());
  if (known) return { net: known.net, part: known.part, pin: known.pin };
  const [ref = '', pin = ''] = name.split('.');
  const on: NetId | undefined =
    findPart(board, ref)?.pins.find((one) => one.name === pin)?.net ??
    findChip(board, ref)?.pins.get(pin);
  if (on) return { net: on, part: ref, pin };
  return name ? `there is no net or point "${name}" on this board.` : 'a net or point is missing.';
}
