import { describe, expect, it } from 'vitest';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type GoalId, type Source } from '../board/index.ts';
import { heatCaution, injectionCaution, separatingTest, traceJob } from '../diagnosis/index.ts';
import { parseFault } from '../faults/index.ts';
import { plainReading } from '../practice/index.ts';
import { studyHealthyBoard } from '../powerup/index.ts';
import { cautionFor, judgeCharge, phases } from '../readings/index.ts';
import { deriveJob, eventBodySchema, safetyItems, type Job } from '../record/index.ts';
import {
  judgeDraw,
  judgeIdleSource,
  makeSweep,
  namedShorts,
  openSteps,
  powerPlan,
  safetySteps,
  type PlanStep,
} from './index.ts';

// Numbers and words that decide about powering, injecting, charging, heating and lifting, each from
// both sides of its edge. All are common practice, no source, unless said otherwise.

const study = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet does not load');
  return studyHealthyBoard(loaded.value);
};
const cairn = study(cairnText);
const beck = study(beckText);
const { board } = cairn;
let serial = 0;
const jobOf = (...bodies: unknown[]): Job =>
  deriveJob(
    bodies.map((body) => ({
      id: `00000000-0000-4000-8000-${String(++serial).padStart(12, '0')}`,
      who: 'Bench 1',
      at: '2026-01-05T10:00:00Z',
      body: eventBodySchema.parse(body),
    })),
  );
const cold = (net: string, ohms: number) => ({
  type: 'reading',
  reading: plainReading(net, 'ohms', 'cold', { kind: 'number', value: ohms, trend: 'steady' }),
  supersedes: [],
});
const shortOn = (net: string) => {
  const { readings } = traceJob(cairn, jobOf(cold(net, 0.02)), 'boots' as GoalId);
  return namedShorts(cairn, readings).shorts[0];
};

describe('before the board is opened', () => {
  it('nothing is missing from the list, and what is a step stays one', () => {
    const steps = safetySteps(board, jobOf());
    expect(steps.map((one) => one.item)).toEqual([...safetyItems]);
    expect(openSteps(board, jobOf()).map((one) => one.item)).toEqual([
      'source-off',
      'battery-out',
      'storage-out',
      'discharged',
      'coin-cell',
      'esd',
    ]);
    const why = (item: string): string => steps.find((one) => one.item === item)?.why ?? '';
    expect(why('battery-out')).toMatch(/cells that can burn/);
    expect(why('swollen-cell')).toMatch(/Do not press, bend or charge it/);
    expect(why('mains-side')).toMatch(/licensed practice, not for this tool/);
    expect(why('liquids')).toMatch(/no hot air, iron or source until they are gone/);
    expect(why('hot-air')).toMatch(/cells and plastic shielded/);
    expect(why('discharged')).toMatch(/holds its charge/);
  });

  it('a board without battery is not asked for one, and done is done', () => {
    expect(safetySteps(beck.board, jobOf()).map((one) => one.item)).not.toContain('battery-out');
    const done = jobOf({ type: 'safety', item: 'battery-out', state: 'done' });
    expect(openSteps(board, done).map((one) => one.item)).not.toContain('battery-out');
  });

  it.each([
    ['liquid', 'liquids'],
    ['frost', 'liquids'],
    ['drop', 'swollen-cell'],
    ['bite', 'swollen-cell'],
  ])('after %s, %s presses', (happened, item) => {
    const intake = {
      type: 'intake',
      intake: {
        board: 'cairn-14',
        device: 'd',
        complaint: 'c',
        happened: [happened],
        history: '',
        goal: 'boots',
        source: 'adapter',
        keep: '',
        promised: null,
      },
    };
    expect(
      safetySteps(board, jobOf(intake))
        .filter((one) => one.pressing)
        .map((one) => one.item),
    ).toEqual([item]);
  });

  it.each([
    ['cold', [], 'Source off, battery unplugged, large capacitors discharged'],
    ['cold', ['battery'], 'unplug it before taking ohms'],
    ['standby', [], 'The board is live. One probe at a time'],
    ['pressed', [], 'takes a chip with it'],
    ['trying', [], 'stop when something smells or gets hot'],
    ['run', [], 'Fan and heatsink on before it runs'],
  ] as const)('%s with %j: said at that step', (phase, attached, words) => {
    expect(cautionFor(phase, attached)).toContain(words);
    expect(phases).toContain(phase);
  });
});

describe('injecting', () => {
  // At most 1 V, and never above the rail's own: lowest of a range.
  it.each([
    ['1V8_S5', 'at 1 V, limited to 1 A', 'never above 1.8 V'],
    ['1V2_MEM', 'at 1 V, limited to 1 A', 'never above 1.2 V'],
    ['0V6_VTT', 'at 0.6 V, limited to 1 A', 'never above 0.6 V'],
    ['3V3_ALW', 'at 1 V, limited to 1 A', 'never above 3.3 V'],
  ])('%s is fed %s, %s', (net, fed, most) => {
    const how = shortOn(net)?.how ?? '';
    expect(how).toContain(`With every source off, feed ${net} itself from a bench supply ${fed}`);
    expect(how).toContain(most);
  });

  it('a short the source meets directly forbids the source', () => {
    expect(shortOn('VIN')?.how).toMatch(/^Do not connect the adapter or battery/);
    expect(shortOn('1V8_S5')?.how).not.toContain('Do not connect');
  });

  it.each([
    ['VMAIN:short', 'VMAIN', /nject 1 V/],
    ['1V2_MEM:short', '1V2_MEM', /nject 1 V/],
    ['0V6_VTT:short', '0V6_VTT', /nject 0\.6 V/],
    ['S5_EN:short', 'S5_EN', /No current is to be driven into a signal/],
  ])('the test of %s', (text, net, words) => {
    const fault = parseFault(board, text);
    if (!fault.ok) throw new Error(text);
    const said = separatingTest(board, [fault.value], net as never);
    expect(said.text).toMatch(words);
    expect([injectionCaution, heatCaution]).toContain(said.caution);
  });

  it('the cautions say what must not be left out', () => {
    expect(injectionCaution).toMatch(/Battery and source off/);
    expect(injectionCaution).toMatch(/below the rail.s own volts/);
    expect(injectionCaution).toMatch(/not with a finger/);
    expect(heatCaution).toMatch(/discharge it first, shield what is near/);
  });
});

describe('charging', () => {
  const charge = { amps: 2, prechargeAmps: 0.2 };
  // More than 15 % and 20 mA above what the charger is set to is a fault.
  it.each([
    [2.31, 'good'],
    [2.33, 'overcurrent'],
    [-2.33, 'overcurrent'],
    [0.31, 'good'],
    [0.29, 'undecided'],
    [0.011, 'undecided'],
    [0.009, 'missing'],
  ])('%f A into a battery whose charger gives 2 A: %s', (amps, kind) => {
    expect(judgeCharge(amps, charge).kind).toBe(kind);
  });

  it('too much is unplugged at once', () => {
    expect(judgeCharge(5, charge).why).toMatch(/unplug the battery now, keep away from it/);
    expect(judgeCharge(0.2, { ...charge, prechargeAmps: null }).kind).toBe('good');
  });
});

describe('connecting', () => {
  const adapter = board.sources.find((one) => one.kind === 'adapter') as Source;
  // Within 5 % of 19.5 V.
  it.each([
    [18.54, 'good'],
    [18.51, 'low'],
    [20.46, 'good'],
    [20.49, 'high'],
    [0.26, 'low'],
    [0.24, 'missing'],
  ])('an adapter that reads %f V unplugged: %s', (volts, kind) => {
    expect(judgeIdleSource({ ...adapter, idleVolts: null }, volts).kind).toBe(kind);
  });
  it('one that is too high is not connected', () => {
    expect(judgeIdleSource(adapter, 24).why).toContain('do not connect it');
  });
  it.each([
    [0.79, 'undecided'],
    [0.81, 'odd'],
  ])('a USB-C source that reads %f V with nothing in it: %s', (volts, kind) => {
    expect(judgeIdleSource({ ...adapter, kind: 'usb-c' }, volts).kind).toBe(kind);
  });

  const step = { amps: 0.1, more: 'Source off at once', less: 'open' } as PlanStep;
  // A third more and 10 mA, a third less and 3 mA.
  it.each([
    [0.142, 'good'],
    [0.144, 'high'],
    [0.065, 'good'],
    [0.063, 'low'],
  ])('%f A where 0.1 A is healthy: %s', (amps, kind) => {
    expect(judgeDraw(step, amps).kind).toBe(kind);
  });

  it('limits stand a little above the healthy draw, and the first of them is small', () => {
    const plan = powerPlan(cairn, makeSweep(cairn), jobOf(), []);
    const [connect, press] = plan.steps;
    // Three times the standby draw and at least 0.1 A; 1.3 times the running one; the next 1, 2 or 5.
    expect(connect!.amps * 3).toBeLessThan(0.1);
    expect(connect!.limitAmps).toBe(0.1);
    expect(press!.limitAmps).toBeGreaterThanOrEqual(1.3 * press!.amps);
    expect(press!.limitAmps).toBeLessThan(1.3 * press!.amps * 2.5);
    expect(connect!.more).toMatch(/^Source off at once/);
    expect(press!.more).toContain('source off');
    expect(plan.before.map((one) => one.text).join(' ')).toContain(
      'Leave it unplugged until the main rail stands by itself',
    );
    expect(plan.where).toContain('Polarity and volts checked on the leads before they touch');
  });
});
