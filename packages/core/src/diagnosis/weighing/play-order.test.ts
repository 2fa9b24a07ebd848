import { describe, expect, it } from 'vitest';
import wren from '../../../../../sheets/wren-5.yaml?raw';
import type { NetId } from '../../board/index.ts';
import { faultName } from '../../faults/index.ts';
import { plainBoard, sharedDictionary } from '@jiko/testing';
import { likeliestFirst } from '../index.ts';
import { baseWeight } from './priors.ts';

const small = plainBoard(wren);
const dictionary = sharedDictionary(small);

it('another bench is played until a twentieth of what could be is left', () => {
  const known = Float32Array.from(dictionary.faults, (_, index) => 1 / (1 + index));
  const { order, enough } = likeliestFirst(small, dictionary, { known });
  const byRow = new Float64Array(dictionary.rows);
  dictionary.rowOf.forEach((row, index) => (byRow[row] = Math.max(byRow[row]!, known[index]!)));
  const sum = (rows: Int32Array): number =>
    rows.reduce((all, row) => (row === 0 ? all : all + byRow[row]!), 0);
  const whole = sum(order);
  expect(order[0]).toBe(0);
  expect(sum(order.subarray(0, enough)) / whole).toBeGreaterThanOrEqual(0.95);
  expect(sum(order.subarray(0, enough - 1)) / whole).toBeLessThan(0.95);
  // Nothing known, nothing left out.
  expect(likeliestFirst(small, dictionary).enough).toBe(dictionary.rows);
});

describe('what touches a net in doubt', () => {
  const rowOf = (name: string): number => {
    const at = dictionary.faults.findIndex((one) => faultName(one) === name);
    expect([name, at >= 0]).toEqual([name, true]);
    return dictionary.rowOf[at]!;
  };
  const near = ['3V3_SD'] as unknown as NetId[];
  const { order } = likeliestFirst(small, dictionary, { near });
  const usual = likeliestFirst(small, dictionary).order;
  const placeIn = (list: Int32Array, name: string): number => list.indexOf(rowOf(name));

  it('is played before what fails as often elsewhere: the net, its pins, parts and chips', () => {
    for (const name of [
      '3V3_SD short to ground',
      'U8 dead',
      'U8 pin OUT: trace open',
      'U8 output OUT dead',
    ]) {
      if (!dictionary.faults.some((one) => faultName(one) === name)) continue;
      expect(placeIn(order, name), name).toBeLessThan(placeIn(usual, name));
    }
    expect(placeIn(order, 'U8 dead')).toBeLessThan(placeIn(order, 'U2 dead'));
    expect(order[0]).toBe(0);
    expect([...order].sort((a, b) => a - b)).toEqual([...usual].sort((a, b) => a - b));
  });

  it('a pin of the same chip on another net is as it was against the rest', () => {
    // U8 stands on SD_EN with its enable: that trace is in no doubt.
    const before = (list: Int32Array): number[] =>
      [...list].filter((row) => row === rowOf('U8 pin EN: trace open') || row === rowOf('U3 dead'));
    expect(before(order)).toEqual(before(usual));
  });

  it('counts as failing thirty times as often', () => {
    const weights = new Float64Array(dictionary.rows);
    dictionary.faults.forEach((fault, at) => {
      weights[dictionary.rowOf[at]!]! += baseWeight(small, fault);
    });
    const rowsNamed = (pattern: RegExp): number[] => [
      ...new Set(
        dictionary.faults.flatMap((fault, at) =>
          pattern.test(faultName(fault)) ? [dictionary.rowOf[at]!] : [],
        ),
      ),
    ];
    const inDoubt = rowsNamed(/^(3V3_SD |U8 (dead|output OUT))/);
    const elsewhere = rowsNamed(/^(U[1-7]|[CR]\d|JP1|5V_|1V|0V9)/).filter(
      (row) => !rowsNamed(/3V3_SD|U8/).includes(row),
    );
    const ratios = inDoubt.flatMap((one) =>
      elsewhere.map((other) => {
        const ratio = weights[other]! / weights[one]!;
        const isBefore = order.indexOf(one) < order.indexOf(other);
        if (Math.abs(ratio - 30) > 1e-9) expect([ratio, isBefore]).toEqual([ratio, ratio < 30]);
        return ratio;
      }),
    );
    // Some lie close to the edge on either side, or this would say little.
    expect(Math.max(...ratios.filter((one) => one < 30))).toBeGreaterThan(20);
    expect(Math.min(...ratios.filter((one) => one > 30))).toBeLessThan(45);
  });

  it('is played to nine tenths before anybody is told anything', () => {
    const weights = new Float64Array(dictionary.rows);
    const nets = new Set<string>(near);
    // What only these can touch: faults of the net, and of its switch as a whole or at its output.
    const isNear = (name: string): boolean =>
      [...nets].some((net) => name.includes(net)) || /^U8 (?!pin (VIN|EN|GND))/.test(name);
    dictionary.faults.forEach((fault, at) => {
      if (isNear(faultName(fault))) weights[dictionary.rowOf[at]!]! += baseWeight(small, fault);
    });
    const sum = (rows: ArrayLike<number>): number =>
      Array.from(rows).reduce((all, row) => all + (row === 0 ? 0 : weights[row]!), 0);
    const { first } = likeliestFirst(small, dictionary, { near });
    const whole = sum(order);
    expect(sum(order.subarray(0, first)) / whole).toBeGreaterThan(0.88);
    expect(sum(order.subarray(0, first - 1)) / whole).toBeLessThan(0.92);
    expect(likeliestFirst(small, dictionary).first).toBe(1);
    // What was weighed before is a better guide than where it sits: nobody waits for what it ruled out.
    const known = new Float32Array(dictionary.faults.length).fill(1e-4);
    expect(likeliestFirst(small, dictionary, { known, near }).first).toBe(1);
  });
});
