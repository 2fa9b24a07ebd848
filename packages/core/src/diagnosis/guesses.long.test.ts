import { describe, expect, it } from 'vitest';
import { loadSheet, type GoalId } from '../board/index.ts';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { benchSetup } from '../play/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { plainEvents, plainIntake, plainReading, sharedDictionary, walkJob } from '@jiko/testing';
import type { Mode, Phase } from '../readings/index.ts';
import { deriveJob } from '../record/index.ts';
import { editSheet } from '../sheet-edit/index.ts';
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
  walkJob(
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
    // Above what its drawn pull-up would give: the pull-up is a guess, and nothing moves.
    const none = (net: string, ohms: number): number =>
      diagnose([[net, 'ohms', 'cold', ohms]]).none;
    for (const net of ['BTN#', 'MEM_PG'])
      expect(none(net, 3_000_000)).toBeCloseTo(none(net, 30_000), 3);
    const short = diagnose([['1V2_MEM', 'ohms', 'cold', 0.4]]);
    expect(short.suspects[0]?.title).toContain('1V2_MEM');
    expect(short.suspects[0]!.probability).toBeGreaterThan(0.5);
  });

  it('a few kilohms at an enable that reads low are what drags it down', () => {
    const low: Read[] = [
      ...up,
      ['5V_ALW', 'volts', 'standby', 0.03],
      ['5V_ALW_IN', 'volts', 'standby', 19],
      ['5V_ALW_EN', 'volts', 'standby', 0.91],
    ];
    const share = (...more: Read[]): number =>
      diagnose([...low, ...more]).suspects.find((one) => one.title.includes('5V_ALW_EN'))
        ?.probability ?? 0;
    const [before, after] = [share(), share(['5V_ALW_EN', 'ohms', 'cold', 5000])];
    expect(before).toBeGreaterThan(0.2);
    expect(after).toBeGreaterThan(0.75);
    // Tens of kilohms are the line itself.
    expect(share(['5V_ALW_EN', 'ohms', 'cold', 60_000])).toBeLessThan(before + 0.05);
    expect(diagnose([...low, ['5V_ALW_EN', 'ohms', 'cold', 5000]]).suspects[0]?.title).toContain(
      '5V_ALW_EN',
    );
  });

  it('ohms from lead to lead over a way that was guessed convict nobody', () => {
    const over = (ohms: number) => ({
      id: 'over',
      reading: plainReading(
        'VMAIN',
        'ohms',
        'cold',
        { kind: 'number', value: ohms, trend: 'steady' },
        { against: 'memory_IN' },
      ),
    });
    const at = (ohms: number) =>
      diagnoser.diagnose(
        { ...noEvidence, readings: [over(ohms)], goal: 'boots' as GoalId },
        { phase: 'cold', side: '' },
      );
    // Any ohms that are no short are as good.
    expect(at(47_000).none).toBeCloseTo(at(3000).none, 3);
    // A link that is whole is no riddle.
    for (const ohms of [0.2, 1.1, 3000]) expect(at(ohms).none).toBeLessThan(0.08);
  });

  it('a point nobody has named is left out, and says why', () => {
    const grown = editSheet(composeSheetText({ title: 'Hut', marking: '', choices }, 'hut'), {
      do: 'add-point',
      title: 'coil',
      net: null,
    });
    if (!grown.ok) throw new Error(grown.error.join());
    const other = grown.value.board;
    const one = makeDiagnoser(other, healthy.stages, sharedDictionary(other, setup), setup);
    const readings = deriveJob(readingsOf([['P1', 'volts', 'run', 1.2]])).readings;
    const told = (list: typeof readings) =>
      one.diagnose(
        { ...noEvidence, readings: list, goal: 'boots' as GoalId },
        { phase: 'run', side: '' },
      );
    expect(told(readings).unused).toMatchObject([{ why: 'nobody knows yet which net P1 is' }]);
    expect(told(readings).none).toBeCloseTo(told([]).none, 10);
  });

  it('a draw says something or nothing, and by its size about how far it wakes: it convicts nobody', () => {
    const drawn = (amps: number) =>
      diagnose([], { ...noSigns, draw: [{ phase: 'standby', amps, shape: null }] });
    for (const amps of [0.001, 0.03, 0.1, 0.6, 3])
      expect(drawn(amps).suspects[0]!.probability, `${amps} A`).toBeLessThan(0.2);
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
    const own = reads.filter(([net]) => net !== 'BTN#');
    const asked = [...Array(8).keys()].reduce<{ reads: Read[]; trail: string[] }>(
      (before) => {
        const { next } = traced(...before.reads);
        if (!next) return before;
        const value = next.net === 'BTN#' ? 3.3 : /_EN$/.test(next.net) ? 0 : 3.3;
        return {
          reads: [...before.reads, [next.net, next.mode, next.phase, value]],
          trail: [...before.trail, `${next.net} ${next.phase}`],
        };
      },
      { reads: [...own, ['1V8_S5_IN', 'volts', 'run', 5]], trail: [] },
    );
    expect(asked.trail).toContain('BTN# standby');
    expect(asked.trail).not.toContain('BTN# run');
  });
  it.each([
    [0.14, 'in-order'],
    [0.16, 'telling'],
  ])('%f bit: the order of waking goes before what tells less than 0.15', (gainBits, kind) => {
    const diagnosis = diagnose(up);
    const [first] = diagnosis.next;
    const next = [{ ...first!, gainBits }];
    expect(nextStep(board, traced(...up), { ...diagnosis, next }, 'shortest', []).kind).toBe(kind);
  });
  it('readings of versions before are not marked: every point is a version', () => {
    const [event] = readingsOf([['DC_IN', 'volts', 'standby', 19]]);
    const body = event!.body as { reading: object };
    const old = {
      ...event!,
      body: { ...body, reading: { ...body.reading, sheet: '0123456789abcdef' } },
    };
    const { readings } = walkJob(healthy, deriveJob([old as never]), 'boots' as GoalId);
    expect(readings[0]?.isOfOtherSheet).toBe(false);
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
