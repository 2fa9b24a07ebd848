import { describe, expect, it } from 'vitest';
import { loadSheet, type Board } from '../../board/index.ts';
import { faultName, parseFault, withFaults, type Fault } from '../../faults/index.ts';
import { plainReading, sharedDictionary } from '@jiko/testing';
import { attachedIn, playBoard, usualSetup } from '../../play/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { limitLogPrior } from './row-priors.ts';
import { deadMaker, earlyLimits } from './early-limits.ts';
import { limitCandidates } from './limits.ts';
import { makeTable } from './table.ts';
import { makeDiagnoser, noEvidence, type Diagnoser, type Diagnosis } from '../index.ts';

// A load switch behind a converter of the same limit: by the sheet a short behind the switch takes the
// converter down, and with it the switch; on the board at hand the switch gives up alone.
const sheet = (limit: number): string => `
format: jiko-board/1
id: two-limits
title: Two limits
depth: chips
nets:
  GND: { kind: ground }
  12V: { kind: rail, volts: 12 }
  3V3: { kind: rail, volts: 3.3, load: 0.05 }
  3V3_S0: { kind: rail, volts: 3.3, load: 0.2 }
  S0_EN: { kind: signal }
  1V8: { kind: rail, volts: 1.8, load: 0.05 }
  1V2: { kind: rail, volts: 1.2, load: 0.05 }
  2V5: { kind: rail, volts: 2.5, load: 0.05 }
parts:
  R1: { kind: resistor, pins: [3V3, S0_EN], value: 10k }
  C1: { kind: capacitor, pins: [3V3, GND], value: 22u }
  C2: { kind: capacitor, pins: [3V3_S0, GND], value: 22u }
chips:
  U1: { kind: buck, volts: 3.3, limit: 6, pins: { VIN: 12V, GND: GND, OUT: 3V3 } }
  U2: { kind: loadswitch, volts: 3.3, limit: ${limit}, pins: { VIN: 3V3, GND: GND, EN: S0_EN, OUT: 3V3_S0 } }
  U3: { kind: ldo, volts: 1.8, pins: { VIN: 3V3, GND: GND, OUT: 1V8 } }
  U4: { kind: ldo, volts: 1.2, pins: { VIN: 3V3, GND: GND, OUT: 1V2 } }
  U5: { kind: ldo, volts: 2.5, pins: { VIN: 3V3, GND: GND, OUT: 2V5 } }
sources:
  adapter: { kind: adapter, title: adapter, net: 12V, volts: 12, limit: 5 }
stages:
  main: { title: main, gives: [3V3], by: [U1] }
  run: { title: run, gives: [3V3_S0], by: [U2] }
goals:
  runs: { title: runs, reached: ['3V3_S0 > 3'] }
`;
const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return loaded.value;
};

describe('two makers in line into a short', () => {
  const board = load(sheet(6));
  const setup = usualSetup(board);
  /** By the sheet whose switch has this limit. */
  const diagnoserBy = (limit: number): Diagnoser => {
    const own = load(sheet(limit));
    const { stages } = studyHealthyBoard(own, setup);
    return makeDiagnoser(own, stages, sharedDictionary(own, setup), setup);
  };
  const attached = attachedIn(board, setup);
  const short = parseFault(board, '3V3_S0:short=0.06');
  if (!short.ok) throw new Error('no such fault');

  /** What a board of this limit reads with these faults, as a meter shows it. */
  const readAt = (limit: number, faults: readonly Fault[], net: string) => {
    const snapshot = playBoard(withFaults(load(sheet(limit)), faults), setup).phases.get(
      'standby',
    )!;
    const swing = snapshot.swinging.get(net as never);
    return plainReading(
      net,
      'volts',
      'standby',
      swing
        ? { kind: 'swinging', ...swing }
        : { kind: 'number', value: snapshot.volts.get(net as never)!, trend: 'steady' },
      { attached },
    );
  };
  const diagnosed = (limit: number, readings: readonly ReturnType<typeof readAt>[]): Diagnosis =>
    diagnoserBy(limit).diagnose(
      {
        ...noEvidence,
        readings: readings.map((reading, index) => ({ id: String(index), reading })),
      },
      { phase: 'standby', side: '' },
    );
  const cold = plainReading(
    '3V3_S0',
    'ohms',
    'cold',
    { kind: 'number', value: 0.2, trend: 'steady' },
    { attached },
  );
  const chanceOfShort = ({ suspects }: Diagnosis): number =>
    suspects.find((one) => one.title === 'Low resistance on 3V3_S0')?.probability ?? 0;

  it('each maker on the way to a short may give up early, at half its limit, and none beside it', () => {
    const dictionary = sharedDictionary(board, setup);
    const table = makeTable(board, dictionary);
    const rowOf = (text: string): number => {
      const fault = parseFault(board, text);
      if (!fault.ok) throw new Error(text);
      const name = faultName(fault.value);
      return dictionary.rowOf[dictionary.faults.findIndex((one) => faultName(one) === name)]!;
    };
    const on = (net: string): Fault[] =>
      earlyLimits(table).flatMap((one) => (one.short === rowOf(`${net}:short`) ? [one.weak] : []));
    const half = (part: string): object => ({ kind: 'weak', part, pin: 'OUT', factor: 0.5 });
    expect(on('3V3_S0')).toEqual([half('U2'), half('U1')]);
    expect(on('1V8')).toEqual([half('U3'), half('U1')]);
    expect(on('12V')).toEqual([]);
    const [first] = earlyLimits(table).filter((one) => one.short === rowOf('3V3_S0:short'));
    expect(first?.dead).toBe(rowOf('U2:dead'));
    expect(deadMaker(table, first?.weak)).toBe(first?.dead);
    expect(deadMaker(table, { ...first!.weak })).toBeNull();
  });

  it('is played where short and dead maker are torn apart, and it could come to two parts in a hundred', () => {
    const dictionary = sharedDictionary(board, setup);
    const table = makeTable(board, dictionary);
    const [early] = earlyLimits(table);
    const { short: at, dead } = early!;
    const makers = earlyLimits(table).flatMap((one) => [one.short, one.dead]);
    const top = [...Array(dictionary.rows).keys()].findLast((row) => !makers.includes(row))!;
    /** Rows that leave `torn` unexplained each where the other explains all; another answer at 90 %. */
    const played = (torn: number, fitOfTop: number): number => {
      const flat = (): Float64Array => new Float64Array(dictionary.rows).fill(-50);
      const [one, other] = [flat(), flat()];
      one[dead] = other[at] = -torn;
      one[at] = other[dead] = 0;
      [one[top], other[top]] = [fitOfTop, 0];
      const weights = new Float64Array(dictionary.rows + 1);
      weights[top] = 0.9;
      return limitCandidates(
        table,
        weights,
        new Float64Array(dictionary.rows + 1),
        [one, other].map((byRow, index) => ({ id: String(index), text: '', byRow, byNone: 0 })),
        new Set(),
      ).length;
    };
    const even = limitLogPrior + Math.log(0.9 / 0.02);
    expect(played(3, even - 0.05)).toBe(1);
    expect(played(3, even + 0.05)).toBe(0);
    expect(played(2.05, even - 0.05)).toBe(1);
    expect(played(1.95, even - 0.05)).toBe(0);
  });

  it('by the sheet the feed goes down too; on the board the switch alone', () => {
    const volts = (limit: number, net: string) => readAt(limit, [short.value], net).value;
    expect(volts(6, '3V3')).not.toMatchObject({ kind: 'number', value: expect.closeTo(3.3, 1) });
    expect(volts(3, '3V3')).toMatchObject({ kind: 'number', value: expect.closeTo(3.3, 1) });
  });

  it('the short stays a suspect though its feed stands, and the cold reading convicts it', () => {
    const powered = ['3V3', '1V8', '1V2', '2V5', '3V3_S0', 'S0_EN'].map((net) =>
      readAt(3, [short.value], net),
    );
    const before = diagnosed(6, powered);
    // 2 % by the sheet's limits alone.
    expect(chanceOfShort(before)).toBeGreaterThan(0.1);
    expect(chanceOfShort(before)).toBeLessThan(0.2);
    const after = diagnosed(6, [...powered, cold]);
    expect(after.suspects[0]?.title).toBe('Low resistance on 3V3_S0');
    expect(after.suspects[0]?.probability).toBeGreaterThan(0.85);
    // What was played for it is that short, by its name, and nothing of a weak switch.
    expect(after.suspects[0]?.faults.map(({ name }) => name).join()).not.toContain('weak');
  });

  it('the other way round: the switch holds on and the feed gives up', () => {
    const powered = ['3V3', '1V8', '3V3_S0'].map((net) => readAt(6, [short.value], net));
    const { suspects } = diagnosed(3, [...powered, cold]);
    // By the sheet's limits alone two faults, the second on 3V3, at 44 %.
    expect(suspects[0]?.title).toBe('Low resistance on 3V3_S0');
    expect(suspects[0]?.probability).toBeGreaterThan(0.8);
  });
});
