import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type GoalId, type NetId } from '../board/index.ts';
import { parseFault, type Fault } from '../faults/index.ts';
import { plainReading, sharedDictionary } from '@jiko/testing';
import { readCold } from '../cold/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { usualSetup } from '../play/index.ts';
import { usualMeter, type Reading, type ReadingValue } from '../readings/index.ts';
import { deriveJob, eventBodySchema } from '../record/index.ts';
import {
  evidenceOf,
  makeDiagnoser,
  noEvidence,
  noSigns,
  priorWeight,
  type Diagnosis,
  type Evidence,
} from './index.ts';

// What is known before the first powered reading: simple things, signs, findings, cold readings.

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the sheet does not load');
const board = loaded.value;
const setup = usualSetup(board);
const dictionary = sharedDictionary(board, setup);
const { stages } = studyHealthyBoard(board, setup);
const diagnoser = makeDiagnoser(board, stages, dictionary, setup);
const attached = board.attachments.map((one) => one.id).filter((id) => id !== 'battery');
const nothing: Evidence = { ...noEvidence, goal: 'boots' as GoalId };
const diagnose = (evidence: Partial<Evidence>, readings: Reading[] = []): Diagnosis =>
  diagnoser.diagnose(
    {
      ...nothing,
      ...evidence,
      readings: readings.map((reading, index) => ({ id: String(index), reading })),
    },
    { phase: 'cold', side: 'top' },
  );
const fault = (text: string): Fault => {
  const parsed = parseFault(board, text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const partShare = ({ suspects }: Diagnosis, ref: string): number =>
  suspects
    .flatMap((one) => one.faults)
    .filter((one) => 'part' in one.fault && one.fault.part === ref)
    .reduce((sum, one) => sum + one.probability, 0);
const cold = (net: string, mode: 'ohms' | 'diode', value: number, against?: string): Reading => {
  const limit = mode === 'ohms' ? usualMeter.mostOhms : usualMeter.mostDiodeVolts;
  const read: ReadingValue =
    value < limit ? { kind: 'number', value, trend: 'steady' } : { kind: 'over', limit };
  return plainReading(net, mode, 'cold', read, { attached, against: against ?? null });
};

describe('cold readings alone', () => {
  it('name a short on a rail before anything is powered', () => {
    const read = readCold(board, setup, [fault('C40:short')], usualMeter);
    const nets = board.nets.filter((net) => net.id !== board.ground).map((net) => net.id);
    // One reading may be a slip: the rail is read in both modes.
    const readings = [
      ...['VMAIN', '3V3_ALW', '1V8_S5', '1V05_S5'].map((net) =>
        cold(net, 'ohms', read.ohms[nets.indexOf(net as NetId)]!),
      ),
      cold('1V8_S5', 'diode', read.diode[nets.indexOf('1V8_S5' as NetId)]!),
    ];
    const [first] = diagnose({}, readings).suspects;
    expect(first?.title).toContain('1V8_S5');
    expect(first?.probability).toBeGreaterThan(0.7);
  });

  it('across a FET tell a shorted one from a whole one', () => {
    const at = (what: Fault[]): number =>
      readCold(board, setup, what, usualMeter).across('VA_MID' as NetId, 'VIN' as NetId, 'diode');
    // A shorted input FET need not keep the board from booting: nothing is said of the goal.
    const goal = null;
    const whole = diagnose({ goal }, [cold('VA_MID', 'diode', at([]), 'VIN')]);
    const shorted = diagnose({ goal }, [
      cold('VA_MID', 'diode', at([fault('PQ1.D-S:short')]), 'VIN'),
    ]);
    expect(at([])).toBeGreaterThan(0.4);
    expect(at([fault('PQ1.D-S:short')])).toBeLessThan(0.05);
    const named = (one: Diagnosis) => partShare(one, 'PQ1');
    expect(shorted.suspects[0]?.faults[0]?.fault).toMatchObject({ part: 'PQ1' });
    expect(named(shorted)).toBeGreaterThan(0.5);
    expect(named(whole)).toBeLessThan(0.01);
  });
});

describe('simple things', () => {
  const tried = (thing: Evidence['tried'][number]['thing'], result: 'no-change' | 'helped') =>
    diagnose({ tried: [{ thing, result }] });
  it.each([
    ['other-source', (one: Fault) => one.kind === 'source'],
    ['button-pads', (one: Fault) => one.kind === 'open' && one.part === 'SW1'],
  ] as const)('%s that cures it convicts what was gone round', (thing, isIt) => {
    const named = ({ suspects }: Diagnosis): number =>
      suspects
        .flatMap((one) => one.faults)
        .filter((one) => isIt(one.fault))
        .reduce((sum, one) => sum + one.probability, 0);
    expect(named(tried(thing, 'helped'))).toBeGreaterThan(0.25);
    expect(named(tried(thing, 'no-change'))).toBeLessThan(0.02);
  });
  it('what hangs on the board is suspected less once it was all unplugged for nothing', () => {
    const weight = (result: 'no-change' | 'cannot' | 'helped') =>
      priorWeight(board, fault('SSD1.V:short'), {
        ...nothing,
        tried: [{ thing: 'needed-only', result }],
      });
    expect(weight('no-change')).toBeLessThan(0.2 * weight('cannot'));
    expect(weight('helped')).toBeGreaterThan(10 * weight('cannot'));
  });
  it('what could not be tried says nothing', () => {
    const cannot = diagnose({ tried: [{ thing: 'memory', result: 'cannot' }] });
    expect(cannot.suspects[0]?.probability).toBe(diagnose({}).suspects[0]?.probability);
  });
});

describe('the draw', () => {
  const drawn = (
    amps: number,
    shape: 'steady' | 'limited',
    source?: { id: string; volts: number },
  ) => diagnose({ signs: { ...noSigns, draw: [{ phase: 'standby', amps, shape, source }] } });
  const region = ({ regions }: Diagnosis, stage: string): number =>
    regions.find((one) => one.stage === stage)?.probability ?? 0;
  it('held at the supply limit speaks of what draws as much or more', () => {
    // The play's own source gives 4.6 A into a short at the jack: the bench supply held it at 1 A.
    expect(region(drawn(1, 'limited'), 'jack')).toBeGreaterThan(3 * region(diagnose({}), 'jack'));
    expect(region(drawn(1, 'limited'), 'fuse')).toBeLessThan(region(diagnose({}), 'fuse'));
  });
  it('of 26 mA clears the way in; taken at other volts it says nothing', () => {
    const here = { id: 'bench', volts: 19.5 };
    expect(region(drawn(0.026, 'steady', here), 'input-fets')).toBeLessThan(0.02);
    const elsewhere = drawn(0.026, 'steady', { id: 'bench', volts: 5 });
    expect(region(elsewhere, 'input-fets')).toBe(region(diagnose({}), 'input-fets'));
  });
});

describe('findings', () => {
  it('raise suspicion until they are cleared as harmless', () => {
    const wrote = (...bodies: unknown[]) =>
      deriveJob(
        bodies.map((body, index) => ({
          id: `00000000-0000-4000-8000-00000000000${index + 1}`,
          who: 'Bench 1',
          at: `2026-01-05T10:00:0${index}Z`,
          body: eventBodySchema.parse(body),
        })),
      );
    const found = { type: 'finding', kind: 'burnt', part: 'R12', text: '' };
    const harmless = {
      type: 'harmless',
      finding: '00000000-0000-4000-8000-000000000001',
      reason: 'soot from beside it',
    };
    const findings = (job: ReturnType<typeof wrote>) => evidenceOf(job, [], []).findings;
    const marked = diagnose({ findings: findings(wrote(found)) });
    const cleared = diagnose({ findings: findings(wrote(found, harmless)) });
    expect(partShare(marked, 'R12')).toBeGreaterThan(5 * partShare(diagnose({}), 'R12'));
    expect(partShare(cleared, 'R12')).toBe(partShare(diagnose({}), 'R12'));
  });
});

describe('what was seen', () => {
  /** Hard shorts on the main rail: what leaks ohms lets a board run for a while. */
  const hardShorts = ({ suspects }: Diagnosis): number =>
    suspects
      .filter((one) => one.title === 'Low resistance on VMAIN')
      .flatMap((one) => one.faults)
      .filter(({ fault }) => 'ohms' in fault && fault.ohms <= 1)
      .reduce((sum, one) => sum + one.probability, 0);
  it('a picture or a turning fan nearly excludes a short on the main rail', () => {
    const low = cold('VMAIN', 'ohms', 1.2);
    expect(hardShorts(diagnose({ goal: null }, [low]))).toBeGreaterThan(0.7);
    const none = hardShorts(diagnose({ goal: null }));
    for (const signs of [
      { ...noSigns, picture: true },
      { ...noSigns, fan: true },
    ]) {
      expect(hardShorts(diagnose({ goal: null, signs }))).toBeLessThan(none / 20);
      expect(hardShorts(diagnose({ goal: null, signs }, [low]))).toBeLessThan(0.5);
    }
  });
  it('code that beeps clears core, reset and flash', () => {
    const named = (speaks: boolean | null): number =>
      diagnose({ signs: { ...noSigns, speaks } })
        .suspects.filter((one) => /PU9|U20 does not run/.test(one.title))
        .reduce((sum, one) => sum + one.probability, 0);
    expect(named(true)).toBeLessThan(0.2 * named(null));
  });
  it('a finding raises what stands within millimetres, the other side too', () => {
    const weight = (part: string): number =>
      priorWeight(board, fault(part), {
        ...nothing,
        findings: [{ kind: 'corrosion', part: 'C13' }],
      }) / priorWeight(board, fault(part), nothing);
    expect(weight('C13:short')).toBeCloseTo(8, 6);
    // C14 stands 3 mm beside it, C15 ten.
    expect(weight('C14:short')).toBeCloseTo(Math.sqrt(8), 6);
    expect(weight('C15:short')).toBe(1);
    // A net it sits on.
    expect(weight('3V3_ALW:short')).toBeCloseTo(8 ** 0.4, 6);
    expect(weight('5V_ALW:short')).toBe(1);
  });
});
