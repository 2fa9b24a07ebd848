import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import type { NetId } from '../board/index.ts';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { usualSetup } from '../play/index.ts';
import { plainBoard, plainEvents, plainIntake, plainJob, plainReading } from '@jiko/testing';
import { deriveJob, liftedParts, standingOf } from '../record/index.ts';
import { shortGoneWith } from '../trace/index.ts';
import { huntLog, huntShort, jobOfHunt, ohmsNow, splitNets } from './index.ts';

const board = plainBoard(cairnText);
const setup = usualSetup(board);
const rail = '3V3_ALW' as NetId;

const ohms = (value: number | 'OL', lifted: string[] = [], net: string = rail): unknown => ({
  type: 'reading',
  reading: {
    ...plainReading(
      net,
      'ohms',
      'cold',
      value === 'OL' ? { kind: 'over', limit: 40e6 } : { kind: 'number', value, trend: 'steady' },
    ),
    lifted,
  },
  supersedes: [],
});
const repair = (action: string, part: string): unknown => ({
  type: 'repair',
  action,
  parts: [part],
  text: '',
});
const fed = (change: object = {}): unknown => ({
  type: 'fed',
  net: rail,
  at: { part: 'PL1', pin: null },
  volts: 1,
  limitAmps: 1,
  drawnVolts: 0.4,
  drawnAmps: 1,
  ...change,
});
const wrote = (...bodies: unknown[]) => plainEvents(plainIntake(), ...bodies);

describe('the hunt as the record holds it', () => {
  it('cold ohms on all that milliohms join, with what was off; nothing of other rails', () => {
    const job = deriveJob(wrote(ohms(0.4), ohms('OL', ['PL1'], 'PH_3V3'), ohms(3, [], '5V_ALW')));
    expect(huntLog(board, job, rail).ohms.map((one) => [one.net, one.ohms, one.lifted])).toEqual([
      ['3V3_ALW', 0.4, []],
      ['PH_3V3', Infinity, ['PL1']],
    ]);
  });

  it('a feed with its warmth and millivolts; one of a live board is none of it', () => {
    const all = wrote(fed(), fed({ live: true }));
    const [own] = all.filter(({ body }) => body.type === 'fed');
    const more = plainEvents(
      { type: 'warm', fed: own!.id, part: 'C13', rise: 9, by: 'camera' },
      { type: 'drop', fed: own!.id, part: 'C14', pin: null, volts: 0.0123 },
    );
    const log = huntLog(board, deriveJob([...all, ...more]), rail);
    expect(log.fed).toHaveLength(1);
    expect(log.fed[0]).toMatchObject({
      at: 'PL1',
      amps: 1,
      volts: 0.4,
      warm: [{ part: 'C13', rise: 9 }],
      drops: [{ part: 'C14', volts: 0.0123 }],
    });
  });

  it('millivolts read again while the supply stays on are another set, which can confirm the first', () => {
    const all = wrote(ohms(0.2), fed());
    const own = all.find(({ body }) => body.type === 'fed')!;
    const warm = { type: 'warm', fed: own.id, part: 'C13', rise: 9, by: 'camera' };
    // 300 mV between neighbours: no rail gives that.
    const odd = ['C13', 'C14', 'C20', 'C21'].map((part, index) => ({
      type: 'drop',
      fed: own.id,
      part,
      pin: null,
      volts: 0.1 + (index % 2) * 0.3,
    }));
    const after = (...bodies: unknown[]) => deriveJob([...all, ...plainEvents(...bodies)]);
    const once = after(warm, ...odd);
    expect(huntShort(board, setup, once, rail).unfit).toEqual(['C13', 'C14', 'C20', 'C21']);
    const twice = after(warm, ...odd, ...odd);
    const { fed: sets } = huntLog(board, twice, rail);
    expect(sets.map(({ drops }) => drops.length)).toEqual([4, 4]);
    expect(sets.map((set) => set.warm.length)).toEqual([1, 0]);
    expect(huntShort(board, setup, twice, rail).unfit).toEqual([]);
  });

  it('what was struck out, or stood before a repair, counts no more', () => {
    const all = wrote(ohms(0.4), fed());
    const strikes = plainEvents(
      ...all.slice(1).map((one) => ({ type: 'strike', event: one.id, reason: 'slipped' })),
    );
    const struck = huntLog(board, deriveJob([...all, ...strikes]), rail);
    expect([struck.ohms, struck.fed]).toEqual([[], []]);
    const mended = huntLog(
      board,
      deriveJob([...all, ...plainEvents(repair('replaced', 'C13'))]),
      rail,
    );
    expect([mended.ohms, mended.fed]).toEqual([[], []]);
  });

  it('a part that is out stays in the hunt: it is what is being tried', () => {
    const job = deriveJob(wrote(ohms(0.4), repair('removed', 'C13'), ohms(900, ['C13'])));
    const hunt = huntShort(board, setup, job, rail);
    expect(hunt.proven?.part).toBe('C13');
    expect(hunt.lifted).toEqual(['C13']);
    expect(hunt.actions.some((one) => one.what.includes('C13'))).toBe(false);
  });

  it('what was seen raises a part, and it is offered with why', () => {
    const seen = { type: 'finding', kind: 'burnt', part: 'C14', text: '' };
    const plain = huntShort(board, setup, deriveJob(wrote(ohms(0.4))), rail);
    const looked = huntShort(board, setup, deriveJob(wrote(ohms(0.4), seen)), rail);
    const of = (hunt: typeof plain): number =>
      hunt.candidates.find((one) => one.name === 'C14')!.probability;
    expect(of(looked)).toBeGreaterThan(2 * of(plain));
    expect(looked.actions.find((one) => one.what[0] === 'C14')?.text).toMatch(/seen burnt/);
  });

  it('asks the same of what a page sends along as of the whole job', () => {
    const job = deriveJob(
      wrote(ohms(0.4), fed(), repair('removed', 'C13'), { type: 'note', text: 'x' }),
    );
    const whole = huntShort(board, setup, job, rail);
    const sent = huntShort(board, setup, jobOfHunt(job), rail);
    expect(sent).toEqual(whole);
    expect(jobOfHunt(job).notes).toEqual([]);
  });

  it('both ends of a coil that is out are read', () => {
    expect(splitNets(board, ['PL1'], rail)).toEqual(['PH_3V3']);
    expect(splitNets(board, ['C13'], rail)).toEqual([]);
    expect(splitNets(board, ['PL2'], rail)).toEqual([]);
  });

  it('ohms of the rail as it is now: the last read with the same parts off', () => {
    const now = (...bodies: unknown[]) =>
      ohmsNow(board, jobOfHunt(deriveJob(wrote(...bodies))), rail);
    const out = repair('removed', 'C13');
    expect(now()).toBeNull();
    expect(now(ohms(0.4), ohms(900))).toBe(900);
    // With C13 off it is another rail, until it is read so.
    expect(now(ohms(0.4), out)).toBeNull();
    expect(now(ohms(0.4), out, ohms(900, ['C13']))).toBe(900);
    // Put back, what was read without it says nothing any more.
    expect(now(ohms(0.4), out, ohms(900, ['C13']), repair('refitted', 'C13'))).toBe(0.4);
  });
});

describe('a part taken off a shorted rail', () => {
  const run = '3V3_RUN';
  const read = (value: number, lifted: string[]): unknown => ohms(value, lifted, run);
  const off = repair('removed', 'C64');
  const hunt = (...events: unknown[]) => huntShort(board, setup, plainJob(...events), run as NetId);

  const goneWith = (...events: unknown[]) => {
    const job = plainJob(...events);
    return shortGoneWith(board, standingOf(job), liftedParts(job));
  };

  it('is read before anything follows from it', () => {
    const { unread, actions } = hunt(read(0.4, []), off);
    expect(unread).toEqual(['C64']);
    expect(actions).toEqual([]);
  });

  it('with which the short went is the part, and is said', () => {
    const events = [read(0.4, []), off, read(480, ['C64'])];
    expect(hunt(...events).unread).toEqual([]);
    expect(goneWith(...events)).toMatchObject({
      part: 'C64',
      net: '3V3_RUN',
    });
  });

  it('with which it did not go is none', () => {
    const events = [read(0.4, []), off, read(0.4, ['C64'])];
    expect(hunt(...events).unread).toEqual([]);
    expect(hunt(...events).actions.length).toBeGreaterThan(0);
    expect(goneWith(...events)).toBeNull();
  });

  it('nothing is unread where nothing is off', () => {
    expect(hunt(read(0.4, [])).unread).toEqual([]);
    expect(goneWith(read(0.4, []))).toBeNull();
  });
});

describe('a first sheet, where no part has a place', () => {
  const first = plainBoard(
    composeSheetText(
      {
        title: 'Unknown',
        marking: '',
        choices: choicesSchema.parse({ input: 'barrel-pfet', alwaysOn: 'dual', controller: 'one' }),
      },
      'unknown',
    ),
  );

  it('a camera comes before the controller is taken off', () => {
    const job = plainJob(ohms(0.6, [], '3V3_ALW'));
    const { actions } = huntShort(first, usualSetup(first), job, '3V3_ALW' as NetId);
    expect(actions[0]?.kind).toBe('inject');
    expect(actions.find((one) => one.kind === 'lift')?.what).toEqual(['EC']);
  });
});
