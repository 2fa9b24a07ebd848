import { describe, expect, it } from 'vitest';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, lintBoard, pinText, findChip, findPart, netById } from '../board/index.ts';
import { compareSheets, editSheet, feedOf, type SheetEdit } from './index.ts';

const edited = (text: string, edit: SheetEdit) => {
  const done = editSheet(text, edit);
  if (!done.ok) throw new Error(done.error.join(' '));
  return done.value;
};
const refused = (text: string, edit: SheetEdit): string => {
  const done = editSheet(text, edit);
  return done.ok ? '' : done.error.join(' ');
};

describe('points of ones own', () => {
  const point = edited(beckText, {
    do: 'add-point',
    title: 'coil beside the memory, top side',
    net: null,
    side: 'top',
  });

  it('gets a net that nobody has named, which lint leaves alone', () => {
    expect(point.id).toBe('P1');
    const net = netById(point.board, 'P1');
    expect(net).toMatchObject({ isUnnamed: true, title: 'coil beside the memory, top side' });
    expect(lintBoard(point.board, point.text)).toEqual([]);
    expect(point.text).toContain('# Beck mini: a small desktop-style station computer');
  });

  it('joined to a net, its own name leads there; split again, it is as before', () => {
    const joined = edited(point.text, { do: 'join', point: 'P1', net: '1v2_mem' });
    const net = netById(joined.board, '1V2_MEM');
    expect(net?.aliases).toEqual(['P1']);
    expect(joined.board.points).toMatchObject([{ id: 'P1', net: '1V2_MEM' }]);
    expect(joined.board.nets.some((one) => one.id === 'P1')).toBe(false);
    const split = edited(joined.text, { do: 'split', point: 'P1' });
    expect(split.board).toEqual({ ...point.board, hash: split.board.hash });
    expect(compareSheets(point.text, joined.text)).toEqual([
      '1V2_MEM is also called P1',
      'P1 taken out',
      'point P1 net: P1 -> 1V2_MEM',
    ]);
  });

  it('says what cannot be', () => {
    expect(refused(point.text, { do: 'join', point: 'P9', net: '1V2_MEM' })).toContain(
      'no point P9',
    );
    expect(refused(point.text, { do: 'join', point: 'P1', net: 'NOPE' })).toContain('no net NOPE');
    expect(refused(point.text, { do: 'split', point: 'P1' })).toContain('own already');
    expect(refused(beckText, { do: 'add-point', title: '  ', net: null })).toContain('where');
  });
});

describe('a sheet that grows', () => {
  it('renames a net wherever it is named, and keeps the old name beside the new', () => {
    for (const [text, net] of [
      [beckText, '3V3_SB'],
      [beckText, 'PS_ON'],
      [cairnText, '3V3_ALW'],
    ] as const) {
      const before = loadSheet(text);
      const { board } = edited(text, { do: 'rename-net', net, to: 'P3V3_AON' });
      if (!before.ok) throw new Error('does not load');
      const swap = (one: unknown): unknown =>
        JSON.parse(JSON.stringify(one).replaceAll(`"${net}"`, '"P3V3_AON"'));
      expect(board.parts).toEqual(swap(before.value.parts));
      expect(board.stages).toEqual(swap(before.value.stages));
      expect(board.goals).toEqual(swap(before.value.goals));
      expect(board.chips.map(({ pins, behaviours }) => [[...pins], behaviours])).toEqual(
        swap(before.value.chips.map(({ pins, behaviours }) => [[...pins], behaviours])),
      );
      expect(netById(board, 'P3V3_AON')?.aliases).toContain(net);
    }
  });

  it('two nets of one name are joined, not renamed', () => {
    expect(refused(beckText, { do: 'rename-net', net: '5V_SB', to: '3v3_sb' })).toContain(
      'another net',
    );
    expect(refused(beckText, { do: 'rename-net', net: '5V_SB', to: '5 V' })).toContain('no spaces');
  });

  it('says what feeds and enables a net, at a stage that is there or a new one', () => {
    const fed = edited(beckText, {
      do: 'feed',
      net: '1V2_MEM',
      feed: '3V3_RUN',
      enable: 'PS_ON',
      powerGood: 'MEM_PG',
      after: [],
    });
    const chip = findChip(fed.board, 'memory-regulator');
    expect(chip?.pins.get('FEED')).toBe('3V3_RUN');
    expect(compareSheets(beckText, fed.text)).toEqual([
      'stage memory feed: 5V_RUN -> 3V3_RUN',
      'stage memory waits no more for 3V3_RUN > 3',
    ]);
    const net = edited(beckText, {
      do: 'add-net',
      net: '1V8_IO',
      kind: 'rail',
      volts: '1.8',
      title: '',
    });
    const new18 = edited(net.text, {
      do: 'feed',
      net: '1V8_IO',
      feed: '3V3_RUN',
      enable: null,
      powerGood: null,
      after: [],
    });
    expect(new18.board.stages.at(-1)).toMatchObject({ id: '1v8-io', gives: ['1V8_IO'] });
    expect(
      refused(beckText, {
        do: 'feed',
        net: 'GND2',
        feed: '5V_SB',
        enable: null,
        powerGood: null,
        after: [],
      }),
    ).toContain('GND2');
  });

  it('says what feeds a net now, and that nothing does', () => {
    const loaded = loadSheet(beckText);
    if (!loaded.ok) throw new Error('does not load');
    expect(feedOf(loaded.value, '1V2_MEM')).toEqual({
      feed: '5V_RUN',
      enable: 'PS_ON',
      powerGood: 'MEM_PG',
    });
    expect(feedOf(loaded.value, 'PWR_OK')).toEqual({ feed: null, enable: null, powerGood: null });
    expect(feedOf(loaded.value, null).feed).toBeNull();
  });

  it('what a stage waits for besides, its limit and its threshold stay where nothing is said of them', () => {
    const fed = edited(beckText, {
      do: 'feed',
      net: '1V2_MEM',
      feed: '3V3_RUN',
      enable: 'PS_ON',
      powerGood: 'MEM_PG',
    });
    expect(compareSheets(beckText, fed.text)).toEqual(['stage memory feed: 5V_RUN -> 3V3_RUN']);
  });

  it('takes parts and chips, and none twice', () => {
    const part = edited(beckText, {
      do: 'add-part',
      ref: 'R9',
      kind: 'resistor',
      pins: ['5V_RUN', 'MEM_PG'],
      value: '4k7',
    });
    expect(findPart(part.board, 'R9')?.value).toBe(4700);
    expect(
      refused(part.text, {
        do: 'add-part',
        ref: 'R9',
        kind: 'resistor',
        pins: ['5V_RUN', 'GND'],
        value: '1k',
      }),
    ).toContain('already');
    const chip = edited(beckText, {
      do: 'add-chip',
      ref: 'U7',
      kind: 'ldo',
      title: '',
      volts: '1.8',
      pins: [
        { pin: 'VIN', net: '3V3_RUN', number: '5' },
        { pin: 'OUT', net: '1V2_MEM', number: 'B2' },
        { pin: 'GND', net: 'GND' },
      ],
    });
    expect(chip.text).toContain('numbers: { VIN: 5, OUT: B2 }');
    expect(['VIN', 'OUT', 'GND'].map((pin) => pinText(chip.board, 'U7', pin))).toEqual([
      '5 (VIN)',
      'B2 (OUT)',
      'GND',
    ]);
    expect(findChip(chip.board, 'U7')?.behaviours).toHaveLength(1);
    const off = edited(part.text, { do: 'fitted', ref: 'R9', fitted: false });
    expect(compareSheets(part.text, off.text)).toEqual(['R9 is not fitted']);
    expect(edited(off.text, { do: 'fitted', ref: 'R9', fitted: true }).board).toMatchObject({
      parts: part.board.parts,
    });
  });
});

describe('two versions in words', () => {
  it('speaks of values, waits and additions as one would at the bench', () => {
    const after = beckText
      .replace('pins: [3V3_SB, BTN#], value: 10k', 'pins: [3V3_SB, BTN#], value: 22k')
      .replace(
        'enable: MEM_PG > 2, powerGood',
        'enable: MEM_PG > 2, after: [5V_RUN > 4], powerGood',
      );
    expect(compareSheets(beckText, after)).toEqual([
      'R1 10k -> 22k',
      'stage core now waits for 5V_RUN > 4',
    ]);
    expect(compareSheets(beckText, beckText)).toEqual([]);
  });
});
