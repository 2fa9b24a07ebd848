import { describe, expect, it } from 'vitest';
import { oneOfEach } from '@jiko/testing';
import type { NetId, PartRef } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import { usualMeter } from '../readings/index.ts';
import { makeColdReader, type Spot } from './index.ts';

const spot = (net: string): Spot => ({ net: net as NetId, ref: null, pin: null });
const high = (part: string): Fault => ({ kind: 'high', part: part as PartRef, ohms: 200 });
const halved = (part: string): Fault => ({ kind: 'drift', part: part as PartRef, factor: 0.5 });
const short = (net: string): Fault => ({ kind: 'short', net: net as NetId, ohms: 0.1 });

describe('ohms between two points', () => {
  const reader = makeColdReader(oneOfEach, usualMeter, {});
  const ohms = (a: string, b: string, ...faults: Fault[]): number =>
    reader.between(spot(a), spot(b), 'ohms').under(faults);

  it('are those of what lies between and of all ways around it, by hand', () => {
    // R1 of 10 k beside R2, REN and REN2 on the way around; a fuse and a bead are next to nothing.
    expect(ohms('FUSED', 'TAP')).toBeGreaterThan(1000);
    expect(ohms('FUSED', 'TAP')).toBeLessThan(10_000);
    expect(ohms('JACK', 'FUSED')).toBeLessThan(0.1);
    expect(ohms('3V3', 'OUT2')).toBeLessThan(0.5);
    expect(reader.between(spot('TAP'), spot('TAP'), 'ohms').healthy).toBe(0);
  });

  it('change with a fault between them, and with a fault elsewhere only as far as it reaches', () => {
    expect(ohms('JACK', 'FUSED', high('F1'))).toBeGreaterThan(150);
    expect(ohms('JACK', 'FUSED', high('F1'))).toBeLessThan(210);
    expect(ohms('3V3', 'OUT2', high('F1'))).toBe(ohms('3V3', 'OUT2'));
    // Two faults at once: both are there.
    const both = [high('F1'), high('FB1')];
    expect(ohms('JACK', 'FUSED', ...both)).toBeCloseTo(ohms('JACK', 'FUSED', both[0]!), 1);
    expect(ohms('3V3', 'OUT2', ...both)).toBeGreaterThan(25);
  });

  it('leave out the faults of what is off the board, and of nothing else', () => {
    const without = makeColdReader(oneOfEach, usualMeter, { lifted: ['RL2'] });
    const pair = without.between(spot('OUT2'), spot('GND'), 'ohms');
    const off = halved('RL2');
    expect(pair.under([off])).toBe(pair.healthy);
    // With it gone the ohms of what stays are read, and a short there shows.
    expect(pair.healthy).toBeGreaterThan(60);
    expect(pair.under([short('OUT2')])).toBeLessThan(1);
    expect(pair.under([off, short('OUT2')])).toBe(pair.under([short('OUT2')]));
    // A part that is on the board counts, as does a fault of no part.
    const on = makeColdReader(oneOfEach, usualMeter, {}).between(spot('OUT2'), spot('GND'), 'ohms');
    expect(on.under([off])).toBeLessThan(0.7 * on.healthy);
  });
});
