import { describe, expect, it } from 'vitest';
import {
  judge,
  readingSchema,
  usualMeter,
  whyText,
  type Because,
  type Expectation,
  type Reading,
  type ReadingValue,
} from './index.ts';
import { judgeAcross } from './judge-across.ts';

// The words of every verdict, whole: what is said about a board is changed knowingly or not at all.

const held = {
  kind: 'value',
  mode: 'volts',
  value: 3.3,
  low: 3.135,
  high: 3.465,
  off: false,
  origin: 'schematic',
  upVolts: 3.3,
} as const;
const off = { ...held, value: 0, low: -0.25, high: 0.25, off: true, origin: 'play' } as const;
const cold = {
  ...held,
  mode: 'ohms',
  value: 4700,
  low: 1570,
  high: 14100,
  origin: 'known-good',
} as const;

const words: [Because, string][] = [
  [{ is: 'not-reached' }, 'The point was not reached.'],
  [{ is: 'no-sense' }, 'Such a display makes no sense here.'],
  [{ is: 'not-judged' }, 'Recorded, not judged.'],
  [{ is: 'across-not-judged' }, 'Read against another point: kept, not judged.'],
  [{ is: 'other-point' }, 'Read against another point: kept, not judged by the rail.'],
  [{ is: 'not-on-sheet', net: 'VX' }, 'VX is not on the sheet any more.'],
  [
    { is: 'recorded', because: 'volts need a source' },
    'Recorded, not judged: volts need a source.',
  ],
  [{ is: 'no-expected', mode: 'amps' }, 'No expected amps are known here.'],
  [
    { is: 'swings', low: 0.2, high: 0.6, mode: 'volts', held: held },
    'Swings between 0.2 V and 0.6 V; a steady 3.3 V (3.13 V to 3.46 V) is expected. Something tries and gives up.',
  ],
  [
    { is: 'swings', low: 100, high: 900, mode: 'ohms', held: null },
    'Swings between 100 Ω and 900 Ω: it comes and goes.',
  ],
  [
    { is: 'not-settled', yet: { is: 'within', held: held } },
    'Not settled yet; within tolerance: expected 3.3 V (3.13 V to 3.46 V), from the schematic.',
  ],
  [
    { is: 'over-charge', amps: 5, most: 3, isGuess: false },
    '5 A with the battery, and the charger is set to 3 A at most: unplug the battery now, keep away from it, and follow your local rules. Something bypasses the charger.',
  ],
  [{ is: 'no-charge', most: 3, isGuess: false }, 'Nothing flows; the charger is set to 3 A.'],
  [
    { is: 'precharge', amps: 0.2, most: 3, isGuess: false },
    '200 mA is a pre-charge: watch whether it rises to about 3 A within minutes.',
  ],
  [
    { is: 'charging', amps: 2.9, most: 3, isGuess: false },
    '2.9 A, within the 3 A the charger is set to.',
  ],
  [
    { is: 'off', held: off },
    'Off as it should be; expected off, below 0.25 V, from the healthy play of the sheet.',
  ],
  [
    { is: 'within', held: held },
    'Within tolerance: expected 3.3 V (3.13 V to 3.46 V), from the schematic.',
  ],
  [
    { is: 'negative', held: held },
    'Negative: leads swapped, or the wrong reference; expected 3.3 V (3.13 V to 3.46 V), from the schematic.',
  ],
  [
    { is: 'not-there', held: held },
    'Not there; expected 3.3 V (3.13 V to 3.46 V), from the schematic.',
  ],
  [
    { is: 'may-float', volts: 0.4, held: off },
    '0.4 V may float on a net that nobody feeds; expected off, below 0.25 V, from the healthy play of the sheet.',
  ],
  [
    { is: 'too-early', volts: 2, held: off },
    '2 V where nothing should be yet; expected off, below 0.25 V, from the healthy play of the sheet.',
  ],
  [
    { is: 'too-low', by: 0.4, held: held, isRail: true },
    '0.4 V too low; expected 3.3 V (3.13 V to 3.46 V), from the schematic. Dragged down or not regulating.',
  ],
  [
    { is: 'too-low', by: 0.4, held: held, isRail: false },
    '0.4 V too low; expected 3.3 V (3.13 V to 3.46 V), from the schematic.',
  ],
  [
    { is: 'too-high', by: 0.4, held: held, isRail: true },
    '0.4 V too high; expected 3.3 V (3.13 V to 3.46 V), from the schematic.',
  ],
  [
    { is: 'idle-source', volts: 5, held: held },
    '5 V is what this source gives until it sees a load; expected 3.3 V (3.13 V to 3.46 V), from the schematic. It is no fault of its own: nothing draws from it yet, so read on behind it.',
  ],
  [
    { is: 'may-idle', volts: 5, held: held },
    '5 V, expected 3.3 V (3.13 V to 3.46 V), from the schematic. Dragged down by what hangs on it, weak, or one that idles low until it sees a load: read it off the board, then with a load, or try another.',
  ],
  [
    { is: 'usb-not-asked', volts: 5.1, held: held },
    '5.1 V is what a USB-C source gives to who is attached and asks for no more; expected 3.3 V (3.13 V to 3.46 V), from the schematic.',
  ],
  [
    { is: 'worn-cell', volts: 2.6, held: held },
    '2.6 V: a coin cell below 2.7 V is worn (common practice). Change it before settings and clock are trusted.',
  ],
  [{ is: 'cell', volts: 2.9, held: held }, '2.9 V: a coin cell is good down to about 2.7 V.'],
  [
    { is: 'usb-idle', volts: 0 },
    '0 V unplugged: a USB-C source gives nothing until something is plugged in. Check it with a load that asks.',
  ],
  [
    { is: 'usb-live', volts: 5 },
    '5 V unplugged: a USB-C source gives nothing until something is plugged in. This one does not keep to it.',
  ],
  [{ is: 'source-good', volts: 19.4, usual: 19.5 }, '19.4 V unplugged, 19.5 V expected.'],
  [
    { is: 'source-dead', volts: 0, usual: 19.5 },
    '0 V unplugged: dead, or its lead is broken. Try another before the board is opened.',
  ],
  [
    { is: 'source-low', volts: 12, usual: 19.5 },
    '12 V unplugged, 19.5 V expected. Some idle low until they see a load: try one.',
  ],
  [
    { is: 'source-high', volts: 24, usual: 19.5 },
    '24 V unplugged, 19.5 V expected: do not connect it.',
  ],
  [
    { is: 'source-idles', volts: 5, wakesAtAmps: 0.02 },
    '5 V unplugged is how it idles: read it again under a load of more than 20 mA.',
  ],
  [
    { is: 'draw', amps: 0.31, usual: 0.2567, then: 'Source off.' },
    '310 mA, about 260 mA when healthy. Source off.',
  ],
  [{ is: 'draw', amps: 0.25, usual: 0.2567, then: '' }, '250 mA, about 260 mA when healthy.'],
  [{ is: 'draw-guessed', amps: 0.3, then: 'Source off.' }, '300 mA. Source off.'],
  [
    { is: 'draw-guessed', amps: 0.08, then: '' },
    '80 mA: nobody knows what a good one of these draws. Write it down and go on.',
  ],
  [
    { is: 'may-be-body-diode', volts: 18.9, part: 'PQ1', from: 'VIN' },
    '18.9 V could be PQ1 on, or off and leaking through its body diode. Read VIN before it: the drop decides.',
  ],
  [
    { is: 'drop-decides', part: 'PQ1', from: 'VIN' },
    'Looks right, but PQ1 before it is judged by its drop: read VIN too.',
  ],
  [
    { is: 'nothing-before', part: 'F1', from: 'VIN' },
    'Nothing here, and nothing at VIN before F1 either.',
  ],
  [
    { is: 'fed-elsewhere', volts: 19.5, from: 'VIN' },
    '19.5 V here but nothing at VIN: fed from elsewhere.',
  ],
  [
    { is: 'above-before', by: 0.4, part: 'F1', from: 'VIN' },
    '0.4 V higher than VIN before F1: fed from elsewhere, or a bad contact.',
  ],
  [
    { is: 'through', part: 'F1', held: held },
    'There, so F1 before it conducts: expected 3.3 V (3.13 V to 3.46 V), from the schematic.',
  ],
  [
    { is: 'conducts', drop: 0.01, part: 'F1', usual: 0.012 },
    '0.01 V across F1: it conducts (a healthy one drops about 0.012 V).',
  ],
  [
    { is: 'conducts-low', part: 'F1', held: held },
    'F1 conducts, but what comes in is low already: 3.3 V (3.13 V to 3.46 V) expected.',
  ],
  [
    { is: 'conducts-high', part: 'F1', held: held },
    'F1 conducts, but what comes in is too high: 3.3 V (3.13 V to 3.46 V) expected.',
  ],
  [
    { is: 'blocks', part: 'F1', before: 19.5, load: 'clear', isFuse: true },
    'Nothing after F1, 19.5 V before it: it does not conduct. Before a new one goes in, read what stands next in line behind it for the short that blew it.',
  ],
  [
    { is: 'blocks', part: 'L1', before: 19.5, load: 'clear', isFuse: false },
    'Nothing after L1, 19.5 V before it: it does not conduct.',
  ],
  [
    { is: 'blocks', part: 'F1', before: 19.5, load: 'shorted', isFuse: true },
    'Nothing after F1, 19.5 V before it: what hangs behind it is shorted, which comes first: the part may be whole, or gone by it. Before a new one goes in, read what stands next in line behind it for the short that blew it.',
  ],
  [
    { is: 'blocks', part: 'F1', before: 19.5, load: 'unread', isFuse: true },
    'Nothing after F1, 19.5 V before it: it does not conduct, or what hangs behind it pulls all down: source off, read ohms there before the part is blamed.',
  ],
  [
    { is: 'diode-drop', drop: 0.6, part: 'PQ1' },
    "0.6 V across PQ1 is a diode's drop: it is off, and what is here leaks through its body diode.",
  ],
  [
    { is: 'follows-gate', part: 'Q1', below: 2, gate: 19.5, before: 20 },
    '2 V below the gate of Q1 (19.5 V): it only follows its gate, which has to stand about 5 V above the 20 V before it. Look at what drives the gate.',
  ],
  [
    { is: 'drops-too-much', drop: 1.5, part: 'L1', usual: 0.01 },
    '1.5 V across L1, about 0.01 V when healthy: it does not conduct as it should.',
  ],
  [
    { is: 'no-junction', held: cold },
    'OL: no junction seen; expected 4.7 kΩ (1.57 kΩ to 14.1 kΩ).',
  ],
  [{ is: 'open-to-ground', held: cold }, 'Open to ground; expected 4.7 kΩ (1.57 kΩ to 14.1 kΩ).'],
  [
    { is: 'leaks', held: cold },
    'Lower than expected 4.7 kΩ (1.57 kΩ to 14.1 kΩ): something leaks to ground.',
  ],
  [
    { is: 'path-broken', held: cold },
    'Higher than expected 4.7 kΩ (1.57 kΩ to 14.1 kΩ): a path is broken or a part is gone.',
  ],
  [{ is: 'as-expected', held: cold }, 'As expected: 4.7 kΩ (1.57 kΩ to 14.1 kΩ).'],
  [{ is: 'over-unknown' }, 'OL recorded: nothing known to hold it against.'],
  [{ is: 'core-diode' }, 'A core rail reads near nothing in diode-mode by nature: take ohms.'],
  [{ is: 'no-drop' }, 'Next to no drop to ground: shorted, or nearly so. Take ohms to be sure.'],
  [{ is: 'nothing-known', shortOhms: null }, 'Recorded: nothing known to hold it against.'],
  [
    { is: 'nothing-known', shortOhms: 0.55 },
    'Recorded: nothing known to hold it against. Not a short for what feeds it (550 mΩ or less would be).',
  ],
  [
    { is: 'cannot-hold', ohms: 0.4, isBound: false, amps: 6, volts: 3.3, least: 0.55 },
    '400 mΩ: the regulator gives at most 6 A and cannot hold 3.3 V into less than 550 mΩ.',
  ],
  [
    { is: 'cannot-hold', ohms: 0.4, isBound: true, amps: 6, volts: 3.3, least: 0.55 },
    'Below 400 mΩ: the regulator gives at most 6 A and cannot hold 3.3 V into less than 550 mΩ.',
  ],
  [
    { is: 'below', ohms: 5000, held: cold },
    'Below 5 kΩ, expected 4.7 kΩ (1.57 kΩ to 14.1 kΩ), and how much was not read.',
  ],
  [{ is: 'below', ohms: 5000, held: null }, 'Below 5 kΩ: how much was not read.'],
  [{ is: 'core-buzz', ohms: 30 }, 'Below 30 Ω: normal for a core rail. Read it in ohms.'],
  [{ is: 'buzz', ohms: 30 }, 'Below 30 Ω by the buzzer: a possible short. Read it in ohms.'],
  [
    { is: 'bound-may-be-short', limit: 1000, mode: 'ohms' },
    'Above 1 kΩ, which leaves a short possible: type the figure.',
  ],
  [
    { is: 'bound-no-short', limit: 1000, mode: 'ohms', held: cold },
    'Above 1 kΩ, so no short; expected 4.7 kΩ (1.57 kΩ to 14.1 kΩ), and how much was not read.',
  ],
  [
    { is: 'bound-no-short', limit: 1000, mode: 'ohms', held: null },
    'Above 1 kΩ, so no short; how much was not read.',
  ],
  [
    { is: 'bound-too-high', limit: 20000, mode: 'ohms', held: cold },
    'Above 20 kΩ, expected 4.7 kΩ (1.57 kΩ to 14.1 kΩ): a path is broken or a part is gone.',
  ],
  [{ is: 'bound-through', part: 'F1' }, 'A bound through F1: type what the meter shows.'],
  [{ is: 'part-conducts', part: 'F1' }, 'F1 conducts.'],
  [
    { is: 'channel-short', part: 'PQ1' },
    'PQ1 conducts without its gate: shorted from drain to source, or what lies beside it is.',
  ],
  [
    { is: 'channel-leaks', part: 'PQ1' },
    'Lower than the healthy play: PQ1 or what lies beside it leaks.',
  ],
  [{ is: 'channel-blocks', part: 'PQ1' }, 'PQ1 does not conduct without its gate.'],
  [{ is: 'part-whole', part: 'R1', ohms: 47000 }, 'R1 is whole: 47 kΩ through it.'],
  [{ is: 'part-open', part: 'F1', own: 0 }, 'F1 does not conduct: 0 Ω expected through it.'],
  [
    { is: 'part-high', part: 'F1', own: 0 },
    'More than 0 Ω and the leads: a bad joint, or F1 is on its way to open.',
  ],
  [
    { is: 'junction-gone', part: 'PQ1' },
    'No junction left in PQ1: shorted from drain to source, or what lies beside it is.',
  ],
  [
    { is: 'junction-leaks', part: 'PQ1' },
    'Less than a junction drops: PQ1 leaks, or something beside it does.',
  ],
  [
    { is: 'junction-high', part: 'PQ1' },
    'More than its body diode drops: not all of PQ1 is there, or a bad contact.',
  ],
  [
    { is: 'no-body-diode', part: 'PQ1' },
    'No body diode seen: the leads are the other way round, or PQ1 is open.',
  ],
  [{ is: 'blocks-this-way' }, 'Blocks this way round, as the healthy play does.'],
  [
    { is: 'body-diode', part: 'PQ1', volts: 0.52 },
    '0.52 V is the body diode of PQ1. Whether it turns on is seen powered.',
  ],
  [
    { is: 'part-drop', part: 'F1', volts: 0.01 },
    '0.01 V across F1: it conducts, or nothing comes in at all.',
  ],
  [
    { is: 'part-diode-drop', part: 'PQ1', volts: 0.6 },
    "0.6 V across PQ1 is a diode's drop: it is off.",
  ],
  [
    { is: 'part-drops-too-much', part: 'F1', volts: 3, usual: 0.01 },
    '3 V across F1, about 0.01 V when healthy: it does not conduct as it should.',
  ],
  [{ is: 'take-ohms', chip: 'PU9' }, 'Take ohms through PU9.'],
  [
    { is: 'switch-little', chip: 'PU9' },
    'Little through PU9 for a switch that is off: read it again with the leads the other way round before any source.',
  ],
  [
    { is: 'switch-shorted', chip: 'PU9', rail: 'VCORE', feedVolts: 19.5 },
    'Next to nothing through PU9: its upper switch is gone, and 19.5 V would stand on VCORE and destroy what hangs there. No source and no battery before it is changed and VCORE was read for shorts.',
  ],
  [{ is: 'switch-blocks', chip: 'PU9', rail: 'VCORE' }, 'PU9 blocks from its feed to VCORE.'],
];

describe('the words of every verdict', () => {
  it.each(words)('%o', (because, text) => {
    expect(whyText({ kind: 'odd', because })).toBe(text);
  });
});

describe('what a cold reading is held to mean, by name', () => {
  const reading = (value: ReadingValue, mode: Reading['mode'] = 'ohms'): Reading => ({
    at: { net: 'x', part: null, pin: null },
    reference: null,
    polarity: 'red-on-point',
    mode,
    phase: 'cold',
    value,
    source: null,
    attached: [],
    lifted: [],
    meter: usualMeter,
    sheet: '',
    note: '',
  });
  const number = (value: number): ReadingValue => ({ kind: 'number', value, trend: 'steady' });
  const over = (limit: number): ReadingValue => ({ kind: 'over', limit });
  const beep: ReadingValue = { kind: 'beep', limit: 30 };
  const rail = { kind: 'rail', volts: 3.3, rangeVolts: null } as never;
  const core = { kind: 'rail', volts: 0.9, rangeVolts: null } as never;
  const nameless = { kind: 'rail', volts: null, rangeVolts: null } as never;
  const signal = { kind: 'signal', volts: 3.3, rangeVolts: null } as never;
  const unknown: Expectation = { kind: 'unknown', because: 'nothing' };
  const diode = { ...cold, mode: 'diode', value: 0.4, low: 0.32, high: 0.48 } as const;
  const drive = { volts: 3.3, amps: 6 };
  const coreCold = { ...cold, value: 6, low: 3, high: 12 } as const;
  it.each([
    [number(4700), cold, rail, 'ohms', 'good', 'as-expected'],
    [number(900), cold, rail, 'ohms', 'low', 'leaks'],
    [number(90_000), cold, rail, 'ohms', 'high', 'path-broken'],
    [number(0.5), cold, rail, 'ohms', 'shorted', 'cannot-hold'],
    [number(0.99), unknown, rail, 'ohms', 'shorted', 'near-nothing'],
    [number(1), unknown, rail, 'ohms', 'unjudged', 'nothing-known'],
    // A core of 6 ohms: below a tenth of that it is a short, at a tenth and more it leaks.
    [number(0.59), coreCold, core, 'ohms', 'shorted', 'far-below'],
    [number(0.61), coreCold, core, 'ohms', 'low', 'leaks'],
    // A tenth of a rail's ohms is a leak, not a short.
    [number(1.1), { ...coreCold, value: 60 }, core, 'ohms', 'low', 'leaks'],
    [number(0.56), unknown, core, 'ohms', 'unjudged', 'nothing-known'],
    [number(0.56), unknown, nameless, 'ohms', 'unjudged', 'nothing-known'],
    [number(0.56), unknown, signal, 'ohms', 'unjudged', 'nothing-known'],
    [over(40e6), cold, rail, 'ohms', 'open', 'open-to-ground'],
    [over(40e6), unknown, rail, 'ohms', 'unjudged', 'over-unknown'],
    [over(1000), cold, rail, 'ohms', 'undecided', 'bound-no-short'],
    [over(0.5), cold, rail, 'ohms', 'undecided', 'bound-may-be-short'],
    [over(20_000), cold, rail, 'ohms', 'high', 'bound-too-high'],
    [beep, cold, rail, 'ohms', 'odd', 'buzz'],
    [beep, cold, core, 'ohms', 'unjudged', 'core-buzz'],
    [{ kind: 'beep', limit: 5000 }, cold, rail, 'ohms', 'undecided', 'below'],
    [{ kind: 'beep', limit: 101 }, unknown, rail, 'ohms', 'unjudged', 'below'],
    [number(0.4), diode, rail, 'diode', 'good', 'as-expected'],
    [number(0.3), diode, rail, 'diode', 'low', 'leaks'],
    [number(0.5), diode, rail, 'diode', 'high', 'path-broken'],
    [number(0.019), diode, rail, 'diode', 'shorted', 'no-drop'],
    [number(0.019), diode, core, 'diode', 'unjudged', 'core-diode'],
    [beep, diode, rail, 'diode', 'shorted', 'no-drop'],
    [number(0.4), unknown, rail, 'diode', 'unjudged', 'nothing-known'],
    [over(2), diode, rail, 'diode', 'open', 'no-junction'],
    [over(2), unknown, rail, 'diode', 'unjudged', 'over-unknown'],
    [over(0.3), diode, rail, 'diode', 'undecided', 'bound-no-short'],
    [over(0.01), diode, rail, 'diode', 'undecided', 'bound-may-be-short'],
  ] as const)('%o held against %o', (value, expectation, net, mode, kind, is) => {
    const judged = judge(reading(value, mode), { net, expectation, series: null, drive });
    expect(judged).toMatchObject({ kind, because: { is } });
  });

  const across = (
    value: ReadingValue,
    mode: Reading['mode'],
    healthy: number | null,
    kind = 'pfet',
  ) => judgeAcross(reading(value, mode), { part: 'PQ1', kind: kind as never, healthy });
  it.each([
    [number(4.9), 'ohms', Infinity, 'pfet', 'shorted', 'channel-short'],
    [number(5), 'ohms', null, 'pfet', 'unjudged', 'nothing-known'],
    [number(900), 'ohms', 3000, 'pfet', 'low', 'channel-leaks'],
    [number(1100), 'ohms', 3000, 'pfet', 'good', 'channel-blocks'],
    [number(0.04), 'diode', 0.5, 'pfet', 'shorted', 'junction-gone'],
    [over(2), 'diode', Infinity, 'pfet', 'good', 'blocks-this-way'],
    [over(2), 'diode', 0.5, 'pfet', 'odd', 'no-body-diode'],
    [number(0.37), 'diode', 0.5, 'nfet', 'low', 'junction-leaks'],
    [number(0.39), 'diode', 0.5, 'nfet', 'good', 'body-diode'],
    [number(0.63), 'diode', 0.5, 'nfet', 'high', 'junction-high'],
    [number(0.29), 'diode', null, 'nfet', 'low', 'junction-leaks'],
    [number(0.76), 'diode', null, 'nfet', 'high', 'junction-high'],
    [number(2), 'ohms', 0, 'fuse', 'good', 'part-whole'],
    [number(2.1), 'ohms', 0, 'fuse', 'high', 'part-high'],
    [number(101), 'ohms', 0, 'fuse', 'open', 'part-open'],
    [beep, 'ohms', 0, 'fuse', 'good', 'part-conducts'],
    [number(0.4), 'diode', 0, 'fuse', 'unjudged', 'across-not-judged'],
    [number(0.05), 'volts', 0.01, 'fuse', 'undecided', 'part-drop'],
    [number(0.07), 'volts', 0.01, 'fuse', 'open', 'part-drops-too-much'],
    [number(0.6), 'volts', 0.01, 'pfet', 'low', 'part-diode-drop'],
    [number(1.2), 'volts', 0.01, 'pfet', 'open', 'part-drops-too-much'],
  ] as const)('%o in %s across one that reads %f', (value, mode, healthy, part, kind, is) => {
    expect(across(value, mode, healthy, part)).toMatchObject({ kind, because: { is } });
  });
});

describe('what can be no reading', () => {
  const base = {
    at: { net: 'x', part: null, pin: null },
    reference: null,
    polarity: 'red-on-point',
    phase: 'standby',
    source: null,
    attached: [],
    lifted: [],
    meter: usualMeter,
    sheet: '',
    note: '',
  };
  const trouble = (change: object): string[] =>
    (readingSchema.safeParse({ ...base, ...change }).error?.issues ?? []).map(
      ({ path, message }) => `${path.join('.')}: ${message}`,
    );
  it('a buzzer belongs to ohms or diode-mode, and these to a board with nothing connected', () => {
    const beep = { kind: 'beep', limit: 30 };
    expect(trouble({ mode: 'volts', value: beep })).toEqual([
      'value: beep belongs to ohms or diode',
    ]);
    expect(trouble({ mode: 'ohms', phase: 'cold', value: beep })).toEqual([]);
    expect(trouble({ mode: 'diode', phase: 'cold', value: beep })).toEqual([]);
    expect(trouble({ mode: 'ohms', value: { kind: 'over', limit: 4e7 } })).toEqual([
      'phase: ohms and diode-mode are taken cold, with nothing connected',
    ]);
  });
  it('ohms and seconds are never negative; volts may be', () => {
    const minus = { kind: 'number', value: -1, trend: 'steady' };
    expect(trouble({ mode: 'ohms', phase: 'cold', value: minus })).toEqual([
      'value: ohms are never negative',
    ]);
    expect(trouble({ mode: 'seconds', value: minus })).toEqual([
      'value: seconds are never negative',
    ]);
    expect(trouble({ mode: 'volts', value: minus })).toEqual([]);
    expect(trouble({ mode: 'volts', value: { kind: 'swinging', low: 2, high: 1 } })[0]).toContain(
      'low must be below high',
    );
  });
});
