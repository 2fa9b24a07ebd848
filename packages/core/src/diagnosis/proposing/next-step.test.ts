import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type GoalId, type StageId } from '../../board/index.ts';
import { plainEvents, plainReading, walkJob, type WalkedTrace } from '@jiko/testing';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { deriveJob, type JobEvent } from '../../record/index.ts';
import { benchOfJob } from '../../trace/index.ts';
import {
  actionsNow,
  evidenceOf,
  nextStep,
  readingsNow,
  whyTheyDiffer,
  type BenchAction,
  type Diagnosis,
  type Proposal,
  type Suspect,
} from '../index.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the sheet does not load');
const board = loaded.value;
const bare = studyHealthyBoard(board).onBench({ source: 'adapter', attached: [], lifted: [] });
const event = (body: unknown): JobEvent => plainEvents(body)[0]!;
const read = (net: string, mode: 'volts' | 'ohms', value: number): JobEvent =>
  event({
    type: 'reading',
    reading: plainReading(net, mode, mode === 'ohms' ? 'cold' : 'trying', {
      kind: 'number',
      value,
      trend: 'steady',
    }),
    supersedes: [],
  });
const sign = (seen: object): JobEvent =>
  event({ type: 'sign', phase: 'trying', drawAmps: null, drawShape: null, seen, text: '' });
const trace = (...events: JobEvent[]): WalkedTrace =>
  walkJob(bare, deriveJob(events), 'boots' as GoalId);
const stateOf = (of: WalkedTrace, id: string) =>
  of.stages.find((one) => one.stage.id === id)?.state;

describe('what is known before the first volt is read', () => {
  it('a short found cold is the missing stage, and no volts are asked for before it is found', () => {
    const found = trace(read('1V8_S5', 'ohms', 0.4));
    expect(found.firstMissing).toMatchObject({ net: '1V8_S5', certain: true });
    expect(found.firstMissing?.why).toContain('with nothing connected');
    expect(found.next).toBeNull();
    // 5 kilohms are no short, and hold nothing up.
    expect(trace(read('1V8_S5', 'ohms', 5000)).next?.net).toBe('VIN_JACK');
  });

  it('volts read there afterwards outweigh it', () => {
    const after = trace(read('1V8_S5', 'ohms', 0.4), read('1V8_S5', 'volts', 1.79));
    expect(stateOf(after, 's5')).not.toBe('down');
  });

  it('the walk begins past what was seen to come', () => {
    expect(trace().next?.net).toBe('VIN_JACK');
    const seen = trace(sign({ reached: 'alw3' }));
    expect(stateOf(seen, 'jack')).toBe('enough');
    expect(stateOf(seen, 'alw3')).toBe('enough');
    expect(seen.next?.stage).not.toBe('jack');
    // Enough is not good, and what was not seen proves nothing.
    expect(stateOf(seen, 'core')).toBe('unread');
    expect(trace(sign({ picture: false })).next?.net).toBe('VIN_JACK');
  });

  it('what was seen before a repair proves nothing of the board as it is', () => {
    const repair = event({ type: 'repair', action: 'replaced', parts: ['C44'], text: '' });
    expect(stateOf(trace(sign({ reached: 'alw3' }), repair), 'alw3')).toBe('unread');
    expect(stateOf(trace(repair, sign({ reached: 'alw3' })), 'alw3')).toBe('enough');
    // By the order of the record: a clock that stands hours behind changes nothing.
    const late = { ...sign({ picture: true }), at: '2026-01-05T04:00:00Z' };
    const seen = (...events: JobEvent[]) => evidenceOf(deriveJob(events), [], []).signs.picture;
    expect(seen(repair, late)).toBe(true);
    expect(seen(late, repair)).toBeNull();
  });

  it('that it goes off or stays on is what was seen last', () => {
    const off = sign({ offAfterSeconds: 4 });
    const stays = sign({ goesOff: false });
    const watched = (...events: JobEvent[]) => {
      const { offAfterSeconds, goesOff } = evidenceOf(deriveJob(events), [], []).signs;
      return { offAfterSeconds, goesOff };
    };
    expect(watched(off, stays)).toEqual({ offAfterSeconds: null, goesOff: false });
    expect(watched(stays, off)).toEqual({ offAfterSeconds: 4, goesOff: null });
    expect(watched({ ...off, body: { ...off.body, phase: 'run', seen: {} } as never })).toEqual({
      offAfterSeconds: null,
      goesOff: false,
    });
    expect(watched(off, sign({ goesOff: true }))).toEqual({ offAfterSeconds: 4, goesOff: true });
  });

  it('the bench stands as at the last reading in volts, not as while a battery was tried', () => {
    const volts = read('3V3_ALW', 'volts', 3.3);
    const amps = event({
      type: 'reading',
      reading: {
        ...plainReading('VBAT', 'amps', 'standby', { kind: 'number', value: 1, trend: 'steady' }),
        source: { id: 'adapter', volts: null, limitAmps: null },
        attached: ['battery'],
      },
      supersedes: [],
    });
    expect(benchOfJob(board, deriveJob([volts, amps])).attached).toEqual([]);
    expect(benchOfJob(board, deriveJob([amps])).attached).toEqual([]);
  });

  it('a picture proves all it stands on', () => {
    const { next, stages } = trace(sign({ picture: true }));
    expect(next).toBeNull();
    expect(stages.filter((one) => one.onPath).every((one) => one.state === 'enough')).toBe(true);
  });
});

describe('the next step', () => {
  const proposal = (gainBits: number, more: Partial<Proposal> = {}): Proposal =>
    ({
      net: 'VMAIN',
      reference: null,
      mode: 'volts',
      phase: 'standby',
      gainBits,
      outcomes: [{ probability: 0.6 }, { probability: 0.4 }],
      ...more,
    }) as Proposal;
  const suspect = (title: string, probability: number, fault: object = {}): Suspect =>
    ({ title, probability, faults: [{ fault }] }) as unknown as Suspect;
  const shortOn = (net: string, probability: number): Suspect =>
    suspect(`Low resistance on ${net}`, probability, { kind: 'short', net, ohms: 0 });
  const told = (more: Partial<Diagnosis>): Diagnosis =>
    ({ suspects: [], next: [], regions: [], ...more }) as unknown as Diagnosis;
  const open = trace();
  const missing = trace(read('1V8_S5', 'ohms', 0.4));
  const step = (
    of: WalkedTrace,
    diagnosis: Diagnosis | null,
    school: 'walk' | 'shortest' = 'walk',
  ) => nextStep(board, of, diagnosis, school, [], false, of.next);

  it('a part that took its short with it is fitted anew before anything else', () => {
    const ohms = (value: number, lifted: string[]): JobEvent =>
      event({
        type: 'reading',
        supersedes: [],
        reading: {
          ...plainReading('3V3_RUN', 'ohms', 'cold', { kind: 'number', value, trend: 'steady' }),
          lifted,
        },
      });
    const off = event({ type: 'repair', action: 'removed', parts: ['C64'], text: '' });
    const gone = trace(ohms(0.4, []), off, ohms(480, ['C64']));
    const own = suspect('In C64, which is off the board', 0.15, {
      kind: 'pins-short',
      part: 'C64',
      pins: ['1', '2'],
      ohms: 0.05,
    });
    const some = told({ next: [proposal(2)], suspects: [suspect('U3 dead', 0.5), own] });
    for (const school of ['walk', 'shortest'] as const)
      expect(step(gone, some, school)).toMatchObject({ because: 'went', suspect: own });
    // Who powers the board without it goes on: a small capacitor may stay off.
    const on = trace(ohms(0.4, []), off, ohms(480, ['C64']), read('VIN_JACK', 'volts', 19.5));
    expect(on.shortGone).toBeNull();
    expect(step(on, some)).not.toMatchObject({ because: 'went' });
    // Its plays are not there yet: nothing is asked meanwhile.
    expect(step(gone, null)).toEqual({ kind: 'nothing' });
    // The same with what is plugged in; an outlet that never was a short proves nothing.
    const lcd = (value: number, attached: string[]): JobEvent =>
      event({
        type: 'reading',
        supersedes: [],
        reading: plainReading(
          '3V3_LCD',
          'ohms',
          'cold',
          { kind: 'number', value, trend: 'steady' },
          { attached },
        ),
      });
    const unplugged = trace(lcd(0.5, ['panel']), lcd(900, []));
    expect(unplugged.shortGone).toMatchObject({ part: 'panel', title: 'the panel' });
    expect(unplugged.shortGone?.text).toContain(
      '0.5 Ω with the panel plugged in and 900 Ω without',
    );
    const panel = suspect('In the panel', 0.2, {
      kind: 'pin-short',
      part: 'PANEL1',
      pin: 'VLOGIC',
      ohms: 1,
    });
    expect(step(unplugged, told({ suspects: [panel] }))).toMatchObject({ because: 'went' });
    expect(trace(lcd(60, ['panel']), lcd(900, [])).shortGone).toBeNull();
    expect(trace(lcd(0.5, ['panel']), lcd(0.6, [])).shortGone).toBeNull();
    expect(trace(lcd(0.5, ['panel']), lcd(900, []), lcd(0.5, ['panel'])).shortGone).toBeNull();
    // With the short still there, and with a new one fitted, the rest goes on.
    const stays = trace(ohms(0.4, []), off, ohms(0.4, ['C64']));
    expect(step(stays, some)).not.toMatchObject({ because: 'went' });
    const anew = event({ type: 'repair', action: 'replaced', parts: ['C64'], text: '' });
    expect(step(trace(ohms(0.4, []), off, ohms(480, ['C64']), anew), some)).not.toMatchObject({
      because: 'went',
    });
  });

  it('in order walks on while there is an output to read', () => {
    expect(step(open, told({ next: [proposal(1)] }))).toMatchObject({ kind: 'in-order' });
    expect(step(open, null)).toMatchObject({ kind: 'in-order' });
  });

  it('then reads what parts the suspects, and then tests: it never stops with suspects open', () => {
    const done: WalkedTrace = { ...open, next: null };
    const some = [suspect('U3 dead', 0.3), suspect('U4 dead', 0.2)];
    expect(step(done, told({ next: [proposal(0.101)], suspects: some }))).toMatchObject({
      kind: 'telling',
      proposal: { gainBits: 0.101 },
    });
    expect(step(done, told({ next: [proposal(0.099)], suspects: some }))).toMatchObject({
      kind: 'test',
      suspect: { title: 'U3 dead' },
    });
    expect(step(done, told({ suspects: [suspect('U3 dead', 0.09)] }))).toEqual({ kind: 'nothing' });
  });

  it('nothing is read powered into a known short: it is looked for, or read cold', () => {
    const proposals = [proposal(1), proposal(0.2, { mode: 'ohms', phase: 'cold' })];
    for (const school of ['walk', 'shortest'] as const) {
      // No suspect pulls it down: cold readings are left.
      const others = told({ next: proposals, suspects: [suspect('U3 dead', 0.4)] });
      expect(step(missing, others, school)).toMatchObject({ proposal: { phase: 'cold' } });
      const some = [suspect('U3 dead', 0.4), shortOn('1V8_S5', 0.1), shortOn('VMAIN', 0.2)];
      for (const isBegun of [false, true])
        expect(
          nextStep(
            board,
            missing,
            told({ next: proposals, suspects: some }),
            school,
            [],
            isBegun,
            missing.next,
          ),
        ).toMatchObject({
          kind: 'test',
          because: 'shorted',
          suspect: { title: 'Low resistance on 1V8_S5' },
        });
    }
  });

  it('a rail that held its volts since is no known short any more', () => {
    const many = told({ next: [proposal(1)] });
    const since = trace(read('1V8_S5', 'ohms', 0.4), read('1V8_S5', 'volts', 1.8));
    expect(readingsNow(since, many)).toHaveLength(1);
    const still = trace(read('1V8_S5', 'ohms', 0.4), read('1V8_S5', 'volts', 0));
    expect(readingsNow(still, many)).toHaveLength(0);
    // Good at nothing before the press, where it is to be off: that says nothing of the short.
    const off = event({
      type: 'reading',
      supersedes: [],
      reading: plainReading('1V8_S5', 'volts', 'standby', {
        kind: 'number',
        value: 0,
        trend: 'steady',
      }),
    });
    expect(readingsNow(trace(read('1V8_S5', 'ohms', 0.4), off), many)).toHaveLength(0);
  });

  it('not even to settle a doubtful reading: what is shorted is looked for first', () => {
    const again: WalkedTrace = { ...missing, next: { ...open.next!, isAgain: true } };
    const led = told({ suspects: [shortOn('VMAIN', 0.3), shortOn('1V8_S5', 0.2)] });
    expect(step(again, led)).toMatchObject({ kind: 'test', rail: '1V8_S5' });
    expect(step({ ...open, next: again.next }, led)).toMatchObject({ kind: 'in-order' });
  });

  it('nor is anything offered beside it that powers the rail', () => {
    const feed = (what: string): BenchAction => ({ kind: 'feed', what }) as BenchAction;
    const lift = { kind: 'lift', what: 'C40' } as BenchAction;
    const many = told({
      next: [proposal(1), proposal(0.2, { mode: 'ohms', phase: 'cold' })],
      actions: [feed('1V8_S5'), feed('5V_ALW'), lift],
    });
    expect(actionsNow(board, missing, many)).toEqual([feed('5V_ALW'), lift]);
    expect(readingsNow(missing, many).map((one) => one.phase)).toEqual(['cold']);
    expect(actionsNow(board, open, many)).toEqual(many.actions);
    expect(readingsNow(open, many)).toEqual(many.next);
  });

  it("the leader's own test comes before readings that are all but sure, and not before others", () => {
    const sure = { outcomes: [{ probability: 0.9 }, { probability: 0.1 }] } as Partial<Proposal>;
    const done: WalkedTrace = { ...open, next: null };
    const with_ = (first: number, second: number, more: Partial<Proposal>) =>
      step(
        done,
        told({
          next: [proposal(0.4, more)],
          suspects: [suspect('U3 dead', first), suspect('U4 dead', second)],
          none: 0.1,
          healthy: 0.01,
        }),
      ).kind;
    expect(with_(0.46, 0.15, sure)).toBe('test');
    expect(with_(0.46, 0.15, {})).toBe('telling');
    // It does not lead: too little by itself, or too little before the next one.
    expect(with_(0.44, 0.1, sure)).toBe('telling');
    expect(with_(0.46, 0.16, sure)).toBe('telling');
    // What is in no list, or nothing at all, is likelier.
    expect(
      step(
        done,
        told({ next: [proposal(0.4, sure)], suspects: [suspect('U3 dead', 0.46)], none: 0.47 }),
      ).kind,
    ).toBe('telling');
  });

  it('far ahead of all others the leader is tested at once, whatever else could be read', () => {
    const done: WalkedTrace = { ...open, next: null };
    const with_ = (first: number, second: number) =>
      step(
        done,
        told({
          next: [proposal(0.4)],
          suspects: [suspect('SW1 open', first), suspect('U4 dead', second)],
          none: 0.05,
          healthy: 0.01,
        }),
      ).kind;
    expect(with_(0.5, 0.0625)).toBe('test');
    expect(with_(0.5, 0.063)).toBe('telling');
    expect(with_(0.49, 0.01)).toBe('telling');
  });

  it('what was read as it should be is not asked for again in that phase', () => {
    const once: WalkedTrace = { ...trace(read('VIN_JACK', 'volts', 19.5)), next: null };
    const net = 'VIN_JACK' as Proposal['net'];
    const asked = (phase: Proposal['phase']) =>
      step(
        once,
        told({ next: [proposal(0.4, { net, phase })], suspects: [suspect('U3 dead', 0.3)] }),
      ).kind;
    expect(asked('trying')).toBe('test');
    expect(asked('standby')).toBe('telling');
    // Nor does it stand in the list beside the card.
    const list = told({ next: [proposal(0.4, { net, phase: 'trying' }), proposal(0.3)] });
    expect(readingsNow(once, list)).toEqual([proposal(0.3)]);
  });

  it('what is missing before the button is not looked for after the press', () => {
    const standby: WalkedTrace = {
      ...open,
      next: null,
      firstMissing: { ...missing.firstMissing!, stage: 'alw3' as StageId, certain: true },
    };
    const asked = (of: WalkedTrace, phase: Proposal['phase']) =>
      step(of, told({ next: [proposal(0.4, { phase })], suspects: [suspect('U3 dead', 0.14)] }))
        .kind;
    expect(asked(standby, 'trying')).toBe('test');
    expect(asked(standby, 'standby')).toBe('telling');
    expect(asked(standby, 'cold')).toBe('telling');
    const notSure: WalkedTrace = {
      ...standby,
      firstMissing: { ...standby.firstMissing!, certain: false },
    };
    expect(asked(notSure, 'trying')).toBe('telling');
  });

  it('what is to be read before power comes before what tells most', () => {
    const first: WalkedTrace = { ...open, next: { ...open.next!, beforePower: true } };
    expect(step(first, told({ next: [proposal(0.4)] }), 'shortest')).toMatchObject({
      kind: 'in-order',
      probe: { beforePower: true },
    });
  });

  it('shortest reads what tells most, and walks where nothing does', () => {
    expect(step(open, told({ next: [proposal(0.4)] }), 'shortest').kind).toBe('telling');
    expect(step(open, told({}), 'shortest').kind).toBe('in-order');
  });

  it('says in one line why the walk and the suspects differ, and nothing where they agree', () => {
    const at = (stage: string | null, probability = 0.83): string | null =>
      whyTheyDiffer(
        board,
        missing,
        told({ regions: [{ stage: stage as StageId | null, probability }] }),
      );
    expect(at(missing.firstMissing!.stage)).toBeNull();
    expect(at('jack')).toContain('read 1V8_S5 once more');
    const unsure = { ...missing, firstMissing: { ...missing.firstMissing!, certain: false } };
    const region = told({ regions: [{ stage: 'jack' as StageId, probability: 0.83 }] });
    expect(whyTheyDiffer(board, unsure, region)).toContain('which was not read');
    const read = {
      ...unsure,
      stages: unsure.stages.map((one) => ({ ...one, state: 'up' as const })),
    };
    expect(whyTheyDiffer(board, read, region)).toContain('which was read as there');
    expect(at(null)).toContain('leave every stage up');
    expect(at('jack', 0.49)).toBeNull();
  });
});
