import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type Board } from '../board/index.ts';
import {
  faultKey,
  faultName,
  listFaults,
  parseFault,
  withFault,
  withFaults,
  type Fault,
} from './index.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the demo sheet does not load');
const board: Board = loaded.value;
const all = listFaults(board);

describe('the list of single faults', () => {
  it('has every kind, each once, each with a readable name', () => {
    expect(all.length).toBeGreaterThan(500);
    expect(new Set(all.map(faultKey)).size).toBe(all.length);
    expect(new Set(all.map((fault) => fault.kind))).toEqual(
      new Set([
        'open',
        'dead',
        'output-dead',
        'weak',
        'off-value',
        'corrupt',
        'stops',
        'blank',
        'pins-short',
        'all-short',
        'pin-short',
        'drift',
        'high',
        'reversed',
        'stuck',
        'trace-open',
        'short',
        'break',
        'nets-joined',
        'source',
        'warm',
      ]),
    );
    const names = all.map(faultName);
    for (const name of [
      'C50 short',
      'C50 leak of 100 Ω',
      'PU6 dead, its power-good let go',
      'PU2 output SW2 dead',
      'PU6 output SW weak (30 % of its current)',
      'PU6 output SW at 70 % of its volts',
      'PU9 VIN to SW short',
      'F1 gone to 200 Ω',
      'D1 drifted to 0.65 times its value',
      'U40 stops at step 4',
      'U22 blank or dead',
      'PQ1 short between all its pins',
      'D4 turned round',
      'SW1 open',
      'VMAIN leak of 2 kΩ to ground',
      'adapter weak under load',
      'R10 open',
      'R10 drifted to 2 times its value',
      'PQ1 D to S short',
      'U30 pin EN: trace open',
      'PU4 pin PG: stuck low',
      'U20 does not run',
      'PU1 dead',
      'PU2 pin LDO5: short to ground',
      'PWRBTN_SW broken behind place 2',
      'goes off when it is warm',
    ]) {
      expect(names).toContain(name);
    }
    // Drawn but not fitted is no fault's home; an open capacitor cannot be seen at DC.
    expect(names.some((name) => name.startsWith('R81'))).toBe(false);
    expect(names).not.toContain('C50 open');
  });

  it('pulls nets down by what they are: a line that an output holds is lost to some ten ohms too', () => {
    const sizes = (net: string): number[] =>
      all.flatMap((one) => (one.kind === 'short' && one.net === net ? [one.ohms] : []));
    expect(sizes('VMAIN')).toEqual([0.05, 1, 10, 100, 2000]);
    // 8 A hold no 1.2 V across 0.05 Ω, 40 A do hold 0.9 V.
    expect(sizes('1V2_MEM')).toEqual([0.05, 1, 10, 100, 2000]);
    expect(sizes('VCORE')).toEqual([0.005, 1, 10, 100, 2000]);
    // Its controller drives it; its pull-up alone holds the next.
    expect(sizes('S5_EN')).toEqual([0.05, 20, 500, 5000, 50_000]);
    expect(sizes('S5_PG')).toEqual([0.05, 500, 5000, 50_000]);
  });

  it('can each be put into the board, which itself stays as it was', () => {
    const before = JSON.stringify(board.parts);
    for (const fault of all) expect(withFault(board, fault)).not.toBe(board);
    expect(JSON.stringify(board.parts)).toBe(before);
    const [a, b] = [all[3] as Fault, all.at(-1) as Fault];
    expect(withFaults(board, [a, b])).toEqual(withFault(withFault(board, a), b));
  });
});

describe('faults as typed', () => {
  it.each([
    ['C50:short', { kind: 'pins-short', part: 'C50', pins: ['1', '2'], ohms: 0.05 }],
    ['C50:short=2R2', { kind: 'pins-short', part: 'C50', pins: ['1', '2'], ohms: 2.2 }],
    ['PQ1.D-S:short', { kind: 'pins-short', part: 'PQ1', pins: ['D', 'S'], ohms: 0.05 }],
    ['PQ1.G:trace-open', { kind: 'trace-open', part: 'PQ1', pin: 'G' }],
    ['R10:drift=2', { kind: 'drift', part: 'R10', factor: 2 }],
    ['U20:corrupt', { kind: 'corrupt', part: 'U20' }],
    ['PU4.PG:stuck-low', { kind: 'stuck', part: 'PU4', pin: 'PG', level: 'low' }],
    ['VMAIN:short=1', { kind: 'short', net: 'VMAIN', ohms: 1 }],
    ['B+:leak', { kind: 'short', net: 'VMAIN', ohms: 200 }],
    ['PU9.VIN-SW:short', { kind: 'pins-short', part: 'PU9', pins: ['VIN', 'SW'], ohms: 0.05 }],
    ['PU6:dead-let-go', { kind: 'dead', part: 'PU6', letsGo: true }],
    ['PU2.SW1:output-dead', { kind: 'output-dead', part: 'PU2', pin: 'SW1' }],
    ['PU6.SW:weak=0.1', { kind: 'weak', part: 'PU6', pin: 'SW', factor: 0.1 }],
    ['PU6.SW:off-value=0.7', { kind: 'off-value', part: 'PU6', pin: 'SW', factor: 0.7 }],
    ['U20:stops=3', { kind: 'stops', part: 'U20', step: 2 }],
    ['U22:blank', { kind: 'blank', part: 'U22' }],
    ['F1:high=200', { kind: 'high', part: 'F1', ohms: 200 }],
    ['D4:reversed', { kind: 'reversed', part: 'D4' }],
    ['PQ1:all-short', { kind: 'all-short', part: 'PQ1', ohms: 0.05 }],
    ['board:warm', { kind: 'warm' }],
    ['PWRBTN_SW:break=1', { kind: 'break', net: 'PWRBTN_SW', after: 1 }],
    ['adapter:weak', { kind: 'source', source: 'adapter', how: 'weak' }],
    ['S5_EN+S5_PG:joined=1k', { kind: 'nets-joined', nets: ['S5_EN', 'S5_PG'], ohms: 1000 }],
  ])('%s', (text, fault) => {
    expect(parseFault(board, text)).toEqual({ ok: true, value: fault });
  });
});
