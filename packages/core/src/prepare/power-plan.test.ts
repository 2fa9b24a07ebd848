import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import type { GoalId, Source } from '../board/index.ts';
import { studyHealthyBoard, type HealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainEvents, plainIntake, plainReading } from '@jiko/testing';
import { whyText } from '../readings/index.ts';
import { deriveJob, type JobEvent } from '../record/index.ts';
import { traceJob } from '../trace/index.ts';
import {
  judgeDraw,
  judgeIdleSource,
  makeSweep,
  powerPlan,
  shortList,
  type PlanStep,
} from './index.ts';

// What the edges of what-can-hurt.test.ts leave: whose words stand where, and which reading counts.

const board = plainBoard(cairnText);
const healthy = studyHealthyBoard(board);
const sweep = makeSweep(healthy);
const take = (net: string, ohms: number, against: string | null = null) => ({
  type: 'reading',
  reading: plainReading(
    net,
    'ohms',
    'cold',
    { kind: 'number', value: ohms, trend: 'steady' },
    { against },
  ),
  supersedes: [],
});
const planOf = (events: JobEvent[], of: HealthyBoard = healthy) => {
  const job = deriveJob(events);
  return powerPlan(of, sweep, job, traceJob(of, job, 'boots' as GoalId).readings);
};
const plan = (...bodies: unknown[]) => planOf(plainEvents(plainIntake(), ...bodies));
const withSources = (sources: Source[]): HealthyBoard => ({
  ...healthy,
  board: { ...board, sources },
});
const adapter = board.sources.find((one) => one.kind === 'adapter')!;

describe('a source that hangs on nothing', () => {
  const source: Source = { ...adapter, volts: 20, idleVolts: 5, wakesAtAmps: 0.1 };
  it('is told what to do with, word for word, up to the very edges', () => {
    const said = [21, 21.01, 19, 18.99, 5.25, 5.26, 4.75, 4.74, 0.25, 0.24].map((volts) => {
      const verdict = judgeIdleSource(source, volts);
      return `${volts}: ${verdict.kind} | ${whyText(verdict)}`;
    });
    expect(said).toMatchInlineSnapshot(`
      [
        "21: good | 21 V unplugged, 20 V expected.",
        "21.01: high | 21.01 V unplugged, 20 V expected: do not connect it.",
        "19: good | 19 V unplugged, 20 V expected.",
        "18.99: low | 18.99 V unplugged, 20 V expected. Some idle low until they see a load: try one.",
        "5.25: undecided | 5.25 V unplugged is how it idles: read it again under a load of more than 100 mA.",
        "5.26: low | 5.26 V unplugged, 20 V expected. Some idle low until they see a load: try one.",
        "4.75: undecided | 4.75 V unplugged is how it idles: read it again under a load of more than 100 mA.",
        "4.74: low | 4.74 V unplugged, 20 V expected. Some idle low until they see a load: try one.",
        "0.25: low | 0.25 V unplugged, 20 V expected. Some idle low until they see a load: try one.",
        "0.24: missing | 0.24 V unplugged: dead, or its lead is broken. Try another before the board is opened.",
      ]
    `);
  });

  it('gives nothing on USB-C before it is plugged in', () => {
    const usb: Source = { ...source, kind: 'usb-c' };
    const said = [0, 0.8].map((volts) => whyText(judgeIdleSource(usb, volts)));
    expect(said).toMatchInlineSnapshot(`
      [
        "0 V unplugged: a USB-C source gives nothing until something is plugged in. Check it with a load that asks.",
        "0.8 V unplugged: a USB-C source gives nothing until something is plugged in. This one does not keep to it.",
      ]
    `);
  });
});

describe('a draw at the source', () => {
  const step = { amps: 1, more: 'MORE', less: 'LESS' } as PlanStep;
  const guess = { ...step, isGuess: true, phase: 'standby', limitAmps: 0.3 } as PlanStep;
  it('is told what to do with, and a good one nothing', () => {
    const said = (one: PlanStep, amps: number): string =>
      `${judgeDraw(one, amps).kind}: ${whyText(judgeDraw(one, amps))}`;
    expect([1.34, 1.35, 0.667, 0.66].map((amps) => said(step, amps))).toMatchInlineSnapshot(`
      [
        "good: 1.34 A, about 1 A when healthy.",
        "high: 1.35 A, about 1 A when healthy. MORE",
        "good: 667 mA, about 1 A when healthy.",
        "low: 660 mA, about 1 A when healthy. LESS",
      ]
    `);
    expect([0.285, 0.1, 0.001].map((amps) => said(guess, amps))).toMatchInlineSnapshot(`
      [
        "high: 285 mA. MORE",
        "undecided: 100 mA: nobody knows what a good one of these draws. Write it down and go on.",
        "low: 1 mA. LESS",
      ]
    `);
  });
});

describe('the few readings before a supply with a limit', () => {
  const list = shortList(healthy, sweep);
  /** What a good board reads at a point; high ohms where nothing is known. */
  const good = ({ net, reference, expectation }: (typeof list)[number]) =>
    take(
      net,
      expectation.kind === 'value' && Number.isFinite(expectation.value) ? expectation.value : 39e6,
      reference,
    );
  const taken = (but: (net: string, reference: string | null) => unknown = () => undefined) =>
    plan(...list.map((one) => but(one.net, one.reference) ?? good(one)));

  it('are the jack, the main rail, what wakes by itself, and the switches that could put 19 V on a rail', () => {
    const grounded = list.filter((one) => one.reference === null).map((one) => one.net);
    for (const net of ['VIN_JACK', 'VMAIN', '3V3_ALW', '5V_ALW', '3V3_LDO', '5V_LDO'])
      expect(grounded).toContain(net);
    for (const net of ['1V2_MEM', 'VCORE', '5V_RUN', '1V8_S5']) expect(grounded).not.toContain(net);
    expect(list.every(({ mode }) => mode === 'ohms')).toBe(true);
    expect(list.some(({ reference }) => reference !== null)).toBe(true);
    expect(list.length).toBeLessThan(sweep.length / 3);
  });

  it('are enough for a bench supply at the limit of its first step, never for an adapter', () => {
    const { advice, enoughFor, steps, source } = taken();
    expect([advice, source.kind]).toEqual(['blind', 'bench']);
    expect(enoughFor).toEqual({ limitAmps: steps[0]!.limitAmps });
    const noSupply = withSources(board.sources.filter(({ kind }) => kind !== 'bench'));
    const events = plainEvents(plainIntake(), ...list.map(good));
    expect(planOf(events, noSupply)).toMatchObject({ enoughFor: null });
  });

  it('are not enough where the sweep has no point at the plug, or none at all', () => {
    const job = deriveJob(plainEvents(plainIntake(), ...list.map(good)));
    const { readings } = traceJob(healthy, job, 'boots' as GoalId);
    const left = (points: typeof sweep) => powerPlan(healthy, points, job, readings).enoughFor;
    expect(left(sweep)).not.toBeNull();
    expect(left([])).toBeNull();
    expect(left(sweep.filter(({ net }) => net !== 'VIN_JACK'))).toBeNull();
  });

  it('are not enough while one of them is missing, wrong or shorted', () => {
    for (const left of list)
      expect(
        plan(...list.filter((one) => one !== left).map(good)).enoughFor,
        `${left.net} ${left.reference}`,
      ).toBeNull();
    const with3V3 = (ohms: number) =>
      taken((net, reference) =>
        net === '3V3_ALW' && reference === null ? take(net, ohms) : undefined,
      );
    expect(with3V3(0.2)).toMatchObject({ advice: 'not-yet', enoughFor: null });
    expect(with3V3(2_000_000)).toMatchObject({ advice: 'again', enoughFor: null });
    const bridged = taken((net, reference) =>
      reference === null ? undefined : take(net, 0.2, reference),
    );
    expect(bridged.enoughFor).toBeNull();
    // A FET of the input that conducts without its gate holds no power back by itself, and is no "enough" either.
    const shortedFet = plan(...list.map(good), take('VIN', 0.1, 'VA_MID'));
    expect(shortedFet).toMatchObject({ advice: 'blind', bridges: [{ part: 'PQ1' }] });
    expect(shortedFet.enoughFor).toBeNull();
  });
});

describe('what is said before power', () => {
  it('every short once with the nets it was read on; what is wrong there is not said again', () => {
    const { says, against, clear } = plan(
      take('VIN', 0.1),
      take('VIN_F', 0.1),
      take('VMAIN', 45_000),
      take('3V3_ALW', 2_000_000),
    );
    expect(clear.map((one) => one.net)).toEqual(['VMAIN']);
    const [wrong, short, good, rest] = says;
    expect(says).toHaveLength(4);
    expect(wrong).toMatch(/^3V3_ALW: 2 MΩ\. .+ Measure it again\.$/);
    expect(short).toMatch(/^Short on VIN(, VIN_F)?: 100 mΩ\.$/);
    expect(good).toBe('No short found at VMAIN (45 kΩ).');
    expect(rest).toMatch(/^Not measured: .+, .+\.$/);
    // What stands against powering is all but what is clear.
    expect(against).toEqual([wrong, short, rest]);
  });

  it('several clear points and bridged parts, in a row', () => {
    const { says } = plan(take('VMAIN', 45_000), take('5V_ALW', 5000), take('VIN', 0.1, 'VA_MID'));
    expect(says.find((one) => one.startsWith('PQ1'))).toMatch(/^PQ1: 100 mΩ\. .+/);
    expect(says.find((one) => one.startsWith('No short'))).toMatch(
      /^No short found at [^,]+\), [^,]+\)\.$/,
    );
  });

  it('nothing of what was not measured once all is', () => {
    expect(plan().says).toHaveLength(1);
    const all = sweep
      .filter((one) => one.mode === 'ohms' && one.group !== 'across')
      .map((one) =>
        take(
          one.net,
          one.expectation.kind === 'value' && Number.isFinite(one.expectation.value)
            ? one.expectation.value
            : 39e6,
          one.reference,
        ),
      );
    expect(plan(...all).says.filter((one) => one.startsWith('Not measured'))).toEqual([]);
  });

  it('a bad reading counts twice only for the same point, read alike, and if nobody struck it', () => {
    const isConfirmed = (events: JobEvent[]) =>
      planOf(events).wrong.find((one) => one.net === 'VMAIN')?.isConfirmed;
    const once = plainEvents(plainIntake(), take('VMAIN', 6));
    const again = plainEvents(take('VMAIN', 6.2));
    expect(isConfirmed([...once, ...again])).toBe(true);
    expect(isConfirmed(once)).toBe(false);
    expect(isConfirmed([...once, ...plainEvents(take('5V_ALW', 12))])).toBe(false);
    const strike = plainEvents({ type: 'strike', event: once[1]!.id, reason: 'slipped' });
    expect(isConfirmed([...once, ...again, ...strike])).toBe(false);
    const repair = plainEvents({ type: 'repair', action: 'replaced', parts: ['C5'], text: '' });
    expect(isConfirmed([...once, ...repair, ...again])).toBe(false);
  });
});

describe('how it is powered', () => {
  it('from what the job names, else from the first source that does not stay in place', () => {
    const own = (source: string) => planOf(plainEvents(plainIntake({ source }))).own.id;
    expect(own('adapter')).toBe('adapter');
    expect(own('battery')).toBe('battery');
    expect(own('none such')).toBe(board.sources.find((one) => !one.stays)!.id);
  });

  it('a battery that is the source itself is not said to be left out', () => {
    const onBattery = board.sources.filter((one) => one.kind === 'battery');
    const said = planOf(plainEvents(plainIntake({ source: 'battery' })), withSources(onBattery));
    expect(said.before).toEqual([]);
    expect(
      plan()
        .before.map((one) => one.text)
        .join(),
    ).toContain('Leave it unplugged');
  });

  it('USB-C offers are said from the least to the most, each once', () => {
    const usb: Source = { ...adapter, kind: 'usb-c', volts: 20, offersVolts: [20, 9, 15] };
    const { before } = planOf(plainEvents(plainIntake()), withSources([usb]));
    expect(before[0]!.text).toContain('then 20 V once the board has asked for it');
    expect(before[0]!.text).toContain('(5 V, 9 V, 15 V, 20 V on offer)');
  });

  it('with what it draws at its most after the press', () => {
    for (const [most, phase] of [
      [1.2, 'run'],
      [1.3, 'trying'],
      [1.4, 'pressed'],
    ] as const) {
      const phases = new Map(healthy.play.phases);
      phases.set(phase, { ...phases.get(phase)!, sourceAmps: most });
      const [, press] = planOf(plainEvents(plainIntake()), {
        ...healthy,
        play: { ...healthy.play, phases },
      }).steps;
      expect(press!.amps, phase).toBe(most);
    }
  });

  it('at its connector, by the name the sheet gives it', () => {
    expect(plan().where).toMatch(/^Plus on VIN_JACK at [A-Z]+\d+/);
    const parts = board.parts.map((one) =>
      one.kind === 'connector' ? { ...one, title: '' } : one,
    );
    const bare = planOf(plainEvents(plainIntake()), { ...healthy, board: { ...board, parts } });
    expect(bare.where).toMatch(/^Plus on VIN_JACK at [A-Z]+\d+, minus on its ground/);
    const none = planOf(plainEvents(plainIntake()), {
      ...healthy,
      board: { ...board, parts: parts.filter((one) => one.kind !== 'connector') },
    });
    expect(none.where).toMatch(/^Plus on VIN_JACK, minus on its ground/);
  });

  it('and says why, with nothing known of the device too', () => {
    expect(plan().why).toBe(
      'A bench supply shows the draw and holds a short at its limit, all the more as not all of the path was measured.',
    );
  });
});
