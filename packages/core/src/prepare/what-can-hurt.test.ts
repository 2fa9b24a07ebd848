import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import { loadSheet, type GoalId, type Source } from '../board/index.ts';
import { separatingTest } from '../diagnosis/index.ts';
import { traceJob } from '../trace/index.ts';
import { parseFault } from '../faults/index.ts';
import { plainIntake, plainJob, plainReading } from '@jiko/testing';
import { studyHealthyBoard } from '../expectations/index.ts';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { judgeCharge, phases, whyText } from '../readings/index.ts';
import { cautionText, safetyItems } from '../safety/index.ts';
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
const { board } = cairn;
const jobOf = plainJob;
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

  it('done is done', () => {
    const done = jobOf({ type: 'safety', item: 'battery-out', state: 'done' });
    expect(openSteps(board, done).map((one) => one.item)).not.toContain('battery-out');
  });

  it.each([
    ['liquid', 'liquids'],
    ['frost', 'liquids'],
    ['drop', 'swollen-cell'],
    ['bite', 'swollen-cell'],
  ])('after %s, %s presses', (happened, item) => {
    expect(
      safetySteps(board, jobOf(plainIntake({ happened: [happened] })))
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
    expect(
      cautionText(phase, { isBatteryIn: attached.some((one) => one === 'battery') }),
    ).toContain(words);
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
    expect([cautionText('inject'), cautionText('lift')]).toContain(said.caution);
  });

  it('the cautions say what must not be left out', () => {
    expect(cautionText('inject')).toMatch(/Battery and source off/);
    expect(cautionText('inject')).toMatch(/below the rail.s own volts/);
    expect(cautionText('inject')).toMatch(/not with a finger/);
    expect(cautionText('lift')).toMatch(/discharge it first, shield what is near/);
  });
});

describe('charging', () => {
  const charge = { amps: 2, prechargeAmps: 0.2, isGuess: false };
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
    expect(whyText(judgeCharge(5, charge))).toMatch(/unplug the battery now, keep away from it/);
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
    expect(whyText(judgeIdleSource(adapter, 24))).toContain('do not connect it');
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

  const guess = { ...step, isGuess: true, phase: 'standby', limitAmps: 0.3 } as PlanStep;
  it.each([
    [guess, 0.28, 'undecided'],
    [guess, 0.29, 'high'],
    // An adapter has no limit to stand at: the usual one of a resting board counts.
    [{ ...guess, limitAmps: 4.5 }, 0.29, 'high'],
    [guess, 0.001, 'low'],
    [guess, 0.002, 'undecided'],
    [{ ...guess, phase: 'trying', limitAmps: 2 } as PlanStep, 1.8, 'undecided'],
    [{ ...guess, phase: 'trying', limitAmps: 2 } as PlanStep, 1.91, 'high'],
  ])('loads nobody knows (%#): %f A', (one, amps, kind) => {
    expect(judgeDraw(one as PlanStep, amps as number).kind).toBe(kind);
  });

  it('a board made by choices gets limits for boards nobody knows, and a small first one', () => {
    const choices = choicesSchema.parse({ input: 'barrel-pfet' });
    const unknown = study(composeSheetText({ title: 'Board', marking: '', choices }, 'board'));
    const { steps } = powerPlan(unknown, makeSweep(unknown), jobOf(), []);
    expect(steps.map(({ isGuess, limitAmps }) => [isGuess, limitAmps])).toEqual([
      [true, 0.5],
      [true, 2],
    ]);
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

describe('the power-up plan, word for word', () => {
  const fell = study(fellText);
  const planFor = (
    healthy: typeof cairn,
    source: string,
    happened: string[] = [],
    more: unknown[] = [],
  ) => {
    const job = jobOf(plainIntake({ source, happened }), ...more);
    return powerPlan(
      healthy,
      makeSweep(healthy),
      job,
      traceJob(healthy, job, 'boots' as GoalId).readings,
    );
  };
  const more =
    'Source off at once and look for heat. At the limit with the volts down it is a short that cold readings did not show.';
  const steps = [
    {
      phase: 'standby',
      title: 'Connect, do not press',
      more,
      less: 'Nothing at all: the way in is open, or its FETs stay off. Read the input chain point by point.',
    },
    {
      phase: 'trying',
      title: 'Press the button',
      more: 'Let go, source off, look for heat after the press only: a run rail.',
      less: 'As before the press: the press is not seen, or the first run rail does not come. Up for seconds and down again: it gives up; read in those seconds.',
    },
  ];

  it('on a bench supply at the same input as the adapter', () => {
    const plan = planFor(cairn, 'adapter');
    expect([plan.source.id, plan.own.id]).toEqual(['bench', 'adapter']);
    expect(plan.steps).toMatchObject(steps);
    expect(plan.steps.map((one) => [one.volts, one.limitAmps])).toEqual([
      [19.5, 0.1],
      [19.5, 1],
    ]);
    expect(plan.why).toBe(
      'A bench supply shows the draw and holds a short at its limit, all the more as not all of the path was measured.',
    );
    expect(plan.where).toBe(
      'Plus on VIN_JACK at J1, power jack, minus on its ground. Polarity and volts checked on the leads before they touch the board.',
    );
    expect(plan.before).toEqual([
      {
        title: '19.5 V adapter',
        text: 'Unplugged from the board it gives 18.52 V to 20.48 V. Some idle lower until they see a load: try one before it is called bad.',
      },
      {
        title: 'Battery',
        text: 'Leave it unplugged until the main rail stands by itself. When it is plugged in, watch its current: more than the charger is set to, unplug it at once.',
      },
    ]);
    expect(plan.unmeasured).toEqual([
      ...['BL_VIN', 'VCHG', 'CHG_VCC', 'VIN_JACK', 'VIN_F', 'VIN', 'VA_MID', 'VA_SNS', 'VMAIN'],
      ...['5V_LDO', '3V3_LDO', '3V3_ALW', '5V_ALW', 'VRTC', 'VBAT', 'VBAT_F'],
      ...['3V3_ALW through PU4', '5V_ALW through PU5', 'VMAIN through PU6'],
      ...['VMAIN through PU8', 'VMAIN through PU9'],
    ]);
    expect(plan.says).toEqual([`Not measured: ${plan.unmeasured.join(', ')}.`]);
    expect(plan.openSafety).toHaveLength(6);
    expect(plan.openSafety[0]).toBe('Source off and unplugged, button held for ten seconds');
  });

  it('on USB-C alone, where nothing limits the current but the source', () => {
    const plan = planFor(fell, 'usb-c', ['frost', 'lightning', 'earlier-repair']);
    expect([plan.source.id, plan.own.id]).toEqual(['usb-c', 'usb-c']);
    expect(plan.steps).toMatchObject(steps);
    expect(plan.steps.map((one) => [one.volts, one.limitAmps])).toEqual([
      [20, 3.25],
      [20, 3.25],
    ]);
    expect(plan.why).toBe(
      'USB-C supply: the sheet has no bench supply at this input. It gives 3.25 A into a fault before it lets go. Keep a hand on the plug: it was wet, lightning was near, someone worked on it before and not all of the path was measured.',
    );
    expect(plan.where).toBe('Plugged in at J1, USB-C, through a cable with a meter in it.');
    expect(plan.before).toEqual([
      {
        title: 'USB-C supply',
        text: 'Nothing on VBUS until it is plugged in, then 5 V, then 20 V once the board has asked for it (5 V, 9 V, 15 V, 20 V on offer). It stays at 5 V: the board does not ask, or its lines to the plug are cut. Turn the plug over and try again.',
      },
      {
        title: 'Battery, if it has one',
        text: 'Leave it unplugged until the main rail stands by itself. When it is plugged in, watch its current: more than the charger is set to, unplug it at once.',
      },
    ]);
  });

  it('an adapter that idles low says so', () => {
    const idle = loadSheet(
      cairnText.replace(/^( {2}adapter: \{.*)\}$/m, '$1, idle: 5, wakes: 0.05 }'),
    );
    if (!idle.ok) throw new Error('the sheet does not load');
    const [first] = planFor(studyHealthyBoard(idle.value), 'adapter').before;
    expect(first?.text).toBe(
      'Unplugged from the board it idles at 5 V and gives 19.5 V once something draws more than 50 mA: read it again under load before it is called bad.',
    );
  });

  it('a board that draws more before the press is given three times that', () => {
    const hungry = loadSheet(cairnText.replace('load: 0.004 }', 'load: 0.054 }'));
    if (!hungry.ok) throw new Error('the sheet does not load');
    const [connect] = planFor(studyHealthyBoard(hungry.value), 'adapter').steps;
    expect(connect!.amps).toBeGreaterThan(0.06);
    expect(connect!.limitAmps).toBe(0.5);
  });

  it('a diode reading alone clears no rail, and a short across the stage is said with its name', () => {
    const diode = {
      type: 'reading',
      reading: plainReading('VMAIN', 'diode', 'cold', {
        kind: 'number',
        value: 0.48,
        trend: 'steady',
      }),
      supersedes: [],
    };
    expect(planFor(cairn, 'adapter', [], [diode]).unmeasured).toContain('VMAIN');
    const through = {
      type: 'reading',
      reading: plainReading(
        'VMAIN',
        'ohms',
        'cold',
        { kind: 'number', value: 0.2, trend: 'steady' },
        { against: 'PH_CORE' },
      ),
      supersedes: [],
    };
    const shorted = planFor(cairn, 'adapter', [], [through]);
    expect(shorted.advice).toBe('not-yet');
    expect(shorted.bridges).toMatchObject([{ part: 'PU9', isStage: true }]);
    expect(shorted.says.join(' ')).toContain('19.5 V would stand on VCORE');
    expect(shorted.unmeasured).not.toContain('VMAIN through PU9');
  });
});
