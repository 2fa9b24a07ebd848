import { describe, expect, it } from 'vitest';
import { formatSum, sums, workSum } from './index.ts';
import { e96, preferred, resistorMarking, threeDigits } from './markings.ts';
import { gaugeMillimetres } from './wires.ts';

/** A sum by its id with what was typed over the usual values. */
function work(id: string, typed: Record<string, string> = {}) {
  const sum = sums.find((one) => one.id === id);
  if (!sum) throw new Error(`there is no sum ${id}`);
  const usual = Object.fromEntries(sum.inputs.map((one) => [one.key, one.usual]));
  const strange = Object.keys(typed).find((key) => !(key in usual));
  if (strange) throw new Error(`${id} asks for no ${strange}`);
  const done = workSum(sum, { ...usual, ...typed });
  if (!done.ok) throw new Error(JSON.stringify(done.troubles));
  const { results, says, cautions } = done.answer;
  return {
    of: (title: string): number => {
      const found = results.find((one) => one.title === title);
      if (!found || typeof found.value !== 'number') throw new Error(`${id} gives no ${title}`);
      return found.value;
    },
    text: (title: string) => results.find((one) => one.title === title)?.value,
    says: says.join(' '),
    cautions: cautions.join(' '),
  };
}

describe('every sum', () => {
  it.each(sums.map((one) => [one.id, one] as const))(
    '%s has formula, source and limits, and works with its usual values',
    (_, sum) => {
      for (const text of [sum.asks, sum.formula, sum.source, sum.limits])
        expect(text.length).toBeGreaterThan(8);
      const done = workSum(sum, Object.fromEntries(sum.inputs.map((one) => [one.key, one.usual])));
      expect(done.ok && done.answer.results.length).toBeGreaterThan(0);
      if (!done.ok) return;
      for (const { value, unit } of done.answer.results) {
        expect([value, Number.isNaN(value)]).toEqual([value, false]);
        expect(formatSum(value, unit)).not.toMatch(/NaN|undefined|no value/);
      }
    },
  );

  it('says which input cannot be read, and works nothing out then', () => {
    const [first] = sums;
    if (!first) throw new Error('no sums');
    expect(
      workSum(first, { volts: 'much', upper: '-5', lower: '1m', load: '', tolerance: '1' }),
    ).toEqual({
      ok: false,
      troubles: {
        volts: '"much" is not a value.',
        upper: 'It cannot be less than 0.',
        lower: expect.stringContaining('could be'),
        load: 'Nothing was typed.',
      },
    });
  });
});

describe('levels', () => {
  it('a divider with a load and its tolerances (hand sums)', () => {
    const none = work('divider', { load: '1000G', tolerance: '0' });
    expect(none.of('In the middle')).toBeCloseTo(3.25, 3);
    // 20k beside 20k is 10k.
    expect(work('divider', { load: '20k' }).of('In the middle')).toBeCloseTo(19.5 / 11, 6);
    const wide = work('divider', { load: '1000G', tolerance: '5' });
    expect(wide.of('At least')).toBeCloseTo((19.5 * 19) / (105 + 19), 3);
    expect(wide.of('At most')).toBeCloseTo((19.5 * 21) / (95 + 21), 3);
  });

  it('4.2 V behind 100k from 12 V: 78 µA too many, or the 100k gone to megohms, the meter in the sum', () => {
    const low = work('divider-fault');
    expect(low.of('What follows draws')).toBeCloseTo(7.8 / 100e3 - 4.2 / 10e6, 8);
    expect(low.says).toContain('77.6 µA');
    // 10 MΩ of the meter alone: 10M · 7.8 / 4.2.
    expect(low.says).toContain('18.6 MΩ');
    expect(work('divider-fault', { read: '12' }).says).toContain('no less than its feed');
    expect(work('divider-fault', { read: '0' }).says).toContain('reads nothing');
  });

  it('feedback: 2.495 V and two equal resistors make 4.99 V (data sheets of the 431 shunt reference)', () => {
    const fed = work('feedback', { reference: '2.495', top: '10k', bottom: '10k', tolerance: '1' });
    expect(fed.of('Output')).toBeCloseTo(4.99, 6);
    expect(fed.of('At most')).toBeCloseTo(2.495 * (1 + 10.1 / 9.9), 6);
    expect(fed.cautions).toContain('open feedback');
  });

  it.each([
    ['P', '13.5', '19.5', '19.5', 'on', 'agree'],
    ['P', '19.5', '19.5', '18.95', 'off', 'agree'],
    ['P', '19.5', '19.5', '20.1', 'off', 'body diode'],
    ['P', '19.5', '19.5', '19.49', 'off', 'shorted from drain to source'],
    ['N', '24.5', '19.5', '19.51', 'on', 'agree'],
    ['N', '24.5', '19.5', '20.5', 'on', 'open'],
    ['N', '21.5', '19.5', '19.5', 'partly on: it drops and gets hot', 'agree'],
    ['N', '0', '5', '4.5', 'off', 'body diode'],
  ])('a FET %s, gate %s, source %s, drain %s: %s', (channel, gate, source, drain, state, says) => {
    const fet = work('fet', { channel, gate, source, drain, threshold: '1.8' });
    expect(fet.text('It should be')).toBe(state);
    expect(fet.says).toContain(says);
  });

  it('on begins at the threshold and is full at twice it', () => {
    const state = (gate: string) =>
      work('fet', { channel: 'N', gate, source: '0', drain: '5', threshold: '2' }).text(
        'It should be',
      );
    expect([state('2'), state('2.01'), state('3.99'), state('4')]).toEqual([
      'off',
      'partly on: it drops and gets hot',
      'partly on: it drops and gets hot',
      'on',
    ]);
  });

  it('a source follower passes its gate less the threshold, and above a watt it burns', () => {
    expect(work('follower').of('At the source')).toBe(10);
    expect(work('follower', { gate: '40' }).of('At the source')).toBe(19.5);
    const edge = (amps: string) =>
      work('follower', { gate: '12', drain: '20', threshold: '2', amps }).cautions;
    expect([edge('0.1'), edge('0.101')]).toEqual(['', expect.stringContaining('source off')]);
  });

  it('a pull-up of 10k against 47k, and the leak that makes it low', () => {
    const line = work('pull-up');
    expect(line.of('The line stands at')).toBeCloseTo((3.3 * 47) / 57, 6);
    expect(line.of('Leaks below this make it low')).toBeCloseTo((10e3 * 2) / 1.3, 3);
    expect(work('pull-up', { leak: '15k' }).says).toContain('does not count as high');
    expect(work('pull-up', { leak: '15.4k' }).says).toContain('still counts');
  });
});

describe('power', () => {
  it('12 mV across 10 mΩ are 1.2 A, known to 10 mA', () => {
    const sense = work('sense');
    expect(sense.of('Current')).toBeCloseTo(1.2, 9);
    expect(sense.of('Give or take')).toBeCloseTo(0.01, 9);
  });

  it('a resistor in circuit is not condemned for what lies beside it', () => {
    expect(work('in-circuit', { read: '7k6' }).says).toContain('not condemned');
    expect(work('in-circuit', { read: '4k' }).says).toContain('Lift one end');
    expect(work('in-circuit', { read: '12k' }).says).toContain('gone high');
    expect(
      work('in-circuit', { read: '5k', beside: '10k' }).of('What must lie beside it'),
    ).toBeCloseTo(10e3, 6);
  });

  it('1 A into 50 mΩ is 50 mW; volts never above the rail; seen from one degree on', () => {
    const small = work('injection');
    expect(small.of('Heat in it')).toBeCloseTo(0.05, 9);
    expect(small.of('Volts at the short')).toBeCloseTo(0.05, 9);
    // As the trade has it: not seen (common practice, no source).
    expect(small.says).toContain('Probably not seen');
    const rail = work('injection', { ohms: '10', amps: '1', rail: '1.1' });
    expect(rail.of('Volts at the short')).toBe(1.1);
    expect(rail.cautions).toContain('never above the rail’s own 1.1 V');
    const seen = (degrees: string) => work('injection', { degrees }).says;
    expect([seen('19.9'), seen('20')]).toEqual([
      expect.stringContaining('Probably not seen'),
      expect.stringContaining('should see it'),
    ]);
  });

  it('a boost: duty by volt-second balance, not boosting, nothing there', () => {
    const ideal = work('boost', { feed: '10', output: '20', efficiency: '100' });
    expect(ideal.of('On for')).toBeCloseTo(50, 9);
    expect(work('boost', { output: '19.1' }).says).toContain('does not boost');
    expect(work('boost', { output: '0' }).says).toContain('fuse or coil');
    expect(work('boost', { output: '12' }).says).toContain('pulls it down');
    expect([
      work('boost', { output: '60' }).cautions,
      work('boost', { output: '60.1' }).cautions,
    ]).toEqual(['', expect.stringContaining('shock')]);
  });

  it('charging: rate, pre-charge below 3 V, no cell below 2 V, no more than its capacity an hour', () => {
    const fine = work('charge', { amps: '2.1', capacity: '4.2', level: '50' });
    expect(fine.of('Rate')).toBeCloseTo(0.5, 9);
    expect(fine.of('To full, about')).toBeCloseTo(3600, 6);
    const cell = (volts: string, amps = '1.5') => work('charge', { cell: volts, amps });
    expect([
      cell('3').text('A pre-charge would be'),
      cell('2.99').text('A pre-charge would be'),
    ]).toEqual(['not needed', 'right']);
    expect([cell('2.9', '0.3').says, cell('2.9', '0.31').says]).toEqual([
      expect.stringContaining('fits'),
      expect.stringContaining('too large'),
    ]);
    expect(
      [cell('2').cautions, cell('1.99').cautions].map((one) =>
        one.includes('not charged any more'),
      ),
    ).toEqual([false, true]);
    expect(
      [cell('3.6', '4.2').cautions, cell('3.6', '4.3').cautions].map((one) =>
        one.includes('its label'),
      ),
    ).toEqual([false, true]);
    expect(cell('3.6').cautions).toContain('swollen');
  });

  it('energy and discharge: ½CV², t = RC ln(V/Vsafe), cautions at a tenth of a joule and 60 V', () => {
    const stored = work('energy', { farads: '1000u', volts: '20', ohms: '100', safe: '1' });
    expect(stored.of('Energy')).toBeCloseTo(0.2, 9);
    expect(stored.of('Discharged after')).toBeCloseTo(0.1 * Math.log(20), 9);
    const caution = (volts: string, farads: string) => work('energy', { volts, farads }).cautions;
    expect(
      [caution('10', '2000u'), caution('10', '2010u')].map((one) => one.includes('weld')),
    ).toEqual([false, true]);
    expect(
      [caution('60', '1u'), caution('60.1', '1u')].map((one) => one.includes('shock')),
    ).toEqual([false, true]);
  });
});

describe('time', () => {
  it('one time constant is 63.2 % (any handbook), 2 V of 3.3 V at 0.932 of it', () => {
    const reset = work('rc', { threshold: '2.08597' });
    expect(reset.of('High after')).toBeCloseTo(0.01, 6);
    expect(work('rc').of('High after')).toBeCloseTo(0.01 * -Math.log(1 - 2 / 3.3), 9);
    expect(work('rc', { threshold: '3.3' }).says).toContain('never gets there');
  });
});

describe('copper', () => {
  // ASTM B258, nominal diameters in millimetres; from memory.
  it.each([
    [-3, 11.684],
    [10, 2.588],
    [24, 0.5106],
    [30, 0.2546],
    [36, 0.127],
    [40, 0.0799],
  ])('gauge %s is %s mm', (awg, millimetres) => {
    expect(gaugeMillimetres(awg)).toBeCloseTo(millimetres, 3);
  });

  it('gauge 24 has 84.2 Ω a kilometre (wire tables), 30 melts at about 10 A (Preece)', () => {
    expect(work('gauge', { gauge: '24', millimetres: '1000000' }).of('Ohms of it')).toBeCloseTo(
      84.2,
      1,
    );
    expect(work('gauge', { gauge: '30' }).of('Melts at about')).toBeCloseTo(10.3, 1);
    const caution = (amps: string) => work('gauge', { gauge: '30', amps }).cautions;
    expect([caution('3.4'), caution('3.5')]).toEqual(['', expect.stringContaining('thicker')]);
  });

  it('a trace of 11.8 mil, one ounce, 10 °C carries 1 A outside (calculators of the IPC-2221 curve)', () => {
    const trace = work('trace', { width: String(11.8 * 0.0254), ounces: '1', degrees: '10' });
    expect(trace.of('Outside layer')).toBeCloseTo(1, 1);
    expect(trace.of('Inside layer')).toBeCloseTo(0.5, 1);
    // Half a milliohm a square of one ounce (handbooks).
    expect(work('trace', { width: '1', length: '1' }).of('Ohms of it')).toBeCloseTo(0.5e-3, 5);
  });

  it('2 mV at 1 A along 3 mm of one ounce are about 12 mm, and the meter tells no less than 0.6 mm', () => {
    const drop = work('drop-distance');
    expect(drop.of('Apart')).toBeCloseTo(12.1, 1);
    expect(drop.of('The meter tells no less than')).toBeCloseTo(drop.of('Apart') / 20, 9);
    expect(work('drop-distance', { meter: '4m' }).says).toContain('So coarse');
  });

  it('a fuse at three quarters, over its rating, over its volts', () => {
    const fits = (amps: string) => work('fuse', { rating: '4', amps }).says;
    expect([fits('3'), fits('3.01'), fits('4.01')]).toEqual([
      'It fits.',
      'It runs hot and ages.',
      'It should blow.',
    ]);
    expect(work('fuse', { volts: '33', marked: '32' }).cautions).toContain('arc');
    expect(work('fuse').cautions).toContain('never fit a larger one');
  });
});

describe('values and markings', () => {
  it('E96 is the published series (IEC 60063: its first and last)', () => {
    expect(e96.slice(0, 12)).toEqual([100, 102, 105, 107, 110, 113, 115, 118, 121, 124, 127, 130]);
    expect(e96.slice(-4)).toEqual([909, 931, 953, 976]);
  });

  it.each([
    [4850, 12, 4700],
    [4850, 24, 4700],
    [4850, 96, 4870],
    [9.6, 12, 10],
    [0.0105, 24, 0.011],
    [98.5, 96, 97.6],
    [99, 96, 100],
  ] as const)('nearest to %s in E%s is %s', (value, series, nearest) => {
    expect(preferred(value, series)).toBeCloseTo(nearest, 9);
  });

  it.each([
    ['103', 10_000],
    ['1002', 10_000],
    ['4K7', 4700],
    ['R47', 0.47],
    ['0R01', 0.01],
    ['4M7', 4.7e6],
    ['01C', 10_000],
    ['68X', 49.9],
    ['24B', 1740],
    ['96F', 97.6e6],
    ['000', 0],
    ['10L', 0.01],
  ])('%s is %s ohms', (marking, ohms) => {
    expect(resistorMarking(marking).map((one) => one.ohms)).toContain(ohms);
  });

  it('says when two codes fit, or none', () => {
    // 10R: ten ohms by the letter for the point, or number 10 of E96 and R for a hundredth.
    expect(
      resistorMarking('10R')
        .map((one) => one.ohms)
        .sort(),
    ).toEqual([1.24, 10]);
    expect(work('marking', { marking: '10R' }).says).toContain('Two codes fit');
    expect(work('marking', { marking: 'hello' }).says).toContain('none of these codes');
    expect(resistorMarking('97A')).toEqual([]);
    expect(threeDigits('104')).toBe(100_000);
    expect(threeDigits('2R2')).toBe(2.2);
    expect(work('marking', { marking: '104' }).of('Capacitor')).toBeCloseTo(100e-9, 15);
  });
});
