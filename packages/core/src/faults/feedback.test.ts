import { describe, expect, it } from 'vitest';
import type { NetId } from '../board/index.ts';
import { plainBoard } from '@jiko/testing';
import { playBoard, usualSetup } from '../play/index.ts';
import { parseFault, withFaults } from './index.ts';

// Reference times (1 + upper / lower): the formula of every adjustable regulator's data sheet (from memory;
// three-terminal regulators of the kind give it with 1.25 V). Here 0.8 x (1 + 31.6 / 10) = 3.33 V.
const board = plainBoard(`format: jiko-board/1
id: divider
title: Divider
depth: full
nets:
  GND: { kind: ground }
  IN: { kind: rail, volts: 12 }
  OUT: { kind: rail, volts: 3.328 }
  FB: { kind: analog }
parts:
  R1: { kind: resistor, value: 31k6, pins: [OUT, FB] }
  R2: { kind: resistor, value: 10k, pins: [FB, GND] }
chips:
  U1:
    kind: generic
    title: adjustable buck
    pins: { VIN: IN, VO: OUT, FB: FB, GND: GND }
    does:
      - { do: regulator, in: VIN, out: VO, feedback: FB, feedbackVolts: 0.8, volts: 3.328, limit: 3 }
sources:
  jack: { title: Jack, kind: adapter, volts: 12, limit: 5, net: IN }
stages:
  input: { title: Input, gives: [IN] }
  out: { title: Out, gives: [OUT], by: [U1] }
goals:
  boots: { title: boots, reached: [OUT > 3], phase: standby }
`);

const volts = (...faults: string[]): number => {
  const parsed = faults.map((text) => {
    const fault = parseFault(board, text);
    if (!fault.ok) throw new Error(text);
    return fault.value;
  });
  const play = playBoard(withFaults(board, parsed), usualSetup(board));
  return play.phases.get('standby')!.volts.get('OUT' as NetId)!;
};

describe('the volts of a converter follow its divider', () => {
  it('as drawn, they are those of the sheet', () => expect(volts()).toBeCloseTo(3.328, 2));

  it('a resistor that drifted moves them by the formula', () => {
    // 0.8 x (1 + 31.6 x 3 / 10) = 8.38 V, and 0.8 x (1 + 31.6 x 0.3 / 10) = 1.56 V.
    expect(volts('R1:drift=3')).toBeCloseTo(8.384, 1);
    expect(volts('R1:drift=0.3')).toBeCloseTo(1.558, 1);
  });

  it('without its lower one it gives the reference alone, without its upper one all it can', () => {
    expect(volts('R2:open')).toBeCloseTo(0.8, 1);
    expect(volts('R1:open')).toBeGreaterThan(11);
  });
});
