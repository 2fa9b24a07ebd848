import { describe, expect, it } from 'vitest';
import fell from '../../../../sheets/fell-13.yaml?raw';
import type { GoalId, NetId } from '../board/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import type { Fault } from '../faults/index.ts';
import { attachedIn, usualSetup } from '../play/index.ts';
import type { Phase, Reading } from '../readings/index.ts';
import { cautionText } from '../safety/index.ts';
import { traceJob } from '../trace/index.ts';
import { plainBoard, plainIntake, plainJob, plainReading, sharedDictionary } from '@jiko/testing';
import { benchOfSetup } from './evidence/bench-of.ts';
import { evidenceOf, makeDiagnoser, nextStep, noEvidence, walkNext } from './index.ts';
import { observations } from './weighing/observations.ts';
import { makeTable } from './weighing/table.ts';
import { makeUnlisted, weighUnlisted } from './weighing/unlisted.ts';

// Where on a net, in what state of the board and on what part something was read says more than the volts.

const board = plainBoard(fell);
const setup = usualSetup(board);
const healthy = studyHealthyBoard(board, setup);
const goal = 'boots' as GoalId;
const diagnoser = makeDiagnoser(board, healthy.stages, sharedDictionary(board, setup), setup);

/** `NET@PART.PIN` or `NET`; as on the usual bench. */
function read(
  place: string,
  value: number,
  phase: Phase = 'standby',
  more: Partial<Reading> = {},
): Reading {
  const [net = '', at] = place.split('@');
  const [part = null, pin = null] = at?.split('.') ?? [];
  const mode = phase === 'cold' ? 'ohms' : 'volts';
  return {
    ...plainReading(
      net,
      mode,
      phase,
      { kind: 'number', value, trend: 'steady' },
      {
        attached: attachedIn(board, setup),
      },
    ),
    at: { net, part, pin },
    ...more,
  };
}

const answer = (...readings: Reading[]) => {
  const job = plainJob(
    plainIntake({ board: board.id, goal, source: setup.source }),
    ...readings.map((reading) => ({ type: 'reading', reading, supersedes: [] })),
  );
  const trace = traceJob(healthy, job, goal);
  const diagnosis = diagnoser.diagnose(
    evidenceOf(job, [], [], trace.goalReached),
    { phase: readings.at(-1)!.phase, side: '' },
    4,
  );
  const step = nextStep(board, trace, diagnosis, 'walk', []);
  /** What all faults together have for which this holds. */
  const chance = (holds: (fault: Fault) => boolean): number =>
    diagnosis.suspects
      .flatMap((one) => one.faults)
      .filter(({ fault }) => holds(fault))
      .reduce((sum, one) => sum + one.probability, 0);
  return { trace, diagnosis, step, chance };
};

describe('two pins of one net that read differently', () => {
  const there = read('VC_MID@Q1.S', 20);

  it('are one suspect and its test: ohms between the two, before anything else', () => {
    const { trace, step } = answer(read('VBUS', 20), there, read('VC_MID@Q2.S', 0.02));
    expect(trace.firstMissing).toMatchObject({ net: 'VC_MID', certain: true, pulledDown: null });
    expect(trace.firstMissing?.why).toBe(
      'VC_MID reads 20 V at Q1.S and 0.02 V at Q2.S: it is one net, so the copper or a joint between the two is broken, or one of the two was a slip.',
    );
    expect(walkNext(trace)).toBeNull();
    expect(step).toMatchObject({
      kind: 'test',
      because: 'broken',
      suspect: { title: 'VC_MID is broken between Q1.S and Q2.S' },
    });
    const { separate } = (step as Extract<typeof step, { kind: 'test' }>).suspect;
    expect(separate.text).toMatch(
      /^Source off: ohms from Q1\.S to Q2\.S\. .* jumper .*read both pins again\.$/,
    );
    expect(separate.caution).toBe(cautionText('lift'));
  });

  it('read twice, it leads', () => {
    const { diagnosis } = answer(
      read('VBUS', 20),
      there,
      read('VC_MID@Q2.S', 0.02),
      read('VC_MID@Q2.S', 0.01),
    );
    expect(diagnosis.suspects[0]?.title).toBe('VC_MID is broken between Q1.S and Q2.S');
    expect(diagnosis.suspects[0]?.probability).toBeGreaterThan(0.4);
  });

  it.each([
    ['a little apart, as a meter is', read('VC_MID@Q2.S', 18.1)],
    ['where one pin is not named', read('VC_MID', 0.02)],
    ['in another phase', read('VC_MID@Q2.S', 0.02, 'trying')],
    ['in another state of the board', read('VC_MID@Q2.S', 0.02, 'standby', { state: 'pushed' })],
    ['without the battery', read('VC_MID@Q2.S', 0.02, 'standby', { attached: ['panel'] })],
    ['with a part off', read('VC_MID@Q2.S', 0.02, 'standby', { lifted: ['R1'] })],
    ['by another version of the sheet', read('VC_MID@Q2.S', 0.02, 'standby', { sheet: 'other' })],
  ])('are none %s', (_, other) => {
    const { diagnosis, trace } = answer(there, other);
    expect(diagnosis.suspects.filter((one) => one.between)).toEqual([]);
    expect(trace.firstMissing?.why ?? '').not.toContain('broken');
  });
});

describe('a fault that comes and goes', () => {
  const isJoint = (fault: Fault): boolean => fault.kind === 'trace-open' && fault.part === 'U2';
  const isShort = (fault: Fault): boolean =>
    (fault.kind === 'short' && fault.net === '5V_AON') ||
    (fault.kind === 'pin-short' && fault.part === 'U2');
  const gone = [read('3V3_AON', 3.3), read('5V_AON', 0.02), read('5V_AON', 0.01)];

  it('under a finger is a joint sooner than a short', () => {
    const still = answer(...gone);
    const pushed = answer(...gone, read('5V_AON', 5, 'standby', { state: 'pushed' }));
    expect(still.chance(isShort)).toBeGreaterThan(still.chance(isJoint));
    expect(pushed.chance(isJoint)).toBeGreaterThan(pushed.chance(isShort));
    // Neither state denies the other: the rail is missing as long as nobody pushes.
    expect(pushed.trace.firstMissing?.net).toBe('5V_AON');
    expect(pushed.diagnosis.none).toBeLessThan(0.4);
  });

  it('pushed without effect says what the same reading says anyhow', () => {
    const still = answer(...gone);
    const pushed = answer(...gone, read('5V_AON', 0.02, 'standby', { state: 'pushed' }));
    const ratio = (of: typeof still): number => of.chance(isShort) / of.chance(isJoint);
    expect(ratio(pushed) / ratio(still)).toBeGreaterThan(0.9);
    expect(ratio(pushed) / ratio(still)).toBeLessThan(1.3);
  });

  it('is traced in the state in which it shows, and asked for in that state', () => {
    const taken = [
      read('1V1_MEM', 1.1, 'run'),
      read('1V1_MEM', 0.01, 'run', { state: 'warm' }),
      read('1V1_MEM', 0.02, 'run', { state: 'warm' }),
    ];
    const { trace } = answer(...taken);
    expect(trace.firstMissing?.net).toBe('1V1_MEM');
    expect(trace.firstMissing?.why).toContain('taken warm');
    expect(walkNext(trace)?.why).toMatch(/while the board is warm: read it so, and write "warm"/);
    const warm = { state: 'warm' } as const;
    const { diagnosis } = answer(
      ...taken,
      read('MEM_EN', 3.3, 'run', warm),
      read('VSYS', 20, 'run', warm),
    );
    // One point read twice may be two slips still: what makes the rail leads, and no more.
    expect(diagnosis.suspects[0]?.title).toMatch(/^U9 /);
    expect(diagnosis.suspects[0]?.probability).toBeGreaterThan(
      2 * (diagnosis.suspects[1]?.probability ?? 0),
    );
  });

  it('is not made of two readings that a meter and a board explain', () => {
    const near = answer(read('5V_AON', 5.1), read('5V_AON', 4.6), read('VSYS', 20));
    expect(near.diagnosis.suspects.every(({ probability }) => probability < 0.3)).toBe(true);
  });
});

describe('a net that is certainly missing', () => {
  const up = [
    read('VSYS', 20),
    read('5V_AON', 5, 'trying'),
    read('1V8_PRIM', 1.8, 'trying'),
    read('1V05_PRIM', 1.05, 'trying'),
    read('3V3_AON', 3.3, 'trying'),
  ];

  it('is parted at its own net, not at one behind it', () => {
    const { trace, step } = answer(...up, read('PRIM_PG', 0.02, 'trying'));
    expect(trace.firstMissing).toMatchObject({ net: 'PRIM_PG', certain: true });
    expect(step.kind === 'telling' && [step.proposal.net, step.proposal.reference]).toContain(
      'PRIM_PG',
    );
    expect(step.kind === 'telling' && step.proposal.isRepeat).toBe(false);
  });

  it('is none where two later readings say that the first was a slip', () => {
    const net = '3V3_AON';
    const [nothing, there] = [read(net, 0.01), read(net, 3.3)];
    const kind = (...readings: Reading[]): string =>
      answer(read('VSYS', 20), ...readings).trace.known.status(net as NetId).kind;
    expect(kind(nothing, there)).toBe('contradicting');
    expect(kind(nothing, there, there)).toBe('good');
    expect(kind(nothing, nothing, there, there)).toBe('contradicting');
    // Two against one, whichever came first.
    expect(answer(read('VSYS', 20), there, nothing, nothing).trace.firstMissing?.net).toBe(net);
  });
});

describe('what one reading is worth beside others', () => {
  const setupHere = benchOfSetup(board, setup);
  const table = makeTable(board, sharedDictionary(board, setup));
  const observed = (...readings: Reading[]) =>
    observations(
      table,
      { ...noEvidence, readings: readings.map((reading, at) => ({ id: String(at), reading })) },
      { here: setupHere, others: [], isAlike: () => true },
    ).used;

  it('OL on a line is a missed tip less often where volts were read at the same place', () => {
    // A row in which the line is a short: OL there is a tip that did not touch, or nothing.
    const { faults, rowOf } = table.dictionary;
    const shorted =
      rowOf[
        faults.findIndex(
          (fault) => fault.kind === 'short' && fault.net === 'MEM_PG' && fault.ohms < 1,
        )
      ]!;
    expect(shorted).toBeGreaterThan(0);
    const open = read('MEM_PG@U9.PG', 0, 'cold', { value: { kind: 'over', limit: 40e6 } });
    const missed = (...readings: Reading[]): number =>
      Math.exp(observed(...readings)[0]!.byRow[shorted]!);
    expect(missed(open)).toBeCloseTo(0.1, 3);
    expect(missed(open, read('MEM_PG@U9.PG', 3.3, 'trying'))).toBeCloseTo(0.02, 3);
    // Volts of nothing, or at another pin, say nothing of this one.
    expect(missed(open, read('MEM_PG@U9.PG', 0.1, 'trying'))).toBeCloseTo(0.1, 3);
    expect(missed(open, read('MEM_PG@U5.MEMPG', 3.3, 'trying'))).toBeCloseTo(0.1, 3);
  });

  it('cold ohms that go with a part deny each other, volts on another bench do not', () => {
    const isDenied = (...readings: Reading[]): boolean =>
      observed(...readings).some((observation) => observation.isDenied === true);
    const off = { lifted: ['R6'] };
    expect(isDenied(read('VSYS', 0.4, 'cold'), read('VSYS', 9000, 'cold', off))).toBe(true);
    expect(isDenied(read('VSYS', 0.4, 'cold'), read('VSYS', 0.5, 'cold', off))).toBe(false);
    expect(isDenied(read('VSYS', 20), read('VSYS', 0, 'standby', off))).toBe(false);
    // A fault of no list does not go with a part: it went by itself, which one in twenty does.
    const used = observed(read('VSYS', 0.4, 'cold'), read('VSYS', 9000, 'cold', off)).map(
      (observation) => ({ ...observation, strength: 1 }),
    );
    const unlisted = makeUnlisted(table);
    const blind = used.map((observation) => ({ ...observation, isDenied: false }));
    const places = (list: typeof used): number =>
      weighUnlisted(unlisted, list).places.find(({ one }) => one.net === 'VSYS')!.share;
    expect(weighUnlisted(unlisted, used).log).toBeLessThan(
      weighUnlisted(unlisted, blind).log - 0.5,
    );
    expect(places(used)).toBeLessThan(places(blind));
  });
});

describe('a part measured from end to end', () => {
  it('that is short is tested before another point is read', () => {
    const across = { reference: { net: 'VBUS', part: null, pin: null } };
    const { step } = answer(
      read('VBUS', 20),
      read('VC_MID', 20),
      read('VSYS', 0.02),
      read('VC_MID', 0.2, 'cold', across),
    );
    expect(step).toMatchObject({ kind: 'test', because: 'measured' });
    expect((step as Extract<typeof step, { kind: 'test' }>).suspect.title).toContain('Q1 short');
  });
});
