import { describe, expect, it } from 'vitest';
import { loadSheet, type GoalId, type NetId, type PartRef } from '@jiko/core/board';
import type { Outcome, Proposal } from '@jiko/core/diagnosis';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { plainJob, plainReading } from '@jiko/testing';
import type { Mode, Phase } from '@jiko/core/readings';
import { traceJob, type Trace } from '@jiko/core/trace';
import beckText from '../../../../../sheets/beck-mini.yaml?raw';
import { lastRead, readText } from '../../widgets/last-read.ts';
import type { ProbeView } from './probe-card.tsx';
import { outcomeText } from './proposal-text.ts';
import { echoOf, viewMeanwhile, viewOf, viewOfProposal } from './probe-view.ts';

// What the card of the next probe says, and when it refuses a reading: with a source on no ohms are
// taken, and nothing typed is counted in a phase it was not read in.

const loaded = loadSheet(beckText);
if (!loaded.ok) throw new Error('the sheet does not load');
const healthy = studyHealthyBoard(loaded.value);
const net = (name: string): NetId => name as NetId;
const read = (name: string, mode: 'volts' | 'ohms' | 'diode', phase: Phase, value: number) => ({
  type: 'reading',
  reading: plainReading(net(name), mode, phase, { kind: 'number', value, trend: 'steady' }),
  supersedes: [],
});
const traceOf = (...bodies: unknown[]): Trace =>
  traceJob(healthy, plainJob(...bodies), 'boots' as GoalId);
const fresh = traceOf();
const own = (name: string, mode: Mode, more: object = {}) => ({
  net: net(name),
  pin: null,
  reference: null,
  mode,
  supersedes: [],
  ...more,
});
const viewed = (name: string, mode: Mode, phase: Phase, more: object = {}): ProbeView =>
  viewOf(healthy, fresh, own(name, mode, more), phase)!;

describe('the card', () => {
  it('shows what the walk asks next, and why', () => {
    const view = viewOf(healthy, fresh, null, 'standby')!;
    expect(view).toMatchObject({ net: '12V_IN', mode: 'volts', phase: 'standby', own: false });
    expect(view.why).toContain('12 V input');
    expect(view.expectation).toEqual(healthy.expect(net('12V_IN'), 'volts', 'standby'));
  });

  it('shows a point of the technician as it is, in the phase of the strip', () => {
    expect(viewed('VCORE', 'ohms', 'cold')).toMatchObject({
      net: 'VCORE',
      own: true,
      why: '',
      mode: 'ohms',
      phase: 'cold',
    });
  });

  it('names a pin at the pin itself', () => {
    const view = viewed('3V3_SB', 'volts', 'standby', { pin: { part: 'U1', pin: 'VCC' } });
    expect(view.place).toContain('U1, pin VCC');
    expect(view.place).toContain('at the pin itself');
  });

  it('says across a part what the play has there, and cold that it goes through the part', () => {
    const across = { reference: net('SB_PG') };
    expect(viewed('3V3_SB', 'volts', 'standby', across).expectation).toEqual({
      kind: 'unknown',
      because: 'about 0 V',
    });
    expect(viewed('3V3_SB', 'ohms', 'cold', across).expectation).toEqual({
      kind: 'unknown',
      because: 'through the part, unless it is open',
    });
  });

  it('shows nothing where nothing is left to read', () => {
    expect(viewOf(healthy, { ...fresh, end: { is: 'settled' } }, null, 'standby')).toBeNull();
  });
});

describe('while what to read next is worked out', () => {
  it('the line stays at the point read last, in its mode; without one at the first stage', () => {
    const done = traceOf(read('VCORE', 'ohms', 'cold', 12), read('5V_SB', 'volts', 'standby', 5));
    expect(viewMeanwhile(healthy, done, 'standby')).toMatchObject({
      net: '5V_SB',
      mode: 'volts',
      own: false,
    });
    const first = viewMeanwhile(healthy, fresh, 'cold');
    expect(first).toMatchObject({ net: healthy.stages[0]!.stage.gives[0], mode: 'ohms' });
    expect(first?.why).toContain('being worked out');
  });
});

describe('the line below the entry', () => {
  const volts = viewed('VCORE', 'volts', 'run');
  it('says how to type while nothing is typed, and what is in the way', () => {
    expect(echoOf('', volts, 'run')).toMatchObject({ kind: 'hint' });
    expect(echoOf(' ', volts, 'cold')).toEqual({
      kind: 'trouble',
      text: 'Read in run; the bench strip says cold.',
    });
    expect(echoOf('', viewed('VCORE', 'ohms', 'run'), 'run').text).toContain('Read cold');
    expect(echoOf('1.2', null, 'run')).toMatchObject({ kind: 'hint' });
  });
  it.each([
    ['0.92', 'understood', '0.92 V'],
    ['920m', 'understood', '0.92 V'],
    ['0.2/0.6', 'understood', '0.2 V'],
    ['abc', 'trouble', 'abc'],
    ['4000', 'trouble', '4000'],
  ])('%s', (text, kind, said) => {
    const echo = echoOf(text, volts, 'run');
    expect(echo.kind).toBe(kind);
    expect(echo.text).toContain(said);
  });
});

describe('what a proposal says', () => {
  const outcome = (more: Partial<Outcome> = {}): Outcome => ({
    low: 1.2,
    high: 1.2,
    probability: 0.6,
    isHealthy: true,
    classes: [0],
    ...more,
  });
  const proposal = (more: Partial<Proposal> = {}): Proposal => ({
    net: net('VCORE'),
    reference: null,
    across: null,
    mode: 'volts',
    phase: 'trying',
    place: { text: 'C12', side: 'top' } as Proposal['place'],
    isRepeat: false,
    gainBits: 0.84,
    seconds: 26,
    outcomes: [outcome(), outcome(), outcome(), outcome()],
    ...more,
  });
  const titles = ['R1 open', 'U2 dead', 'Low resistance on VCORE'];

  it.each([
    [outcome(), 'about 1.2 V, as it should be (60 %): R1 open'],
    [
      outcome({ low: 0, high: 0.04, isHealthy: false, probability: 0.004, classes: [1, 0] }),
      '0 V to 0.04 V (< 1 %): U2 dead or R1 open',
    ],
    [
      outcome({ low: Infinity, high: Infinity, isHealthy: false, classes: [0, 1, 2] }),
      'OL (60 %): R1 open or U2 dead or 1 more',
    ],
  ])('%#', (one, text) => {
    expect(outcomeText(proposal(), one, titles)).toBe(text);
  });

  const view = (more: Partial<Proposal>, finding: unknown = null): ProbeView =>
    viewOfProposal(healthy, proposal(more), { classTitles: titles } as never, finding as never);

  it('shows three outcomes at most, its gain, and where the leads go', () => {
    expect(view({}).outcomes).toHaveLength(4);
    expect(view({}).outcomes?.at(-1)).toBe('0.8 bit in 26 s');
    expect(view({}).why).toBe('It splits what is left in half.');
    expect(view({}).place).toBe('C12');
    expect(view({ across: 'R7' as PartRef }).place).toBe('R7, from end to end');
  });

  it('says why it is asked again, and what was seen there', () => {
    expect(view({ isRepeat: true }).why).toMatch(/^Once more: /);
    expect(view({}, { part: 'C12', kind: 'burnt' }).why).toMatch(/^C12: burnt seen there/);
    expect(view({}, { part: null, kind: 'smelt-burnt' }).why).toMatch(/^The board: /);
  });
});

describe('what stands for a net on the picture', () => {
  const trace = traceOf(
    read('VCORE', 'diode', 'cold', 0.06),
    read('VCORE', 'ohms', 'cold', 12),
    read('5V_SB', 'diode', 'cold', 0.45),
    read('5V_SB', 'volts', 'standby', 5.02),
    read('5V_SB', 'ohms', 'cold', 800),
  );
  it.each([
    ['5V_SB', '5.02 V'],
    ['VCORE', '12 Ω'],
  ])('of %s: volts before ohms before its junction', (name, text) => {
    expect(readText(lastRead(trace, name)!)).toBe(text);
  });
  it('a junction is said to be one, and an unread net has nothing', () => {
    const junction = traceOf(read('VCORE', 'diode', 'cold', 0.06));
    expect(readText(lastRead(junction, 'VCORE')!)).toMatch(/ diode$/);
    expect(lastRead(trace, '3V3_SB')).toBeUndefined();
  });
});
