import { expect, it } from 'vitest';
import tarn from '../../../../sheets/tarn-duo.yaml?raw';
import { plainBoard } from '@jiko/testing';
import { playBoard, usualSetup } from './index.ts';

it('a linear regulator turns to heat what it drops, times what it gives', () => {
  const board = plainBoard(tarn);
  const standby = playBoard(board, usualSetup(board)).phases.get('standby')!;
  const volts = (net: string): number => standby.volts.get(net as never)!;
  expect(volts('15V_IN')).toBeCloseTo(15, 1);
  // By hand: the drop times the 2 mA of the rail and the 3 mA of the controller; what the controller's outputs
  // give comes on top.
  const watts = standby.watts.get('U1')!;
  const least = (volts('15V_IN') - volts('3V3_KEEP')) * 0.005;
  expect(watts).toBeGreaterThan(0.98 * least);
  expect(watts).toBeLessThan(1.2 * least);
});
