import { describe, expect, it } from 'vitest';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import byHand from './fixtures/by-hand.net?raw';
import exported from './fixtures/hut-clock.ipc?raw';
import { loadSheet, findPart } from '../board/index.ts';
import { compareSheets } from '../sheet-edit/index.ts';
import {
  blankSheet,
  boardNetlist,
  importFormat,
  importInto,
  ipcD356,
  kicadNetlist,
  parseIpcD356,
  parseReadingsCsv,
  readingsCsv,
  parseKicadNetlist,
  parseTableCsv,
  tableCsv,
  takeTable,
} from './index.ts';

const boardOf = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error.slice(0, 3)));
  return loaded.value;
};
const taken = (sheet: string, file: string) => {
  const done = importInto(sheet, file);
  if (!done.ok) throw new Error(JSON.stringify(done.error.slice(0, 3)));
  return done.value;
};
const why = (file: string): string => {
  const done = importInto(beckText, file);
  return done.ok ? 'was taken' : done.error.map((one) => `${one.line}: ${one.why}`).join('; ');
};

describe('a KiCad netlist', () => {
  // The format as its handbook has it (from memory), written by hand; a real one is read in the cli's tests.
  const { netlist, troubles } = parseKicadNetlist(byHand);

  it('gives parts, values, what is not populated, nets with their sheet, pins with what they do', () => {
    expect(netlist?.title).toBe('clock.sch');
    expect(netlist?.parts).toEqual([
      { ref: 'R1', value: '10k', package: 'R_0603', sort: '', isFitted: true },
      { ref: 'R2', value: '0R', package: '', sort: '', isFitted: false },
      { ref: 'C1', value: '100n', package: '', sort: 'C', isFitted: true },
      { ref: 'U1', value: 'HUT "A"', package: 'SOIC-8', sort: '', isFitted: true },
    ]);
    expect(netlist?.nets.map((one) => one.name)).toEqual([
      'GND',
      '/power/3V3_ALW',
      'RESET#',
      'Net-(R2-Pad2)',
    ]);
    expect(netlist?.nets[1]?.pins[2]).toEqual({ ref: 'U1', pin: '8', name: 'VCC' });
  });

  it('says line and reason of what it cannot read, and reads the rest', () => {
    expect(troubles).toEqual([
      { line: 11, why: 'a part has no reference' },
      { line: 12, why: 'R1 is there twice' },
      { line: 23, why: 'Net-(R2-Pad2) names X9, which is no part of the list' },
    ]);
  });

  it('becomes a sheet: values, pins by name and number, what is open said', () => {
    const { text, left } = taken(blankSheet('clock', 'Clock'), byHand);
    const board = boardOf(text);
    expect(board.parts.map(({ ref, value, fitted }) => [ref, value, fitted])).toEqual([
      ['C1', 1e-7, true],
      ['R1', 10_000, true],
      ['R2', 0, false],
    ]);
    const chip = board.chips[0];
    expect([...(chip?.pins ?? [])]).toEqual([
      ['GND', 'GND'],
      ['RST', 'RESET#'],
      ['VCC', '/power/3V3_ALW'],
    ]);
    expect(Object.fromEntries(chip?.numbers ?? [])).toEqual({ GND: '4', RST: '7', VCC: '8' });
    expect(left).toEqual([]);
  });

  it.each([
    ['(export (version "E") (components (comp (ref "R1")', '1: the file ends with 3 brackets open'],
    ['(export\n (nets (net (name "A)', '2: a quotation mark is not closed'],
    ['(export (version "E"))', '1: no part and no net is in it'],
    ['(export))', '1: something stands behind the last bracket'],
    [`(export ${'('.repeat(100_000)}`, '1: brackets are more than 64 deep'],
  ])('%.40s is refused with its line', (file, wanted) => {
    expect(why(file)).toContain(wanted);
  });
});

describe('IPC-D-356A', () => {
  it('is read as another program wrote it (pcb-rnd 3.0.6 of Debian, from a board of three parts)', () => {
    const { netlist, troubles } = parseIpcD356(exported);
    expect(troubles).toEqual([]);
    expect(netlist?.title).toBe('hut clock');
    expect(
      netlist?.nets.map(({ name, pins }) => [name, pins.map((one) => `${one.ref}.${one.pin}`)]),
    ).toEqual([
      ['5V_IN', ['R1.1', 'J1.1']],
      ['CLOCK_SUPPLY_F', ['R1.2', 'C1.1']],
      ['GND', ['C1.2', 'J1.2']],
    ]);
    // 4725 ten-thousandths of an inch.
    const first = netlist?.places[0];
    expect(first).toMatchObject({ ref: 'R1', side: 'top' });
    expect(first?.x).toBeCloseTo(0.4725 * 25.4, 6);
    expect(netlist?.places.map((one) => one.side)).toEqual([
      'top',
      'top',
      'bottom',
      'bottom',
      null,
      null,
    ]);
  });

  it('keeps places, sides and long names there and back, to a thousandth of a millimetre', () => {
    const places = [
      {
        net: 'A_VERY_LONG_NAME_OF_A_NET',
        ref: 'R1',
        pin: '1',
        side: 'top' as const,
        x: 12.345,
        y: -3.2,
      },
      { net: 'GND', ref: 'TP4', pin: '', side: 'bottom' as const, x: 0, y: 199.999 },
      { net: 'GND', ref: 'J1', pin: 'S', side: null, x: 1, y: 2 },
    ];
    const file = ipcD356({ title: 'there', parts: [], nets: [], places });
    expect(
      file
        .split('\r\n')
        .filter((one) => /^3/.test(one))
        .every((one) => one.length === 80),
    ).toBe(true);
    expect(parseIpcD356(file).netlist?.places).toEqual(
      places.map((one) => ({ ...one, x: expect.closeTo(one.x, 9), y: expect.closeTo(one.y, 9) })),
    );
  });

  it('says what it cannot read by line, and refuses what holds nothing', () => {
    const { troubles, netlist } = parseIpcD356(
      `P  UNITS CUST 7\n327GND              R1    -1          A01X+004725Y+010000\n999xx\n378GND\nhello\n327GND              R2    -1          A01\n`,
    );
    expect(troubles.map((one) => [one.line, one.why.slice(0, 30)])).toEqual([
      [1, 'units "CUST 7" are not known: '],
      [4, 'records of kind 378 are not re'],
      [5, 'this is no record of the forma'],
      [6, 'R2-1 has no place'],
    ]);
    expect(netlist?.parts.map((one) => one.ref)).toEqual(['R1', 'R2']);
    expect(parseIpcD356('C  nothing\n999\n').netlist).toBeNull();
  });

  it('brings places and test points into a sheet that has none', () => {
    const file = `P  JOB   beck\nP  UNITS CUST 1\n327BTN#             R1    -1          A01X+010000Y+020000\n327PWR_OK           TP7   -           A02X+001000Y+002000\n`;
    const { text, done } = taken(beckText, file);
    const board = boardOf(text);
    expect(findPart(board, 'R1')).toMatchObject({
      side: 'top',
      x: 10,
      y: 20,
    });
    expect(board.points.find((one) => one.id === 'TP7')).toMatchObject({
      net: 'PWR_OK',
      side: 'bottom',
      x: 1,
      y: 2,
    });
    expect(done).toContain('1 parts have their places');
    // Once more changes nothing, and a place that somebody gave stays.
    expect(compareSheets(text, taken(text, file).text)).toEqual([]);
    const moved = taken(text, file.replace('X+010000', 'X+044000'));
    expect(boardOf(moved.text).parts.find((one) => one.ref === 'R1')?.x).toBe(10);
  });
});

describe('there and back', () => {
  it.each([
    ['cairn-14', cairnText],
    ['fell-13', fellText],
    ['beck-mini', beckText],
  ])('%s written as a netlist and read again changes nothing', (_, text) => {
    const file = kicadNetlist(boardNetlist(boardOf(text)));
    expect(compareSheets(text, taken(text, file).text)).toEqual([]);
    // Into a new sheet, out of it and in again: the second time nothing is new.
    const fresh = taken(blankSheet('again', 'Again'), file);
    const second = taken(fresh.text, kicadNetlist(boardNetlist(boardOf(fresh.text))));
    expect(compareSheets(fresh.text, second.text)).toEqual([]);
  });

  it('nothing the format can hold is lost: every net with its pins, every value', () => {
    const netlist = boardNetlist(boardOf(cairnText));
    const back = parseKicadNetlist(kicadNetlist(netlist));
    expect(back.troubles).toEqual([]);
    expect(back.netlist).toEqual({ ...netlist, places: [], parts: netlist.parts });
  });

  it('a sheet from a netlist has the nets of the board, part by part', () => {
    const { text, left } = taken(
      blankSheet('again', 'Again'),
      kicadNetlist(boardNetlist(boardOf(cairnText))),
    );
    const [was, now] = [boardOf(cairnText), boardOf(text)];
    const nets = (pins: readonly { name: string; net: string }[] | undefined) =>
      Object.fromEntries((pins ?? []).map((one) => [one.name, one.net]));
    for (const part of now.parts) {
      const old = was.parts.find((one) => one.ref === part.ref);
      expect([part.ref, part.kind, part.value, nets(part.pins)]).toEqual([
        part.ref,
        old?.kind,
        old?.value,
        nets(old?.pins),
      ]);
    }
    expect(now.parts.length).toBeGreaterThan(160);
    expect(left).toEqual([]);
  });

  it('what letters do not tell is said, and not guessed', () => {
    const bare = kicadNetlist(boardNetlist(boardOf(cairnText))).replace(
      / \(libsource \(lib "jiko"\) \(part "[^"]*"\)\)/g,
      '',
    );
    const { left } = taken(blankSheet('again', 'Again'), bare);
    expect(left.some((one) => one.startsWith('PQ1: what kind of part'))).toBe(true);
  });

  it('tables as CSV', () => {
    for (const table of ['parts', 'nets'] as const) {
      const file = tableCsv(cairnText, table);
      expect(compareSheets(cairnText, taken(cairnText, file).text)).toEqual([]);
    }
  });
});

describe('readings as CSV', () => {
  it('read back as the same readings: place, reference, value, what was attached', () => {
    const board = boardOf(cairnText);
    const lines = [
      'net,point,reference,polarity,mode,phase,value,attached,lifted,source,note',
      'VMAIN,,,,volts,standby,19.42,none,,adapter,"a note, with a comma"',
      ',PQ1.G,,,volts,standby,6.2^,panel memory,R4,adapter,',
      ',tp7,,,volts,standby,19.48,none,,adapter,',
      'VIN,,VA_MID,,volts,trying,0.2~0.6,none,,adapter,',
      '1V8_S5,,,,ohms,cold,OL,none,,,',
      '1V8_S5,,,,ohms,cold,>1k,none,,,',
      '1V8_S5,,,,ohms,cold,beep,none,,,',
      '3V3_ALW,,,black-on-point,diode,cold,0.412,none,,,',
      '3V3_ALW,,,,volts,run,?,none,,adapter,',
      // Confirmed, and with what was said of it.
      'BL_OUT,,,,volts,run,70!,none,,adapter,',
      '3V3_ALW,,,,volts,run,3.1 warm moves r0.04,none,,adapter,',
    ].join('\n');
    const read = parseReadingsCsv(board, lines);
    if (!read.ok) throw new Error(JSON.stringify(read.error));
    // A point of the sheet, in whatever case, is its net there.
    expect(read.value[2]?.at).toMatchObject({ net: 'VA_SNS', part: 'PQ2', pin: 'D' });
    const file = readingsCsv(board, read.value);
    expect(parseReadingsCsv(board, file)).toEqual(read);
    expect(file.split('\r\n')).toHaveLength(13);
    expect(read.value.at(-1)).toMatchObject({ state: 'warm', moves: true, ripple: 0.04 });
    expect(file).toContain('70 !');
  });
});

describe('tables of parts and nets', () => {
  it('are known by their heads, in the words of other tables too', () => {
    const parts = parseTableCsv(
      'Reference;Val;Net 1;Net 2;Colour\nR50;47k;5V_RUN;GND;blue\n;1k;A;B;\nR50;1k;A;B;',
    );
    if (!parts.ok) throw new Error('refused');
    expect(parts.value.table).toBe('parts');
    expect(parts.value.rows.map((one) => one.cells)).toEqual([
      { name: 'R50', value: '47k', pins: '5V_RUN, GND' },
    ]);
    expect(parts.value.troubles).toEqual([
      { line: 1, why: 'the column "Colour" is not known and is left out' },
      { line: 3, why: 'the row has no name' },
      { line: 4, why: 'R50 is there twice: the first one counts' },
    ]);
    const nets = parseTableCsv('Net,Voltage\nVAUX,3.3\n');
    expect(nets.ok && [nets.value.table, nets.value.rows[0]?.cells]).toEqual([
      'nets',
      { name: 'VAUX', volts: '3.3' },
    ]);
  });

  it('change what they say and add what is new; what would not load is refused', () => {
    const { done } = taken(beckText, 'name,value\nR1,22k\n');
    expect(done).toEqual(['R1 10k -> 22k']);
    const table = parseTableCsv('net,volts\nVAUX,3.3\n5V_RUN,5.1\n');
    if (!table.ok) throw new Error('refused');
    const text = takeTable(beckText, table.value);
    expect(text.ok && boardOf(text.value).nets.find((one) => one.id === 'VAUX')?.volts).toBe(3.3);
    expect(why('name,kind,pins\nR77,resistor,"NOWHERE, GND"\n')).toMatch(/NOWHERE/);
  });
});

describe('which format a file is', () => {
  it.each([
    ['(export (version D)', 'kicad'],
    ['\uFEFFC  comment\nP  JOB x', 'ipc-d-356'],
    ['327GND', 'ipc-d-356'],
    ['a,b\n1,2\n', 'csv'],
    ['<html>', null],
    ['', null],
  ])('%s', (text, format) => expect(importFormat(text)).toBe(format));

  it('nothing known, or far too much, is refused in words', () => {
    expect(why('<b>hello</b>')).toContain('no KiCad netlist, no IPC-D-356A and no CSV');
    expect(why('x'.repeat(20_000_001))).toContain('more than 20 million');
  });
});
