import { formatOhms } from '../units/index.ts';
import { answer, input, parallel, type Sum } from './sum.ts';

// Currents, heat and energy.

export const senseResistor: Sum = {
  id: 'sense',
  title: 'Current through a sense resistor',
  asks: 'Millivolts across a sense resistor: how many amps?',
  formula: 'I = V / R',
  source: "Ohm's law",
  limits: 'Both probes on the resistor’s own pads: copper beside it counts.',
  inputs: [
    input('volts', 'Across it', 'volts', '12m'),
    input('ohms', 'Resistor', 'ohms', '0R01'),
    input('meter', 'Smallest step of the meter', 'volts', '0.1m'),
  ],
  work(given) {
    const [volts, ohms, step] = ['volts', 'ohms', 'meter'].map((key) => given.number(key)) as [
      number,
      number,
      number,
    ];
    return answer([
      { title: 'Current', value: volts / ohms, unit: 'amps' },
      { title: 'Give or take', value: step / ohms, unit: 'amps' },
      { title: 'Heat in it', value: (volts * volts) / ohms, unit: 'watts' },
    ]);
  },
};

export const inCircuit: Sum = {
  id: 'in-circuit',
  title: 'Parallel, and in circuit',
  asks: 'A resistor reads less than it is marked: does what lies beside it explain that?',
  formula: '1 / R = 1 / R1 + 1 / R2 + …; what lies beside: R2 = R · R1 / (R1 − R)',
  source: "Kirchhoff's laws",
  limits: 'Resistive paths below a junction’s volts; capacitors must have charged.',
  inputs: [
    input('marked', 'Marked', 'ohms', '10k'),
    input('read', 'Reads in circuit', 'ohms', '7k5'),
    input('beside', 'Known beside it', 'ohms', '33k'),
    input('tolerance', 'Tolerance', 'percent', '5'),
  ],
  work(given) {
    const [marked, read, beside] = ['marked', 'read', 'beside'].map((key) => given.number(key)) as [
      number,
      number,
      number,
    ];
    const part = given.number('tolerance') / 100;
    const good = parallel(marked, beside);
    const needed = read < marked ? (read * marked) / (marked - read) : Infinity;
    return answer(
      [
        { title: 'A good one would read', value: good, unit: 'ohms' },
        { title: 'What must lie beside it', value: needed, unit: 'ohms' },
      ],
      [
        read > marked * (1 + part)
          ? 'It reads more than it is marked: nothing beside it can do that. It has gone high, or is open.'
          : read < good * (1 - 2 * part)
            ? `It reads less than what is known beside it explains: something more of ${formatOhms(needed)} lies there, or it is low. Lift one end.`
            : 'What lies beside it explains the reading: it is not condemned by it.',
      ],
    );
  },
};

export const injection: Sum = {
  id: 'injection',
  title: 'Injection into a short',
  asks: 'How much heat does a limited current make in a short, and is it seen?',
  formula: 'P = I² · R; V = I · R',
  source: "Joule's law; what a camera sees is common practice, no source",
  limits: 'Never more volts than the rail’s own. The resistance of leads is not in it.',
  inputs: [
    input('ohms', 'The short', 'ohms', '0R05'),
    input('amps', 'Current limit', 'amps', '1'),
    input('rail', 'The rail’s own volts', 'volts', '3.3'),
    input('degrees', 'Degrees a watt makes at the part, copper taking its share', 'celsius', '15'),
  ],
  work(given) {
    const [ohms, amps, rail, degrees] = ['ohms', 'amps', 'rail', 'degrees'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const volts = Math.min(rail, amps * ohms);
    const real = volts / ohms;
    const watts = volts * real;
    return answer(
      [
        { title: 'Volts at the short', value: volts, unit: 'volts' },
        { title: 'Heat in it', value: watts, unit: 'watts' },
        { title: 'Warmer by about', value: watts * degrees, unit: 'celsius' },
        { title: 'Amps for half a watt', value: Math.sqrt(0.5 / ohms), unit: 'amps' },
      ],
      [
        watts * degrees < seenDegrees
          ? 'Probably not seen: more amps within the limits, or look for millivolts along the rail.'
          : 'A camera should see it.',
      ],
      [
        `Set the supply to ${Math.min(rail, 1).toFixed(2)} V at most to begin with, never above the rail’s own ${rail} V, and connect it with the limit set.`,
      ],
    );
  },
};
/** Less than this a thermal camera of the bench does not tell from its noise; common practice, no source. */
export const seenDegrees = 1;

export const boost: Sum = {
  id: 'boost',
  title: 'Boost output',
  asks: 'Is a boost converter boosting, and how hard must it work?',
  formula: 'D = 1 − Vin · η / Vout; not boosting: Vout ≈ Vin − diode',
  source:
    'Volt-second balance of the coil (Erickson and Maksimović, Fundamentals of Power Electronics)',
  limits: 'Continuous conduction.',
  inputs: [
    input('feed', 'Feed', 'volts', '19.5'),
    input('output', 'Output, as read', 'volts', '27'),
    input('amps', 'Output current', 'amps', '0.1'),
    input('efficiency', 'Efficiency', 'percent', '88'),
    input('diode', 'Drop of the diode', 'volts', '0.4'),
  ],
  work(given) {
    const [feed, output, amps, percent, drop] = [
      'feed',
      'output',
      'amps',
      'efficiency',
      'diode',
    ].map((key) => given.number(key)) as [number, number, number, number, number];
    const part = percent / 100;
    const isBoosting = output > feed;
    const duty = isBoosting ? 1 - (feed * part) / output : 0;
    return answer(
      [
        { title: 'On for', value: 100 * duty, unit: 'percent' },
        { title: 'Draws from its feed', value: (output * amps) / (feed * part), unit: 'amps' },
        { title: 'Passed through while off', value: feed - drop, unit: 'volts' },
      ],
      [
        isBoosting
          ? 'It boosts.'
          : output < 0.3
            ? 'Nothing there: the fuse or coil before it is open, or the output is shorted.'
            : Math.abs(output - (feed - drop)) < 0.6
              ? 'It does not boost: the feed comes through the coil and the diode. Look for its enable and supply.'
              : 'Below what the diode passes: something pulls it down, or the diode drops too much.',
      ],
      output > 60 ? ['Above 60 V direct current: a shock hazard. One hand, insulated tips.'] : [],
    );
  },
};

export const charge: Sum = {
  id: 'charge',
  title: 'Charge rate',
  asks: 'Is a charge current what the battery asks for, and how long will it take?',
  formula: 'rate = I / capacity; t ≈ capacity · (1 − level) / I',
  source:
    'Definition of the C rate (IEC 61434, from memory); a pre-charge of 0.1 to 0.2 A is common practice, no source',
  limits: 'The last fifth takes longer: the current falls at constant volts.',
  inputs: [
    input('amps', 'Charge current', 'amps', '1.5'),
    input('capacity', 'Capacity', 'amp-hours', '4.2'),
    input('level', 'Full to', 'percent', '10'),
    input('cell', 'Volts of the lowest cell', 'volts', '3.4'),
  ],
  work(given) {
    const [amps, capacity, level, cell] = ['amps', 'capacity', 'level', 'cell'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const rate = amps / capacity;
    const isPrecharge = cell < prechargeBelowVolts;
    return answer(
      [
        { title: 'Rate', value: rate, unit: 'plain' },
        {
          title: 'To full, about',
          value: (3600 * capacity * (1 - level / 100)) / amps,
          unit: 'seconds',
        },
        {
          title: 'A pre-charge would be',
          value: isPrecharge ? 'right' : 'not needed',
          unit: 'text',
        },
      ],
      [
        isPrecharge && amps > 0.3
          ? 'So low a cell wants a small current first: this one is too large.'
          : amps < 0.05
            ? 'Next to nothing flows: it is full, or does not charge.'
            : 'The current fits the cell.',
      ],
      [
        ...(cell < deadCellVolts
          ? [
              `Below ${deadCellVolts} V a lithium cell is not charged any more: it may short inside.`,
            ]
          : []),
        ...(rate > 1 ? ['More than its capacity in an hour: only where its label says so.'] : []),
        'A swollen, hot or damaged battery is not charged at all.',
      ],
    );
  },
};
/** Common practice, no source. */
export const prechargeBelowVolts = 3;
export const deadCellVolts = 2;

export const capacitorEnergy: Sum = {
  id: 'energy',
  title: 'Energy in capacitors',
  asks: 'What is stored in the capacitors of a rail, and how long must they discharge?',
  formula: 'E = ½ · C · V²; t = R · C · ln(V / Vsafe)',
  source: 'Handbook formula (Horowitz and Hill, The Art of Electronics)',
  limits: 'Capacitors at full value; ceramic ones lose much of it with volts.',
  inputs: [
    input('farads', 'Capacitance', 'farads', '470u'),
    input('volts', 'Volts', 'volts', '19.5'),
    input('ohms', 'Discharged through', 'ohms', '100'),
    input('safe', 'Down to', 'volts', '1'),
  ],
  work(given) {
    const [farads, volts, ohms, safe] = ['farads', 'volts', 'ohms', 'safe'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const joules = 0.5 * farads * volts * volts;
    return answer(
      [
        { title: 'Energy', value: joules, unit: 'joules' },
        {
          title: 'Discharged after',
          value: volts > safe ? ohms * farads * Math.log(volts / safe) : 0,
          unit: 'seconds',
        },
        { title: 'First current', value: volts / ohms, unit: 'amps' },
        { title: 'First heat in the resistor', value: (volts * volts) / ohms, unit: 'watts' },
      ],
      [],
      [
        ...(joules > 0.1
          ? ['Enough to weld a probe and blow a gate: discharge before ohms, diode-mode and heat.']
          : []),
        ...(volts > 60 ? ['Above 60 V direct current: a shock hazard.'] : []),
      ],
    );
  },
};
