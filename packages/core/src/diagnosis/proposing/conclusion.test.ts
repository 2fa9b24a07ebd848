import { describe, expect, it } from 'vitest';
import { plainEvents, plainReading, sharedDictionary, walkJob } from '@jiko/testing';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type GoalId, type NetId } from '../../board/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { attachedIn, usualSetup } from '../../play/index.ts';
import { deriveJob, type JobEvent } from '../../record/index.ts';
import {
  conclusionOf,
  makeDiagnoser,
  nextStep,
  noEvidence,
  orderToRead,
  orderToTest,
  readingsNow,
  type Diagnosis,
  type NextStep,
} from '../index.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the sheet does not load');
const board = loaded.value;
const setup = usualSetup(board);
const attached = attachedIn(board, setup);
const healthy = studyHealthyBoard(board, setup);
const diagnoser = makeDiagnoser(board, healthy.stages, sharedDictionary(board, setup), setup);

/** What stands after these volts in `trying`, in their order. */
function after(volts: Record<string, number>) {
  const events: JobEvent[] = Object.entries(volts).map(([net, value]) => ({
    ...plainEvents({
      type: 'reading',
      supersedes: [],
      reading: plainReading(
        net,
        'volts',
        'trying',
        { kind: 'number', value, trend: 'steady' },
        { attached },
      ),
    })[0]!,
    id: `of ${net}`,
  }));
  const readings = events.flatMap(({ id, body }) =>
    body.type === 'reading' ? [{ id, reading: body.reading }] : [],
  );
  const trace = walkJob(healthy, deriveJob(events), 'boots' as GoalId);
  const diagnosis: Diagnosis = diagnoser.diagnose(
    { ...noEvidence, readings, goal: 'boots' as GoalId },
    { phase: 'trying', side: '' },
    2,
  );
  return { trace, diagnosis, conclusion: conclusionOf(board, trace, diagnosis) };
}

const upTo1V8 = { VIN: 19, VMAIN: 19, '3V3_ALW': 3.3, '5V_ALW': 5, '1V8_S5': 1.8, '1V8_PG': 3.3 };

describe('what all that was read comes to', () => {
  it('is the first suspect, why, and a reading that would deny it', () => {
    const { diagnosis, conclusion } = after({ ...upTo1V8, '1V05_S5': 0.01, '3V3_S5': 3.3 });
    const [first] = diagnosis.suspects;
    expect(conclusion?.what).toBe(first!.title);
    expect(conclusion?.probability).toBe(first!.probability);
    expect(conclusion?.because).toContain('1V05_S5 reads 0.01 V');
    expect(conclusion?.refutedBy).toMatch(/ (at|across) .+, (source|after|button)/);
  });

  it('is denied by no reading that its own faults allow', () => {
    const { trace, diagnosis, conclusion } = after({ ...upTo1V8, '1V05_S5': 0.01 });
    const { group } = diagnosis.suspects[0]!;
    const named = readingsNow(trace, diagnosis).find(({ net, across }) =>
      conclusion!.refutedBy!.includes(` ${across ?? net}, `),
    );
    const allowed = named!.outcomes.filter(({ classes }) => classes.includes(group));
    expect(named!.outcomes.length).toBeGreaterThan(allowed.length);
  });

  it('is denied in a unit, or in words that say the mode', () => {
    const { trace, diagnosis } = after({ ...upTo1V8, '1V05_S5': 0.01 });
    const { group } = diagnosis.suspects[0]!;
    const only = (mode: string, low: number) => ({
      ...diagnosis,
      next: [
        {
          ...diagnosis.next[0]!,
          ...{ net: '1V8_S5' as NetId, across: null, reference: null, mode, phase: 'cold' },
          outcomes: [
            { low: 0.4, high: 0.4, probability: 0.9, isHealthy: true, classes: [group] },
            { low, high: low, probability: 0.1, isHealthy: false, classes: [group + 1] },
          ],
        },
      ] as Diagnosis['next'],
    });
    const told = (mode: string, low: number) =>
      conclusionOf(board, trace, only(mode, low))?.refutedBy;
    expect(told('diode', 0.004)).toBe('about 0.00 in diode-mode at 1V8_S5, source off');
    expect(told('ohms', 2)).toBe('about 2 Ω at 1V8_S5, source off');
    expect(told('ohms', Infinity)).toBe('OL at 1V8_S5, source off');
  });

  it('names no part while none stands out', () => {
    const { diagnosis, conclusion } = after({ VIN: 19 });
    expect(diagnosis.suspects[0]!.probability).toBeLessThan(0.2);
    expect(conclusion === null || conclusion.what.includes('no part stands out')).toBe(true);
  });

  it('says nothing once the goal was read as reached', () => {
    const { trace, diagnosis } = after(upTo1V8);
    expect(conclusionOf(board, { ...trace, goalReached: true }, diagnosis)).toBeNull();
  });
});

describe('what is to be done now', () => {
  const words = (text: string): number => text.split(/\s+/).length;
  it('is one sentence of twelve words at most, for every net and phase of a board', () => {
    for (const { id, title } of board.nets)
      for (const phase of ['cold', 'standby', 'pressed', 'trying', 'run'] as const)
        for (const mode of ['volts', 'ohms', 'diode'] as const) {
          const text = orderToRead({ net: id, place: title || 'coil PL7, pin 2', mode, phase });
          expect(words(text), text).toBeLessThanOrEqual(12);
          expect(text).toMatch(/^Read .+, .+\.$/);
          expect(text).toContain(id);
        }
  });

  it.each([
    [
      { net: '1V2_MEM', place: 'coil PL7, pin 2', mode: 'volts', phase: 'trying' },
      'Read volts on 1V2_MEM at coil PL7, pin 2, after the press.',
    ],
    [
      { net: 'A', place: 'a place that takes many words to be told', mode: 'ohms', phase: 'cold' },
      'Read ohms on A, source off.',
    ],
    [
      { net: 'A', place: 'A', mode: 'volts', phase: 'standby', reference: 'B' },
      'Read volts from A to B, source on, not pressed.',
    ],
    [
      { net: 'A', place: 'A', mode: 'ohms', phase: 'cold', reference: 'B', across: 'R7' },
      'Read ohms across R7, source off.',
    ],
  ] as const)('%j', (reading, text) => {
    expect(orderToRead({ ...reading, net: reading.net as NetId })).toBe(text);
  });

  it('names what is to be tested, and never to heat first', () => {
    const { trace, diagnosis } = after({ ...upTo1V8, '1V05_S5': 0.01 });
    const [suspect] = diagnosis.suspects;
    const place = suspect!.faults[0]!.fault;
    const order = (because: string, more: object = {}): string | null =>
      orderToTest({ kind: 'test', suspect, because, ...more } as NextStep);
    const at = 'part' in place ? place.part : '';
    expect(order('leads')).toBe(`Check ${at} before you heat anything.`);
    expect(order('measured')).toBe(`Check ${at} before you heat anything.`);
    expect(order('nothing-parts')).toBe(`Check ${at} before you heat anything.`);
    expect(order('shorted', { rail: '1V05_S5' })).toBe('Find the short on 1V05_S5, source off.');
    expect(order('went')).toBe(`Fit a new part in place of ${at}.`);
    const between = { net: 'VIN', there: 'F1.1', missing: 'L1.2' };
    expect(order('broken', { suspect: { ...suspect, between } })).toBe(
      'Measure ohms from F1.1 to L1.2, source off.',
    );
    expect(orderToTest(nextStep(board, trace, null, 'walk', []))).toBeNull();
  });
});
