import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type Board, type NetId } from '../board/index.ts';
import { parseFault, withFaults } from '../faults/index.ts';
import { plainBoard } from '@jiko/testing';
import { usualMeter } from '../readings/index.ts';
import { makeColdMeter, type ColdMeter, type ColdReading } from './index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the demo sheet does not load');
const board: Board = loaded.value;
const meterOn = (...faults: string[]): ColdMeter =>
  makeColdMeter(
    withFaults(
      board,
      faults.map((text) => {
        const parsed = parseFault(board, text);
        if (!parsed.ok) throw new Error(text);
        return parsed.value;
      }),
    ),
    usualMeter,
  );
const healthy = meterOn();
const value = (reading: ColdReading): number => (reading.kind === 'value' ? reading.value : NaN);
const ohms = (meter: ColdMeter, net: string): number => value(meter.ohms(net as NetId));
const diode = (meter: ColdMeter, net: string): number =>
  value(meter.diode(net as NetId, 'black-on-point'));

describe('the meter on the unpowered board', () => {
  it('reads every rail as its sheet states it, ohms and diode', () => {
    for (const net of board.nets) {
      if (net.coldOhms !== null && net.id !== 'VIN_JACK') {
        expect(ohms(healthy, net.id) / net.coldOhms, net.id).toBeGreaterThan(0.8);
        expect(ohms(healthy, net.id) / net.coldOhms, net.id).toBeLessThan(1.25);
      }
      if (net.coldDiodeVolts !== null) {
        expect(Math.abs(diode(healthy, net.id) - net.coldDiodeVolts), net.id).toBeLessThan(0.08);
      }
    }
  });

  it.each([0.04, 0.1, 0.45, 1.2])('reads a junction stated at %f V as stated', (stated) => {
    const one = plainBoard(`format: jiko-board/1
id: one
title: One
depth: rails
nets:
  GND: { kind: ground }
  VIN: { kind: rail, volts: 5, cold: { ohms: 100k, diode: ${stated} } }
stages: { in: { title: Input, gives: [VIN] } }
sources: { adapter: { kind: adapter, title: Adapter, net: VIN, volts: 5, limit: 3 } }
goals: {}
`);
    const meter = makeColdMeter(one, usualMeter);
    expect(diode(meter, 'VIN')).toBeCloseTo(stated, 3);
    expect(meter.diode('VIN' as NetId, 'red-on-point').kind).toBe('over');
    // Ohms are those stated, but where so low a junction conducts at the meter's own volts.
    expect(ohms(meter, 'VIN') / 100e3).toBeLessThan(1.05);
    if (stated > 0.4) expect(ohms(meter, 'VIN') / 100e3).toBeCloseTo(1, 1);
  });

  it('shows OL from 2 % below its own volts on, where it no longer drives its current', () => {
    const shows = (mostDiodeVolts: number): string =>
      makeColdMeter(board, { ...usualMeter, mostDiodeVolts }).diode(
        '3V3_ALW' as NetId,
        'black-on-point',
      ).kind;
    const stated = diode(healthy, '3V3_ALW');
    expect(shows(stated / 0.97)).toBe('value');
    expect(shows(stated / 0.99)).toBe('over');
  });

  it('reads a divider by its resistors (by hand: 71.5 k beside 432 k into what stands on VIN)', () => {
    const vin = ohms(healthy, 'VIN');
    const others = 1 / (1 / vin - 1 / (432e3 + 71.5e3));
    expect(ohms(healthy, 'ACDET')).toBeCloseTo(1 / (1 / 71.5e3 + 1 / (432e3 + others)), -3);
  });

  it("tells the polarities apart: nothing conducts into a rail from the point below the meter's volts", () => {
    expect(diode(healthy, 'ACDRV#')).toBeGreaterThan(0.5);
    expect(healthy.diode('ACDRV#' as NetId, 'red-on-point')).not.toEqual(
      healthy.diode('ACDRV#' as NetId, 'black-on-point'),
    );
  });

  it.each([
    ['C13:short', '3V3_ALW', 0.05, 0.02],
    ['C50:short=2', '1V2_MEM', 1.97, 0.03],
    ['PU2.LDO5:short=10', '5V_LDO', 10, 0.1],
  ])('%s reads %s at %f ohm', (fault, net, expected, allowed) => {
    expect(Math.abs(ohms(meterOn(fault), net) - expected)).toBeLessThan(allowed);
  });

  it('sees a rail through a closed fuse and not through an open one', () => {
    expect(ohms(meterOn('C2:short'), 'VIN_JACK')).toBeLessThan(0.2);
    expect(meterOn('C2:short', 'F1:open').ohms('VIN_JACK' as NetId)).not.toMatchObject({
      value: expect.closeTo(0.05, 1),
    });
  });

  it('gives the expectations of cold readings, divider taps included', () => {
    const study = studyHealthyBoard(board);
    const tap = study.expect('ALW_EN' as NetId, 'ohms', 'cold');
    expect(tap).toMatchObject({ kind: 'value', origin: 'play' });
    // 100 k to ground beside 210 k into what else makes the main rail's 45 k: 52.6 k.
    if (tap.kind === 'value') expect(tap.value).toBeCloseTo(1 / (1 / 100e3 + 1 / 262.6e3), -3);
    expect(study.expect('ALW_EN' as NetId, 'diode', 'cold').kind).toBe('unknown');
  });
});
