import { describe, expect, it } from 'vitest';
import { judgeFet, type FetSituation } from './index.ts';

// FET states from gate, source and drain: common practice, no source.
const p = (
  gate: number | null,
  source: number | null,
  drain: number | null,
  inputPin: 'S' | 'D' = 'D',
): FetSituation => ({
  ref: 'PQ1',
  kind: 'pfet',
  inputPin,
  readings: { gate, source, drain },
});
const n = (
  gate: number,
  source: number,
  drain: number,
  inputPin: 'S' | 'D' = 'D',
): FetSituation => ({
  ref: 'Q1',
  kind: 'nfet',
  inputPin,
  readings: { gate, source, drain },
});

describe('input FETs by gate, source and drain', () => {
  it.each([
    ['P on', p(6.2, 19.48, 19.5), 'on'],
    ['P off, its body diode carries', p(18.9, 18.9, 19.5), 'off'],
    ['P off, blocks', p(19.4, 19.4, 0, 'S'), 'off'],
    ['P told on, channel open', p(6, 18.8, 19.5), 'blocks-with-gate-on'],
    ['P half driven', p(16.5, 18.8, 19.5), 'half-on'],
    ['P conducts with its gate at the source', p(19.5, 19.49, 19.5), 'conducts-with-gate-off'],
    ['no feed', p(0, 0, 0), 'no-feed'],
    ['N on, gate 5 V above', n(24.9, 19.98, 20), 'on'],
    ['N off, gate at ground', n(0, 19.3, 20), 'off'],
    ['N told on, channel open', n(27, 19.2, 20), 'blocks-with-gate-on'],
    ['N half on', n(21.5, 19.2, 20), 'half-on'],
  ] as const)('%s', (_name, situation, state) => {
    expect(judgeFet(situation).state).toBe(state);
  });

  it('an N-channel one with too little gate follows it; P-channel ones never do', () => {
    const low = judgeFet(n(19.5, 17.4, 20));
    expect(low.state).toBe('half-on');
    expect(low.why).toContain('5 V above the 20 V that come in');
    expect(low.causes[0]?.cause).toContain('the driver gives too little');
    expect(judgeFet(n(20.9, 17.4, 20)).state).toBe('blocks-with-gate-on');
    expect(judgeFet(n(18.1, 17.4, 20)).why).not.toContain('follows');
    expect(judgeFet(p(16.5, 18.8, 19.5)).why).not.toContain('follows');
  });

  it('speaks of a body diode only where it lets through from the input', () => {
    expect(judgeFet(p(18.9, 18.9, 19.5)).why).toContain('its body diode');
    // Fed at its source, the diode of a P-channel one points back at the input.
    const blocks = judgeFet(p(19.5, 19.5, 18.9, 'S'));
    expect(blocks.why).not.toContain('across it is its body diode');
    expect(judgeFet(p(19.5, 19.5, 11, 'S')).why).toContain('lies the other way round');
    expect(judgeFet(n(0, 20, 19.3, 'S')).why).toContain('its body diode');
  });

  it('lists everything an off can mean, each with the reading that tells it apart', () => {
    const { causes, next } = judgeFet(p(18.9, 18.9, 19.5));
    const all = causes.map((one) => one.cause).join(' | ');
    for (const word of [
      'held off on purpose',
      'wrong source',
      'partner',
      'driver',
      'divider',
      'shorted to source',
      'clamp',
      'PQ1 itself',
    ]) {
      expect(all).toContain(word);
    }
    expect(new Set(causes.map((one) => one.toldApartBy)).size).toBe(causes.length);
    expect(next).toContain('driver');
  });

  it('asks for the pins not read yet, the input side first', () => {
    expect(judgeFet(p(null, null, null)).next).toBe('PQ1 drain');
    expect(judgeFet(p(null, 19, 19.5)).next).toBe('PQ1 gate');
  });
});

describe('what is said of a FET, word for word', () => {
  it('told to be on and blocking', () => {
    // A body diode drops a quarter of a volt to 1.1 V, and only where it lets through from the input.
    const why = (drop: number): string => judgeFet(p(6, 19.5 - drop, 19.5)).why;
    const told = (drop: string, below: string, source: string): string =>
      `gate 6 V, source ${source} V: ${below} V below, so it is told to be on, but ${drop} stand across it`;
    expect(why(0.25)).toBe(`${told('0.25 V', '13.25', '19.25')}, a body diode's drop.`);
    expect(why(0.24)).toBe(`${told('0.24 V', '13.26', '19.26')}.`);
    expect(why(1.09)).toBe(`${told('1.09 V', '12.41', '18.41')}, a body diode's drop.`);
    expect(why(1.2)).toBe(`${told('1.2 V', '12.3', '18.3')}.`);
    expect(judgeFet(n(27, 19.2, 20)).why).toContain('gate 27 V, source 19.2 V: 7.8 V above,');
  });

  it('conducting with its gate off: shorted, or fed from elsewhere', () => {
    const { causes, next } = judgeFet(p(19.5, 19.49, 19.5));
    expect(causes).toEqual([
      {
        cause: 'PQ1 shorted from drain to source',
        toldApartBy: 'source off, ohms across drain and source both ways',
      },
      {
        cause: 'the output is fed from elsewhere (battery, another source)',
        toldApartBy: 'unplug the battery and read again',
      },
    ]);
    expect(next).toBe('PQ1 drain to source in ohms, source off');
  });
});
