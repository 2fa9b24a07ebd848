import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import type { NetId, PartRef } from '../board/index.ts';
import { evidenceOf, priorWeight } from '../diagnosis/index.ts';
import { withFault, type Fault } from '../faults/index.ts';
import { benchSetup, playBoard, shownVolts } from '../play/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainEvents, plainIntake, plainReading } from '@jiko/testing';
import { deriveJob, habitsOf, taughtOf, type JobEvent } from '../record/index.ts';
import {
  aftermathOf,
  effectsOf,
  gradeProof,
  proofBeside,
  openEnds,
  replacementFor,
  retestOf,
  soakMinutes,
  timelineOf,
  verifyList,
  withoutEffect,
} from './index.ts';

const board = plainBoard(cairnText);
const setup = benchSetup(board, { source: 'adapter', attached: [] });
const healthy = studyHealthyBoard(board, setup);
const path = healthy.path('boots' as never).flatMap((one) => one.stage.gives);

type Body = unknown;
const reading = (
  net: string,
  mode: 'volts' | 'ohms' | 'diode',
  value: number,
  more: { part?: string; against?: string; lifted?: string[]; phase?: 'standby' | 'run' } = {},
): Body => ({
  type: 'reading',
  reading: {
    ...plainReading(net, mode, mode === 'volts' ? (more.phase ?? 'standby') : 'cold', {
      kind: 'number',
      value,
      trend: 'steady',
    }),
    at: { net, part: more.part ?? null, pin: null },
    reference: more.against ? { net: more.against, part: null, pin: null } : null,
    lifted: more.lifted ?? [],
  },
  supersedes: [],
});
const over = (net: string, against: string, part: string): Body => ({
  type: 'reading',
  reading: {
    ...plainReading(net, 'ohms', 'cold', { kind: 'over', limit: 40e6 }, { against }),
    at: { net, part, pin: null },
  },
  supersedes: [],
});
const repair = (parts: string[], action = 'replaced'): Body => ({
  type: 'repair',
  action,
  parts,
  text: '',
});
/** Everything on the way read as a board with a fault, or a good one, has it. */
const walk = (fault: Fault | null, nets: readonly string[] = path): Body[] => {
  const play = playBoard(fault ? withFault(board, fault) : board, setup);
  return nets.flatMap((net) => {
    const phase = healthy.expect(net as NetId, 'volts', 'standby');
    const at = phase.kind === 'value' && !phase.off ? 'standby' : 'run';
    const volts = shownVolts(play.phases.get(at)!, net as NetId);
    return [reading(net, 'volts', Number(volts.toPrecision(4)), { phase: at })];
  });
};

/** Moments of one morning. */
const milliseconds = (at: string): number =>
  (Number(at.slice(11, 13)) * 60 + Number(at.slice(14, 16))) * 60_000;

/** A minute between entries. */
const events = (...bodies: Body[]): JobEvent[] =>
  plainEvents(plainIntake(), ...bodies).map((one, index) => ({
    ...one,
    at: `2026-01-05T10:${String(index % 60).padStart(2, '0')}:00Z`,
  }));
const netsOf = (ref: string): [string, string] => {
  const [one, two] = board.parts.find((part) => part.ref === ref)!.pins;
  return [one!.net, two!.net];
};
const line = (...bodies: Body[]) => timelineOf(healthy, events(...bodies), milliseconds);
const plainIntakeOf = () => (plainIntake() as { intake: object }).intake;
const fuse: Fault = { kind: 'open', part: 'F1' as PartRef };

describe('how well a cause is proven, step by step', () => {
  it('proven: it was measured on the part, and the board works after', () => {
    const grade = gradeProof(
      line(
        ...walk(fuse, ['VIN_JACK', 'VIN']),
        over('VIN_F', 'VIN_JACK', 'F1'),
        repair(['F1']),
        ...walk(null),
      ),
    );
    expect(grade).toMatchObject({ proof: 'proven', parts: ['F1'], how: 'open', wanting: '' });
    expect(grade.steps.map((one) => one.holds)).toEqual([true, true, true, true, true]);
  });

  it('proven: it went with the part and nothing else was changed', () => {
    const grade = gradeProof(
      line(...walk(fuse, ['VIN_F']), repair(['F1']), ...walk(null, ['VIN_F'])),
    );
    expect(grade).toMatchObject({ proof: 'proven', how: 'open' });
    expect(grade.steps[2]).toMatchObject({ holds: false });
  });

  it('proven: the short left with the part that was lifted', () => {
    const grade = gradeProof(
      line(
        reading('3V3_ALW', 'ohms', 0.4),
        repair(['C13'], 'removed'),
        reading('3V3_ALW', 'ohms', 900, { lifted: ['C13'] }),
        repair(['C13']),
        reading('3V3_ALW', 'ohms', 900),
      ),
    );
    expect(grade).toMatchObject({ proof: 'proven', parts: ['C13'], how: 'short' });
  });

  it('not proven: the board works while the part still reads off', () => {
    const grade = gradeProof(
      line(
        ...walk(fuse, ['VIN_F']),
        repair(['F1'], 'reflowed'),
        ...walk(null, ['VIN_F']),
        over('VIN_F', 'VIN_JACK', 'F1'),
      ),
    );
    expect(grade).toMatchObject({ proof: 'supported', how: 'joint' });
    expect(grade.wanting).toMatch(/still reads off/);
  });

  it('one of several changed at once', () => {
    for (const changes of [[repair(['F1', 'FB1'])], [repair(['F1']), repair(['FB1'])]]) {
      const grade = gradeProof(
        line(...walk(fuse, ['VIN_F']), ...changes, ...walk(null, ['VIN_F'])),
      );
      expect(grade.proof).toBe('several-changed');
      expect(grade.wanting).toMatch(/More than one thing/);
    }
  });

  it('how it had failed is said as far as the record says it', () => {
    const changed = (...body: Body[]) => gradeProof(line(...body)).how;
    const dead: Fault = { kind: 'dead', part: 'PU6' as PartRef };
    expect(changed(...walk(dead, ['1V8_S5']), repair(['PU6']), ...walk(null, ['1V8_S5']))).toBe(
      'dead',
    );
    expect(
      changed(reading('1V8_S5', 'ohms', 0.3), repair(['C50']), reading('1V8_S5', 'ohms', 900)),
    ).toBe('short');
    expect(changed(repair(['U22'], 'reprogrammed'), ...walk(null))).toBe('contents');
    expect(changed(repair(['F1']), ...walk(null))).toBeNull();
    // Across the part itself: what a lead on either end reads before it was changed.
    const across = (part: string, at: string, against: string, ohms: number) =>
      changed(
        reading(at, 'ohms', ohms, { part, against }),
        repair([part]),
        reading(at, 'ohms', ohms, { part: 'J1' }),
      );
    expect(across('PL7', 'PH_MEM', '1V2_MEM', 400)).toBe('open');
    expect(across('R15', netsOf('R15')[0], netsOf('R15')[1], 160e3)).toBe('value');
    expect(
      changed(...walk(fuse, ['VIN_F']), repair(['F1'], 'jumper'), ...walk(null, ['VIN_F'])),
    ).toBe('joint');
    // A capacitor behind which the volts were missing says nothing of how it failed.
    const gone: Fault = { kind: 'dead', part: 'PU4' as PartRef };
    expect(
      changed(...walk(gone, ['1V8_S5']), repair(['C40']), ...walk(null, ['1V8_S5'])),
    ).toBeNull();
    const weak: Fault = { kind: 'off-value', part: 'PU4' as PartRef, pin: 'SW', factor: 0.7 };
    expect(changed(...walk(weak, ['1V8_S5']), repair(['PU4']), ...walk(null, ['1V8_S5']))).toBe(
      'dead',
    );
  });

  it('supported: one part changed and the board works, no point read both ways', () => {
    expect(gradeProof(line(repair(['F1']), ...walk(null))).proof).toBe('supported');
  });

  it('by elimination: a part changed, nothing read after it', () => {
    expect(gradeProof(line(...walk(fuse, ['VIN_F']), repair(['F1']))).proof).toBe('by-elimination');
  });

  it('not found: nothing was changed', () => {
    expect(gradeProof(line(...walk(fuse, ['VIN_F'])))).toMatchObject({
      proof: 'not-found',
      parts: [],
    });
  });

  it('closed as not found after it was opened again: nothing stands as proven beside it', () => {
    const closing = (proof: string, cause: string): unknown => ({
      type: 'close',
      outcome: proof === 'not-found' ? 'not-found' : 'fixed',
      cause,
      proof,
      parts: [],
      reason: '',
    });
    const proven = [...walk(fuse, ['VIN_F']), repair(['F1']), ...walk(null, ['VIN_F'])];
    const beside = (...more: unknown[]) => {
      const { job, ...rest } = line(...proven, ...more);
      return proofBeside(gradeProof({ job, ...rest }), job.close);
    };
    const fixed = closing('proven', 'F1');
    expect(beside(fixed)).toMatchObject({ proof: 'proven', parts: ['F1'] });
    // Open again, the record speaks for itself until somebody says otherwise.
    const again = { type: 'reopen', reason: 'dead again after a week' };
    expect(beside(fixed, again).proof).toBe('proven');
    expect(beside(fixed, again, closing('not-found', ''))).toMatchObject({
      proof: 'not-found',
      parts: [],
      how: null,
      wanting: 'It was closed as not found. By its readings alone the record would name F1.',
    });
  });

  it('a struck reading proves nothing', () => {
    const all = events(...walk(fuse, ['VIN_F']), repair(['F1']), ...walk(null, ['VIN_F']));
    const strike = plainEvents({ type: 'strike', event: all.at(-1)!.id, reason: 'slipped' });
    expect(gradeProof(timelineOf(healthy, [...all, ...strike], milliseconds)).proof).toBe(
      'by-elimination',
    );
  });
});

describe('the same points again', () => {
  it('wrong ones first, before and after side by side', () => {
    const retest = retestOf(
      line(...walk(fuse, ['VIN_JACK', 'VIN_F', 'VRTC']), repair(['F1']), ...walk(null, ['VIN_F'])),
    );
    expect(retest.points[0]).toMatchObject({ verdict: 'fixed' });
    expect(retest.points[0]!.before.reading.at.net).toBe('VIN_F');
    expect(retest.points.filter((one) => one.verdict === null)).toHaveLength(2);
    expect(retest.overall).toBe('fixed');
  });

  it.each([
    [3.3, 'fixed'],
    [2.6, 'better'],
    [1.0, 'unchanged'],
    [0.1, 'worse'],
  ])('3V3_ALW from 1 V to %d V is %s', (volts, verdict) => {
    const retest = retestOf(
      line(reading('3V3_ALW', 'volts', 1), repair(['PL1']), reading('3V3_ALW', 'volts', volts)),
    );
    expect(retest.points[0]?.verdict).toBe(verdict);
    expect(retest.overall).toBe(verdict);
  });

  it('a good one that went wrong is worse, whatever else became right', () => {
    const retest = retestOf(
      line(
        reading('3V3_ALW', 'volts', 1),
        reading('5V_ALW', 'volts', 5),
        repair(['PL1']),
        reading('3V3_ALW', 'volts', 3.3),
        reading('5V_ALW', 'volts', 0.2),
      ),
    );
    expect(retest.overall).toBe('worse');
  });

  it('what is read on a board still warm is asked again cold: nine minutes are, ten are not', () => {
    const after = (minutes: number) => {
      const all = events(
        reading('3V3_ALW', 'volts', 1),
        repair(['PL1']),
        reading('3V3_ALW', 'volts', 3.3),
      );
      all.at(-2)!.at = '2026-01-05T10:00:00Z';
      all.at(-1)!.at = `2026-01-05T10:${String(minutes).padStart(2, '0')}:00Z`;
      return retestOf(timelineOf(healthy, all, milliseconds)).points[0]?.provisional;
    };
    expect(after(9)).toMatch(/9 min after heat/);
    expect(after(10)).toBeNull();
  });

  it('the draw too', () => {
    const sign = (amps: number): Body => ({
      type: 'sign',
      phase: 'standby',
      drawAmps: amps,
      drawShape: 'steady',
      text: '',
    });
    expect(retestOf(line(sign(1.8), repair(['C6']), sign(0.03))).draw).toMatchObject({
      before: 1.8,
      after: 0.03,
    });
  });
});

describe('what was changed without effect', () => {
  const timeline = line(
    reading('3V3_ALW', 'volts', 0),
    repair(['PL1'], 'reflowed'),
    reading('3V3_ALW', 'volts', 0),
    repair(['PU2']),
    reading('3V3_ALW', 'volts', 3.3),
  );

  it('was not the cause, and the next one was', () => {
    expect(effectsOf(timeline).map((one) => one.did)).toEqual(['none', 'fixed']);
    expect(withoutEffect(timeline)).toEqual([{ part: 'PL1', action: 'reflowed' }]);
    expect(gradeProof(timeline)).toMatchObject({ parts: ['PU2'] });
  });

  it('counts against it among the suspects', () => {
    const job = deriveJob(events());
    const known = evidenceOf(job, [], ['PL1']);
    const open: Fault = { kind: 'open', part: 'PL1' as PartRef };
    expect(priorWeight(board, open, known)).toBeCloseTo(
      priorWeight(board, open, evidenceOf(job, [], [])) / 4,
      9,
    );
  });
});

describe('open ends', () => {
  const ends = (...bodies: Body[]) => {
    const timeline = line(...bodies);
    return openEnds(board, timeline.job, retestOf(timeline));
  };

  it('what is off stays open until it is refitted or replaced', () => {
    expect(ends(repair(['C13'], 'removed')).map((one) => one.kind)).toEqual(['off-board']);
    expect(ends(repair(['C13'], 'removed'), repair(['C13'], 'refitted'))).toEqual([]);
    expect(ends(repair(['C13'], 'removed'), repair(['C13']))).toEqual([]);
  });

  it('a slip, a missing part, a point nobody reached, a yes nobody gave', () => {
    const kinds = ends(
      { type: 'slip', what: 'bridged-pads', parts: ['PU2'], text: '' },
      { type: 'finding', kind: 'missing', part: 'C14', text: '' },
      {
        type: 'reading',
        reading: plainReading('3V3_ALW', 'ohms', 'cold', { kind: 'unreached' }),
        supersedes: [],
      },
      { type: 'approval', found: 'more', asks: 'two hours' },
    ).map((one) => one.kind);
    expect(kinds).toEqual(['slip', 'missing', 'unread', 'approval']);
  });

  it('a slip reopens suspicion about what was replaced there', () => {
    const job = deriveJob(
      events(repair(['PU2']), { type: 'slip', what: 'burnt-part', parts: ['PU2'], text: '' }),
    );
    const evidence = evidenceOf(job, [], []);
    expect(evidence.cleared).not.toContain('PU2');
    expect(evidence.findings).toContainEqual({ kind: 'burnt', part: 'PU2' });
  });
});

describe('before it goes back', () => {
  const list = (...bodies: Body[]) => verifyList(healthy, line(...bodies).job);
  const ids = (...bodies: Body[]): string[] => list(...bodies).map((one) => one.id);

  it('is made from the board, the fault and what was touched', () => {
    expect(ids()).toEqual(
      expect.arrayContaining([
        'goal',
        'rails',
        'draw',
        'charging',
        'picture',
        'storage',
        'fan',
        'settings',
        'soak',
      ]),
    );
    expect(ids()).not.toContain('source');
    expect(ids(repair(['F1']))).toContain('source');
    expect(ids({ type: 'finding', kind: 'missing', part: 'C14', text: '' })).toContain('missing');
    expect(ids(repair(['U22'], 'reprogrammed'))).toContain('firmware');
  });

  it('what can hurt on the way is said, word for word', () => {
    const cautions = list(repair(['F1'])).flatMap((one) =>
      one.caution ? [[one.id, one.caution]] : [],
    );
    expect(cautions).toEqual([
      ['rails', 'The board is live: one probe at a time.'],
      [
        'charging',
        'More than 2 A or a swelling or warm cell: unplug the battery, keep away, follow your local rules. Never heat or solder on or beside a cell.',
      ],
      ['fan', 'Never let a processor run without its cooler.'],
      [
        'source',
        'What killed this part may kill the next: do not connect its own source before it was tested.',
      ],
    ]);
    const how = (id: string) => list().find((one) => one.id === id)?.how;
    expect(how('settings')).toBe(
      'Source off and battery out for some minutes; the coin cell 2.7 V or more.',
    );
    expect(how('charging')).toBe(
      'A pre-charge first (about 160 mA), then up to 2 A; it ends when full.',
    );
  });

  it('the source is tested after lightning, and where what it feeds was changed', () => {
    const has = (...bodies: Body[]) => list(...bodies).some((one) => one.id === 'source');
    const struck = { type: 'intake', intake: { ...plainIntakeOf(), happened: ['lightning'] } };
    expect(has()).toBe(false);
    expect(has(struck)).toBe(true);
    expect(has(repair(['D1']))).toBe(true);
    expect(has(repair(['PU4']))).toBe(false);
  });

  it('charging says its limit and what to do above it', () => {
    const charging = list().find((one) => one.id === 'charging')!;
    expect(charging.how).toMatch(/pre-charge first/);
    expect(charging.caution).toMatch(/More than 2 A .*unplug the battery, keep away/);
  });

  it('the soak stands an hour, runs with its end, and is no longer running once its wait is over', () => {
    const soak = (of: JobEvent[]) =>
      verifyList(healthy, deriveJob(of)).find((one) => one.id === 'soak')!;
    const until = '2026-01-05T11:30:00.000Z';
    const begun = events({ type: 'wait', reason: 'soak', until, text: '' });
    const wait = begun.at(-1)!.id;
    expect(soakMinutes).toBe(60);
    expect(soak(events())).toMatchObject({ title: 'A soak of 60 min', minutes: 60, wait: null });
    expect(soak(begun).wait).toEqual({ id: wait, until });
    expect(soak(events({ type: 'wait', reason: 'drying', until, text: '' })).wait).toBeNull();
    expect(soak([...begun, ...events({ type: 'wait-over', wait }).slice(-1)]).wait).toBeNull();
  });

  it('what was passed before a change is open again after it', () => {
    const passed = { type: 'verify', item: 'goal', result: 'passed', text: '' };
    const state = (...bodies: Body[]) => list(...bodies).find((one) => one.id === 'goal')?.state;
    expect(state(passed)).toBe('passed');
    expect(state(passed, repair(['F1']))).toBe('open');
    expect(state(repair(['F1']), passed)).toBe('passed');
  });
});

describe('parts that were fitted', () => {
  it('have something that killed them, and something behind them', () => {
    const [after] = aftermathOf(healthy, line(repair(['F1'])).job);
    expect(after).toMatchObject({ part: 'F1' });
    expect(after!.killedBy).toMatch(/Never fit a larger one/);
    expect(after!.next[0]?.net).toBe('VIN_F');
    const fet = aftermathOf(healthy, line(repair(['PQ1'])).job)[0]!;
    expect(fet.killedBy).toMatch(/short behind it, by a surge/);
  });

  it('match what the sheet says', () => {
    expect(replacementFor(board, 'F1')!.wants.join(' ')).toMatch(/never larger, never a wire/);
    expect(replacementFor(board, 'PQ1')!.wants.join(' ')).toMatch(/P-channel, same pin-out/);
    expect(replacementFor(board, 'PU4')!.wants.join(' ')).toMatch(
      /Marking TV3180.*pin 1 at its mark/,
    );
    expect(replacementFor(board, 'nothing')).toBeNull();
  });
});

describe('what closed jobs teach', () => {
  const closed = (part: string, more: Body[] = []) =>
    deriveJob(
      events(
        repair([part]),
        { type: 'close', outcome: 'fixed', cause: part, proof: 'proven', parts: [part] },
        ...more,
      ),
    );
  const short: Fault = { kind: 'pins-short', part: 'C50' as PartRef, pins: ['1', '2'], ohms: 0.1 };
  const weight = (times: number): number =>
    priorWeight(board, short, {
      findings: [],
      tried: [],
      habits: habitsOf(taughtOf(Array.from({ length: times }, () => closed('C50')))),
    });

  it('ten jobs at one part at least double its weight, and a hundred do not drown the rest', () => {
    expect(weight(10) / weight(0)).toBeGreaterThan(2);
    expect(weight(100) / weight(0)).toBeLessThanOrEqual(5);
    expect(weight(1) / weight(0)).toBeLessThanOrEqual(2);
  });

  it('another part, and another board, is not moved', () => {
    const habits = habitsOf(taughtOf(Array.from({ length: 10 }, () => closed('C50'))));
    const other: Fault = { ...short, part: 'C51' as PartRef };
    const none = { findings: [], tried: [], habits: [] };
    expect(priorWeight(board, other, { ...none, habits })).toBe(priorWeight(board, other, none));
  });

  it('one closing taken out takes its weight with it', () => {
    const jobs = [
      closed('C50'),
      closed('C50', [{ type: 'lesson', counts: false, reason: 'came back' }]),
    ];
    expect(habitsOf(taughtOf(jobs))).toEqual([{ part: 'C50', times: 1 }]);
    const again = closed('C50', [
      { type: 'lesson', counts: false, reason: 'came back' },
      { type: 'lesson', counts: true, reason: 'another fault' },
    ]);
    expect(habitsOf(taughtOf([again]))).toEqual([{ part: 'C50', times: 1 }]);
  });

  it.each(['partly', 'data-saved', 'not-found', 'not-worth', 'declined'])(
    '%s teaches nothing',
    (outcome) => {
      const job = deriveJob(
        events(repair(['C50']), {
          type: 'close',
          outcome,
          cause: '',
          proof: 'proven',
          parts: ['C50'],
        }),
      );
      expect(habitsOf(taughtOf([job]))).toEqual([]);
    },
  );
});
