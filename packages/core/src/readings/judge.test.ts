import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, netOf, type Board, type NetId } from '../board/index.ts';
import { judgeVolts } from './judge-volts.ts';
import {
  floatingVolts,
  judge,
  usualMeter,
  type Expectation,
  type Reading,
  type ReadingValue,
  whyText,
} from './index.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the demo sheet does not load');
const board: Board = loaded.value;

const reading = (value: ReadingValue, change: Partial<Reading> = {}): Reading => ({
  at: { net: 'x', part: null, pin: null },
  reference: null,
  polarity: 'red-on-point',
  mode: 'volts',
  phase: 'standby',
  value,
  source: null,
  attached: [],
  lifted: [],
  meter: usualMeter,
  sheet: '',
  note: '',
  ...change,
});
const steady = (value: number): ReadingValue => ({ kind: 'number', value, trend: 'steady' });
const rail = (value: number, change: object = {}): Expectation => ({
  kind: 'value',
  mode: 'volts',
  value,
  low: value * 0.95,
  high: value * 1.05,
  off: false,
  origin: 'schematic',
  upVolts: value,
  ...change,
});
const net = netOf(board, '3V3_ALW' as NetId);
const core = netOf(board, 'VCORE' as NetId);
const kind = (value: ReadingValue, expectation = rail(3.3), change: Partial<Reading> = {}) =>
  judge(reading(value, change), { net, expectation, series: null, drive: null }).kind;

describe('verdicts on volts', () => {
  it.each([
    [3.31, 'good'],
    [3.14, 'good'],
    [3.0, 'low'],
    [0.9, 'low'],
    [0.02, 'missing'],
    [3.6, 'high'],
    [-1.2, 'odd'],
  ] as const)('%f V on a 3.3 V rail is %s', (volts, verdict) => {
    expect(kind(steady(volts))).toBe(verdict);
  });

  it('knows nets that should be off, swinging ones, and readings that have not settled', () => {
    const off = rail(0, { off: true, low: -0.25, high: 0.25, value: 0, upVolts: 3.3 });
    expect(kind(steady(0.04), off)).toBe('good');
    expect(kind(steady(3.3), off)).toBe('present');
    // A net that nobody feeds floats by some tenths: neither good nor present.
    expect(kind(steady(0.74), off)).toBe('undecided');
    expect(kind(steady(0.76), off)).toBe('present');
    expect(kind({ kind: 'swinging', low: 0.2, high: 0.6 })).toBe('swinging');
    expect(kind({ kind: 'number', value: 3.3, trend: 'unsettled' })).toBe('undecided');
  });

  it('calls nothing good that it has nothing to hold against', () => {
    expect(kind(steady(3.3), { kind: 'unknown', because: 'no sheet' })).toBe('unjudged');
    expect(kind({ kind: 'unreached' })).toBe('unjudged');
    const across = { reference: { net: 'VIN', part: null, pin: null } };
    expect(kind(steady(3.3), rail(3.3), across)).toBe('unjudged');
  });

  it('gives every verdict its line of why', () => {
    const verdict = judge(reading(steady(3)), {
      net,
      expectation: rail(3.3),
      series: null,
      drive: null,
    });
    expect(whyText(verdict)).toContain('3.3 V');
    expect(whyText(verdict)).toContain('schematic');
  });
});

describe('series parts are judged by the drop across them', () => {
  const fet = (upstreamVolts: number | null) => ({
    part: 'PQ1',
    kind: 'pfet' as const,
    from: 'VIN',
    upstreamVolts,
    dropVolts: 0.01,
    diodePasses: true,
  });
  const verdict = (volts: number, series: ReturnType<typeof fet> | object) =>
    judge(reading(steady(volts)), {
      net,
      expectation: rail(19.5),
      series: series as never,
      drive: null,
    }).kind;
  it.each([
    // 18.9 V lies within 5 % of 19.5 V, yet it is a body diode's drop.
    [18.9, 19.5, 'low'],
    [19.48, 19.5, 'good'],
    [0.1, 19.5, 'missing'],
    [12, 19.5, 'low'],
    [17.4, 17.42, 'low'],
    [19.5, 0, 'odd'],
    [0.02, 0.01, 'missing'],
  ] as const)('%f V behind an input FET with %f V before it is %s', (after, before, wanted) => {
    expect(verdict(after, fet(before))).toBe(wanted);
  });
  it('is undecided without the reading before it', () => {
    expect(verdict(18.9, fet(null))).toBe('undecided');
    expect(verdict(19.5, fet(null))).toBe('undecided');
    expect(verdict(0, fet(null))).toBe('missing');
  });
  it('right volts behind a fuse came through it, whoever read its input', () => {
    const fuse = { ...fet(null), kind: 'fuse', diodePasses: false };
    expect(verdict(19.4, fuse)).toBe('good');
    expect(verdict(18.2, fuse)).toBe('low');
    // Behind a FET something must be said of the gate, whichever way its diode lies.
    expect(verdict(19.4, { ...fet(null), diodePasses: false })).toBe('undecided');
  });

  const because = (volts: number, change: object): string =>
    judge(reading(steady(volts)), {
      net,
      expectation: rail(19.5),
      series: { ...fet(19.5), ...change } as never,
      drive: null,
    }).because.is;
  // Before it 19.1 V: two tenths are the meter's, more is a drop. At 3.3 V a tenth is one.
  it.each([
    [19.0, 19.1, 'conducts'],
    [18.9, 19.1, 'conducts'],
    [18.88, 19.1, 'drops-too-much'],
    [18.8, 19.1, 'diode-drop'],
  ] as const)('%f V behind an input FET with %f V before it: %s', (volts, before, is) => {
    expect(because(volts, { upstreamVolts: before })).toBe(is);
  });
  it('a diode drop is a body diode only where the diode lies that way round', () => {
    expect(because(18.9, {})).toBe('diode-drop');
    expect(because(18.9, { diodePasses: false })).toBe('drops-too-much');
  });
  it.each([
    [17.5, 19.5, 'follows-gate'],
    [18.8, 19.5, 'drops-too-much'],
    [16.1, 19.5, 'follows-gate'],
    [15.8, 19.5, 'drops-too-much'],
  ] as const)('%f V at the source of an N-channel with its gate at %f V: %s', (volts, gate, is) => {
    const change = { kind: 'nfet', diodePasses: false, gateVolts: gate };
    expect(because(volts, change)).toBe(is);
    // Nobody read the gate: no word of it.
    expect(because(volts, { ...change, gateVolts: null })).toBe('drops-too-much');
  });
  it('a fuse is blamed only where what hangs behind it is no short', () => {
    const why = (load: string): string =>
      whyText(
        judge(reading(steady(0)), {
          net,
          expectation: rail(19.5),
          series: { ...fet(19.5), part: 'F1', kind: 'fuse', load } as never,
          drive: null,
        }),
      );
    expect(why('clear')).toContain('it does not conduct. Before a new one goes in');
    expect(why('shorted')).toContain('is shorted, which comes first');
    expect(why('unread')).toContain('read ohms there before the part is blamed');
  });
});

describe('sources are what they are', () => {
  // Idling adapters and worn cells: common practice, no source. 5 V before anything is agreed on: USB Type-C.
  const of = (volts: number, kind: string, idleVolts: number | null, wanted = 19.5) =>
    judge(reading(steady(volts)), {
      net,
      expectation: rail(wanted),
      series: null,
      drive: null,
      source: { kind, idleVolts } as never,
    });
  it.each([
    [5, 'adapter', 5, 'undecided', 'idle-source'],
    [5.4, 'adapter', 5, 'undecided', 'idle-source'],
    [5.6, 'adapter', 5, 'low', 'too-low'],
    [19.4, 'adapter', 5, 'good', 'within'],
    [5, 'adapter', null, 'low', 'may-idle'],
    [0.5, 'adapter', null, 'missing', 'not-there'],
    [2.9, 'adapter', null, 'missing', 'not-there'],
    [3, 'adapter', null, 'low', 'may-idle'],
    [5.1, 'usb-c', null, 'low', 'usb-not-asked'],
    [5.7, 'usb-c', null, 'low', 'too-low'],
    [4.3, 'usb-c', null, 'low', 'too-low'],
    [12, 'bench', null, 'low', 'too-low'],
  ] as const)('%f V of %s that idles at %s: %s, %s', (volts, source, idle, kind, is) => {
    expect(of(volts, source, idle)).toMatchObject({ kind, because: { is } });
  });
  it.each([
    [2.69, 'low'],
    [2.7, 'good'],
    [3.1, 'good'],
    [0.1, 'missing'],
    [3.6, 'high'],
  ] as const)('a coin cell at %f V is %s', (volts, kind) => {
    expect(of(volts, 'coin-cell', null, 3).kind).toBe(kind);
  });
});

describe('cold readings', () => {
  const cold = { mode: 'ohms', phase: 'cold' } as const;
  const ohms = (expected: number | null, upVolts = 0): Expectation =>
    expected === null
      ? { kind: 'unknown', because: 'not known' }
      : {
          kind: 'value',
          mode: 'ohms',
          value: expected,
          low: expected / 3,
          high: expected * 3,
          off: false,
          origin: 'schematic',
          upVolts,
        };
  const on = (
    value: ReadingValue,
    expectation: Expectation,
    where = net,
    change: Partial<Reading> = {},
  ) =>
    judge(reading(value, { ...cold, ...change }), {
      net: where,
      expectation,
      series: null,
      drive: where === core ? { volts: 0.9, amps: 40 } : { volts: 3.3, amps: 8 },
    }).kind;

  it('judges a short by what the regulator can drive, not by one number for all', () => {
    // 3.3 V at 8 A holds down to 0.41 ohm; 0.9 V at 40 A down to 0.0225 ohm.
    expect(on(steady(0.3), ohms(900))).toBe('shorted');
    expect(on(steady(2), ohms(900))).toBe('low');
    expect(on(steady(5), ohms(6), core)).toBe('good');
    expect(on({ kind: 'beep', limit: 30 }, ohms(6), core)).toBe('unjudged');
    expect(on({ kind: 'beep', limit: 30 }, ohms(900))).toBe('odd');
    expect(on({ kind: 'over', limit: 4e7 }, ohms(900))).toBe('open');
    expect(on(steady(100), ohms(null))).toBe('unjudged');
    // A short is a short, known cold ohms or not.
    expect(on(steady(0.1), ohms(null))).toBe('shorted');
  });

  it('judges diode-mode by the junction', () => {
    const diode: Expectation = {
      kind: 'value',
      mode: 'diode',
      value: 0.4,
      low: 0.32,
      high: 0.48,
      off: false,
      origin: 'schematic',
      upVolts: 3.3,
    };
    const at = (value: ReadingValue) => on(value, diode, net, { mode: 'diode' });
    expect(at(steady(0.412))).toBe('good');
    expect(at(steady(0.002))).toBe('shorted');
    expect(at(steady(0.2))).toBe('low');
    expect(at(steady(0.6))).toBe('high');
    expect(at({ kind: 'over', limit: 2 })).toBe('open');
  });
});

describe('at the edges', () => {
  const held = {
    kind: 'value',
    mode: 'volts',
    value: 0,
    low: 0,
    high: 0.1,
    off: true,
    upVolts: 3.3,
  };
  const off = (volts: number): string => judgeVolts(volts, held as never, { kind: 'rail' }).kind;
  it('what floats a little may float, what is driven is there too early, and below ground nothing floats', () => {
    const most = floatingVolts(3.3);
    expect([off(0.1), off(0.11), off(most), off(most + 0.001)]).toEqual([
      'good',
      'undecided',
      'undecided',
      'present',
    ]);
    expect(off(-0.11)).toBe('present');
  });
});
