import { describe, expect, it } from 'vitest';
import bareFell from '../../../../../sheets/fell-13.yaml?raw';
import { choosableGoals, loadSheet, type GoalId } from '../../board/index.ts';
import { parseFault, type Fault } from '../../faults/index.ts';
import { plainJob, plainReading, sharedDictionary } from '@jiko/testing';
import { answersButton } from '../../dictionary/index.ts';
import { attachedIn, playFault, rehearse, shownVolts, usualSetup } from '../../play/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import type { Phase, Reading } from '../../readings/index.ts';
import { seenTexts } from '../../record/index.ts';
import {
  evidenceOf,
  makeDiagnoser,
  noEvidence,
  noSigns,
  type Diagnosis,
  type Evidence,
} from '../index.ts';
import { warmthLogLikelihood } from '../weighing/warmth.ts';

// What is seen, felt and timed from outside, and what a board was brought in for.

// Without a goal of that name of its own, so that the common one is offered.
const fell = bareFell.replace(/^ {2}answers:.*\n/m, '');
const loaded = loadSheet(fell);
if (!loaded.ok) throw new Error('the sheet does not load');
const board = loaded.value;
const setup = usualSetup(board);
const dictionary = sharedDictionary(board, setup);
const healthy = studyHealthyBoard(board, setup);
const diagnoser = makeDiagnoser(board, healthy.stages, dictionary, setup);
const attached = attachedIn(board, setup);
const diagnose = (evidence: Partial<Evidence>): Diagnosis =>
  diagnoser.diagnose({ ...noEvidence, ...evidence }, { phase: 'trying', side: '' });
const seen = (signs: Partial<Evidence['signs']>): Evidence['signs'] => ({ ...noSigns, ...signs });
const faultOf = (text: string): Fault => {
  const parsed = parseFault(board, text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const share = ({ suspects }: Diagnosis, has: (one: Fault) => boolean): number =>
  suspects
    .flatMap((one) => one.faults)
    .filter((one) => has(one.fault))
    .reduce((sum, one) => sum + one.probability, 0);
/** Of one fault of the list. */
const chanceOf = ({ byFault }: Diagnosis, text: string): number => {
  const key = JSON.stringify(faultOf(text));
  return byFault[dictionary.faults.findIndex((one) => JSON.stringify(one) === key)]!;
};
const celsius = (net: string, part: string, value: number, phase: Phase = 'trying'): Reading => ({
  ...plainReading(net, 'celsius', phase, { kind: 'number', value, trend: 'steady' }, { attached }),
  at: { net, part, pin: null },
});
const kept = (...readings: Reading[]): Evidence['readings'] =>
  readings.map((reading, index) => ({ id: String(index), reading }));
const volts = (net: string, value: number): Reading =>
  plainReading(net, 'volts', 'trying', { kind: 'number', value, trend: 'steady' }, { attached });

describe('a sign no play can show', () => {
  it('weighs nothing: a fan that turns, on a sheet without one', () => {
    expect(board.parts.some((part) => part.kind === 'fan')).toBe(false);
    const readings = kept(volts('VMAIN', 19.9));
    const [without, with_] = [{}, { fan: true }].map((signs) =>
      diagnose({ readings, signs: seen(signs) }),
    ) as [Diagnosis, Diagnosis];
    expect(with_.none).toBeCloseTo(without.none, 9);
    expect(with_.suspects[0]?.probability).toBeCloseTo(without.suspects[0]!.probability, 9);
  });
});

describe('a board that runs until it is warm', () => {
  const isWarm = (fault: Fault): boolean => fault.kind === 'warm';

  it('reads as a good one while it runs, and as before the press when it is off', () => {
    const rehearsal = rehearse(board, setup);
    const play = playFault(rehearsal, [faultOf('board:warm')]);
    const good = rehearsal.course.play.phases;
    for (const net of board.nets) {
      const at = (phase: 'standby' | 'trying' | 'run'): number =>
        shownVolts(play.phases.get(phase)!, net.id);
      expect(at('trying')).toBe(shownVolts(good.get('run')!, net.id));
      expect(at('run')).toBe(shownVolts(good.get('standby')!, net.id));
    }
    expect(play.events.at(-1)?.what).toBe('gives up: too warm');
    // What does not run never gets warm.
    const dead = playFault(rehearsal, [faultOf('U9:dead'), faultOf('board:warm')]);
    expect(dead.events.at(-1)?.what).not.toContain('warm');
  });

  it('is told from one that gives up at once by the seconds, and says how it is proven', () => {
    const readings = kept(volts('VCORE', 0.85), volts('1V1_MEM', 1.1), volts('PLTRST#', 3.29));
    const late = diagnose({ readings, signs: seen({ offAfterSeconds: 240 }) });
    const soon = diagnose({ readings, signs: seen({ offAfterSeconds: 4 }) });
    expect(late.suspects[0]?.title).toBe('Goes off when it is warm');
    expect(late.suspects[0]?.separate.caution).toContain(
      'Never let a processor run without its cooler',
    );
    // Ten times apart is another time: a third of the weight.
    const odds = (one: Diagnosis): number => share(one, isWarm) / (1 - share(one, isWarm));
    expect(odds(late) / odds(soon)).toBeGreaterThan(2);
  });
});

describe('degrees read at a part', () => {
  const likely = (read: number, watts: number, perWatt: number): number =>
    Math.exp(warmthLogLikelihood(read, watts, perWatt));

  it('are as warm as a watt makes it, by a factor, above a bench of 24 degrees', () => {
    // Each at the middle of what is expected against one to two standard deviations beside it.
    expect(likely(24, 0, 35)).toBeGreaterThan(3 * likely(32, 0, 35));
    expect(likely(59, 1, 35)).toBeGreaterThan(1.5 * likely(24, 1, 35));
    expect(likely(59, 1, 35) / likely(59, 0, 35)).toBeGreaterThan(10);
    // Ten watts in a small part do not make 1500 degrees of it.
    expect(likely(144, 10, 150)).toBeGreaterThan(likely(60, 10, 150));
    // 120 K above the bench at most, known to 0.6 of it: a normal density of sigma 72 K, 85 % of it.
    expect(likely(144, 10, 150)).toBeCloseTo(0.15 / 150 + 0.85 / (72.17 * 2.5066), 5);
    // A wrong one is possible: it never rules out by itself.
    expect(likely(150, 0, 35)).toBeCloseTo(0.15 / 150, 5);
  });

  it('tell a rail that is loaded hard from one that is well, where its volts hold', () => {
    // Into an ohm the always-on buck gives 3.3 A and turns over a watt to heat; its volts stay.
    const well = volts('3V3_AON', 3.29);
    const [hot, cool] = [75, 27].map((degrees) =>
      diagnose({ readings: kept(well, celsius('3V3_AON', 'U3', degrees)) }),
    ) as [Diagnosis, Diagnosis];
    expect(hot.unused).toEqual([]);
    expect(chanceOf(hot, '3V3_AON:short=1')).toBeGreaterThan(5 * chanceOf(cool, '3V3_AON:short=1'));
  });

  it('count at a part only, and with a source', () => {
    const nowhere = { ...celsius('VSYS', 'U9', 40), at: { net: 'VSYS', part: null, pin: null } };
    expect(diagnose({ readings: kept(nowhere) }).unused[0]?.why).toContain('say which');
    expect(
      diagnose({ readings: kept(celsius('VSYS', 'U9', 40, 'cold')) }).unused[0]?.why,
    ).toContain('without a source');
    expect(diagnose({ readings: kept(celsius('VBUS', 'J1', 40)) }).unused[0]?.why).toContain('J1');
  });
});

it('what was measured at 80 degrees counts as found hot, and what is cooler or nowhere does not', () => {
  const findings = (value: number, part: string | null): Evidence['findings'] =>
    evidenceOf(
      plainJob({
        type: 'reading',
        supersedes: [],
        reading: { ...celsius('3V3_AON', 'U3', value), at: { net: '3V3_AON', part, pin: null } },
      }),
      [],
      [],
    ).findings;
  expect(findings(80, 'U3')).toEqual([{ kind: 'hot', part: 'U3' }]);
  expect(findings(79, 'U3')).toEqual([]);
  expect(findings(120, null)).toEqual([]);
});

describe('what a board was brought in for', () => {
  it('may be the goals of its sheet, its button, or nothing in particular', () => {
    expect(choosableGoals(board).map((one) => one.id)).toEqual(['boots', 'answers-button', 'none']);
    const own = loadSheet(bareFell);
    // The sheet says itself what answering is.
    expect(own.ok && choosableGoals(own.value).map((one) => one.id)).toEqual([
      'boots',
      'answers',
      'none',
    ]);
  });

  it('a board that does not answer its button is not one whose memory rail is missing', () => {
    const row = (text: string): number => {
      const name = JSON.stringify(faultOf(text));
      return dictionary.rowOf[dictionary.faults.findIndex((one) => JSON.stringify(one) === name)]!;
    };
    expect(answersButton(dictionary, 0)).toBe(true);
    expect(answersButton(dictionary, row('U9:dead'))).toBe(true);
    expect(answersButton(dictionary, row('U5:dead'))).toBe(false);
    const [none, answers] = [null, 'answers-button'].map((goal) =>
      diagnose({ goal: goal as GoalId | null }),
    ) as [Diagnosis, Diagnosis];
    expect(chanceOf(answers, 'U9:dead')).toBeLessThan(0.5 * chanceOf(none, 'U9:dead'));
    expect(chanceOf(diagnose({ goal: 'none' as GoalId }), 'U9:dead')).toBe(
      chanceOf(none, 'U9:dead'),
    );
  });

  it('its way ends with the first stage that comes after the press', () => {
    const path = healthy.path('answers-button' as GoalId);
    expect(path.at(-1)?.phase).not.toBe('standby');
    expect(path.slice(0, -1).every((one) => one.phase === 'standby')).toBe(true);
    expect(healthy.path('none' as GoalId)).toEqual(healthy.stages);
  });
});

describe('a picture under the torch, another panel', () => {
  it('a faint picture says that code runs', () => {
    expect(chanceOf(diagnose({ signs: seen({ faintPicture: true }) }), 'U9:dead')).toBeLessThan(
      0.15 * chanceOf(diagnose({}), 'U9:dead'),
    );
  });
});

describe('a press that changes nothing', () => {
  it('speaks for what keeps the board asleep, and is no board that stays on', () => {
    const none = diagnose({ signs: seen({ answers: false }) });
    const plain = diagnose({});
    // A button that is open: it never hears the press. A dead core: it wakes, and fails later.
    expect(chanceOf(none, 'SW1:open')).toBeGreaterThan(2 * chanceOf(plain, 'SW1:open'));
    expect(chanceOf(none, 'U11:dead')).toBeLessThan(0.5 * chanceOf(plain, 'U11:dead'));
  });

  it('takes back what was said of going off or staying on before, and the other way round', () => {
    const sign = (seen: object, phase = 'run') => ({
      type: 'sign',
      phase,
      drawAmps: null,
      drawShape: null,
      seen,
      text: '',
    });
    const signsOf = (...bodies: unknown[]) => evidenceOf(plainJob(...bodies), [], []).signs;
    expect(signsOf(sign({ answers: false }))).toMatchObject({ answers: false, goesOff: null });
    expect(signsOf(sign({}), sign({ answers: false }))).toMatchObject({
      answers: false,
      goesOff: null,
    });
    expect(signsOf(sign({ answers: false }), sign({}))).toMatchObject({
      answers: null,
      goesOff: false,
    });
    expect(signsOf(sign({}))).toMatchObject({ answers: null, goesOff: false });
  });
});

describe('a point read with the button held', () => {
  it('is not asked for again after the press', () => {
    const asked = (...readings: Reading[]): string[] =>
      diagnose({ readings: kept(...readings) })
        .next.filter((one) => one.mode === 'volts' && one.reference === null)
        .map((one) => one.net);
    const first = asked(volts('VCORE', 0))[0]!;
    const held = plainReading(
      first,
      'volts',
      'pressed',
      {
        kind: 'number',
        value: healthy.play.phases.get('run')!.volts.get(first as never)!,
        trend: 'steady',
      },
      { attached },
    );
    expect(asked(volts('VCORE', 0), held)).not.toContain(first);
  });
});

describe('readings taken before a small part was lifted', () => {
  const lifted = { ...setup, lifted: ['R5'] };
  const without = makeDiagnoser(board, healthy.stages, sharedDictionary(board, lifted), lifted);
  const weigh = (...readings: Reading[]): Diagnosis =>
    without.diagnose({ ...noEvidence, readings: kept(...readings) }, { phase: 'trying', side: '' });
  const standby = (net: string, value: number): Reading =>
    plainReading(net, 'volts', 'standby', { kind: 'number', value, trend: 'steady' }, { attached });

  it('count on where it does not touch them, until there are plays with it on', () => {
    const read = weigh(standby('VBUS', 20), standby('VSYS', 0.02));
    expect(read.unused.map((one) => one.counts)).toEqual([true, true]);
    expect(read.unused.every((one) => one.bench !== null)).toBe(true);
    // The source is there and the main rail is not: what lies between.
    const between = (of: Diagnosis): number =>
      share(of, (one) => 'part' in one && ['Q1', 'Q2', 'U1', 'R1'].includes(one.part));
    expect(between(read)).toBeGreaterThan(2 * between(weigh()));
  });

  it('do not where the part makes what was read, and of the part itself they say nothing', () => {
    // R5 pulls PRIM_PG up: without it the net reads otherwise.
    const { unused } = weigh(standby('PRIM_PG', 3.3), standby('VBUS', 20));
    const byNet = new Map(unused.map((one) => [one.id, one.counts ?? false]));
    expect([...byNet.values()].filter(Boolean)).toHaveLength(1);
  });
});

describe('volts at the plug', () => {
  const at = (shown: number): Evidence['signs'] =>
    seen({ draw: [{ phase: 'standby', amps: null, shape: null, shownVolts: shown }] });

  it('5 V and no more: the board never asked; 20 V: it did', () => {
    const unasked = (evidence: Partial<Evidence>): number =>
      chanceOf(diagnose(evidence), 'U1:dead');
    expect(unasked({ signs: at(5.1) })).toBeGreaterThan(5 * unasked({}));
    expect(unasked({ signs: at(19.8) })).toBeLessThan(unasked({}) / 5);
  });

  it('count with what a job wrote down, alone too, and are said in words', () => {
    const sign = {
      type: 'sign',
      phase: 'standby',
      drawAmps: null,
      drawShape: null,
      seen: { shownVolts: 5.1 },
      text: '',
    };
    expect(evidenceOf(plainJob(sign), [], []).signs.draw).toMatchObject([
      { phase: 'standby', amps: null, shownVolts: 5.1 },
    ]);
    expect(seenTexts({ shownVolts: 5.1 })).toEqual(['5.1 V at the plug']);
  });
});
