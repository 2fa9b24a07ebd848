import { describe, expect, it } from 'vitest';
import { plainEvents, plainIntake, plainReading } from '@jiko/testing';
import {
  deriveJob,
  eventBodySchema,
  goneParts,
  jobEventSchema,
  jobOnBoard,
  jobSummarySchema,
  liftedParts,
  shelfItemSchema,
  seenTexts,
  stepsDone,
  summaryOf,
} from './index.ts';

const job = (...bodies: unknown[]) => deriveJob(plainEvents(...bodies));
const finding = (kind: string, part: string | null) => ({ type: 'finding', kind, part, text: '' });
const repair = (action: string, ...parts: string[]) => ({
  type: 'repair',
  action,
  parts,
  text: '',
});

describe('parts that are not there to be measured', () => {
  it('were seen missing, and nothing else that was found', () => {
    expect(goneParts(job(finding('missing', 'R1')))).toEqual(['R1']);
    for (const kind of ['corrosion', 'burnt', 'cracked', 'bridged', 'hot'])
      expect(goneParts(job(finding(kind, 'R1')))).toEqual([]);
    expect(goneParts(job(finding('missing', null)))).toEqual([]);
  });
  it('not where it was taken back, does no harm, or a new one was fitted', () => {
    const [seen] = plainEvents(finding('missing', 'R1'));
    const after = (body: unknown): string[] => goneParts(deriveJob([seen!, ...plainEvents(body)]));
    expect(after({ type: 'strike', event: seen!.id, reason: 'wrong part' })).toEqual([]);
    expect(after({ type: 'harmless', finding: seen!.id, reason: 'not fitted by design' })).toEqual(
      [],
    );
    expect(after(repair('replaced', 'R1'))).toEqual([]);
    expect(after(repair('refitted', 'R1'))).toEqual([]);
    expect(after(repair('replaced', 'R2'))).toEqual(['R1']);
    expect(after(repair('removed', 'R1'))).toEqual(['R1']);
    // A new one that was written down by mistake is none.
    const [fitted] = plainEvents(repair('replaced', 'R1'));
    const strike = { type: 'strike', event: fitted!.id, reason: 'another board' };
    expect(goneParts(deriveJob([seen!, fitted!, ...plainEvents(strike)]))).toEqual(['R1']);
  });
  it('were taken off and not put back, unless that entry was taken back', () => {
    expect(liftedParts(job(repair('removed', 'C1', 'C2')))).toEqual(['C1', 'C2']);
    expect(liftedParts(job(repair('removed', 'C1', 'C2'), repair('refitted', 'C1')))).toEqual([
      'C2',
    ]);
    expect(liftedParts(job(repair('removed', 'C1'), repair('reflowed', 'C1')))).toEqual(['C1']);
    const [off] = plainEvents(repair('removed', 'C1'));
    const strike = plainEvents({ type: 'strike', event: off!.id, reason: 'x' });
    expect(liftedParts(deriveJob([off!, ...strike]))).toEqual([]);
    expect(goneParts(deriveJob([off!]))).toEqual(['C1']);
  });
});

describe('steps something was recorded of', () => {
  const read = (phase: 'cold' | 'standby', mode: 'ohms' | 'volts') => ({
    type: 'reading',
    supersedes: [],
    reading: plainReading('VIN', mode, phase, { kind: 'number', value: 1, trend: 'steady' }),
  });
  const sign = { type: 'sign', phase: 'standby', drawAmps: 0.1, drawShape: null, text: '' };
  it.each([
    [[], []],
    [[plainIntake()], ['door']],
    [[sign], ['signs']],
    [[{ type: 'tried', thing: 'memory', result: 'no-change' }], ['signs']],
    [[{ type: 'safety', item: 'esd', state: 'done' }], ['safe']],
    [[{ type: 'safety', item: 'esd', state: 'open' }], []],
    [[finding('burnt', 'R1')], ['look']],
    [[read('cold', 'ohms')], ['cold']],
    [[read('standby', 'volts')], ['trace']],
    [[{ type: 'power', source: 'bench', volts: 19, limitAmps: 1, despite: [] }], ['power']],
    [[{ type: 'note', text: 'x' }], []],
  ])('%o: %o', (bodies, steps) => {
    expect(stepsDone(job(...bodies))).toEqual(steps);
  });
  it('not of what was struck out', () => {
    for (const body of [
      read('cold', 'ohms'),
      read('standby', 'volts'),
      sign,
      finding('burnt', 'R1'),
    ]) {
      const [one] = plainEvents(body);
      const strike = plainEvents({ type: 'strike', event: one!.id, reason: 'x' });
      expect(stepsDone(deriveJob([one!, ...strike]))).toEqual([]);
    }
  });
  it('a closed job is here until it was handed over, and again once it is opened', () => {
    const closed = [
      plainIntake(),
      { type: 'close', outcome: 'fixed', cause: 'R1', proof: 'proven' },
    ];
    const isBack = (...more: unknown[]): boolean => summaryOf(job(...closed, ...more)).handedOver;
    expect(isBack()).toBe(false);
    expect(isBack({ type: 'handed-over' })).toBe(true);
    expect(isBack({ type: 'handed-over' }, { type: 'reopen', reason: 'came back' })).toBe(false);
  });
  it('a summary can be kept, and none with numbers below nothing', () => {
    const summary = summaryOf(
      job(plainIntake(), read('standby', 'volts'), { type: 'time', minutes: 30 }),
    );
    expect(jobSummarySchema.parse(summary)).toEqual(summary);
    expect(summary).toMatchObject({ readings: 1, minutes: 30 });
    for (const change of [{ readings: -1 }, { readings: 1.5 }, { minutes: -1 }])
      expect(jobSummarySchema.safeParse({ ...summary, ...change }).success).toBe(false);
  });
});

describe('bounds of what is written down', () => {
  const ok = (body: unknown): boolean => eventBodySchema.safeParse(body).success;
  const sign = (seen: object, more: object = {}) => ({
    ...{ type: 'sign', phase: 'standby', drawAmps: null, drawShape: null, seen, text: '' },
    ...more,
  });
  const id = plainEvents({ type: 'note', text: 'x' })[0]!.id;
  it.each([
    ['seconds until off', sign({ offAfterSeconds: 0 }), true],
    ['an hour', sign({ offAfterSeconds: 3600 }), true],
    ['more than an hour', sign({ offAfterSeconds: 3601 }), false],
    ['less than nothing', sign({ offAfterSeconds: -1 }), false],
    ['fifty amps', sign({}, { drawAmps: 50 }), true],
    ['more than fifty amps', sign({}, { drawAmps: 50.1 }), false],
    ['a draw below nothing', sign({}, { drawAmps: -0.1 }), false],
    [
      'a supply of 60 V',
      { type: 'power', source: 'b', volts: 60, limitAmps: 50, despite: [] },
      true,
    ],
    ['more than 60 V', { type: 'power', source: 'b', volts: 61, limitAmps: 1, despite: [] }, false],
    [
      'a limit of 51 A',
      { type: 'power', source: 'b', volts: 5, limitAmps: 51, despite: [] },
      false,
    ],
    [
      'a limit below nothing',
      { type: 'power', source: 'b', volts: 5, limitAmps: -1, despite: [] },
      false,
    ],
    ['a minute', { type: 'time', minutes: 1 }, true],
    ['a day', { type: 'time', minutes: 1440 }, true],
    ['more than a day', { type: 'time', minutes: 1441 }, false],
    ['no minute', { type: 'time', minutes: 0 }, false],
    ['a strike with its reason', { type: 'strike', event: id, reason: 'slip' }, true],
    ['a strike without one', { type: 'strike', event: id, reason: ' ' }, false],
    ['a strike of nothing', { type: 'strike', reason: 'slip' }, false],
    ['a picture', { type: 'picture', attachment: id, caption: '' }, true],
    ['a picture of nothing', { type: 'picture', caption: '' }, false],
    ['an intake without an intake', { type: 'intake' }, false],
    ['a reopening without a reason', { type: 'reopen', reason: '' }, false],
    ['something new in a known kind', { type: 'note', text: 'x', more: 1 }, false],
  ] as const)('%s', (_what, body, taken) => {
    expect(ok(body)).toBe(taken);
  });
});

describe('what was seen, in words', () => {
  it.each([
    [{}, []],
    [
      { fan: true, picture: true, restarts: true, startsOnConnect: true },
      ['fan turns', 'picture', 'goes off and on again', 'starts when connected'],
    ],
    [
      { fan: false, picture: false, restarts: false, startsOnConnect: false },
      ['no fan', 'no picture', 'does not restart', 'does not start by itself'],
    ],
    [{ lights: [] }, ['no light']],
    [{ lights: ['LED1', 'LED2'] }, ['lit: LED1, LED2']],
    [{ offAfterSeconds: 0 }, ['off again after 0 s']],
    [{ goesOff: true }, ['goes off by itself']],
    [{ goesOff: false }, ['does not go off by itself']],
    [{ goesOff: true, offAfterSeconds: 3 }, ['off again after 3 s']],
    [{ reached: 'memory', beeps: 'two long' }, ['came as far as memory', 'two long']],
  ])('%o', (seen, texts) => {
    expect(seenTexts(seen)).toEqual(texts);
  });
});

describe('the sheet a job stands on', () => {
  const [a, b] = ['0123456789abcdef', 'fedcba9876543210'];
  it('is the one it was moved to last; none where nobody said', () => {
    expect(job(plainIntake()).sheet).toBeNull();
    expect(job(plainIntake(), { type: 'sheet', hash: a }, { type: 'sheet', hash: b }).sheet).toBe(
      b,
    );
  });
  it('is the one before, once a move was struck out', () => {
    const events = plainEvents({ type: 'sheet', hash: a }, { type: 'sheet', hash: b });
    const strike = plainEvents({ type: 'strike', event: events[1]!.id, reason: 'slip' });
    expect(deriveJob([...events, ...strike]).sheet).toBe(a);
  });
  it('is that of the board it was corrected to: the one before belonged to another', () => {
    const other = plainIntake({ board: 'otter-14' });
    const first = [plainIntake(), { type: 'sheet', hash: a }];
    expect(job(...first, other).sheet).toBeNull();
    expect(job(...first, other, { type: 'sheet', hash: b }).sheet).toBe(b);
    // Corrected back, the old version counts again.
    expect(job(...first, other, { type: 'sheet', hash: b }, plainIntake()).sheet).toBe(a);
    const events = plainEvents(...first, other);
    const strike = plainEvents({ type: 'strike', event: events[2]!.id, reason: 'taken back' });
    expect(deriveJob([...events, ...strike]).sheet).toBe(a);
  });
  it.each(['', 'ABCDEF0123456789', '0123', '0123456789abcdef0'])('%j is no version', (hash) => {
    expect(eventBodySchema.safeParse({ type: 'sheet', hash }).success).toBe(false);
  });
});

describe('a job whose board is corrected', () => {
  const other = plainIntake({ board: 'otter-14' });
  const read = {
    type: 'reading',
    reading: plainReading('VMAIN', 'volts', 'standby', {
      kind: 'number',
      value: 19.1,
      trend: 'steady',
    }),
    supersedes: [],
  };
  const sign = { type: 'sign', phase: 'run', drawAmps: 0.02, drawShape: null, text: '' };
  it('keeps its readings, marked as taken on the other sheet, and counts those taken since', () => {
    const corrected = job(plainIntake(), read, other, read);
    expect(corrected.readings.map((one) => one.standing)).toEqual([
      { kind: 'other-board', board: 'cairn-14' },
      { kind: 'stands' },
    ]);
    const back = job(plainIntake(), read, other, read, plainIntake());
    expect(back.readings.map((one) => one.standing.kind)).toEqual(['stands', 'other-board']);
  });
  it('counts no repair written down on the other sheet as one of this board', () => {
    const back = job(plainIntake(), read, other, repair('replaced', 'U2'), plainIntake());
    expect(back.readings[0]?.standing.kind).toBe('stands');
  });
  it('forgets nothing of the device, and takes no part of the other sheet for one of its own', () => {
    const corrected = job(
      plainIntake(),
      sign,
      repair('removed', 'R1'),
      repair('replaced', 'U2'),
      finding('burnt', 'R1'),
      finding('corrosion', null),
      other,
      read,
    );
    expect(liftedParts(corrected)).toEqual([]);
    expect(goneParts(corrected)).toEqual([]);
    expect(corrected.signs[0]?.struck).toBeNull();
    expect(corrected.findings.map((one) => one.struck)).toEqual([
      'written down of a part of cairn-14',
      null,
    ]);
    expect(corrected.readings[0]?.standing.kind).toBe('stands');
  });
});

describe('what an entry may hold', () => {
  const takes = (body: object): boolean => eventBodySchema.safeParse(body).success;
  const fed = '00000000-0000-4000-8000-000000000001';
  it.each([
    [-1, true],
    [-1.01, false],
    [60, true],
    [60.1, false],
  ])('a drop of %f V along a fed rail: %s', (volts, is) => {
    expect(takes({ type: 'drop', fed, part: 'C1', pin: null, volts })).toBe(is);
  });

  it.each([
    ['1999-12-31T23:59:59Z', false],
    ['2000-01-01T00:00:00Z', true],
    ['2099-12-31T23:59:59Z', true],
    ['2100-01-01T00:00:00Z', false],
  ])('a clock at %s: %s', (at, is) => {
    const [note] = plainEvents({ type: 'note', text: 'x' });
    const read = jobEventSchema.safeParse({ ...note, at });
    expect(read.success).toBe(is);
    if (!read.success)
      expect(read.error.issues[0]!.message).toBe(
        'is no time between the years 2000 and 2100: set the clock',
      );
  });

  it('drops along a rail are kept apart from what got warm; an intake taken back is none', () => {
    const drop = { type: 'drop', fed, part: 'C1', pin: null, volts: 0.012 };
    expect(job(drop)).toMatchObject({ drops: [{ body: drop }], warm: [], strange: [] });
    const [first] = plainEvents(plainIntake());
    const strike = { type: 'strike', event: first!.id, reason: 'another device' };
    expect(deriveJob([first!, ...plainEvents(strike)]).intake).toBeNull();
  });

  it('the shelf holds donor boards and parts, none fewer than none', () => {
    const item = {
      kind: 'part',
      what: 'capacitor',
      board: null,
      marking: '',
      value: '10u',
      package: '',
      place: 'drawer 2',
      count: 0,
      gone: [],
      note: '',
    };
    const fits = (more: object): boolean => shelfItemSchema.safeParse({ ...item, ...more }).success;
    expect([fits({}), fits({ kind: 'board' }), fits({ kind: 'box' })]).toEqual([true, true, false]);
    expect([fits({ count: 100_000 }), fits({ count: 100_001 }), fits({ count: -1 })]).toEqual([
      true,
      false,
      false,
    ]);
  });
});

it('a reading at a point of ones own is found on the net that point is on now', () => {
  const board = {
    nets: [{ id: '1V2_MEM', aliases: [] }],
    points: [
      { id: 'P1', net: '1V2_MEM' },
      { id: 'P2', net: 'P2' },
    ],
  } as never;
  const at = (part: string | null, pin: string | null = null) => {
    const reading = plainReading('P1', 'volts', 'run', {
      kind: 'number',
      value: 1.2,
      trend: 'steady',
    });
    const event = {
      type: 'reading',
      supersedes: [],
      reading: { ...reading, at: { net: 'P1', part, pin } },
    };
    return jobOnBoard(board, job(event)).readings[0]!.reading.at.net;
  };
  expect(at('P1')).toBe('1V2_MEM');
  expect(at('P2')).toBe('P2');
  // A pin of a part is no point, and what the sheet does not know stays as it was written.
  expect(at('P1', '3')).toBe('P1');
  expect(at(null)).toBe('P1');
});
