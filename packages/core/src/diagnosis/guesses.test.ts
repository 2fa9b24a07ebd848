import { describe, expect, it } from 'vitest';
import { loadSheet, type GoalId } from '../board/index.ts';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { benchSetup, studyHealthyBoard } from '../powerup/index.ts';
import { plainEvents, plainIntake, plainReading, sharedDictionary } from '../practice/index.ts';
import type { Mode, Phase } from '../readings/index.ts';
import { deriveJob } from '../record/index.ts';
import { traceJob } from '../trace/index.ts';
import { makeDiagnoser, nextStep, noEvidence, noSigns, type Signs } from './index.ts';

// What a sheet of guesses may say, and what not: each was written down before it was run.
const choices = choicesSchema.parse({
  input: 'barrel-pfet',
  alwaysOn: 'separate',
  controller: 'one',
  handshake: 'chipset',
  memory: 'ddr4',
});
const loaded = loadSheet(composeSheetText({ title: 'Hut', marking: '', choices }, 'hut'));
if (!loaded.ok) throw new Error('does not load');
const board = loaded.value;
const setup = benchSetup(board, { source: 'adapter', attached: [] });
const healthy = studyHealthyBoard(board, setup);
const diagnoser = makeDiagnoser(board, healthy.stages, sharedDictionary(board, setup), setup);

type Read = [net: string, mode: Mode, phase: Phase, value: number];
const readingsOf = (reads: readonly Read[]) =>
  plainEvents(
    ...reads.map(([net, mode, phase, value]) => ({
      type: 'reading',
      supersedes: [],
      reading: {
        ...plainReading(net, mode, phase, { kind: 'number', value, trend: 'steady' }),
        source: phase === 'cold' ? null : { id: 'adapter', volts: null, limitAmps: null },
      },
    })),
  );
const diagnose = (reads: readonly Read[], signs: Signs = noSigns) =>
  diagnoser.diagnose(
    {
      ...noEvidence,
      readings: deriveJob(readingsOf(reads)).readings,
      signs,
      goal: 'boots' as GoalId,
    },
    { phase: 'standby', side: '' },
  );
const traced = (...reads: Read[]) =>
  traceJob(
    healthy,
    deriveJob([
      ...plainEvents(plainIntake({ board: 'hut', source: 'adapter' })),
      ...readingsOf(reads),
    ]),
    'boots' as GoalId,
  );

const up: Read[] = [
  ['DC_IN', 'volts', 'standby', 19.1],
  ['DC_MID', 'volts', 'standby', 19.1],
  ['VMAIN', 'volts', 'standby', 19.1],
];

describe('what a guess says of a reading', () => {
  it('a feed is as good at 5 V as at 19: which rail it comes from is a guess', () => {
    const shareAt = (volts: number): number =>
      diagnose([...up, ['memory_IN', 'volts', 'trying', volts]])
        .suspects.filter((one) =>
          one.faults.some(({ fault }) => 'part' in fault && fault.part === 'WAY_memory'),
        )
        .reduce((sum, one) => sum + one.probability, 0);
    expect(shareAt(4.96)).toBeLessThan(0.05);
    expect(Math.abs(shareAt(4.96) - shareAt(18.9))).toBeLessThan(0.01);
    expect(shareAt(0.01)).toBeGreaterThan(shareAt(4.96));
    expect(diagnose([['memory_IN', 'volts', 'run', 4.96]]).none).toBeLessThan(0.2);
  });

  it('ohms at a line nobody looked up move nothing, ohms of a short do', () => {
    const before = diagnose([]).suspects[0]!;
    const signal = diagnose([['S5_EN', 'ohms', 'cold', 150_000]]).suspects[0]!;
    expect(signal.title).toBe(before.title);
    expect(Math.abs(signal.probability - before.probability)).toBeLessThan(0.02);
    const short = diagnose([['1V2_MEM', 'ohms', 'cold', 0.4]]);
    expect(short.suspects[0]?.title).toContain('1V2_MEM');
    expect(short.suspects[0]!.probability).toBeGreaterThan(0.5);
  });

  it('a draw says something or nothing, never which fault by its size', () => {
    const drawn = (amps: number) =>
      diagnose([], { ...noSigns, draw: [{ phase: 'standby', amps, shape: null }] });
    expect(drawn(0.03).suspects.map((one) => one.probability)).toEqual(
      drawn(0.6).suspects.map((one) => one.probability),
    );
    expect(drawn(0.001).suspects.map((one) => one.title)).not.toEqual(
      drawn(0.6).suspects.map((one) => one.title),
    );
  });

  it('cold, only rails are proposed, in ohms; the button is never asked for after the press', () => {
    const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
    for (const reads of [[], [['PLTRST#', 'volts', 'trying', 0]]] as Read[][]) {
      const { next } = diagnose(reads);
      expect(next.length).toBeGreaterThan(0);
      for (const one of next) {
        if (one.phase === 'cold')
          expect([one.net, one.mode, kinds.get(one.net)]).toEqual([one.net, 'ohms', 'rail']);
        expect(one.net === 'BTN#' && one.phase === 'trying').toBe(false);
        expect(one.reference).toBeNull();
      }
    }
  });
});

describe('the way back on a sheet of guesses', () => {
  const dead: Read[] = [
    ...up,
    ['5V_ALW', 'volts', 'standby', 0.002],
    ['5V_ALW_IN', 'volts', 'standby', 19],
    ['5V_ALW_EN', 'volts', 'standby', 3.2],
  ];
  it('nothing read once, with all it needs there, is read again before its ohms', () => {
    const once = traced(...dead);
    expect(once.firstMissing).toMatchObject({ net: '5V_ALW', certain: true });
    expect(once.next).toMatchObject({ net: '5V_ALW', mode: 'volts', phase: 'standby' });
    expect(once.next?.why).toContain('Read it once more');
    const twice = traced(...dead, ['5V_ALW', 'volts', 'standby', 0.001]);
    expect(twice.next).toMatchObject({ net: '5V_ALW', mode: 'ohms', phase: 'cold' });
  });
  it.each([
    [0.24, 'volts'],
    [0.26, 'ohms'],
  ])('%f V is a reading of nothing up to a quarter of a volt', (volts, mode) => {
    const reads = dead.map((one): Read =>
      one[0] === '5V_ALW' ? [one[0], one[1], one[2], volts] : one,
    );
    expect(traced(...reads).next?.mode).toBe(mode);
  });
  it('a second reading that differs asks for a third, which decides', () => {
    const { next } = traced(...dead, ['5V_ALW', 'volts', 'standby', 5.02]);
    expect(next).toMatchObject({ net: '5V_ALW', mode: 'volts' });
    expect(next?.decides).toHaveLength(2);
  });
  it('what feeds something after the press is read after the press, the button at rest', () => {
    const reads: Read[] = [
      ...up,
      ['5V_ALW', 'volts', 'standby', 5],
      ['3V3_ALW', 'volts', 'standby', 3.3],
      ['BTN#', 'volts', 'standby', 3.3],
      ['EC_RST#', 'volts', 'standby', 3.3],
      ['1V8_S5', 'volts', 'trying', 0.6],
    ];
    expect(traced(...reads).next).toMatchObject({ net: '1V8_S5_IN', phase: 'run' });
    const asked = traced(
      ...reads,
      ['1V8_S5_IN', 'volts', 'trying', 5],
      ['1V8_S5_EN', 'volts', 'trying', 0],
      ['S5_EN', 'volts', 'trying', 0],
    );
    expect(asked.next?.net === 'BTN#' ? asked.next.phase : 'standby').toBe('standby');
  });
  it('goes before the plays of guesses once something is missing, in every school', () => {
    const trace = traced(...dead);
    const diagnosis = diagnose(dead);
    for (const school of ['walk', 'shortest'] as const)
      expect(nextStep(board, trace, diagnosis, school, [])).toMatchObject({
        kind: 'in-order',
        probe: { net: '5V_ALW' },
      });
  });
});
