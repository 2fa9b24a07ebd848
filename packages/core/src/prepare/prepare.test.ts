import { describe, expect, it } from 'vitest';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import { loadSheet, type GoalId, type NetId, netById } from '../board/index.ts';
import { editSheet } from '../sheet-edit/index.ts';
import { traceJob } from '../trace/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { parseEntry, usualMeter, type Mode, type Phase, whyText } from '../readings/index.ts';
import { plainIntake as intake } from '@jiko/testing';
import { deriveJob, eventBodySchema, type EventBody, type Job } from '../record/index.ts';
import {
  findingEffects,
  inputSection,
  judgeDraw,
  judgeIdleSource,
  makeSweep,
  namedShorts,
  openSteps,
  powerPath,
  powerPlan,
  safetySteps,
  simpleSteps,
} from './index.ts';

function study(text: string) {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('a demo sheet does not load');
  return studyHealthyBoard(loaded.value);
}
const cairn = study(cairnText);
const fell = study(fellText);
const beck = study(beckText);
const sweep = makeSweep(cairn);

const id = (serial: number): string =>
  `00000000-0000-4000-8000-${String(serial).padStart(12, '0')}`;
const jobOf = (...bodies: unknown[]): Job =>
  deriveJob(
    bodies.map((body, index) => ({
      id: id(index + 1),
      who: 'Bench 1',
      at: `2026-01-05T10:00:${String(index).padStart(2, '0')}Z`,
      body: eventBodySchema.parse(body) as EventBody,
    })),
  );
function reading(
  net: string,
  written: string,
  mode: Mode,
  phase: Phase = 'cold',
  more: object = {},
) {
  const value = parseEntry(written, mode, usualMeter);
  if (!value.ok) throw new Error(`${written} is no entry`);
  return {
    type: 'reading',
    supersedes: [],
    reading: {
      at: { net, part: null, pin: null },
      reference: null,
      polarity: mode === 'diode' ? 'black-on-point' : 'red-on-point',
      mode,
      phase,
      value: value.value,
      source: null,
      attached: [],
      lifted: [],
      meter: usualMeter,
      sheet: '',
      note: '',
      ...more,
    },
  };
}
const judged = (job: Job) => traceJob(cairn, job, 'boots' as GoalId).readings;
const planOf = (job: Job) => powerPlan(cairn, sweep, job, judged(job));

describe('the sweep', () => {
  it('takes the input section node by node, across its FETs, and every rail a coil makes', () => {
    const grounded = sweep.filter((one) => one.reference === null).map((one) => one.net);
    for (const net of ['VIN_JACK', 'VIN_F', 'VIN', 'VA_MID', 'VA_SNS', 'VMAIN'])
      expect(grounded).toContain(net);
    const across = sweep.filter((one) => one.group === 'across').map((one) => one.place.part);
    for (const part of ['F1', 'PQ1', 'PQ2', 'PR1', 'PQ3', 'F3']) expect(across).toContain(part);
    const coils = cairn.board.parts
      .filter((part) => part.kind === 'coil')
      .flatMap((part) => part.pins.map((pin) => pin.net))
      .filter((net) => netById(cairn.board, net)?.kind === 'rail');
    for (const net of coils) expect(grounded).toContain(net);
  });

  it('asks points of ones own too, at the point itself, and holds nothing against powering', () => {
    const done = editSheet(beckText, { do: 'add-point', title: 'coil at the edge', net: null });
    if (!done.ok) throw new Error(done.error.join());
    const own = study(done.value.text);
    const asked = makeSweep(own).filter((one) => one.net === done.value.id);
    expect(asked.map(({ mode, place }) => [mode, place.part, place.text])).toEqual([
      ['ohms', 'P1', 'coil at the edge'],
      ['diode', 'P1', 'coil at the edge'],
    ]);
    const plain = powerPlan(beck, makeSweep(beck), jobOf(intake({ board: 'beck-mini' })), []);
    expect(powerPlan(own, makeSweep(own), jobOf(intake({ board: 'beck-mini' })), [])).toEqual(
      plain,
    );
  });

  it('turns the board over once and never comes back to a place', () => {
    const sides = sweep.map((one) => one.place.side).filter((side) => side !== '');
    expect(sides.filter((side, at) => at > 0 && side !== sides[at - 1])).toHaveLength(1);
    const places = sweep.map((one) => `${one.net} ${one.reference ?? ''}`);
    const runs = places.filter((place, at) => place !== places[at - 1]);
    expect(new Set(runs).size).toBe(runs.length);
  });

  it('moves the probe little: near the least that joins all places of a side', () => {
    const at = (ref: string | null) =>
      [...cairn.board.parts, ...cairn.board.chips].find((one) => one.ref === ref);
    const between = (a: ReturnType<typeof at>, b: ReturnType<typeof at>): number =>
      Math.hypot((a?.x ?? 0) - (b?.x ?? 0), (a?.y ?? 0) - (b?.y ?? 0));
    for (const side of ['top', 'bottom']) {
      const places = sweep.map((one) => at(one.place.part)).filter((one) => one?.side === side);
      const way = places.reduce(
        (sum, one, index) => sum + (index > 0 ? between(places[index - 1], one) : 0),
        0,
      );
      // A tree that joins them all is shorter than any way through them (Prim's algorithm).
      const left = [...new Set(places)];
      const joined = [left.pop()];
      let tree = 0;
      while (left.length > 0) {
        const near = (one: (typeof left)[0]): number =>
          Math.min(...joined.map((other) => between(one, other)));
        left.sort((a, b) => near(b) - near(a));
        const next = left.pop();
        tree += near(next);
        joined.push(next);
      }
      expect(way).toBeGreaterThanOrEqual(tree);
      expect(way).toBeLessThan(1.5 * tree);
    }
  });

  it('reads FETs along their body diode and expects it', () => {
    const fet = sweep.find((one) => one.place.part === 'PQ1' && one.group === 'across');
    expect(fet).toMatchObject({ net: 'VIN', reference: 'VA_MID', mode: 'diode' });
    expect(fet?.across?.healthy).toBeGreaterThan(0.4);
    expect(fet?.across?.healthy).toBeLessThan(0.6);
    const low = sweep.find((one) => one.net === 'VCORE');
    expect(low).toMatchObject({ lowByNature: true });
    expect(low?.why).toMatch(/no short/);
  });

  it('says below what ohms a rail is shorted: volts over what its maker gives', () => {
    const memory = sweep.find((one) => one.net === '1V2_MEM' && one.mode === 'ohms');
    // 1.2 V and a limit of 8 A on the sheet.
    expect(memory?.shortOhms).toBeCloseTo(1.2 / 8, 2);
  });

  it('serves sheets without places or parts', () => {
    expect(makeSweep(fell).map((one) => one.net)).toContain('1V8_PRIM');
    expect(makeSweep(beck).map((one) => one.net)).toEqual(
      expect.arrayContaining(['12V_IN', '5V_SB', 'VCORE']),
    );
    expect(inputSection(beck.board)).toEqual(['12V_IN']);
  });
});

describe('shorts found cold', () => {
  it('on the way in: named once for all joined nets, with what feeds it, and no source is advised', () => {
    const job = jobOf(intake(), reading('VIN', '0.4', 'ohms'), reading('VIN_JACK', '0.6', 'ohms'));
    const { shorts } = namedShorts(cairn, judged(job));
    expect(shorts).toHaveLength(1);
    expect(shorts[0]).toMatchObject({ net: 'VIN', nets: ['VIN', 'VIN_JACK'], isOnInput: true });
    expect(shorts[0]?.fedBy).toBe('FB1 from VIN_F');
    expect(shorts[0]?.hangs).toEqual(expect.arrayContaining(['D1', 'C1', 'C2']));
    const plan = planOf(job);
    expect(plan.advice).toBe('not-yet');
    expect(plan.shorts[0]?.how).toMatch(/Do not connect/);
    expect(plan.says.join(' ')).toMatch(/Short on VIN/);
  });

  it('behind a regulator: what stays down is named, and the rail is fed below its own volts', () => {
    const job = jobOf(intake(), reading('1V2_MEM', '0.05', 'ohms'));
    const [short] = namedShorts(cairn, judged(job)).shorts;
    expect(short).toMatchObject({ net: '1V2_MEM', isOnInput: false });
    expect(short?.how).toMatch(/Memory rails/);
    expect(short?.how).toMatch(/at 1 V/);
    expect(short?.how).toMatch(/never above 1\.2 V/);
    expect(planOf(job).advice).toBe('stalls');
  });

  it('a core rail of six ohms is none, a buzzer on a 5 V rail is taken for one until ohms are read', () => {
    const core = jobOf(intake(), reading('VCORE', '6', 'ohms'));
    expect(namedShorts(cairn, judged(core)).shorts).toEqual([]);
    const buzz = jobOf(intake(), reading('5V_ALW', 'beep', 'ohms'));
    expect(namedShorts(cairn, judged(buzz)).shorts).toHaveLength(1);
    const read = jobOf(
      intake(),
      reading('5V_ALW', 'beep', 'ohms'),
      reading('5V_ALW', '6k', 'ohms'),
    );
    expect(namedShorts(cairn, judged(read)).shorts).toEqual([]);
  });

  it('a FET that conducts without its gate is named', () => {
    const at = { reference: { net: 'VA_MID', part: null, pin: null }, polarity: 'red-on-point' };
    const job = jobOf(intake(), reading('VIN', '0.01', 'diode', 'cold', at));
    expect(namedShorts(cairn, judged(job)).bridges).toMatchObject([{ part: 'PQ1' }]);
  });
});

describe('the power-up plan', () => {
  it('never says safe: it names what was read and what was not', () => {
    const plan = planOf(jobOf(intake(), reading('VMAIN', '45k', 'ohms')));
    expect(plan.advice).toBe('blind');
    expect(plan.says.join(' ')).toMatch(/No short found at VMAIN \(45 kΩ\)/);
    expect(plan.says.join(' ')).toMatch(/Not measured: .*3V3_ALW/);
    const all = JSON.stringify(planOf(jobOf(intake(), ...everyPoint())));
    expect(all).not.toMatch(/\bsafe\b/);
  });

  it('goes ahead once every point of the way in was read, and not for one that was not reached', () => {
    expect(planOf(jobOf(intake(), ...everyPoint())).advice).toBe('go');
    const unreached = jobOf(intake(), ...everyPoint(), reading('VMAIN', '?', 'ohms'));
    expect(planOf(unreached).unmeasured).toEqual(['VMAIN']);
  });

  it('prefers the bench supply, with limits a little above what the healthy board draws', () => {
    const plan = planOf(jobOf(intake({ happened: ['liquid'] })));
    expect(plan.source.id).toBe('bench');
    expect(plan.why).toMatch(/it was wet/);
    const [connect, press] = plan.steps;
    expect(connect?.amps).toBeCloseTo(cairn.play.phases.get('standby')!.sourceAmps, 6);
    expect(connect?.limitAmps).toBe(0.1);
    expect(press?.limitAmps).toBe(1);
    expect(judgeDraw(connect!, 0.027).kind).toBe('good');
    expect(judgeDraw(connect!, 0.09)).toMatchObject({ kind: 'high' });
    expect(judgeDraw(connect!, 0)).toMatchObject({ kind: 'low' });
  });

  it('knows that USB-C gives nothing at rest and negotiates up from 5 V', () => {
    const job = jobOf(intake({ board: 'fell-13', source: 'usb-c' }));
    const plan = powerPlan(fell, makeSweep(fell), job, []);
    // USB Type-C: no VBUS until attached, then 5 V; Power Delivery fixed supplies 5, 9, 15, 20 V (from memory).
    expect(plan.before[0]?.text).toMatch(/then 5 V, then 20 V.*5 V, 9 V, 15 V, 20 V/);
    expect(judgeIdleSource(plan.source, 0).kind).toBe('undecided');
    expect(judgeIdleSource(plan.source, 5).kind).toBe('odd');
  });

  it('judges an adapter that hangs on nothing, one that idles low included', () => {
    const adapter = cairn.board.sources.find((one) => one.id === 'adapter')!;
    expect(judgeIdleSource(adapter, 19.6).kind).toBe('good');
    expect(judgeIdleSource(adapter, 0.1).kind).toBe('missing');
    expect(judgeIdleSource(adapter, 24).kind).toBe('high');
    expect(judgeIdleSource(adapter, 5).kind).toBe('low');
    expect(judgeIdleSource({ ...adapter, idleVolts: 5 }, 5).kind).toBe('undecided');
  });

  it('more current with the battery than its charger is set to has a verdict of its own', () => {
    const amps = (written: string) =>
      judged(
        jobOf(
          intake(),
          reading('VBAT', written, 'amps', 'standby', {
            attached: ['battery'],
            source: { id: 'adapter', volts: null, limitAmps: null },
          }),
        ),
      )[0]?.verdict;
    expect(amps('3')?.kind).toBe('overcurrent');
    expect(whyText(amps('3')!)).toMatch(/unplug the battery now/);
    expect(amps('1.9')?.kind).toBe('good');
    expect(amps('0.15')?.kind).toBe('undecided');
  });
});

/** Every ohms point of the sweep, read as the healthy play has it. */
function everyPoint(but: (point: (typeof sweep)[number]) => string | null = () => null) {
  return sweep
    .filter((one) => one.mode === 'ohms' && one.group !== 'across')
    .map((one) =>
      reading(
        one.net,
        but(one) ??
          (one.expectation.kind === 'value' && Number.isFinite(one.expectation.value)
            ? String(Math.round(one.expectation.value * 10) / 10)
            : 'OL'),
        'ohms',
        'cold',
        one.reference ? { reference: { net: one.reference, part: null, pin: null } } : {},
      ),
    );
}

// What decides about powering: each edge from both sides. 45 kohm stands on the sheet for VMAIN, a
// third and three times of it are allowed; its source gives 4.62 A at 19.5 V, so 4.2 ohm is a short.
describe('whether a source may be connected', () => {
  const planWith = (net: string, ...written: string[]) =>
    planOf(
      jobOf(
        intake(),
        ...everyPoint((one) => (one.net === net && one.reference === null ? written[0]! : null)),
        ...written.slice(1).map((one) => reading(net, one, 'ohms')),
      ),
    );

  it.each([
    ['15.1k', 'go'],
    ['14.9k', 'again'],
    ['6', 'again'],
    ['4.3', 'again'],
    ['4.1', 'not-yet'],
    ['0.05', 'not-yet'],
    ['134k', 'go'],
    ['136k', 'again'],
    ['OL', 'again'],
    ['beep', 'not-yet'],
    // Above a kilohm may still be a third of what should be there: how much was not read.
    ['>1k', 'blind'],
    ['>44k', 'blind'],
    ['ok', 'blind'],
    ['>1', 'blind'],
    ['>200k', 'again'],
    ['<4', 'not-yet'],
    ['<20', 'not-yet'],
    ['<50k', 'blind'],
    ['?', 'blind'],
  ])('VMAIN read as %s alone: %s', (written, advice) => {
    expect(planWith('VMAIN', written).advice).toBe(advice);
  });

  it('what is odd is measured again, and read twice it stands in the way', () => {
    const once = planWith('VMAIN', '6');
    expect(once.wrong).toMatchObject([{ net: 'VMAIN', isConfirmed: false }]);
    expect(once.says.join(' ')).toContain('Measure it again');
    const twice = planWith('VMAIN', '6', '6.2');
    expect(twice.advice).toBe('not-yet');
    expect(twice.says.join(' ')).toContain('read twice');
    // A slip is mended by a good one.
    expect(planWith('VMAIN', '6', '45k').advice).toBe('go');
  });

  it('a board where every point reads OL is not one without shorts', () => {
    const open = planOf(jobOf(intake(), ...everyPoint(() => 'OL')));
    expect(open.advice).toBe('again');
    const again = jobOf(intake(), ...everyPoint(() => 'OL'), ...everyPoint(() => 'OL'));
    expect(planOf(again).advice).toBe('not-yet');
  });

  it('every stage before processor, memory and chipset is read through, and named where it is not', () => {
    const through = sweep.filter((one) => one.group === 'through');
    expect(through.map((one) => one.title.split(',')[0]).sort()).toEqual([
      'PU4',
      'PU5',
      'PU6',
      'PU8',
      'PU9',
    ]);
    const without = everyPoint().filter(
      ({ reading: { reference } }) => !(reference && 'net' in reference),
    );
    const plan = planOf(jobOf(intake(), ...without));
    expect(plan.advice).toBe('blind');
    expect(plan.unmeasured).toContain('VMAIN through PU9');
  });

  it.each([
    ['0.3', 'not-yet'],
    ['9.9', 'not-yet'],
    ['beep', 'not-yet'],
    ['10.1', 'again'],
    ['99', 'again'],
    ['101', 'go'],
    ['OL', 'go'],
    ['>5', 'blind'],
    ['>1k', 'blind'],
    ['<50k', 'blind'],
    ['?', 'blind'],
  ])('%s ohms from the feed to the coil of the core: %s', (written, advice) => {
    const [core] = sweep.filter((one) => one.group === 'through' && one.title.includes('VCORE'));
    const plan = planOf(
      jobOf(intake(), ...everyPoint((one) => (one.key === core!.key ? written : null))),
    );
    expect(plan.advice).toBe(advice);
    if (written === '0.3')
      expect(plan.says.join(' ')).toContain('No source and no battery before it is changed');
  });
});

describe('the way of the current', () => {
  it('runs from the source to a rail through every part that carries it', () => {
    const path = powerPath(cairn, '3V3_ALW' as NetId);
    expect(path[0]).toEqual({ net: 'VIN_JACK', via: null });
    expect(path.map((hop) => hop.via)).toEqual([null, 'F1', 'FB1', 'PQ1', 'PQ2', 'PR1', 'PU2']);
    expect(path.at(-1)?.net).toBe('3V3_ALW');
  });
});

describe('findings', () => {
  const finding = (part: string | null, kind = 'corrosion') => ({
    type: 'finding',
    kind,
    part,
    text: '',
  });
  const volts = (net: string, written: string) => reading(net, written, 'volts', 'standby');

  it('come by what they could do to the missing stage', () => {
    const job = jobOf(
      intake(),
      volts('VIN_JACK', '19.5'),
      volts('VIN', '19.5'),
      volts('VMAIN', '19.5'),
      volts('3V3_ALW', '0'),
      finding('C80'),
      finding('R12'),
      finding('C13'),
      finding('R81', 'missing'),
    );
    const bare = cairn.onBench({ source: 'adapter', attached: [], lifted: [] });
    const trace = traceJob(bare, job, 'boots' as GoalId);
    expect(trace.firstMissing?.net).toBe('3V3_ALW');
    const effects = findingEffects(cairn, trace, null, job.findings);
    expect(effects.map((one) => one.finding.body.part)).toEqual(['C13', 'R12', 'C80', 'R81']);
    expect(effects[0]?.text).toBe('sits on 3V3_ALW, which is missing');
    expect(effects[1]?.text).toBe('sits on EN_3V3, which 3V3_ALW needs');
    expect(effects[3]).toMatchObject({ byDesign: true });
  });

  it('come first where a rail they sit on was read as shorted, powered or not', () => {
    const job = jobOf(intake(), reading('1V8_S5', '0.4', 'ohms'), finding('J3'), finding('PU4'));
    const effects = findingEffects(
      cairn,
      traceJob(cairn, job, 'boots' as GoalId),
      null,
      job.findings,
    );
    expect(effects[0]).toMatchObject({ text: 'sits on 1V8_S5, which reads shorted' });
    expect(effects[0]?.finding.body.part).toBe('PU4');
  });

  it('a spot counts once it is tied to a part or a net, by what was said last', () => {
    const tied = (part: string | null, net: string | null): EventBody =>
      ({ type: 'tied', finding: id(3), part, net }) as EventBody;
    const said = (...more: EventBody[]) => {
      const job = jobOf(
        intake(),
        volts('3V3_ALW', '0.2'),
        eventBodySchema.parse({ type: 'finding', kind: 'corrosion', part: null, text: '' }),
        ...more,
      );
      const bare = cairn.onBench({ source: 'adapter', attached: [], lifted: [] });
      const trace = traceJob(bare, job, 'boots' as GoalId);
      return findingEffects(cairn, trace, null, job.findings)[0]!.text;
    };
    expect(said()).toBe('at no part or net yet: say which it is, and it counts');
    expect(said(tied(null, '3V3_ALW'))).toBe('sits on 3V3_ALW, which is missing');
    expect(said(tied('R12', null))).toBe('sits on EN_3V3, which 3V3_ALW needs');
    expect(said(tied('R12', null), tied(null, '3V3_ALW'))).toBe(
      'sits on 3V3_ALW, which is missing',
    );
    expect(said(tied(null, 'NO_SUCH'))).toBe('NO_SUCH is not on the sheet');
  });

  it('leave the list when they are struck out or cleared as harmless', () => {
    const job = jobOf(intake(), finding('C13'), finding('C14'), {
      type: 'harmless',
      finding: id(2),
      reason: 'flux',
    });
    const trace = traceJob(cairn, job, 'boots' as GoalId);
    expect(findingEffects(cairn, trace, null, job.findings).map((one) => one.finding.id)).toEqual([
      id(3),
    ]);
  });
});

describe('before the board is opened', () => {
  it('asks for what this board has', () => {
    const things = (board: typeof cairn.board) => simpleSteps(board).map((one) => one.thing);
    expect(things(cairn.board)).toContain('memory');
    expect(things(fell.board)).not.toContain('memory');
    expect(things(cairn.board)).toContain('other-battery');
    expect(things(beck.board)).not.toContain('other-battery');
    const items = safetySteps(beck.board, jobOf(intake())).map((one) => one.item);
    expect(items).toContain('battery-out');
    expect(items).toContain('mains-side');
  });

  it('presses for dry liquid where there was some, and names steps nobody noted', () => {
    const wet = safetySteps(cairn.board, jobOf(intake({ happened: ['liquid'] })));
    expect(wet.find((one) => one.item === 'liquids')?.pressing).toBe(true);
    const job = jobOf(intake(), { type: 'safety', item: 'battery-out', state: 'done' });
    expect(openSteps(cairn.board, job).map((one) => one.item)).not.toContain('battery-out');
    expect(openSteps(cairn.board, job).map((one) => one.item)).toContain('discharged');
  });
});
