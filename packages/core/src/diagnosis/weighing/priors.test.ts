import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../../sheets/fell-13.yaml?raw';
import { loadSheet, roleOf, type Board, type GoalId } from '../../board/index.ts';
import { listFaults, parseFault, type Fault } from '../../faults/index.ts';
import { sharedDictionary } from '@jiko/testing';
import type { Habit } from '../../record/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { usualSetup } from '../../play/index.ts';
import { voltsPlace } from '../../dictionary/index.ts';
import { makeDiagnoser, noEvidence, noSigns, type Evidence } from '../index.ts';
import { setLogPrior } from './row-priors.ts';
import { knownFactor } from './known-factor.ts';
import { baseWeight, healthyShare, noneShare, severalShare } from './priors.ts';

// What is believed before anything is read. All of it is common practice, no source: these tests hold
// that nobody changes it by accident.

const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet does not load');
  return loaded.value;
};
const board = load(cairn);
const faultOn = (on: Board, text: string): Fault => {
  const parsed = parseFault(on, text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};

describe('weights before any reading', () => {
  // Weight by kind, times its share by ohms; believed as the power 0.75.
  it.each([
    ['F1:open', 2],
    ['F1:high=20', 0.4 / 4],
    ['FB1:open', 0.4],
    ['FB1:high=20', 0.25 / 4],
    ['PL7:open', 0.15],
    ['PL7:high=20', 0.1 / 4],
    ['PR1:open', 0.3],
    ['PR1:high=20', 0.2 / 4],
    ['R15:drift=10', 0.05],
    ['C50:short', 0.8 * 0.38],
    ['C50:short=2', 0.8 * 0.22],
    ['C50:short=20', 0.8 * 0.18],
    ['C50:leak=100', 0.8 * 0.14],
    ['C50:leak=2k', 0.8 * 0.08],
    ['D1:short', 0.8 * 0.38],
    ['PQ1:open', 0.4],
    ['PQ1.D-S:short', 0.38],
    ['PQ1:all-short', 0.3],
    ['PU6:dead', 1.2 * 0.75],
    ['PU6:dead-let-go', 1.2 * 0.25],
    ['U20:dead', 1],
    ['U21:dead', 0.4],
    ['U34:dead', 0.4],
    ['S5_EN:short', 0.1 * 0.25],
    ['S5_EN:short=20', 0.1 * 0.3],
    ['S5_EN:leak=500', 0.1 * 0.2],
    ['S5_EN:leak=5k', 0.1 * 0.2],
    ['S5_EN:leak=50k', 0.1 * 0.12],
    ['PU6.EN:short', 0.05 * 0.25],
    ['PU6.VCC:short', 0.1 * 0.38],
    ['PU6.VIN:short', 0.25 * 0.38],
    ['C54:short', 0.8 * 0.38],
    ['PU9.VIN-SW:short', 0.15 * 0.7],
    ['PU9.VIN-SW:short=1', 0.15 * 0.3],
    ['S5_EN+S5_PG:joined=1k', 0.01],
    ['D4:reversed', 0.01],
    ['PU2.SW1:output-dead', 0.5],
    ['U40.PBTN:stuck-released', 0.06],
    ['U40:dead', 1.5],
    ['U20:corrupt', 0.8],
    ['U22:blank', 0.5],
    ['U20.SW:trace-open', 0.12],
    ['U40.PBTN:stuck-low', 0.12],
    ['PU6.SW:weak=0.3', 0.4 / 3],
    ['PU6.SW:off-value=0.7', 0.15 / 4],
    ['PWRBTN_SW:break=0', 0.1],
    ['SW1:open', 0.3],
    ['adapter:dead', 0.5],
    ['adapter:weak', 0.2],
    ['adapter:weaker', 0.15],
    ['adapter:limited', 0.15],
    ['adapter:low', 0.25],
    ['adapter:high', 0.05],
    ['board:warm', 0.3],
  ])('%s weighs %f', (text, weight) => {
    const fault = faultOn(board, text);
    // What is asked about is what is in the list, as near as its severity goes.
    expect(listFaults(board).some((one) => one.kind === fault.kind)).toBe(true);
    expect(baseWeight(board, fault)).toBeCloseTo(weight ** 0.75, 6);
  });

  it('something seen at a part raises it, burnt most of what heat does', () => {
    const of = (kind: 'burnt' | 'corrosion' | 'hot'): number =>
      knownFactor(board, faultOn(board, 'C50:short'), {
        findings: [{ kind, part: 'C50' }],
        tried: [],
        habits: [],
      });
    expect([of('corrosion'), of('burnt'), of('hot')]).toEqual([8, 25, 6]);
  });

  it('a part seen missing is open, and can be nothing else', () => {
    const of = (text: string): number =>
      knownFactor(board, faultOn(board, text), {
        findings: [{ kind: 'missing', part: text.split(':')[0]! }],
        tried: [],
        habits: [],
      });
    expect(['C50:open', 'F1:open', 'PU6:dead'].map(of)).toEqual([400, 400, 400]);
    expect(['C50:short', 'C50:leak=5k'].map(of)).toEqual([0.01, 0.01]);
  });

  it('what is seen on a net speaks of the net, less of what is joined to it, of nothing else', () => {
    const of = (text: string): number =>
      knownFactor(board, faultOn(board, text), {
        findings: [{ kind: 'corrosion', part: null, net: '5V_ALW' }],
        tried: [],
        habits: [],
      });
    expect(of('5V_ALW:short')).toBe(8);
    const joined = board.parts.find((part) => part.pins.some(({ net }) => net === '5V_ALW'))!;
    expect(of(`${joined.ref}:open`)).toBeCloseTo(8 ** 0.4, 9);
    const elsewhere = board.parts.find((part) => part.pins.every(({ net }) => net !== '5V_ALW'))!;
    expect(of(`${elsewhere.ref}:open`)).toBe(1);
  });

  it('simple things move what they speak of, and nothing else', () => {
    const after = (thing: 'other-source' | 'other-panel', result: 'no-change' | 'helped') =>
      ['adapter:weak', 'PANEL1.VLOGIC:short', 'C50:short'].map((text) =>
        knownFactor(board, faultOn(board, text), {
          findings: [],
          tried: [{ thing, result }],
          habits: [],
        }),
      );
    expect(after('other-source', 'no-change')).toEqual([0.05, 1, 1]);
    expect(after('other-source', 'helped')).toEqual([60, 1, 1]);
    expect(after('other-panel', 'no-change')).toEqual([1, 0.05, 1]);
    expect(after('other-panel', 'helped')).toEqual([1, 60, 1]);
  });

  it('a button bridged by hand speaks of the button alone', () => {
    const after = (result: 'no-change' | 'helped') =>
      ['SW1:open', 'SW1:leak=5k', 'F1:open'].map((text) =>
        knownFactor(board, faultOn(board, text), {
          findings: [],
          tried: [{ thing: 'button-pads', result }],
          habits: [],
        }),
      );
    expect(after('no-change')).toEqual([0.05, 1, 1]);
    expect(after('helped')).toEqual([200, 1, 1]);
  });

  it('what others soldered may be turned round, eight times as likely', () => {
    const turned = (kind: 'reworked' | 'wrong-part' | 'cracked', text: string): number =>
      knownFactor(board, faultOn(board, text), {
        findings: [{ kind, part: 'D1' }],
        tried: [],
        habits: [],
      });
    for (const kind of ['reworked', 'wrong-part'] as const)
      expect(turned(kind, 'D1:reversed')).toBeCloseTo(8 * turned(kind, 'D1:open'), 6);
    expect(turned('cracked', 'D1:reversed')).toBeCloseTo(turned('cracked', 'D1:open'), 6);
  });

  describe('closed jobs', () => {
    const of = (text: string, ...habits: Habit[]): number =>
      knownFactor(board, faultOn(board, text), { findings: [], tried: [], habits });

    it.each([
      [1, 2],
      [4, 3],
      [16, 5],
      [400, 5],
    ])('%i that ended at a part raise it %i times', (times, factor) => {
      expect(of('PU6:dead', { part: 'PU6', times })).toBe(factor);
      expect(of('PU9:dead', { part: 'PU6', times })).toBe(1);
    });

    it('one that says how it failed teaches a quarter of another way', () => {
      const short: Habit = { part: 'C50', times: 4, how: 'short' };
      expect(of('C50:short', short)).toBe(3);
      expect(of('C50:leak=100', short)).toBe(3);
      expect(of('PU6:dead', { part: 'PU6', times: 4, how: 'joint' })).toBe(2);
      expect(of('PU6.SW:off-value=0.7', { part: 'PU6', times: 4, how: 'value' })).toBe(3);
      expect(of('U22:blank', { part: 'U22', times: 4, how: 'contents' })).toBe(3);
      expect(of('F1:high=20', { part: 'F1', times: 4, how: 'open' })).toBe(3);
      expect(of('U20.SW:trace-open', { part: 'U20', times: 4, how: 'joint' })).toBe(3);
    });

    it.each([
      [1, 1.03],
      [9, 1.09],
      [400, 1.25],
    ])(
      '%i on other boards of the scheme raise what stands in the same place %f times',
      (times, factor) => {
        const role = roleOf(board, 'C50')!;
        expect(of('C50:short', { role, times })).toBeCloseTo(factor, 12);
        expect(of('C50:short', { role: 'capacitor at nowhere', times })).toBe(1);
        expect(of('PWRBTN_SW:break=0', { role, times })).toBe(1);
      },
    );

    it('both together stay within the bound', () => {
      const role = roleOf(board, 'C50')!;
      expect(of('C50:short', { part: 'C50', times: 100 }, { role, times: 100 })).toBe(5);
    });
  });

  it('a board is rarely well, seldom ill in no list, and one in five has a second fault', () => {
    expect([healthyShare, noneShare, severalShare]).toEqual([0.01, 0.04, 0.2]);
    // Two faults of 1 in 100 each: 1 in 10 000, times one in five, in either order.
    const logs = Float64Array.from([0, Math.log(0.01), Math.log(0.01)]);
    expect(Math.exp(setLogPrior([1, 2], logs))).toBeCloseTo(0.0001 * 0.2 * 2, 12);
  });

  it('of six capacitors on a rail each as of one, of more together the root of their number', () => {
    const together = (count: number, more = ''): number => {
      const extra = Array.from(
        { length: count - 3 },
        (_, at) => `  CX${at}: { kind: capacitor, pins: [1V2_MEM, GND], value: 1u${more} }\n`,
      ).join('');
      const on = load(cairn.replace('\nparts:\n', `\nparts:\n${extra}`));
      return count * baseWeight(on, faultOn(on, 'C50:short'));
    };
    expect(together(6)).toBeCloseTo(6 * (0.8 * 0.38) ** 0.75, 9);
    expect(together(24)).toBeCloseTo(2 * together(6), 9);
    expect(together(150)).toBeCloseTo(5 * together(6), 9);
    // What is not fitted shorts nothing.
    expect(together(24, ', fitted: false') / 24).toBeCloseTo((0.8 * 0.38) ** 0.75, 9);
  });
});

describe('how much an observation counts', () => {
  const small = load(fell);
  const setup = usualSetup(small);
  const dictionary = sharedDictionary(small, setup);
  const diagnoser = makeDiagnoser(small, studyHealthyBoard(small, setup).stages, dictionary, setup);
  /** Odds of one fault over another. */
  const odds = (evidence: Partial<Evidence>, a: string, b: string): number => {
    const { byFault } = diagnoser.diagnose(
      { ...noEvidence, ...evidence },
      { phase: 'standby', side: '' },
    );
    const at = (text: string): number => {
      const key = JSON.stringify(faultOn(small, text));
      return byFault[dictionary.faults.findIndex((one) => JSON.stringify(one) === key)]!;
    };
    return at(a) / at(b);
  };
  const moved = (evidence: Partial<Evidence>, a: string, b: string): number =>
    odds(evidence, a, b) / odds({}, a, b);

  it('what closed jobs teach counts for four fifths; the rest goes by what is read alone', () => {
    const at = (text: string, evidence: Partial<Evidence>): number => {
      const { byFault } = diagnoser.diagnose(
        { ...noEvidence, ...evidence },
        { phase: 'standby', side: '' },
      );
      const key = JSON.stringify(faultOn(small, text));
      return byFault[dictionary.faults.findIndex((one) => JSON.stringify(one) === key)]!;
    };
    const habits = [{ part: 'U9', times: 400 }];
    const [taught, other] = ['U9:dead', 'U4:dead'].map(
      (text) => at(text, { habits }) / at(text, {}),
    ) as [number, number];
    // Both shrink by the same sum of weights; the taught one is five times as likely before it.
    expect(1 - other + (taught - other) / 4).toBeCloseTo(0.8, 3);
    expect(taught).toBeGreaterThan(2);
  });

  // U9 makes the memory rail, without which nothing boots; U2's output a little high stops nothing.
  it('the complaint 11 to 1, tempered by the power 0.8', () => {
    // U9 makes the memory rail, without which nothing boots; U2's output a little high stops nothing.
    expect(moved({ goal: 'boots' as GoalId }, 'U9:dead', 'U2.OUT:off-value=1.15')).toBeCloseTo(
      (0.92 / 0.08) ** 0.8,
      2,
    );
  });

  it('a draw called pulsing: 12 in 100 of what stands still, 45 of a hiccup no rail shows', () => {
    const draw = [{ phase: 'trying' as const, amps: null, shape: 'pulsing' as const }];
    const moves = (text: string): number => {
      const key = JSON.stringify(faultOn(small, text));
      const row =
        dictionary.rowOf[dictionary.faults.findIndex((one) => JSON.stringify(one) === key)]!;
      return Math.max(
        0,
        ...dictionary.nets.flatMap((_, net) => {
          const swing = dictionary.swings.get(voltsPlace(dictionary, row, 'trying', net));
          return swing ? [swing[1] - swing[0]] : [];
        }),
      );
    };
    const hiccup = dictionary.faults.flatMap((one) =>
      one.kind === 'short' && one.ohms < 0.5 && moves(`${one.net}:short`) > 0
        ? [`${one.net}:short`]
        : [],
    );
    const small04 = hiccup.find((text) => moves(text) < 0.4);
    expect(moves('U9:dead')).toBe(0);
    expect(small04).toBeDefined();
    expect(moved({ signs: { ...noSigns, draw } }, small04!, 'U9:dead')).toBeCloseTo(
      (0.45 / 0.12) ** 0.8,
      1,
    );
  });

  it('seconds until it goes off: 17 to 3 within a minute, 85 to 3 after, against what stays on', () => {
    const after = (offAfterSeconds: number): number =>
      moved({ signs: { ...noSigns, offAfterSeconds } }, 'board:warm', 'U2.OUT:off-value=1.15');
    expect(after(62)).toBeCloseTo((0.85 / 0.03) ** 0.8, 0);
    // More than five times off its own five minutes it counts a third.
    expect(after(59)).toBeCloseTo(((0.85 * 0.3) / 0.15) ** 0.8, 1);
    expect(after(1000)).toBeCloseTo((0.85 / 0.03) ** 0.8, 0);
    expect(after(1600)).toBeCloseTo(((0.85 * 0.3) / 0.03) ** 0.8, 0);
  });

  it('watched: 9 to 1 for what stays on where it does, 17 to 3 for what goes off where it goes off', () => {
    const watched = (signs: Partial<Evidence['signs']>): number =>
      moved({ signs: { ...noSigns, ...signs } }, 'board:warm', 'U2.OUT:off-value=1.15');
    expect(watched({ goesOff: true })).toBeCloseTo((0.85 / 0.15) ** 0.8, 1);
    expect(watched({ goesOff: false })).toBeCloseTo((0.1 / 0.9) ** 0.8, 2);
    // Seconds say that it does, whatever was ticked beside them.
    expect(watched({ goesOff: false, offAfterSeconds: 62 })).toBeCloseTo((0.85 / 0.03) ** 0.8, 0);
  });
});
