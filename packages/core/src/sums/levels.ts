import { formatAmps, formatOhms, formatVolts } from '../units/index.ts';
import { answer, input, parallel, type Sum } from './sum.ts';

// Dividers, feedback, gates and pull-ups: what a level should be, and what explains it where it is not.

export const divider: Sum = {
  id: 'divider',
  title: 'Divider',
  asks: 'What should stand in the middle of two resistors, with what hangs on it?',
  formula:
    'V = Vin · Rb / (Ra + Rb), with Rb = lower ∥ load; at the edges of the tolerance both ways',
  source: "Ohm's and Kirchhoff's laws",
  limits: 'Direct current. What draws at the middle must be known as a resistance.',
  inputs: [
    input('volts', 'Volts above', 'volts', '19.5'),
    input('upper', 'Upper resistor', 'ohms', '100k'),
    input('lower', 'Lower resistor', 'ohms', '20k'),
    input('load', 'Load from the middle to ground (meter: 10M)', 'ohms', '10M'),
    input('tolerance', 'Tolerance of each', 'percent', '1'),
  ],
  work(given) {
    const [volts, upper, lower, load] = ['volts', 'upper', 'lower', 'load'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const part = given.number('tolerance') / 100;
    const at = (up: number, low: number): number => {
      const below = parallel(low, load);
      return (volts * below) / (up + below);
    };
    const middle = at(upper, lower);
    return answer(
      [
        { title: 'In the middle', value: middle, unit: 'volts' },
        { title: 'At least', value: at(upper * (1 + part), lower * (1 - part)), unit: 'volts' },
        { title: 'At most', value: at(upper * (1 - part), lower * (1 + part)), unit: 'volts' },
        { title: 'Through the upper one', value: (volts - middle) / upper, unit: 'amps' },
      ],
      [`Without the load it would be ${formatVolts((volts * lower) / (upper + lower))}.`],
    );
  },
};

export const dividerFault: Sum = {
  id: 'divider-fault',
  title: 'A level that is off',
  asks: 'A point behind a resistor reads wrong: which one part explains it?',
  formula:
    'lower or load alone: R = V · Ra / (Vin − V); upper alone: Ra = Rb · (Vin − V) / V, with the meter’s own ohms taken out',
  source: "Ohm's law",
  limits: 'One part at fault at a time. A reading above the feed has another cause.',
  inputs: [
    input('volts', 'Volts above', 'volts', '12'),
    input('upper', 'Upper resistor, as marked', 'ohms', '100k'),
    input('lower', 'Lower resistor, as marked (none: leave a large one)', 'ohms', '100G'),
    input('read', 'What it reads', 'volts', '4.2'),
    input('meter', 'The meter’s own ohms', 'ohms', '10M'),
  ],
  work(given) {
    const [volts, upper, lower, read, meter] = ['volts', 'upper', 'lower', 'read', 'meter'].map(
      (key) => given.number(key),
    ) as [number, number, number, number, number];
    const below = parallel(lower, meter);
    const should = (volts * below) / (upper + below);
    if (read <= 0 || read >= volts)
      return answer(
        [{ title: 'It should read', value: should, unit: 'volts' }],
        [
          read >= volts
            ? 'It reads no less than its feed: the lower resistor is open, or something else lifts it.'
            : 'It reads nothing: the upper one is open, or the point is held at ground. Read both unpowered.',
        ],
      );
    const amps = (volts - read) / upper - read / below;
    // A load beside what is drawn: what draws the amps that are too many.
    const load = amps > 0 ? read / amps : Infinity;
    const upperNow = (below * (volts - read)) / read;
    const lowerNow = 1 / ((volts - read) / (upper * read) - 1 / meter);
    return answer(
      [
        { title: 'It should read', value: should, unit: 'volts' },
        { title: 'What follows draws', value: Math.max(0, amps), unit: 'amps' },
      ],
      [
        amps > 0
          ? `What follows draws ${formatAmps(amps)}, as ${formatOhms(load)} to ground would;`
          : 'Nothing draws there: it reads higher than it should;',
        `or the upper one has gone to ${formatOhms(upperNow)} (marked ${formatOhms(upper)});`,
        lowerNow > 0 && Number.isFinite(lowerNow)
          ? `or the lower one is ${formatOhms(lowerNow)} (marked ${formatOhms(lower)}).`
          : 'no value of the lower one explains it.',
        'Read them unpowered; the meter’s own ohms are in the sum.',
      ],
    );
  },
};

export const feedback: Sum = {
  id: 'feedback',
  title: 'Regulator feedback',
  asks: 'Which volts does a regulator make with these two resistors?',
  formula: 'Vout = Vref · (1 + Rtop / Rbottom)',
  source: "Kirchhoff's laws; the reference is the data sheet's",
  limits: 'The regulator must regulate; the current into its feedback pin is left out.',
  inputs: [
    input('reference', 'Reference at the feedback pin', 'volts', '0.6'),
    input('top', 'From the output to feedback', 'ohms', '45.3k'),
    input('bottom', 'From feedback to ground', 'ohms', '10k'),
    input('tolerance', 'Tolerance of each', 'percent', '1'),
  ],
  work(given) {
    const [reference, top, bottom] = ['reference', 'top', 'bottom'].map((key) =>
      given.number(key),
    ) as [number, number, number];
    const part = given.number('tolerance') / 100;
    const at = (up: number, low: number): number => reference * (1 + up / low);
    return answer(
      [
        { title: 'Output', value: at(top, bottom), unit: 'volts' },
        { title: 'At least', value: at(top * (1 - part), bottom * (1 + part)), unit: 'volts' },
        { title: 'At most', value: at(top * (1 + part), bottom * (1 - part)), unit: 'volts' },
      ],
      [
        'With the top one open feedback sees nothing and the output runs up; with the bottom one open it stays at the reference.',
      ],
      ['An open feedback resistor puts too many volts on what follows: read both before power.'],
    );
  },
};

export const fetState: Sum = {
  id: 'fet',
  title: 'FET: on or off',
  asks: 'Gate, source and drain were read: is it on, and could it be?',
  formula:
    'Vgs = Vg − Vs; N-channel on above +Vth, P-channel on below −Vth; fully on from about twice that',
  source: 'Level 1 MOSFET model (Shichman and Hodges, 1968); "twice" is common practice, no source',
  limits: 'Threshold from the data sheet; it falls with heat.',
  inputs: [
    input('gate', 'Gate', 'volts', '13.5'),
    input('source', 'Source', 'volts', '19.5'),
    input('drain', 'Drain', 'volts', '19.5'),
    input('threshold', 'Threshold, without its sign', 'volts', '1.8'),
    input('channel', 'Channel: N or P', 'text', 'P'),
  ],
  work(given) {
    const [gate, source, drain, threshold] = ['gate', 'source', 'drain', 'threshold'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const isN = !/^p/i.test(given.text('channel').trim());
    const drive = isN ? gate - source : source - gate;
    const across = Math.abs(drain - source);
    const state =
      drive <= threshold
        ? 'off'
        : drive < 2 * threshold
          ? 'partly on: it drops and gets hot'
          : 'on';
    // Conducts on its own while off: drain below source (N), above it (P).
    const body = isN ? source - drain : drain - source;
    return answer(
      [
        { title: 'Gate against source', value: gate - source, unit: 'volts' },
        { title: 'It should be', value: state, unit: 'text' },
        { title: 'Across it', value: across, unit: 'volts' },
      ],
      [
        drive <= threshold && across < 0.05
          ? 'Off by its gate and nothing across it: shorted from drain to source, or nothing draws behind it.'
          : drive >= 2 * threshold && across > 0.3
            ? 'On by its gate and volts across it: open, or much more current than it is made for.'
            : drive <= threshold && body > 0.3 && body < 0.9
              ? 'Off, and its body diode conducts.'
              : 'Gate and drop agree.',
      ],
    );
  },
};

export const follower: Sum = {
  id: 'follower',
  title: 'Source follower',
  asks: 'An N-channel FET with its gate too low passes how much?',
  formula: 'Vs ≈ Vg − Vth, at most the drain',
  source: 'Level 1 MOSFET model (Shichman and Hodges, 1968)',
  limits: 'Small current; with more it passes less.',
  inputs: [
    input('gate', 'Gate', 'volts', '12'),
    input('drain', 'Drain', 'volts', '19.5'),
    input('threshold', 'Threshold', 'volts', '2'),
    input('amps', 'What it carries', 'amps', '0.5'),
  ],
  work(given) {
    const [gate, drain, threshold, amps] = ['gate', 'drain', 'threshold', 'amps'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const source = Math.max(0, Math.min(drain, gate - threshold));
    const watts = (drain - source) * amps;
    return answer(
      [
        { title: 'At the source', value: source, unit: 'volts' },
        { title: 'Heat in it', value: watts, unit: 'watts' },
      ],
      [
        source < drain
          ? 'The gate needs to stand well above the drain: look for what lifts it (charge pump, driver).'
          : 'The gate stands high enough.',
      ],
      watts > 1 ? [`${watts.toFixed(1)} W in a FET of this size burns: source off at once.`] : [],
    );
  },
};

export const pullUp: Sum = {
  id: 'pull-up',
  title: 'Pull-up against a leak',
  asks: 'Where does a line stand that is pulled up and leaks, and what leaks if it stands too low?',
  formula: 'V = Vcc · Rleak / (Rup + Rleak)',
  source: "Ohm's law",
  limits: 'Open-drain line at rest; the leak as a resistance to ground.',
  inputs: [
    input('supply', 'Pulled up to', 'volts', '3.3'),
    input('up', 'Pull-up', 'ohms', '10k'),
    input('leak', 'Leak to ground', 'ohms', '47k'),
    input('high', 'Counts as high above', 'volts', '2'),
  ],
  work(given) {
    const [supply, up, leak, high] = ['supply', 'up', 'leak', 'high'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const level = (supply * leak) / (up + leak);
    const least = (up * high) / (supply - high);
    return answer(
      [
        { title: 'The line stands at', value: level, unit: 'volts' },
        { title: 'The leak draws', value: level / leak, unit: 'amps' },
        {
          title: 'Leaks below this make it low',
          value: supply > high ? least : Infinity,
          unit: 'ohms',
        },
      ],
      [level >= high ? 'It still counts as high.' : 'It does not count as high any more.'],
    );
  },
};
