import { describe, expect, it } from 'vitest';
import { plainIntake, plainJob, plainReading } from '@jiko/testing';
import beck from '../../../../../sheets/beck-mini.yaml?raw';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../../sheets/fell-13.yaml?raw';
import otter from '../../../../../sheets/otter-14.yaml?raw';
import wren from '../../../../../sheets/wren-5.yaml?raw';
import { loadSheet, type GoalId, type NetId } from '../../board/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { parseFault, withFaults } from '../../faults/index.ts';
import { attachedIn, playBoard, usualSetup } from '../../play/index.ts';
import type { TriedThing } from '../../record/index.ts';
import { traceJob, type Lacking } from '../../trace/index.ts';
import { checksAfterRails, nextAfterRails, nextStep } from '../index.ts';
import { mostOrderWords } from './order-text.ts';

interface Script {
  name: string;
  sheet: string;
  goal: string;
  /** The draw after the press as a share of what the sheet says; null: nobody wrote it down. */
  draw: number | null;
  seen?: object;
  /** Asked and answered at the Door. */
  tried?: Partial<Record<TriedThing, 'no-change' | 'cannot'>>;
  isChecked?: true;
  fault?: string;
  /** What is to be among the first five proposals: something to try, a net to read, or that it works. */
  truth: TriedThing | { read: string } | 'reached';
}

// Written down before the order of the checks was run (common practice, no source).
const scripts: Script[] = [
  {
    name: 'the reset held low',
    sheet: cairn,
    goal: 'boots',
    draw: null,
    seen: { picture: false },
    fault: 'U40.PLTRST:stuck-low',
    truth: { read: 'PLTRST#' },
  },
  {
    name: 'a clock chip that gives nothing',
    sheet: wren,
    goal: 'boots',
    // At first a hidden dead clock chip: the sheet draws a processor that does without it.
    draw: 0.4,
    isChecked: true,
    truth: 'clock',
  },
  {
    name: 'wrong contents of the flash',
    sheet: otter,
    goal: 'boots',
    draw: 0.4,
    seen: { picture: false },
    tried: { settings: 'no-change' },
    truth: 'flash',
  },
  {
    name: 'a bad module',
    sheet: cairn,
    goal: 'boots',
    draw: 0.4,
    seen: { picture: false },
    truth: 'memory',
  },
  {
    name: 'a dead panel',
    sheet: cairn,
    goal: 'screen',
    draw: 1,
    seen: { picture: false },
    truth: 'other-panel',
  },
  {
    name: 'a cable worn at the hinge, and no other panel in the house',
    sheet: cairn,
    goal: 'screen',
    draw: 1,
    seen: { picture: false },
    tried: { 'other-panel': 'cannot' },
    truth: 'panel-cable',
  },
  {
    name: 'no light behind the picture',
    sheet: cairn,
    goal: 'boots',
    draw: 1,
    seen: { picture: false },
    truth: 'light',
  },
  {
    name: 'a dead drive',
    sheet: cairn,
    goal: 'storage',
    draw: 1,
    seen: { picture: true },
    isChecked: true,
    truth: 'other-storage',
  },
  {
    name: 'a cracked processor',
    sheet: fell,
    goal: 'boots',
    draw: 0.4,
    isChecked: true,
    tried: { settings: 'no-change', 'needed-only': 'no-change' },
    truth: 'processor',
  },
  {
    name: 'nothing wrong',
    sheet: beck,
    goal: 'boots',
    draw: 1,
    seen: { picture: true },
    truth: 'reached',
  },
];

const mostProposals = 5;

/** What is proposed one after the other once every rail on the way was read as good. */
function proposalsOf({ sheet, goal, draw, seen = {}, tried = {}, isChecked, fault }: Script) {
  const loaded = loadSheet(sheet);
  if (!loaded.ok) throw new Error('a sheet does not load');
  const board = loaded.value;
  const setup = usualSetup(board);
  const healthy = studyHealthyBoard(board, setup);
  const attached = attachedIn(board, setup);
  const parsed = fault === undefined ? null : parseFault(board, fault);
  if (parsed && !parsed.ok) throw new Error(JSON.stringify(parsed.error));
  const play = playBoard(parsed ? withFaults(board, [parsed.value]) : board, setup);
  const read = (net: string, phase: 'standby' | 'run'): unknown => ({
    type: 'reading',
    supersedes: [],
    reading: plainReading(
      net,
      'volts',
      phase,
      {
        kind: 'number',
        value: Number((play.phases.get(phase)!.volts.get(net as NetId) ?? 0).toFixed(3)),
        trend: 'steady',
      },
      { attached },
    ),
  });
  const usual = healthy.play.phases.get('run')?.sourceAmps ?? 0;
  const entries: unknown[] = [
    plainIntake({ board: board.id, goal, source: setup.source }),
    {
      type: 'sign',
      phase: 'run',
      drawAmps: draw === null ? null : draw * usual,
      drawShape: draw === null ? null : 'steady',
      seen,
      text: '',
    },
    ...Object.entries(tried).map(([thing, result]) => ({ type: 'tried', thing, result })),
    // Rails are read before signals: those are what a proposal is for.
    ...healthy
      .path(goal as GoalId)
      .flatMap(({ stage, phase }) =>
        stage.gives
          .filter(
            (net) =>
              fault === undefined ||
              board.nets.some((one) => one.id === net && one.kind === 'rail'),
          )
          .map((net) => read(net, phase === 'standby' ? 'standby' : 'run')),
      ),
    ...(isChecked ? [{ type: 'verify', item: 'goal', result: 'failed', text: '' }] : []),
  ];
  const proposed: string[] = [];
  while (proposed.length < mostProposals) {
    const job = plainJob(...entries);
    const trace = traceJob(healthy, job, goal as GoalId);
    const step = nextStep(board, trace, null, 'shortest', []);
    if (step.kind === 'check') {
      proposed.push(step.check.thing);
      entries.push({ type: 'tried', thing: step.check.thing, result: 'no-change' });
      continue;
    }
    const probe =
      step.kind === 'in-order' ? step.probe : step.kind === 'telling' ? step.proposal : null;
    proposed.push(
      probe ? `read ${probe.net}` : step.kind === 'test' ? step.suspect.title : step.kind,
    );
    if (probe?.mode !== 'volts') break;
    entries.push(read(probe.net, probe.phase === 'standby' ? 'standby' : 'run'));
  }
  return proposed;
}

describe('every rail is good, and it does not do what it was brought for', () => {
  it.each(scripts)('$name: the true step is among the first five', (script) => {
    const { truth } = script;
    const proposed = proposalsOf(script);
    expect(proposed).toContain(typeof truth === 'string' ? truth : `read ${truth.read}`);
    // Nothing is asked twice while nothing on the board was changed.
    expect(new Set(proposed).size).toBe(proposed.length);
  });
});

describe('what is tried while all rails are good', () => {
  const boardOf = (sheet: string) => {
    const loaded = loadSheet(sheet);
    if (!loaded.ok) throw new Error('a sheet does not load');
    return loaded.value;
  };
  const board = boardOf(cairn);
  const lacking = (more: Partial<Lacking> = {}): Lacking => ({
    what: 'picture',
    runsCode: null,
    isFaint: false,
    answers: new Map(),
    ...more,
  });
  const things = (of: Lacking, on = board) => checksAfterRails(on, of).map(({ thing }) => thing);

  it('is an order of at most twelve words, with the caution of what is done', () => {
    const all = (['picture', 'start', 'storage', 'charge'] as const).flatMap((what) =>
      [true, false, null].flatMap((runsCode) =>
        checksAfterRails(board, lacking({ what, runsCode })),
      ),
    );
    for (const { order } of all)
      expect(order.split(/\s+/).length).toBeLessThanOrEqual(mostOrderWords);
    const cautions = Object.fromEntries(all.map(({ thing, caution }) => [thing, caution]));
    const plug = 'Source off and battery unplugged before anything is plugged or unplugged.';
    const programmer =
      'The programmer gives the volts of the flash, with the source off and the battery unplugged. A wire to a reset is put on with everything off.';
    expect(cautions).toEqual({
      'other-panel': plug,
      light: null,
      'panel-cable': plug,
      memory: plug,
      settings: plug,
      'needed-only': `${plug} Never let a processor run without its cooler.`,
      clock: 'The board is live: one probe at a time.',
      flash: programmer,
      firmware:
        'Source off, battery out. The programmer gives the volts of the flash, never more; a clip feeds the whole rail backwards. The old contents are saved first: identity and settings of the board live in them.',
      'other-storage': plug,
      'other-battery': plug,
      'battery-contacts': plug,
      processor:
        'Never let a processor run without its cooler. Parts get hot enough to burn: a thermometer or a camera, not a finger.',
    });
  });

  it('says where on this board, where the sheet says it', () => {
    const at = (sheet: string, thing: TriedThing) =>
      checksAfterRails(boardOf(sheet), lacking({ what: 'start' })).find(
        (one) => one.thing === thing,
      )?.at;
    expect(at(wren, 'clock')).toBe('U6 (clock)');
    expect(at(cairn, 'flash')).toBe('U22 (firmware flash)');
    expect(at(beck, 'flash')).toBeNull();
  });

  it('leaves out what the board has not, and the torch where the faint picture was seen', () => {
    expect(things(lacking())).toContain('memory');
    expect(things(lacking(), boardOf(fell))).not.toContain('memory');
    expect(things(lacking({ isFaint: true }))).not.toContain('light');
  });

  it('the processor comes last, and no panel before the contents where no code runs', () => {
    for (const what of ['picture', 'start', 'storage'] as const)
      for (const runsCode of [true, false, null])
        expect(things(lacking({ what, runsCode })).at(-1)).toBe('processor');
    const order = things(lacking({ runsCode: false }));
    expect(order.indexOf('other-panel')).toBeGreaterThan(order.indexOf('firmware'));
    expect(things(lacking({ runsCode: true }))[0]).toBe('other-panel');
  });

  it('what helped stays first; what cannot be done is passed; after the last nothing is left', () => {
    const next = (...answers: (readonly [TriedThing, 'no-change' | 'helped' | 'cannot'])[]) =>
      nextAfterRails(board, lacking({ answers: new Map(answers) }))?.thing ?? null;
    expect(next()).toBe('other-panel');
    expect(next(['other-panel', 'cannot'])).toBe('light');
    expect(next(['other-panel', 'no-change'], ['memory', 'helped'])).toBe('memory');
    expect(next(...things(lacking()).map((thing) => [thing, 'no-change'] as const))).toBeNull();
  });
});

describe('whether it is lacking', () => {
  const loaded = loadSheet(cairn);
  if (!loaded.ok) throw new Error('a sheet does not load');
  const setup = usualSetup(loaded.value);
  const healthy = studyHealthyBoard(loaded.value, setup);
  const attached = attachedIn(loaded.value, setup);
  const usual = healthy.play.phases.get('run')!.sourceAmps;
  const lacking = (goal: string, ...entries: unknown[]) => {
    const net = goal === 'boots' ? ['PLTRST#'] : ['3V3_SSD', 'BUF_PLTRST#'];
    const job = plainJob(
      plainIntake({ goal }),
      ...net.map((one) => ({
        type: 'reading',
        supersedes: [],
        reading: plainReading(
          one,
          'volts',
          'run',
          { kind: 'number', value: 3.3, trend: 'steady' },
          { attached },
        ),
      })),
      ...entries,
    );
    const { lacking: found, goalReached } = traceJob(healthy, job, goal as GoalId);
    expect(goalReached).toBe(found === null);
    return found;
  };
  const sign = (seen: object, drawAmps: number | null = null): unknown => ({
    type: 'sign',
    phase: 'run',
    drawAmps,
    drawShape: drawAmps === null ? null : 'steady',
    seen,
    text: '',
  });
  const checked = (result: string): unknown => ({ type: 'verify', item: 'goal', result, text: '' });
  const repair = { type: 'repair', action: 'replaced', parts: ['C64'], text: '' };

  it('is said by the last look at the picture, or by the check of the goal', () => {
    expect(lacking('boots')).toBeNull();
    expect(lacking('boots', sign({ picture: false }))?.what).toBe('picture');
    expect(lacking('boots', sign({ picture: false }), sign({ picture: true }))).toBeNull();
    expect(lacking('boots', checked('failed'))?.what).toBe('start');
    expect(lacking('boots', sign({ picture: false }), checked('passed'))).toBeNull();
    expect(lacking('boots', sign({ faintPicture: true }))?.isFaint).toBe(true);
    // A drive is not looked for on the screen.
    expect(lacking('storage', sign({ picture: false }))).toBeNull();
    expect(lacking('storage', checked('failed'))?.what).toBe('storage');
  });

  it('sends nobody to power a board of which any rail is known to be shorted', () => {
    const cold = (ohms: number): unknown => ({
      type: 'reading',
      supersedes: [],
      reading: plainReading(
        '3V3_WLAN',
        'ohms',
        'cold',
        { kind: 'number', value: ohms, trend: 'steady' },
        { attached },
      ),
    });
    const stepAfter = (ohms: number) => {
      const job = plainJob(
        plainIntake({ goal: 'boots' }),
        {
          type: 'reading',
          supersedes: [],
          reading: plainReading(
            'PLTRST#',
            'volts',
            'run',
            { kind: 'number', value: 3.3, trend: 'steady' },
            { attached },
          ),
        },
        cold(ohms),
        sign({ picture: false }),
      );
      return nextStep(loaded.value, traceJob(healthy, job, 'boots' as GoalId), null, 'walk', [])
        .kind;
    };
    expect(stepAfter(1500)).toBe('check');
    expect(stepAfter(0.1)).not.toBe('check');
  });

  it('whether code runs is told by beeps and by the draw', () => {
    const code = (...entries: unknown[]) =>
      lacking('boots', sign({ picture: false }), ...entries)?.runsCode;
    expect(code()).toBeNull();
    expect(code(sign({}, usual))).toBe(true);
    expect(code(sign({}, usual * 0.66))).toBe(false);
    expect(code(sign({}, usual * 0.68))).toBe(true);
    expect(code(sign({ beeps: '3 short' }, usual * 0.4))).toBe(true);
    expect(code(sign({ beeps: 'none' }, usual * 0.4))).toBe(false);
  });

  it('what was tried counts until something on the board is changed', () => {
    const tried = { type: 'tried', thing: 'memory', result: 'no-change' };
    const answers = (...entries: unknown[]) => lacking('boots', ...entries)?.answers.get('memory');
    expect(answers(tried, checked('failed'))).toBe('no-change');
    const read = {
      type: 'reading',
      supersedes: [],
      reading: plainReading(
        'PLTRST#',
        'volts',
        'run',
        { kind: 'number', value: 3.3, trend: 'steady' },
        { attached },
      ),
    };
    expect(lacking('boots', tried, repair, read, checked('failed'))).not.toBeNull();
    expect(answers(tried, repair, read, checked('failed'))).toBeUndefined();
  });
});
