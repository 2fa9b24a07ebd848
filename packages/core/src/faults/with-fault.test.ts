import { describe, expect, it } from 'vitest';
import type { Board, NetId } from '../board/index.ts';
import { oneOfEach } from '@jiko/testing';
import { playBoard, usualSetup } from '../play/index.ts';
import { readCold } from '../cold/index.ts';
import { usualMeter, type PoweredPhase } from '../readings/index.ts';
import { faultName, listFaults, parseFault, withFault, type Fault } from './index.ts';

// What each fault makes of a board small enough to be worked out by hand: Ohm's law, dividers, and
// what its data sheet says of a part. One part of each kind, and what may happen to it.

const board = oneOfEach;

const faultOf = (text: string): Fault => {
  const parsed = parseFault(board, text);
  if (!parsed.ok) throw new Error(`${text}: ${JSON.stringify(parsed.error)}`);
  return parsed.value;
};
const volts = (on: Board, net: string, phase: PoweredPhase = 'standby'): number =>
  playBoard(on, usualSetup(on))
    .phases.get(phase)!
    .volts.get(net as NetId)!;
const ohms = (text: string | null, net: string): number => {
  const cold = readCold(board, {}, text === null ? [] : [faultOf(text)], usualMeter);
  const nets = board.nets.filter((one) => one.id !== board.ground);
  return cold.ohms[nets.findIndex((one) => one.id === net)]!;
};

describe('the board without a fault, by hand', () => {
  it.each([
    // 12 V over 10k and 2k; over 10k and 3k3; half of 12 V at the gate, which turns a P-channel FET on.
    ['TAP', 2],
    ['EN', (12 * 3.3) / 13.3],
    ['GATE', 6],
    ['SWITCHED', 12],
    ['3V3', 3.3],
    ['OUT2', 3.3],
    // Nothing pulls it down: it stands at what pulls it up.
    ['PG', 3.3],
  ])('%s stands at %f V', (net, expected) => {
    expect(volts(board, net)).toBeCloseTo(expected, 1);
  });
});

describe('what a fault makes of the volts', () => {
  it.each([
    // Series parts: open leaves nothing behind it; high drops what flows through it.
    ['F1:open', 'FUSED', 0, 0.1],
    ['FB1:open', 'OUT2', 0, 0.05],
    // 3.3 V over 33 ohms and the load's 33 ohms: half. Through 3k: next to nothing.
    ['FB1:high=33', 'OUT2', 1.65, 0.05],
    ['FB1:high=3k', 'OUT2', (3.3 * 33) / 3033, 0.01],
    // Dividers off their value.
    ['R1:open', 'TAP', 0, 0.01],
    ['R2:open', 'TAP', 12, 0.1],
    ['R1:drift=2', 'TAP', (12 * 2) / 22, 0.02],
    ['R2:drift=0.5', 'TAP', 12 / 11, 0.02],
    ['REN2:drift=0.5', 'EN', (12 * 1.65) / 11.65, 0.02],
    // A leak beside a resistor: 2k beside 2k is 1k, over 10k.
    ['TAP:leak=2k', 'TAP', 12 / 11, 0.02],
    // A gate that is not pulled down leaves a P-channel FET off; its channel shorted, the load gets all.
    ['RG2:open', 'SWITCHED', 0, 0.2],
    ['Q1.D-S:short', 'SWITCHED', 12, 0.1],
    ['Q1.G-S:short', 'SWITCHED', 0, 0.2],
    ['Q1:open', 'SWITCHED', 0, 0.2],
    // The body diode of a turned FET conducts all the same, less its drop.
    // A regulator: dead, off its volts, its upper switch gone short.
    ['U1:dead', '3V3', 0, 0.05],
    ['U1.OUT:off-value=0.5', '3V3', 1.65, 0.02],
    ['U1.OUT:off-value=1.15', '3V3', 3.3 * 1.15, 0.02],
    ['U1.VIN-OUT:short', '3V3', 12, 0.5],
    ['EN:short', '3V3', 0, 0.05],
    ['U1.EN:trace-open', '3V3', 0, 0.05],
    // Its power-good: held low, or let go and pulled up all the same.
    ['U1:dead', 'PG', 0, 0.05],
    ['U1.PG:stuck-low', 'PG', 0, 0.35],
    ['U1.PG:stuck-released', 'PG', 3.3, 0.05],
    ['RPG:open', 'PG', 0, 0.6],
    // A shorted diode drops nothing, an open one gives nothing.
    ['D1:short', 'ONE_WAY', 3.3, 0.05],
    ['D1:open', 'ONE_WAY', 0, 0.05],
    ['LED1:short', 'LAMP', 0, 0.02],
    ['LED1:open', 'LAMP', 3.3, 0.05],
    // The source: weak sags by all its volts at its limit, low gives 70 % of them, high a quarter more.
    ['adapter:dead', 'FUSED', 0, 0.1],
    ['adapter:low', 'FUSED', 8.4, 0.1],
    ['adapter:high', 'FUSED', 15, 0.1],
    // Two nets joined by 1 ohm: the stronger one wins.
    ['TAP+3V3:joined=1', 'TAP', 3.3, 0.05],
  ])('%s: %s stands at %f V', (text, net, expected, within) => {
    const read = volts(withFault(board, faultOf(text)), net);
    expect(Math.abs(read - expected), `${net} ${read}`).toBeLessThanOrEqual(within);
  });

  it('weak gives its volts to a light load and not to a heavy one', () => {
    // 2 A at 3.3 V for 0.1 A through 33 ohms: a third of its current is enough, a hundredth is not.
    expect(volts(withFault(board, faultOf('U1.OUT:weak=0.3')), '3V3')).toBeCloseTo(3.3, 1);
    expect(volts(withFault(board, faultOf('U1.OUT:weak=0.01')), '3V3')).toBeLessThan(1.5);
  });

  it('weak and weaker sources sag by their volts at their limit, and at a tenth of it', () => {
    // 4 ohms more in series and 40: some 45 mA flow here (the regulator's 0.13 A at 3.3 V is 40 mA at 12 V).
    const drop = (how: string): number =>
      12 - volts(withFault(board, faultOf(`adapter:${how}`)), 'FUSED');
    expect(drop('weak')).toBeGreaterThan(0.1);
    expect(drop('weak')).toBeLessThan(0.5);
    expect(drop('weaker') / drop('weak')).toBeGreaterThan(7);
  });
});

describe('what a fault makes of cold ohms to ground', () => {
  it.each([
    // 2k beside 10k on the way through what hangs at FUSED; a short is what it is.
    ['TAP:short', 'TAP', 0.05, 0.3],
    ['C1:short=2', 'SWITCHED', 2, 0.1],
    ['C1:leak=100', 'SWITCHED', 100 / (1 + 100 / 1200), 3],
    ['RL:open', 'SWITCHED', Infinity, 0],
    ['RL:drift=2', 'SWITCHED', 2400, 60],
    ['RL2:open', 'OUT2', null, 0],
  ])('%s: %s', (text, net, expected, within) => {
    const read = ohms(text, net);
    if (expected === Infinity) expect(read).toBeGreaterThan(50_000);
    else if (expected === null) expect(read).toBeGreaterThan(5 * ohms(null, net));
    else expect(Math.abs(read - expected), String(read)).toBeLessThanOrEqual(within);
  });
});

describe('the list of what may happen', () => {
  const at = (ref: string): string[] =>
    listFaults(board)
      .filter((fault) => 'part' in fault && fault.part === ref)
      .map(faultName);

  it.each([
    [
      'F1',
      [
        'F1 open',
        'F1 gone to 2 Ω',
        'F1 gone to 20 Ω',
        'F1 gone to 200 Ω',
        'F1 gone to 3 kΩ',
        'F1 pin 1: trace open',
        'F1 pin 2: trace open',
      ],
    ],
    [
      'R1',
      [
        'R1 open',
        'R1 drifted to 0.5 times its value',
        'R1 drifted to 2 times its value',
        'R1 drifted to 10 times its value',
        'R1 drifted to 40 times its value',
      ],
    ],
    [
      'C1',
      ['C1 short', 'C1 short of 1 Ω', 'C1 short of 10 Ω', 'C1 leak of 100 Ω', 'C1 leak of 2 kΩ'],
    ],
    [
      'Q1',
      [
        'Q1 open',
        'Q1 pin G: trace open',
        'Q1 pin D: trace open',
        'Q1 pin S: trace open',
        'Q1 D to S short',
        'Q1 D to S short of 1 Ω',
        'Q1 D to S short of 10 Ω',
        'Q1 G to S short',
        'Q1 G to S short of 1 Ω',
        'Q1 G to S short of 10 Ω',
        'Q1 G to D short',
        'Q1 short between all its pins',
        'Q1 turned round',
      ],
    ],
    ['LED1', null],
  ])('%s', (ref, names) => {
    if (names) expect(at(ref)).toEqual(names);
    else {
      // To ground by the severities of a signal, and it may be turned round.
      expect(at(ref)[0]).toBe(`${ref} open`);
      expect(at(ref)).toContain(`${ref} turned round`);
      expect(at(ref)).toContain(`${ref} leak of 5 kΩ`);
    }
  });

  it('of a regulator: its death twice, its output, its pins', () => {
    const names = at('U1');
    expect(names.slice(0, 2)).toEqual(['U1 dead', 'U1 dead, its power-good let go']);
    for (const name of [
      'U1 output OUT weak (30 % of its current)',
      'U1 output OUT weak (5 % of its current)',
      'U1 output OUT weak (0.4 % of its current)',
      'U1 output OUT at 50 % of its volts',
      'U1 output OUT at 115 % of its volts',
      'U1 VIN to OUT short',
      'U1 pin PG: stuck low',
      'U1 pin PG: stuck released',
      'U1 pin EN: short to ground',
      'U1 pin EN: leak of 50 kΩ to ground',
      'U1 pin VIN: trace open',
    ])
      expect(names).toContain(name);
    // One output: its death is the chip's. Its ground pin is no pin to be shorted to ground.
    expect(names.some((name) => name.includes('output OUT dead'))).toBe(false);
    expect(names.some((name) => name.includes('pin GND: short'))).toBe(false);
  });
});
