import { describe, expect, it } from 'vitest';
import type { Goal, NetId } from '../board/index.ts';
import { faultName, parseFault } from '../faults/index.ts';
import { oneOfEach } from '@jiko/testing';
import { usualMeter } from '../readings/index.ts';
import { makeColdBench, readCold } from './index.ts';
import {
  makeDictionary,
  reachesGoal,
  wholeDictionary,
  type Dictionary,
} from '../dictionary/index.ts';
import { playBoard, usualSetup } from '../play/index.ts';
import { diesOf } from './cold-meter.ts';
import { editFor } from './cold-sweep.ts';

// A dictionary reads cold only what a fault can change, and begins each play late. Here every fault of
// a board is read the long way beside it: the board with the fault built anew, and every net read.

const board = oneOfEach;
const setup = usualSetup(board);
const whole = wholeDictionary(board, setup);
const width = whole.nets.length;
const near = (a: number, b: number, part: number, least: number): boolean =>
  a === b || Math.abs(a - b) <= least + part * Math.max(Math.abs(a), Math.abs(b));

describe('cold readings of every fault', () => {
  it('are those of the board built with it, but for what changes a net by less than 3 %', () => {
    const wrong: string[] = [];
    whole.faults.forEach((fault, index) => {
      const row = whole.rowOf[index]!;
      const { ohms, diode } = readCold(board, setup, [fault], usualMeter);
      whole.nets.forEach((net, at) => {
        const [quick, slow] = [whole.ohms[row * width + at]!, ohms[at]!];
        if (!near(quick, slow, 0.03, 0.02))
          wrong.push(`${faultName(fault)} ${net} ${quick} ${slow} ohms`);
        const [quickVolts, slowVolts] = [whole.diode[row * width + at]!, diode[at]!];
        if (!near(quickVolts, slowVolts, 0.03, 0.004))
          wrong.push(`${faultName(fault)} ${net} ${quickVolts} ${slowVolts} V`);
      });
    });
    expect(wrong).toEqual([]);
    expect(whole.faults.length).toBeGreaterThan(150);
  });

  it('differ where a resistor is off its value or gone high, and by how much', () => {
    const at = (name: string, net: string): number =>
      whole.ohms[
        whole.rowOf[whole.faults.findIndex((one) => faultName(one) === name)]! * width +
          whole.nets.indexOf(net as NetId)
      ]!;
    // What hangs beside it takes a few per cent.
    expect(at('RL drifted to 2 times its value', 'SWITCHED') / 2400).toBeCloseTo(0.97, 1);
    expect(at('RL drifted to 0.5 times its value', 'SWITCHED') / 600).toBeCloseTo(0.97, 1);
    // 33 ohms behind a bead that has gone to 200.
    expect(at('FB1 gone to 200 Ω', 'OUT2')).toBeCloseTo(33, 0);
    expect(at('FB1 gone to 200 Ω', '3V3')).toBeGreaterThan(at('FB1 gone to 2 Ω', '3V3') + 100);
  });
});

describe('a fault that is one resistance', () => {
  const bench = makeColdBench(board, diesOf(board, usualMeter), new Map(), 2, board.ground);
  const edit = (text: string): ReturnType<typeof editFor> => {
    const fault = parseFault(board, text);
    if (!fault.ok) throw new Error(text);
    return editFor(board, bench, fault.value);
  };

  it('is put into the circuit as it stands, without building it anew', () => {
    const node = (net: string): number => bench.nodeOf(net as NetId);
    expect(edit('RL:open')).toEqual({ kind: 'part', ref: 'RL', times: 0 });
    expect(edit('RL:drift=2')).toEqual({ kind: 'part', ref: 'RL', times: 0.5 });
    expect(edit('FB1:high=200')).toEqual({ kind: 'part', ref: 'FB1', ohms: 200 });
    expect(edit('3V3:short=5')).toEqual({ kind: 'to ground', node: node('3V3'), ohms: 5 });
    expect(edit('U1.EN:short=7')).toEqual({ kind: 'to ground', node: node('EN'), ohms: 7 });
    expect(edit('C1:short=3')).toEqual({ kind: 'to ground', node: node('SWITCHED'), ohms: 3 });
  });

  it('is not one where a junction or more than one resistance is in it', () => {
    for (const text of ['Q1:open', 'D1:open', 'U1.VIN-OUT:short', 'U1:dead'])
      expect([text, edit(text)]).toEqual([text, null]);
  });
});

describe('shares of a dictionary', () => {
  const share = (index: number, of: number): Dictionary & { played: number[] } => {
    const order = Int32Array.from({ length: whole.rows + 5 }, (_, at) => at);
    const making = makeDictionary(board, setup, usualMeter, { order, share: { index, of } });
    const played: number[] = [];
    for (;;) {
      const step = making.next();
      if (step.done) return { ...step.value, played };
      if (step.value.row !== null) played.push(step.value.row);
    }
  };

  it('together are the whole, each row but the healthy one played by one of them alone', () => {
    const [even, odd] = [share(0, 2), share(1, 2)];
    expect(even.played.filter((row) => odd.played.includes(row))).toEqual([0]);
    const all = [...new Set([...even.played, ...odd.played])].sort((a, b) => a - b);
    expect(all).toEqual(Array.from({ length: whole.rows }, (_, row) => row));
    expect(Math.abs(even.played.length - odd.played.length)).toBeLessThanOrEqual(1);
    for (const [own, row] of [
      [even, even.played.at(-1)!],
      [odd, odd.played.at(-1)!],
    ] as const)
      expect(own.ohms[row * width]).toBe(whole.ohms[row * width]);
    // What the other plays is not there.
    expect(even.volts[odd.played.at(-1)! * 4 * width]).toBeNaN();
  });
});

describe('what a play is asked', () => {
  it('a goal is not reached while what it asks for is not there, whatever else is', () => {
    const goal = (reached: Goal['reached']): Goal => ({ ...board.goals[0]!, reached });
    const asks = (net: string, side: 'above' | 'below', volts: number): boolean =>
      reachesGoal(whole, goal([{ net: net as NetId, side, volts }]), 0);
    expect([asks('3V3', 'above', 3), asks('3V3', 'above', 3.4)]).toEqual([true, false]);
    expect([asks('TAP', 'below', 2.1), asks('TAP', 'below', 1.9)]).toEqual([true, false]);
  });

  it('only parts that take a milliwatt or more are said to warm', () => {
    const { watts } = playBoard(board, setup).phases.get('standby')!;
    // 12 V on 1.2k is 120 mW; 3.3 V on 33 ohms 330 mW; 6 V on 100k is 0.36 mW.
    const of = (ref: string): number | undefined =>
      [...watts].find(([owner]) => String(owner) === ref)?.[1];
    expect(of('RL')).toBeCloseTo(0.12, 2);
    expect(of('RL2')).toBeCloseTo(0.33, 2);
    expect(of('RG1')).toBeUndefined();
    for (const heat of watts.values()) expect(heat).toBeGreaterThanOrEqual(0.001);
  });
});
