import { describe, expect, it } from 'vitest';
import type { Goal, NetId, StageId } from '../board/index.ts';
import { oneOfEach } from '@jiko/testing';
import type { PoweredPhase } from '../readings/index.ts';
import {
  answersButton,
  firstMissingIn,
  outcomeOf,
  reachesGoal,
  voltsPlace,
  wholeDictionary,
  type Dictionary,
} from './index.ts';
import { usualSetup } from '../play/index.ts';
import type { OrderedStage } from '../expectations/index.ts';

// What a row of volts comes to, at both sides of each edge. Row 1 is written by hand over a healthy
// row 0 with round numbers.

const whole = wholeDictionary(oneOfEach, usualSetup(oneOfEach));
const [rail, line] = ['OUT2', '3V3'] as unknown as [NetId, NetId];
/** By net and phase, under row 1; what is not said is as in row 0: 2 V on both nets, at rest as well. */
function rows(under: [NetId, PoweredPhase, number][], healthy: typeof under = []): Dictionary {
  const dictionary: Dictionary = {
    ...whole,
    volts: new Float32Array(whole.volts.length),
    codeless: [],
    goalNets: {},
  };
  const put = (row: number, [net, phase, volts]: (typeof under)[number]): void => {
    dictionary.volts[voltsPlace(dictionary, row, phase, whole.nets.indexOf(net))] = volts;
  };
  for (const row of [0, 1])
    for (const phase of ['standby', 'pressed', 'trying', 'run'] as const) {
      put(row, [rail, phase, 2]);
      put(row, [line, phase, 2]);
    }
  for (const one of healthy) {
    put(0, one);
    put(1, one);
  }
  for (const one of under) put(1, one);
  return dictionary;
}
const stage = (id: string, net: NetId, phase: 'standby' | 'run' | null): OrderedStage =>
  ({ stage: { id: id as StageId, gives: [net] }, phase }) as never;

describe('the first stage that does not come', () => {
  const stages = [stage('first', rail, 'standby'), stage('second', line, 'run')];
  const missing = (...under: [NetId, PoweredPhase, number][]) =>
    firstMissingIn(stages, rows(under), 1);

  it('gives a net more than 15 % off what it has in run, up or down', () => {
    expect(missing()).toBeNull();
    expect(missing([rail, 'standby', 1.71])).toBeNull();
    expect(missing([rail, 'standby', 1.69])).toBe('first');
    expect(missing([rail, 'standby', 2.29])).toBeNull();
    expect(missing([rail, 'standby', 2.31])).toBe('first');
  });

  it('or more than a tenth of a volt, where that is more', () => {
    const low = (volts: number) =>
      firstMissingIn(stages, rows([[rail, 'standby', volts]], [[rail, 'run', 0.3]]), 1);
    expect([low(0.21), low(0.19)]).toEqual([null, 'first']);
  });

  it('is looked at before the press where it comes before it, else in the last moment before giving up', () => {
    expect(missing([line, 'standby', 0])).toBeNull();
    expect(missing([line, 'run', 0])).toBeNull();
    expect(missing([line, 'trying', 0])).toBe('second');
    expect(missing([rail, 'trying', 0])).toBeNull();
  });

  it('is the first in the order given; one that never comes is none', () => {
    const both = rows([
      [rail, 'standby', 0],
      [line, 'trying', 0],
    ]);
    expect(firstMissingIn(stages, both, 1)).toBe('first');
    expect(firstMissingIn([...stages].reverse(), both, 1)).toBe('second');
    expect(firstMissingIn([stage('never', rail, null)], both, 1)).toBeNull();
  });
});

describe('a goal', () => {
  const goal = (shows: Goal['shows'] = null): Goal =>
    ({
      ...oneOfEach.goals[0]!,
      id: 'boots',
      phase: 'run',
      shows,
      reached: [{ net: line, side: 'above', volts: 1.5 }],
    }) as Goal;

  it('is not reached while a net on its way has less than 0.7 of its volts', () => {
    const at = (volts: number): boolean =>
      reachesGoal(
        { ...rows([[rail, 'run', volts]]), goalNets: { boots: [rail] } as never },
        goal(),
        1,
      );
    expect([at(1.41), at(1.39)]).toEqual([true, false]);
    // A net that is on no way to it may be gone.
    expect(reachesGoal(rows([[rail, 'run', 0]]), goal(), 1)).toBe(true);
  });

  it('of a picture is not reached where no code runs, though every net is right', () => {
    const silent = { ...rows([]), codeless: [1] };
    expect(reachesGoal(silent, goal('picture'), 1)).toBe(false);
    expect(reachesGoal(silent, goal('picture'), 0)).toBe(true);
    expect(reachesGoal(silent, goal(), 1)).toBe(true);
  });
});

describe('what a row changes', () => {
  const outcome = (change: (dictionary: Dictionary) => void) => {
    const dictionary = {
      ...rows([]),
      swings: new Map(),
      amps: new Float32Array(whole.amps.length),
      ohms: new Float32Array(whole.ohms.length).fill(100),
      diode: new Float32Array(whole.diode.length).fill(0.5),
    };
    change(dictionary);
    return outcomeOf(oneOfEach, [], dictionary, 1);
  };
  const count = whole.nets.length;

  it('counts each net that reads otherwise unpowered by more than a tenth, in its own row', () => {
    expect(outcome(() => {}).changed).toBe(0);
    expect(outcome(({ ohms }) => ohms.fill(89, count, count + 3)).changed).toBe(3);
    expect(outcome(({ ohms }) => ohms.fill(91, count, count + 3)).changed).toBe(0);
    expect(outcome(({ diode }) => (diode[count] = Infinity)).changed).toBe(1);
    expect(outcome(({ ohms }) => ohms.fill(1, 2 * count)).changed).toBe(0);
  });

  it('draws what stands for its own row, before the press and as it tries', () => {
    const { standbyAmps, tryingAmps } = outcome(({ amps }) =>
      amps.forEach((_, at) => (amps[at] = at)),
    );
    expect([standbyAmps, tryingAmps]).toEqual([4, 6]);
  });
});

describe('whether a board answers its button', () => {
  /** The line is down before the press on the healthy board, by `before`, and has 2 V in run. */
  const answers = (before: number, ...under: [NetId, PoweredPhase, number][]): boolean =>
    answersButton(rows(under, [[line, 'standby', before]]), 1);
  const gone: [NetId, PoweredPhase, number][] = [
    [line, 'trying', 0],
    [line, 'run', 0],
  ];

  it('is told by what waits for the press: more than 0.7 of its volts in either phase', () => {
    expect(answers(0, ...gone)).toBe(false);
    expect(answers(0, [line, 'trying', 1.41], [line, 'run', 0])).toBe(true);
    expect(answers(0, [line, 'trying', 0], [line, 'run', 1.41])).toBe(true);
    expect(answers(0, [line, 'trying', 1.39], [line, 'run', 1.39])).toBe(false);
  });

  it('what was there before the press, or hardly comes at all, tells nothing', () => {
    const up: [NetId, PoweredPhase, number][] = [
      [line, 'trying', 2],
      [line, 'run', 2],
    ];
    expect([answers(1.39, ...up), answers(1.41, ...up)]).toEqual([true, false]);
    const faint = (volts: number): boolean =>
      answersButton(
        rows(
          [],
          [
            [line, 'standby', 0],
            [line, 'run', volts],
            [line, 'trying', volts],
          ],
        ),
        1,
      );
    expect([faint(0.31), faint(0.29)]).toEqual([true, false]);
  });
});
