import { describe, expect, it } from 'vitest';
import fold from '../../../../../sheets/old-fold.yaml?raw';
import mini from '../../../../../sheets/beck-mini.yaml?raw';
import { loadSheet, type Board, type GoalId, type NetId } from '../../board/index.ts';
import { faultName, parseFault, withFaults, type Fault } from '../../faults/index.ts';
import { plainReading, sharedDictionary } from '@jiko/testing';
import { attachedIn, playBoard, usualSetup } from '../../play/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { voltsPlace } from '../../dictionary/index.ts';
import type { PoweredPhase } from '../../readings/index.ts';
import { makeDiagnoser, noEvidence, type Diagnosis } from '../index.ts';
import { logPriors } from './row-priors.ts';
import { isReadBetween, sizeCandidates, sizeOnTheWay } from './sizes.ts';
import { predictorFor } from './across.ts';
import { makeTable, withSets } from './table.ts';

const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet does not load');
  return loaded.value;
};
const faultOn = (board: Board, text: string): Fault => {
  const parsed = parseFault(board, text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};

describe('a size on the way', () => {
  const board = load(mini);
  // Half way by the logarithm: the geometric mean of both ends.
  it.each([
    ['12V_IN:short=1', '12V_IN:short=100', { ohms: 10 }],
    ['12V_IN:short=10', null, { ohms: Math.sqrt(10 * 100) }],
    ['R1:drift=0.25', null, { factor: 0.5 }],
    ['R1:drift=4', 'R1:drift=16', { factor: 8 }],
    ['R1:drift=40', 'R1:open', { factor: 40 * Math.sqrt(10) }],
  ])('from %s to %s', (from, to, size) => {
    const half = sizeOnTheWay(faultOn(board, from), to === null ? null : faultOn(board, to), 0.5);
    expect(half).toMatchObject({ kind: faultOn(board, from).kind });
    for (const [key, value] of Object.entries(size))
      expect((half as unknown as Record<string, number>)[key]).toBeCloseTo(value, 9);
  });

  it('there is none where a fault has no size', () => {
    expect(sizeOnTheWay(faultOn(board, 'U1:dead'), null, 0.5)).toBeNull();
  });
});

/** What these faults make of points, as a meter without error reads it. */
function diagnosed(
  board: Board,
  fault: Fault,
  points: readonly (readonly [string, PoweredPhase])[],
  known: { offAfterSeconds?: number; ohmsAt?: string } = {},
): Diagnosis {
  const setup = usualSetup(board);
  const play = playBoard(withFaults(board, [fault]), setup);
  const { stages } = studyHealthyBoard(board, setup);
  const diagnoser = makeDiagnoser(board, stages, sharedDictionary(board, setup), setup);
  const attached = attachedIn(board, setup);
  const evidence = {
    ...noEvidence,
    signs: { ...noEvidence.signs, offAfterSeconds: known.offAfterSeconds ?? null },
    goal: 'boots' as GoalId,
    readings: [
      ...points.map(([net, phase]) => ({
        id: `${net} ${phase}`,
        reading: plainReading(
          net as NetId,
          'volts',
          phase,
          {
            kind: 'number',
            value: play.phases.get(phase)!.volts.get(net as NetId)!,
            trend: 'steady',
          },
          { attached },
        ),
      })),
      ...(known.ohmsAt && 'ohms' in fault
        ? [
            {
              id: 'cold',
              reading: plainReading(known.ohmsAt as NetId, 'ohms', 'cold', {
                kind: 'number',
                value: fault.ohms,
                trend: 'steady',
              }),
            },
          ]
        : []),
    ],
  };
  return diagnoser.diagnose(evidence, { phase: 'trying', side: '' }, 6);
}

describe('sizes that are not in the list', () => {
  const board = load(fold);
  // At 1 ohm the supply's 8 A leave too little to start; at 10 ohms nothing is pulled down. At 1.25
  // ohms the rail stands at 10 V, falls to 6.5 V when all run, and still the core comes.
  const points = [
    ['12V', 'standby'],
    ['12V', 'trying'],
    ['1V5_CHIP', 'trying'],
    ['VCORE', 'trying'],
    ['CORE_OK', 'trying'],
    ['5V_AUX', 'trying'],
  ] as const;

  it.each(['12V:short=1.25', '12V:short=1.35'])('%s is named, not called unknown', (text) => {
    const { suspects, none } = diagnosed(board, faultOn(board, text), points, { ohmsAt: '12V' });
    expect(suspects[0]?.title).toBe('Low resistance on 12V');
    expect(suspects[0]?.probability).toBeGreaterThan(0.9);
    expect(none).toBeLessThan(0.1);
    // It stays the fault of the list, and its parts are those of the rail.
    expect(suspects[0]?.faults.every(({ name }) => !name.includes('1.2'))).toBe(true);
    expect(suspects[0]?.faults.reduce((sum, one) => sum + one.probability, 0)).toBeCloseTo(
      suspects[0]!.probability,
      6,
    );
  });
});

it('a fault is no likelier before any reading for being looked at in more sizes', () => {
  const board = load(mini);
  const dictionary = sharedDictionary(board, usualSetup(board));
  const fault = dictionary.faults.findIndex((one) => one.kind === 'short');
  const row = dictionary.rowOf[fault]!;
  const single = makeTable(board, dictionary);
  const grown = { ...dictionary, rows: dictionary.rows + 3 };
  const sized = withSets(single, grown, [[row], [row], [row]], [[], [], []]);
  const before = logPriors(single, noEvidence);
  const after = logPriors(sized, noEvidence);
  const own = [row, single.singles, single.singles + 1, single.singles + 2];
  const all = own.reduce((sum, one) => sum + Math.exp(after[one]!), 0);
  expect(all).toBeCloseTo(Math.exp(before[row]!), 9);
  expect(after[single.singles]).toBeCloseTo(before[row]! + Math.log(1 / 12), 9);
});

it('what is read between two points is read under the size that was played', () => {
  const board = load(mini);
  const dictionary = sharedDictionary(board, usualSetup(board));
  // R1 is 10k between 3V3_SB and BTN#: listed at twice its value, played at three times.
  const listed = faultOn(board, 'R1:drift=2');
  const row =
    dictionary.rowOf[dictionary.faults.findIndex((one) => faultName(one) === faultName(listed))]!;
  const grown = { ...dictionary, rows: dictionary.rows + 1 };
  const table = withSets(
    makeTable(board, dictionary),
    grown,
    [[row]],
    [[faultOn(board, 'R1:drift=3')]],
  );
  const spot = (net: string) => ({ net: net as NetId, ref: null, pin: null });
  const read = predictorFor(table, {
    at: spot('BTN#'),
    against: spot('3V3_SB'),
    mode: 'ohms',
    phase: 'cold',
    polarity: 'red-on-point',
  })!;
  expect(read.of(row).value / 20_000).toBeCloseTo(1, 1);
  expect(read.of(dictionary.rows).value / 30_000).toBeCloseTo(1, 1);
});

describe('what only a clock tells apart', () => {
  const board = load(mini);
  const stuck = faultOn(board, 'U1.ON:stuck-low');
  const points = [
    ['PS_ON', 'trying'],
    ['SB_PG', 'standby'],
  ] as const;
  // A source that gives way under the load goes off as well, and is another thing to find.
  const titlesOf = (offAfterSeconds?: number): string[] =>
    diagnosed(board, stuck, points, { offAfterSeconds })
      .suspects.filter((one) => one.probability > 0.1 && one.title.startsWith('U1 '))
      .map((one) => one.title);

  it('is two suspects until somebody looked at one, then one thing to find', () => {
    expect(titlesOf().length).toBeGreaterThan(1);
    expect(titlesOf(1)).toEqual(['U1 does not run, or not to its end']);
  });
});

describe('rivals of a size that stands', () => {
  const board = load(mini);
  const dictionary = sharedDictionary(board, usualSetup(board));
  const rowOf = (text: string): number => {
    const wanted = JSON.stringify(faultOn(board, text));
    return dictionary.rowOf[dictionary.faults.findIndex((one) => JSON.stringify(one) === wanted)]!;
  };
  const standing = faultOn(board, '12V_IN:short=3');
  const table = withSets(
    makeTable(board, dictionary),
    { ...dictionary, rows: dictionary.rows + 1 },
    [[rowOf('12V_IN:short=1')]],
    [[standing]],
  );
  const rival = rowOf('5V_SB:short=10');
  const looked = (byRival: number, ofSize = 0.7, ofRival = 0.2): number[] => {
    const weights = new Float64Array(dictionary.rows + 2);
    weights[dictionary.rows] = ofSize;
    weights[rival] = ofRival;
    weights[dictionary.rows + 1] = 0.1;
    const byRow = new Float64Array(dictionary.rows + 1);
    byRow[rival] = byRival;
    return sizeCandidates(
      table,
      weights,
      new Float64Array(dictionary.rows + 2).fill(-5),
      [{ id: 'a', text: '', byRow, byNone: 0 }],
      new Map(),
      true,
    ).map(({ faults: [one] }) => (one && 'ohms' in one ? Number(one.ohms.toFixed(1)) : NaN));
  };

  it('are looked at where their ends explain something differently, one way at a time', () => {
    // From 10 to 100 Ω, at a quarter, half and three quarters of the way.
    expect(looked(-1.1)).toEqual([17.8, 31.6, 56.2]);
    // Nothing between two that explain all alike.
    expect(looked(-0.9)).toEqual([]);
    expect(looked(0)).toEqual([]);
  });

  it('are not worth a play where little stands on sizes, or on the rival', () => {
    expect(looked(-1.1, 0.051)).toHaveLength(3);
    expect(looked(-1.1, 0.049)).toEqual([]);
    expect(looked(-1.1, 0.7, 0.0031)).toHaveLength(3);
    expect(looked(-1.1, 0.7, 0.0029)).toEqual([]);
  });
});

describe('the net a fault drags, read between two of its sizes', () => {
  const board = load(mini);
  const dictionary = sharedDictionary(board, usualSetup(board));
  const row = dictionary.faults.findIndex((one) => one.kind === 'short' && one.net === 'PS_ON');
  const [from, to] = [dictionary.rowOf[row]!, 0];
  const place = dictionary.nets.indexOf('PS_ON' as NetId);
  // 1 V under the harder one, 3 V under the milder one.
  const volts = dictionary.volts.slice();
  volts[voltsPlace(dictionary, from, 'trying', place)] = 1;
  volts[voltsPlace(dictionary, to, 'trying', place)] = 3;
  const table = makeTable(board, { ...dictionary, volts });
  const read = (value: number, at = place, phase: PoweredPhase = 'trying'): boolean => {
    const steady = { phase, volts: value };
    const seen = { nets: [at], isCold: false, byLoose: 0, steady };
    const byRow = new Float64Array(dictionary.rows);
    const way = { from, to, sizes: [] };
    return isReadBetween(table, way, [{ id: 'a', text: '', byRow, byNone: 0, at: seen }]);
  };

  it('is at neither end: a twentieth of the way above the one, a seventh of its volts below the other', () => {
    expect([1.09, 1.11, 2, 2.54, 2.56].map((value) => read(value))).toEqual([
      false,
      true,
      true,
      true,
      false,
    ]);
  });

  it('says nothing of another net, nor of a phase in which both ends are alike', () => {
    expect(read(2, place + 1)).toBe(false);
    const same = volts[voltsPlace(dictionary, to, 'standby', place)]!;
    expect(read(same, place, 'standby')).toBe(false);
  });
});
