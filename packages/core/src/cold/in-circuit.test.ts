import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { draw, seeded, type Chance } from '../base/index.ts';
import { isSeriesPart, type Board, type NetId, type Part } from '../board/index.ts';
import { withFaults, type Fault } from '../faults/index.ts';
import { judgeInCircuit, ohmsBehind, usualMeter, whyText } from '../readings/index.ts';
import { plainBoard } from '@jiko/testing';
import { diesOf, makeColdBench, readingOf } from './cold-meter.ts';
import { resistorInCircuit } from './in-circuit.ts';

const cairn = plainBoard(cairnText);
const resistors = cairn.parts.filter(
  (one) => one.kind === 'resistor' && one.fitted && one.value && !isSeriesPart(one),
);

/** A meter on a board whose chips conduct up to twice or down to half of what the sheet says. */
function readAcross(faulty: Board, part: Part, chance: Chance): number {
  const dies = diesOf(cairn, usualMeter).map((die) => ({
    ...die,
    siemens: die.siemens * 2 ** (2 * chance() - 1),
  }));
  const [a, b] = part.pins.map((pin) => pin.net) as [NetId, NetId];
  const bench = makeColdBench(faulty, dies, new Map(), usualMeter.mostDiodeVolts, b);
  const read = readingOf(bench, usualMeter, a, 'ohms');
  return read.kind === 'value' ? read.value * (1 + 0.01 * (2 * chance() - 1)) + 0.2 : Infinity;
}

/** A good one: within 5 % of its value. */
const good = (part: Part, chance: Chance): Fault => ({
  kind: 'drift',
  part: part.ref,
  factor: 1 + 0.04 * (2 * chance() - 1),
});

describe('a resistor on its board', () => {
  it('by hand: 10k beside 10k reads 5k, and 8k there convicts it', () => {
    const part = {
      part: 'R1',
      ohms: 10_000,
      beside: 10_000,
      besideLow: 9500,
      besideHigh: 10_500,
      expected: 5000,
      lift: { pin: '1', net: 'A' },
    };
    // Ohm's law for two resistors side by side: 1/R = 1/8k - 1/10k = 40k.
    const [least, most] = ohmsBehind(8000, part);
    expect(least).toBeLessThan(40_000);
    expect(most).toBeGreaterThan(40_000);
    expect(judgeInCircuit(8000, part).kind).toBe('high');
    expect(judgeInCircuit(5000, part).kind).toBe('good');
    expect(judgeInCircuit(Infinity, part).kind).toBe('open');
    expect(judgeInCircuit(2000, part).kind).toBe('low');
  });

  it('what lies beside it hides it: said so, with the end to lift', () => {
    const part = {
      part: 'R1',
      ohms: 1e6,
      beside: 10_000,
      besideLow: 3300,
      besideHigh: 30_000,
      expected: 9900,
      lift: { pin: '2', net: 'SENSE' },
    };
    const verdict = judgeInCircuit(9900, part);
    expect(verdict.kind).toBe('undecided');
    expect(whyText(verdict)).toMatch(/Lift its end on SENSE/);
  });

  it('of 50 good ones on Cairn 14, drawn by seed, none is condemned and each is explained', () => {
    const chance = seeded(5001);
    let told = 0;
    for (let run = 0; run < 50; run++) {
      const part = draw(resistors, chance);
      const read = readAcross(withFaults(cairn, [good(part, chance)]), part, chance);
      const known = resistorInCircuit(cairn, part.ref, usualMeter)!;
      const verdict = judgeInCircuit(read, known);
      expect(['good', 'undecided'], `${part.ref} reads ${read}: ${whyText(verdict)}`).toContain(
        verdict.kind,
      );
      expect(whyText(verdict)).toContain(part.ref);
      if (verdict.kind === 'good') told++;
    }
    expect(told).toBeGreaterThan(20);
  });

  it('of 50 wrong ones each is named, or said not to be told in circuit, with the end to lift', () => {
    const chance = seeded(5002);
    let named = 0;
    for (let run = 0; run < 50; run++) {
      const part = draw(resistors, chance);
      const fault: Fault =
        chance() < 0.3
          ? { kind: 'open', part: part.ref }
          : { kind: 'drift', part: part.ref, factor: draw([0.3, 0.5, 2, 4, 10], chance) };
      const read = readAcross(withFaults(cairn, [fault]), part, chance);
      const known = resistorInCircuit(cairn, part.ref, usualMeter)!;
      const verdict = judgeInCircuit(read, known);
      const said = `${part.ref} ${JSON.stringify(fault)} reads ${read}: ${whyText(verdict)}`;
      expect(['high', 'open', 'low', 'undecided'], said).toContain(verdict.kind);
      const isHigh = fault.kind === 'open' || (fault.kind === 'drift' && fault.factor > 1);
      if (verdict.kind !== 'undecided') {
        named++;
        expect(verdict.kind === 'low', said).toBe(!isHigh);
      } else expect(whyText(verdict)).toContain(`Lift its end on ${known.lift.net}`);
    }
    expect(named).toBeGreaterThan(25);
  });

  it('with one end up it is read alone', () => {
    const [part] = resistors;
    const known = resistorInCircuit(cairn, part!.ref, usualMeter, [part!.ref])!;
    expect(known.expected).toBeCloseTo(part!.value!, 3);
    expect(known.beside).toBe(Infinity);
  });
});

it('a schottky beside a resistor may leak, and need not: only resistors conduct for sure', () => {
  const board = plainBoard(`format: jiko-board/1
id: leak
title: Leak
depth: full
nets:
  GND: { kind: ground }
  IN: { kind: rail, volts: 5 }
  TAP: { kind: signal }
  OUT: { kind: rail, volts: 3.3 }
parts:
  R1: { kind: resistor, value: 1M, pins: [IN, TAP] }
  R2: { kind: resistor, value: 1M, pins: [TAP, GND] }
  D1: { kind: schottky, pins: { A: TAP, K: IN } }
  R3: { kind: resistor, value: 2M, pins: [IN, OUT] }
  R4: { kind: resistor, value: 2M, pins: [OUT, TAP] }
sources:
  jack: { title: Jack, kind: adapter, volts: 5, limit: 3, net: IN }
stages:
  input: { title: Input, gives: [IN] }
goals:
  boots: { title: boots, reached: [IN > 4], phase: standby }
`);
  const found = resistorInCircuit(board, 'R1', usualMeter)!;
  // R3 and R4 in a row are 4 MΩ; the diode adds what its reverse current makes of it, at most.
  expect(found.beside).toBeLessThan(4e6);
  expect(found.besideHigh).toBeGreaterThan(4e6);
  expect(found.besideHigh).toBeLessThan(4.4e6);
  // 1 MΩ beside 4 MΩ, with a diode that does not leak: no reading to condemn it by.
  expect(['good', 'undecided']).toContain(judgeInCircuit(800_000, found).kind);
});
