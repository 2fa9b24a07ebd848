import { answer, input, type Sum } from './sum.ts';

// Copper: wires, traces, fuses, and how far a short is along a rail.

/** Ohm metres of annealed copper at 20 °C: 1/58 of a microohm metre (IEC 60028, 1925). */
export const copperOhmMetres = 1 / 58e6;
/** One ounce of copper on a square foot is this thick. */
export const ounceMicrometres = 34.8;

export const gauge: Sum = {
  id: 'gauge',
  title: 'Wire gauge',
  asks: 'How thick is a wire by its gauge, what has it in ohms, and what can it carry?',
  formula: 'd = 0.127 mm · 92^((36 − n) / 39); R = ρ · l / A; melts at I = 80 · d^1.5 (d in mm)',
  source:
    'ASTM B258 (diameters); IEC 60028 (copper); W. H. Preece 1884 (melting, copper wire in free air)',
  limits:
    'Short jumpers lead heat into their pads; a bundle carries less. A tenth of the melting current is usual.',
  inputs: [
    input('gauge', 'Gauge (AWG)', 'plain', '30'),
    input('millimetres', 'Length', 'millimetres', '50'),
    input('amps', 'It carries', 'amps', '1'),
  ],
  work(given) {
    const [awg, millimetres, amps] = ['gauge', 'millimetres', 'amps'].map((key) =>
      given.number(key),
    ) as [number, number, number];
    const diameter = gaugeMillimetres(awg);
    const area = (Math.PI * diameter * diameter) / 4;
    const ohms = (copperOhmMetres * millimetres * 1e-3) / (area * 1e-6);
    const melts = 80 * diameter ** 1.5;
    return answer(
      [
        { title: 'Diameter', value: diameter, unit: 'millimetres' },
        { title: 'Cross-section', value: area, unit: 'square millimetres' },
        { title: 'Ohms of it', value: ohms, unit: 'ohms' },
        { title: 'Drop', value: amps * ohms, unit: 'volts' },
        { title: 'Melts at about', value: melts, unit: 'amps' },
      ],
      [],
      amps > melts / 3
        ? [`${amps} A is more than a third of what melts it: take a thicker wire, or several.`]
        : [],
    );
  },
};

/** ASTM B258: gauges in 39 equal steps of a ratio of 92 from number 36 (0.127 mm) to 0000 (-3). */
export const gaugeMillimetres = (awg: number): number => 0.127 * 92 ** ((36 - awg) / 39);

export const traceCurrent: Sum = {
  id: 'trace',
  title: 'Trace current',
  asks: 'What can a trace carry for so many degrees?',
  formula: 'I = k · ΔT^0.44 · A^0.725, A in square mils; k = 0.048 outside, 0.024 inside',
  source: 'IPC-2221, generic curves (from memory)',
  limits: 'Long traces alone on a board; beside a plane they carry more.',
  inputs: [
    input('width', 'Width', 'millimetres', '1'),
    input('ounces', 'Copper, ounces', 'plain', '1'),
    input('degrees', 'Warmer by', 'celsius', '10'),
    input('length', 'Length', 'millimetres', '50'),
  ],
  work(given) {
    const [width, ounces, degrees, length] = ['width', 'ounces', 'degrees', 'length'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const thick = ounces * ounceMicrometres;
    const squareMils = (width / 0.0254) * (thick / 25.4);
    const outside = 0.048 * degrees ** 0.44 * squareMils ** 0.725;
    return answer([
      { title: 'Outside layer', value: outside, unit: 'amps' },
      { title: 'Inside layer', value: outside / 2, unit: 'amps' },
      { title: 'Ohms of it', value: traceOhms(width, thick, length), unit: 'ohms' },
    ]);
  },
};

const traceOhms = (millimetres: number, micrometres: number, length: number): number =>
  (copperOhmMetres * length * 1e-3) / (millimetres * 1e-3 * micrometres * 1e-6);

export const dropDistance: Sum = {
  id: 'drop-distance',
  title: 'Millivolts along a rail',
  asks: 'Current flows along a rail into a short: how far apart are two points by their millivolts?',
  formula: 'l = V · w · t / (ρ · I)',
  source: 'IEC 60028 (copper)',
  limits:
    'A trace of even width; a plane spreads and reads much less. Warm copper has 4 % more in 10 °C.',
  inputs: [
    input('volts', 'Between the two points', 'volts', '2m'),
    input('amps', 'Current', 'amps', '1'),
    input('width', 'Width of the copper', 'millimetres', '3'),
    input('ounces', 'Copper, ounces', 'plain', '1'),
    input('meter', 'Smallest step of the meter', 'volts', '0.1m'),
  ],
  work(given) {
    const [volts, amps, width, ounces, step] = ['volts', 'amps', 'width', 'ounces', 'meter'].map(
      (key) => given.number(key),
    ) as [number, number, number, number, number];
    const perMillimetre = amps * traceOhms(width, ounces * ounceMicrometres, 1);
    return answer(
      [
        { title: 'Apart', value: volts / perMillimetre, unit: 'millimetres' },
        { title: 'The meter tells no less than', value: step / perMillimetre, unit: 'millimetres' },
      ],
      [
        'The drop ends where the current leaves the rail: beyond the short nothing more is added.',
        step / perMillimetre > 20
          ? 'So coarse it tells nothing on a board: more amps, or a finer meter.'
          : '',
      ].filter((one) => one !== ''),
    );
  },
};

export const fuse: Sum = {
  id: 'fuse',
  title: 'Fuse',
  asks: 'Does a fuse fit what flows, and what does it drop?',
  formula: 'usual load ≤ 0.75 · rating; drop = I · R',
  source: 'Derating to 75 % at 25 °C: common practice of makers, no source',
  limits: 'Inrush is another matter: the I²t of the data sheet.',
  inputs: [
    input('rating', 'Rating', 'amps', '7'),
    input('amps', 'What flows', 'amps', '3.3'),
    input('ohms', 'Its ohms, cold', 'ohms', '0R008'),
    input('volts', 'Volts of the circuit', 'volts', '19.5'),
    input('marked', 'Volts the fuse is made for', 'volts', '32'),
  ],
  work(given) {
    const [rating, amps, ohms, volts, marked] = ['rating', 'amps', 'ohms', 'volts', 'marked'].map(
      (key) => given.number(key),
    ) as [number, number, number, number, number];
    return answer(
      [
        { title: 'Load', value: (100 * amps) / rating, unit: 'percent' },
        { title: 'Drop', value: amps * ohms, unit: 'volts' },
        { title: 'Least rating for it', value: amps / 0.75, unit: 'amps' },
      ],
      [
        amps > rating
          ? 'It should blow.'
          : amps > 0.75 * rating
            ? 'It runs hot and ages.'
            : 'It fits.',
      ],
      [
        ...(volts > marked
          ? ['The circuit has more volts than the fuse is made for: it may not break the arc.']
          : []),
        'A blown fuse had a cause: read what follows for a short before another is fitted, and never fit a larger one.',
      ],
    );
  },
};
