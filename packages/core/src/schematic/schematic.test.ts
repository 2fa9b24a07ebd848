import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import { loadSheet, findChip, findPart, netById } from '../board/index.ts';
import { composeSheetText, nothingChosen } from '../first-sheet/index.ts';
import { checkHealthyPlay } from '../expectations/index.ts';
import {
  boardNames,
  candidatesOf,
  fillBlanks,
  foldName,
  indexDocument,
  kindOfWord,
  pinTableIn,
  takePinTable,
  sheetValue,
  takeIn,
  wordsOf,
  type Candidates,
  type PageContent,
  type PageLine,
  type PageRun,
  type Turn,
} from './index.ts';

const boardOf = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error.slice(0, 3)));
  return loaded.value;
};
/** A run of text 6 points high, 3 a letter, its baseline at y. */
const run = (x: number, y: number, text: string, turn: Turn = 0): PageRun =>
  turn === 0
    ? { text, turn, x, y: y - 4.8, w: text.length * 3, h: 6 }
    : turn === 270
      ? { text, turn, x: x - 4.8, y: y - text.length * 3, w: 6, h: text.length * 3 }
      : { text, turn, x: x - 1.2, y, w: 6, h: text.length * 3 };
const page = (
  runs: PageRun[],
  wires: PageLine[] = [],
  boxes: PageContent['boxes'] = [],
  number = 1,
): PageContent => ({ page: number, width: 800, height: 600, runs, wires, boxes });

describe('words of a page', () => {
  const texts = (...runs: PageRun[]): string[] => wordsOf(runs).map((one) => one.text);

  it('are put together where one name was split, and kept apart where a space is', () => {
    expect(texts(run(10, 50, '3V3_'), run(22, 50, 'ALW'))).toEqual(['3V3_ALW']);
    expect(texts(run(10, 50, '3V3_'), run(22.9, 50, 'ALW'))).toEqual(['3V3_ALW']);
    // A fifth of the height and more is a space.
    expect(texts(run(10, 50, '3V3_'), run(23.3, 50, 'ALW'))).toEqual(['3V3_', 'ALW']);
    expect(texts(run(10, 50, 'R10 4k7'))).toEqual(['R10', '4k7']);
    expect(texts(run(10, 50, '3V3'), run(19, 53, 'ALW'))).toEqual(['3V3', 'ALW']);
  });

  it('run upwards and downwards too, with their places', () => {
    const [up] = wordsOf([run(100, 200, 'PLT', 270), run(100, 191, 'RST#', 270)]);
    expect(up).toMatchObject({ text: 'PLTRST#', turn: 270, y: 179, h: 21 });
    const [down] = wordsOf([run(100, 200, 'PLT', 90), run(100, 209, 'RST#', 90)]);
    expect(down).toMatchObject({ text: 'PLTRST#', turn: 90, y: 200, h: 21 });
  });

  it('go on in the next line behind an underscore', () => {
    expect(texts(run(10, 50, 'VCCIO_'), run(10, 57, 'OUT'))).toEqual(['VCCIO_OUT']);
    expect(texts(run(10, 50, 'VCCIO_'), run(40, 57, 'OUT'))).toEqual(['VCCIO_', 'OUT']);
  });

  it.each([
    ['R10', 'part'],
    ['PC104', 'part'],
    ['4k7', 'value'],
    ['10K_4', 'value'],
    ['0.1U/16V_4', 'value'],
    ['17', 'number'],
    ['AB12', 'number'],
    ['3V3_ALW', 'name'],
    ['+5VALW', 'name'],
    ['PLTRST#', 'name'],
    ['SHEET', 'text'],
    ['resistor', 'text'],
  ])('%s is a %s', (text, kind) => expect(kindOfWord(text)).toBe(kind));

  it('fold to one where draughtsmen differ', () => {
    for (const other of ['PLTRST_N', 'pltrst#', '/PLT_RST', 'PLTRST_L', 'PLT-RST#'])
      expect(foldName(other)).toBe(foldName('PLTRST#'));
    expect(foldName('+3V3_ALW')).toBe(foldName('3V3ALW'));
    expect(foldName('EN_5V')).not.toBe(foldName('EN_5'));
  });
});

describe('the index of a document', () => {
  const index = indexDocument([
    page([run(50, 50, 'PLTRST#'), run(50, 90, 'R10'), run(62, 90, '47k')]),
    page([run(50, 50, 'PLTRST_N'), run(300, 300, 'BUF_PLTRST#')], [], [], 2),
  ]);

  it('finds a name in every spelling, the very one first, then what holds it', () => {
    const hits = index.search('PLTRST#');
    expect(hits.map(({ text, page, how }) => [text, page, how])).toEqual([
      ['PLTRST#', 1, 'same'],
      ['PLTRST_N', 2, 'spelt otherwise'],
      ['BUF_PLTRST#', 2, 'contains it'],
    ]);
    expect(index.search('pltrst').map((one) => one.how)).toEqual([
      'begins so',
      'begins so',
      'contains it',
    ]);
    expect(index.search('47k')[0]?.around).toEqual(['R10', 'PLTRST#']);
    expect(index.search('nothing')).toEqual([]);
    expect(index.search('  #_ ')).toEqual([]);
  });

  it('finds a net by its other names', () => {
    expect(index.search('RESET_OUT', ['PLTRST#'])).toHaveLength(2);
    const framed = indexDocument([page([run(10, 10, 'B'), run(90, 90, 'VMAIN')])]);
    expect(framed.search('B+', ['VMAIN']).map((one) => one.text)).toEqual(['VMAIN']);
    expect(framed.search('B').map((one) => one.text)).toEqual(['B']);
  });

  it('finds one name of 24,000 on 60 full pages, and what begins so', () => {
    const many = indexDocument(
      Array.from({ length: 60 }, (_, at) =>
        page(
          Array.from({ length: 400 }, (_, word) =>
            run((word % 20) * 40, Math.floor(word / 20) * 25 + 20, `N${at}_${word}`),
          ),
          [],
          [],
          at + 1,
        ),
      ),
    );
    expect(many.search('N7_1')).toHaveLength(111);
    expect(many.search('N7_123')[0]).toMatchObject({ page: 8, text: 'N7_123' });
  });

  it('means things of the board, an alias by its net, and nothing where two could be meant', () => {
    const names = boardNames(boardOf(cairnText));
    expect(names.meant('DCIN')).toEqual({ kind: 'net', net: 'VIN_JACK' });
    expect(names.meant('pltrst_n')).toEqual({ kind: 'net', net: 'PLTRST#' });
    expect(names.meant('PU9')).toEqual({ kind: 'part', ref: 'PU9' });
    expect(names.meant('WHATEVER')).toBeNull();
    expect(names.meant('B+')).toEqual({ kind: 'net', net: 'VMAIN' });
    // A letter in the frame of a page is no rail.
    expect(names.meant('B')).toBeNull();
  });
});

/** A resistor level with its names, a capacitor hanging on its wire to ground, a chip of four pins. */
const drawn = page(
  [
    run(20, 98, '3V3_ALW'),
    run(130, 98, 'PWRBTN#'),
    run(92, 92, 'R10'),
    run(92, 112, '47k'),
    run(60, 118, 'C5'),
    run(60, 126, '100n'),
    run(300, 190, 'U7'),
    run(220, 208, '5V_ALW'),
    run(220, 228, 'S5_EN'),
    run(392, 208, '1V8_S5'),
    run(392, 228, 'S5_PG'),
    run(294, 208, '1'),
    run(294, 228, '2'),
    run(372, 208, '4'),
    run(372, 228, '3'),
    run(304, 212, 'VIN'),
    run(304, 232, 'EN'),
    run(356, 212, 'OUT'),
    run(360, 232, 'PG'),
    run(400, 560, 'SHEET 1 OF 4'),
  ],
  [
    [20, 100, 90, 100],
    [110, 100, 180, 100],
    [50, 100, 50, 115],
    [44, 115, 56, 115],
    [44, 119, 56, 119],
    [50, 119, 50, 130],
    [44, 130, 56, 130],
    [46, 132, 54, 132],
    [48, 134, 52, 134],
    [220, 210, 300, 210],
    [220, 230, 300, 230],
    [370, 210, 450, 210],
    [370, 230, 450, 230],
  ],
  [
    { x: 90, y: 96, w: 20, h: 8 },
    { x: 300, y: 196, w: 70, h: 44 },
  ],
);

describe('candidates of a page', () => {
  const { nets, parts } = candidatesOf([drawn]);

  it('are nets on wires with volts, domain and role by their names', () => {
    expect(nets.map(({ name, kind, volts, role }) => [name, kind, volts, role])).toEqual([
      ['1V8_S5', 'rail', 1.8, null],
      ['3V3_ALW', 'rail', 3.3, null],
      ['5V_ALW', 'rail', 5, null],
      ['GND', 'ground', null, null],
      ['PWRBTN#', 'signal', null, null],
      ['S5_EN', 'signal', null, 'enable'],
      ['S5_PG', 'signal', null, 'power-good'],
    ]);
    expect(nets.every((one) => one.places[0]?.page === 1)).toBe(true);
  });

  it('are parts with the nets at their ends, ground by its figure, and chips pin by pin', () => {
    const of = (ref: string) => {
      const part = parts.find((one) => one.ref === ref);
      if (!part) throw new Error(`${ref} was not found`);
      return { kind: part.kind, value: part.value, pins: part.pins.map((pin) => pin.net) };
    };
    expect(parts.map((one) => one.ref)).toEqual(['C5', 'R10', 'U7']);
    expect(of('R10')).toEqual({ kind: 'resistor', value: '47k', pins: ['3V3_ALW', 'PWRBTN#'] });
    expect(of('C5')).toEqual({ kind: 'capacitor', value: '100n', pins: ['3V3_ALW', 'GND'] });
    const chip = parts.find((one) => one.ref === 'U7');
    expect(chip?.pins.map(({ number, name, net }) => `${number} ${name} ${net}`).sort()).toEqual([
      '1 VIN 5V_ALW',
      '2 EN S5_EN',
      '3 PG S5_PG',
      '4 OUT 1V8_S5',
    ]);
  });

  it('no wires, no certainty: words alone give what several places tell', () => {
    const words = candidatesOf([
      page([run(20, 20, '3V3_ALW'), run(20, 60, '3V3_ALW'), run(20, 90, 'HELLO')]),
    ]);
    expect(words.nets.map(({ name, sure }) => [name, sure])).toEqual([['3V3_ALW', 0.7]]);
  });

  it('marks of parts that are not fitted are seen', () => {
    const marked = { ...drawn, runs: [...drawn.runs, run(104, 92, 'DNP')] };
    expect(candidatesOf([marked]).parts.find((one) => one.ref === 'R10')?.isFitted).toBe(false);
    expect(parts.find((one) => one.ref === 'R10')?.isFitted).toBe(true);
  });

  it('a wire that ends in the middle of a longer stroke goes on there: no plate of a capacitor', () => {
    const { parts } = candidatesOf([
      page(
        [run(55, 80, 'RAIL_A', 270), run(84, 92, 'R1'), run(110, 98, 'OUT_B')],
        [
          [60, 20, 60, 100],
          [40, 100, 80, 100],
          [100, 100, 170, 100],
        ],
        [{ x: 80, y: 96, w: 20, h: 8 }],
      ),
    ]);
    expect(parts.find((one) => one.ref === 'R1')?.pins.map((one) => one.net)).toEqual([
      'RAIL_A',
      'OUT_B',
    ]);
  });

  it('what lies across a box is that box: a narrow chip takes no other reference', () => {
    const narrow = candidatesOf([
      page(
        [
          run(100, 88, 'U1'),
          run(133, 112, 'C9'),
          run(40, 98, 'NET_A'),
          run(140, 98, 'NET_B'),
          run(40, 118, 'NET_C'),
          run(140, 118, 'NET_D'),
        ],
        [
          [40, 100, 100, 100],
          [130, 100, 190, 100],
          [40, 120, 100, 120],
          [130, 120, 190, 120],
        ],
        [{ x: 100, y: 90, w: 30, h: 50 }],
      ),
    ]);
    expect(narrow.parts.map((one) => [one.ref, one.pins.length])).toEqual([['U1', 4]]);
  });

  it('two capacitors to ground make a rail of a net whose name says nothing; one does not', () => {
    const hung = (count: number) => {
      const xs = Array.from({ length: count }, (_, at) => 60 + at * 60);
      return candidatesOf([
        page(
          [run(20, 98, 'MYSTERY_X'), ...xs.map((x, at) => run(x + 10, 118, `C${at + 1}`))],
          [
            [20, 100, 400, 100],
            ...xs.flatMap((x): PageLine[] => [
              [x, 100, x, 115],
              [x - 6, 115, x + 6, 115],
              [x - 6, 119, x + 6, 119],
              [x, 119, x, 130],
              [x - 6, 130, x + 6, 130],
              [x - 4, 132, x + 4, 132],
            ]),
          ],
        ),
      ]).nets.find((one) => one.name === 'MYSTERY_X')?.kind;
    };
    expect([hung(1), hung(2)]).toEqual(['signal', 'rail']);
  });

  it('two wires that only cross are two nets; one that ends on another is the same', () => {
    const crossing = (ends: number) =>
      candidatesOf([
        page(
          [
            run(20, 98, 'NET_A'),
            run(120, 50, 'NET_B', 270),
            run(140, 92, 'R1'),
            run(60, 160, 'R2'),
          ],
          [
            [20, 100, 140, 100],
            [122, 20, 122, ends],
          ],
          [
            { x: 140, y: 96, w: 20, h: 8 },
            { x: 118, y: ends, w: 8, h: 20 },
          ],
        ),
      ]).nets.map((one) => one.name);
    expect(crossing(160)).toEqual(['NET_A', 'NET_B']);
  });
});

describe('values as the sheet takes them', () => {
  it.each([
    ['resistor', '10K_4', '10k'],
    ['resistor', '0R01', '0R01'],
    ['resistor', '4.7K/1%', '4.7k'],
    ['capacitor', '0.1U/16V_4', '0.1u'],
    ['capacitor', '22uF', '22u'],
    ['capacitor', '', ''],
    ['coil', '2.2UH', '2.2u'],
    ['resistor', '', null],
    ['resistor', 'BLUE', null],
  ] as const)('%s %s: %s', (kind, written, wanted) => {
    expect(sheetValue(kind, written)).toBe(wanted);
  });
});

describe('candidates are taken into a sheet', () => {
  const candidates: Candidates = candidatesOf([drawn]);

  it('as nets, parts and chips with their pins, and what stays open is said', () => {
    const taken = takeIn(beckText, { joins: [], nets: candidates.nets, parts: candidates.parts });
    if (!taken.ok) throw new Error(taken.error.join());
    const { board, done, left } = taken.value;
    expect(left).toEqual([]);
    expect(done).toContain('U7 added (chip)');
    expect(findPart(board, 'R10')?.value).toBe(47_000);
    const chip = findChip(board, 'U7');
    expect(Object.fromEntries(chip?.numbers ?? [])).toEqual({
      VIN: '1',
      EN: '2',
      PG: '3',
      OUT: '4',
    });
    expect(netById(board, '1V8_S5')?.volts).toBe(1.8);
    // Once more changes nothing.
    const again = takeIn(taken.value.text, { joins: [], ...candidates });
    if (!again.ok) throw new Error(again.error.join());
    expect(again.value.done).toEqual([]);
    expect(again.value.text).toBe(taken.value.text);
    expect(again.value.left).toHaveLength(3);
  });

  it('a part with one end nowhere, without a value or of no known kind stays open', () => {
    const part = (more: object) => ({
      ...candidates.parts.find((one) => one.ref === 'R10')!,
      ...more,
    });
    const taken = takeIn(beckText, {
      joins: [],
      nets: candidates.nets,
      parts: [
        part({ ref: 'R90', value: '' }),
        part({
          ref: 'R91',
          pins: [
            { name: '', number: '', net: null },
            { name: '', number: '', net: '3V3_ALW' },
          ],
        }),
        part({ ref: 'Q9', kind: null }),
      ],
    });
    if (!taken.ok) throw new Error(taken.error.join());
    expect(taken.value.left).toEqual([
      'R90: it has no value.',
      'R91: one of its ends is on a net that is not known.',
      'Q9: what kind of part it is stands nowhere.',
    ]);
  });
});

describe('a pin table in a data sheet', () => {
  const table = page([
    run(40, 60, 'PIN'),
    run(80, 60, 'NAME'),
    run(140, 60, 'DESCRIPTION'),
    run(40, 80, '1'),
    run(80, 80, 'VIN'),
    run(140, 80, 'Feed, 4.5 to 24 V'),
    run(40, 100, '2'),
    run(80, 100, 'EN'),
    run(140, 100, 'High lets it on.'),
    run(140, 108, 'Do not leave it open.'),
    run(40, 120, '3,'),
    run(50, 120, '8'),
    run(80, 120, 'GND'),
    run(40, 140, '4'),
    run(80, 140, 'LX1'),
    run(500, 80, '9'),
    run(520, 80, 'ELSEWHERE'),
  ]);
  const box = { x: 30, y: 45, w: 300, h: 120 };

  it('is read row by row, several numbers of one name too, and nothing beside the box', () => {
    expect(pinTableIn(table, box)).toEqual([
      { number: '1', name: 'VIN', says: 'Feed, 4.5 to 24 V' },
      { number: '2', name: 'EN', says: 'High lets it on. Do not leave it open.' },
      { number: '3', name: 'GND', says: '' },
      { number: '8', name: 'GND', says: '' },
      { number: '4', name: 'LX1', says: '' },
    ]);
    expect(pinTableIn(table, { ...box, h: 20 })).toEqual([]);
    // The name first, and balls of a grid.
    expect(
      pinTableIn(page([run(40, 60, 'VCC'), run(80, 60, 'B2'), run(140, 60, 'Supply')]), box),
    ).toEqual([{ number: 'B2', name: 'VCC', says: 'Supply' }]);
  });

  it('gives the pins of a chip their numbers; what the sheet does not have stays open', () => {
    const taken = takePinTable(cairnText, 'PU4', pinTableIn(table, box));
    if (!taken.ok) throw new Error(taken.error.join());
    expect(taken.value.done).toEqual(['PU4.VIN is pin 1', 'PU4.EN is pin 2', 'PU4.GND is pin 3']);
    expect(taken.value.left).toEqual([
      'GND (8): GND has a number already; write a pin of its own.',
      'LX1 (4): PU4 has no such pin on this sheet.',
    ]);
    const again = takePinTable(taken.value.text, 'PU4', pinTableIn(table, box));
    expect(again.ok && again.value.done).toEqual([]);
    expect(takePinTable(cairnText, 'PU99', []).ok).toBe(false);
  });
});

describe('blanks of a sheet made by choices', () => {
  const text = composeSheetText(
    {
      title: 'X',
      marking: '',
      choices: { ...nothingChosen, input: 'barrel-pfet', alwaysOn: 'dual', handshake: 'chipset' },
    },
    'x-1',
  );
  const net = (name: string, more: object = {}) => ({
    name,
    also: [],
    places: [{ page: 1, box: { x: 0, y: 0, w: 1, h: 1 } }],
    sure: 0.97,
    kind: 'signal' as const,
    volts: null,
    domain: null,
    role: null,
    ...more,
  });
  const pin = (name: string, on: string) => ({ name, number: '', net: on });
  const candidates: Candidates = {
    nets: [
      net('+1V8SUS_A', { kind: 'rail', volts: 1.8, domain: 'S5' }),
      net('PP5V_X', { kind: 'rail', volts: 5, domain: null }),
      net('LX_18'),
      net('PRIM_ON', { role: 'enable' }),
      net('PRIM_GOOD'),
      net('VIN_JACK', { kind: 'rail' }),
      net('+3V3_ALW', { kind: 'rail', volts: 3.3, domain: 'always' }),
    ],
    parts: [
      {
        ref: 'PL3',
        kind: 'coil',
        value: '1u',
        isFitted: true,
        pins: [pin('', 'LX_18'), pin('', '+1V8SUS_A')],
        places: [],
        sure: 0.97,
      },
      {
        ref: 'PU3',
        kind: 'chip',
        value: '',
        isFitted: true,
        pins: [
          pin('VIN', '+3V3_ALW'),
          pin('EN', 'PRIM_ON'),
          pin('LX', 'LX_18'),
          pin('PGOOD', 'PRIM_GOOD'),
        ],
        places: [],
        sure: 0.97,
      },
    ],
    about: [],
  };
  const joins = fillBlanks(boardOf(text), candidates);
  const to = (name: string) => joins.find((one) => one.net === name)?.to;

  it('are filled by name, by volts and moment, and by the pins of the chip that makes the rail', () => {
    expect(to('3V3_ALW')).toBe('+3V3_ALW');
    expect(to('1V8_S5')).toBe('+1V8SUS_A');
    expect(to('DC_IN')).toBe('VIN_JACK');
    expect(to('1V8_S5_IN')).toBe('+3V3_ALW');
    expect(to('1V8_S5_EN')).toBe('PRIM_ON');
    // Volts alone are too little: 5 V may be any of them.
    expect(joins.map((one) => one.to)).not.toContain('PP5V_X');
  });

  it('two regulators in one chip keep their own enables', () => {
    const dual: Candidates = {
      nets: [
        net('+3V3_ALW', { kind: 'rail', volts: 3.3, domain: 'always' }),
        net('+5V_ALW', { kind: 'rail', volts: 5, domain: 'always' }),
        net('GO_THREE'),
        net('GO_FIVE'),
      ],
      parts: [
        {
          ref: 'PU1',
          kind: 'chip',
          value: '',
          isFitted: true,
          pins: [
            pin('EN1', 'GO_FIVE'),
            pin('EN2', 'GO_THREE'),
            pin('VO1', '+5V_ALW'),
            pin('VO2', '+3V3_ALW'),
          ],
          places: [],
          sure: 0.97,
        },
      ],
      about: [],
    };
    const found = fillBlanks(boardOf(text), dual);
    expect(found.find((one) => one.net === '5V_ALW_EN')?.to).toBe('GO_FIVE');
    expect(found.find((one) => one.net === '3V3_ALW_EN')?.to).toBe('GO_THREE');
  });

  it('a stand-in makes room for the real part of its name, and goes where it joins a net to itself', () => {
    const first = boardOf(text);
    const guess = first.parts.find((one) => one.isGuess && /^R\d+$/.test(one.ref));
    if (!guess) throw new Error('a first sheet has stand-ins');
    const real = {
      ref: guess.ref as string,
      kind: 'resistor' as const,
      value: '47k',
      isFitted: true,
      pins: [pin('', '3V3_ALW'), pin('', 'GND')],
      places: [],
      sure: 0.97,
    };
    const taken = takeIn(text, { joins: [], nets: [], parts: [real] });
    if (!taken.ok) throw new Error(taken.error.join());
    expect(findPart(taken.value.board, guess.ref)?.value).toBe(47_000);
    expect(findPart(taken.value.board, `GUESS_${guess.ref}`)?.isGuess).toBe(true);
    // ON_1V8_S5 leads from S5_EN to its enable: one net, and nothing between.
    const merged = takeIn(text, {
      joins: [{ net: '1V8_S5_EN' as never, to: 'S5_EN', sure: 1, why: '' }],
      nets: [],
      parts: [],
    });
    expect(merged.ok && merged.value.board.parts.some((one) => one.ref === 'ON_1V8_S5')).toBe(
      false,
    );
    expect(first.parts.some((one) => one.ref === 'ON_1V8_S5')).toBe(true);
  });

  it('keep every name, and the healthy board wakes as before', () => {
    const taken = takeIn(text, { joins, nets: [], parts: [] });
    if (!taken.ok) throw new Error(taken.error.join());
    const { board } = taken.value;
    const named = (name: string) =>
      board.nets.find((one) => one.id === name || one.aliases.includes(name))?.id;
    for (const { id } of boardOf(text).nets) expect([id, named(id)]).not.toEqual([id, undefined]);
    expect(named('1V8_S5_IN')).toBe('+3V3_ALW');
    expect(named('1V8_S5_EN')).toBe('PRIM_ON');
    // What the first sheet guessed to lead there is gone: it would join two rails.
    expect(board.parts.some((one) => one.ref === 'WAY_1V8_S5')).toBe(false);
    expect(checkHealthyPlay(board, taken.value.text)).toEqual([]);
  });
});
