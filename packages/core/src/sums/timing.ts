import { answer, input, type Sum } from './sum.ts';

export const rcTime: Sum = {
  id: 'rc',
  title: 'RC time and reset delay',
  asks: 'How long until a line that charges through a resistor counts as high?',
  formula: 't = −R · C · ln(1 − Vth / V); τ = R · C',
  source: 'Handbook formula (Horowitz and Hill, The Art of Electronics)',
  limits: 'Begins at 0 V; nothing else draws.',
  inputs: [
    input('ohms', 'Resistor', 'ohms', '100k'),
    input('farads', 'Capacitor', 'farads', '100n'),
    input('supply', 'Charges towards', 'volts', '3.3'),
    input('threshold', 'Counts as high at', 'volts', '2'),
  ],
  work(given) {
    const [ohms, farads, supply, threshold] = ['ohms', 'farads', 'supply', 'threshold'].map((key) =>
      given.number(key),
    ) as [number, number, number, number];
    const tau = ohms * farads;
    return answer(
      [
        { title: 'Time constant', value: tau, unit: 'seconds' },
        {
          title: 'High after',
          value: threshold < supply ? -tau * Math.log(1 - threshold / supply) : Infinity,
          unit: 'seconds',
        },
        { title: 'Nearly there (99 %) after', value: tau * Math.log(100), unit: 'seconds' },
      ],
      threshold < supply
        ? []
        : ['It never gets there: the threshold is not below what it charges towards.'],
    );
  },
};
