import { describe, expect, it } from 'vitest';
import { plainBoard } from '@jiko/testing';
import { loadSheet, partValue, pinNames, type Behaviour } from './index.ts';

// What a sheet may leave out is filled in the same way every day: values, limits and steps by kind.

describe('values of parts', () => {
  it.each([
    ['resistor', 0, 0],
    ['jumper', 0, 0],
    ['resistor', '4k7', 4700],
    ['capacitor', '10u', 1e-5],
    ['zener', '5V6', 5.6],
    ['capacitor', 0, 'more than 0'],
    ['coil', '0', 'more than 0'],
    ['fuse', '7A', null],
    ['resistor', -1, 'more than 0'],
    ['capacitor', '-1u', 'more than 0'],
    ['resistor', undefined, 'a resistor needs a value'],
    ['tvs', undefined, 'a tvs needs a value'],
    ['capacitor', undefined, null],
    ['pfet', '5', null],
  ] as const)('%s of %s: %s', (kind, written, expected) => {
    const value = partValue(kind, written);
    if (typeof expected === 'string')
      expect(value.ok ? value.value : value.error).toContain(expected);
    else if (expected === null) expect(value).toEqual({ ok: true, value: null });
    else expect(value.ok && value.value).toBeCloseTo(expected, 9);
  });

  it('a crystal has two ends by number', () => {
    expect(pinNames.crystal).toEqual(['1', '2']);
  });
});

const sheet = (chips: string, stage = ''): string => `format: jiko-board/1
id: kinds
title: Kinds
depth: full
nets:
  GND: { kind: ground }
  VIN: { kind: rail, volts: 12 }
  A: { kind: rail, volts: 5 }
  B: { kind: rail, volts: 1.2 }
  EN: {}
  PG: {}
  SW: {}
chips:
  ${chips}
stages:
  in: { title: Input, gives: [VIN] }
  ${stage || 'a: { title: A, gives: [A] }'}
sources:
  adapter: { kind: adapter, title: Adapter, net: VIN, volts: 12, limit: 3 }
goals:
  boots: { title: boots, reached: [A > 3] }
`;
const behavioursOf = (text: string): readonly Behaviour[] =>
  plainBoard(text).chips.flatMap((chip) => chip.behaviours);

describe('chips by their kind', () => {
  const regulator = (kind: string, more = ''): Extract<Behaviour, { do: 'regulator' }> => {
    const [found] = behavioursOf(
      sheet(`U1: { kind: ${kind}, ${more} pins: { VIN: VIN, EN: EN, OUT: A, GND: GND } }`),
    );
    if (found?.do !== 'regulator') throw new Error('no regulator');
    return found;
  };
  const leastFeed = (kind: string, more = ''): number | undefined =>
    regulator(kind, more).needs.find((need) => need.pin === 'VIN')?.volts;

  it('a buck wants a tenth more than it gives and 2.5 V at least, an LDO what it gives, a boost 2.5 V', () => {
    expect(leastFeed('buck', 'volts: 5,')).toBeCloseTo(5.5);
    expect(leastFeed('buck', 'volts: 1.2,')).toBeCloseTo(2.5);
    expect(leastFeed('ldo', 'volts: 3.3,')).toBeCloseTo(3.3);
    expect(leastFeed('boost', 'volts: 24,')).toBeCloseTo(2.5);
    expect(leastFeed('loadswitch')).toBeCloseTo(0.8);
  });

  it('gives what is stated, or what its kind usually gives', () => {
    expect(regulator('ldo', 'volts: 3.3, limit: 0.2,').limitAmps).toBe(0.2);
    const usual = regulator('ldo', 'volts: 3.3,').limitAmps;
    expect(usual).toBeGreaterThan(0.05);
    expect(usual).toBeLessThan(regulator('buck', 'volts: 3.3,').limitAmps!);
  });

  it('a controller waits for the power-goods it has, and for none it has not', () => {
    const waits = (pins: string): string[] => {
      const [found] = behavioursOf(
        sheet(`U1: { kind: controller, pins: { VCC: A, SW: SW, RUNEN: EN, GND: GND${pins} } }`),
      );
      if (found?.do !== 'sequence') throw new Error('no sequence');
      return found.steps.flatMap((step) =>
        step.kind === 'wait' ? step.needs.map((need) => need.pin) : [],
      );
    };
    expect(waits('')).toEqual(['SW']);
    expect(waits(', RUNPG: PG')).toEqual(['SW', 'RUNPG']);
    expect(waits(', VRRDY: PG')).toEqual(['SW', 'VRRDY']);
  });

  it('a stage at rails depth is made by switching, and wants 2 V, unless it says otherwise', () => {
    const stage = (pass: string) => {
      const [found] = behavioursOf(
        sheet('{}', `b: { title: B, gives: [B], feed: VIN${pass} }`)
          .replace('depth: full', 'depth: rails')
          .replace('chips:\n  {}\n', ''),
      );
      if (found?.do !== 'regulator') throw new Error('no regulator');
      return [found.pass, found.needs.find((need) => need.pin === 'FEED')?.volts];
    };
    expect(stage('')).toEqual(['switching', 2]);
    expect(stage(', pass: linear')).toEqual(['linear', 0.4]);
  });
});

it('keys written twice are named with their line, twenty at most', () => {
  const twice = Array.from({ length: 22 }, (_, at) => `  N${at}: {}\n  N${at}: {}`).join('\n');
  const text = sheet('{}').replace('chips:\n  {}\n', '').replace('  EN: {}', twice);
  const loaded = loadSheet(text);
  if (loaded.ok) throw new Error('taken');
  const told = loaded.error.filter((one) => 'text' in one && one.text.includes('written twice'));
  expect(told).toHaveLength(20);
  expect(told[0]).toMatchObject({ line: 11, text: 'Map keys must be unique: N0 is written twice' });
});
