import { describe, expect, it } from 'vitest';
import { loadSheet, type NetId, netById } from '../board/index.ts';
import { choicesSchema, composeSheetText, type Choices } from '../first-sheet/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { plainEvents, plainReading } from '@jiko/testing';
import type { Mode, Phase, ReadingValue } from '../readings/index.ts';
import { deriveJob, jobOnBoard } from '../record/index.ts';
import { chooseAgain, choicesOf, editSheet } from '../sheet-edit/index.ts';
import { namePoint, narrowChoices } from './index.ts';

const composed = (choices: object): string =>
  composeSheetText({ title: 'Hut', marking: '', choices: choicesSchema.parse(choices) }, 'hut');
const loadedOf = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('does not load');
  return loaded.value;
};
type Read = [net: string, mode: Mode, phase: Phase, value: number | ReadingValue, against?: string];
const jobOf = (...reads: Read[]) =>
  deriveJob(
    plainEvents(
      ...reads.map(([net, mode, phase, value, against]) => ({
        type: 'reading',
        supersedes: [],
        reading: plainReading(
          net,
          mode,
          phase,
          typeof value === 'number' ? { kind: 'number', value, trend: 'steady' } : value,
          { against: against ?? null },
        ),
      })),
    ),
  );

const point = editSheet(composed({ memory: 'ddr4' }), {
  do: 'add-point',
  title: 'coil',
  net: null,
});
if (!point.ok) throw new Error('no point');
const healthy = studyHealthyBoard(point.value.board);
const named = (words: string, ...reads: Read[]) =>
  namePoint(healthy, jobOf(...reads).readings, 'P1' as NetId, words);

// What a technician would say of a coil with these volts on a usual board (common practice, no source).
describe('which net a point is', () => {
  it.each([
    ['coil', [['P1', 'volts', 'standby', 5.04]], '5V_ALW'],
    [
      'coil',
      [
        ['P1', 'volts', 'standby', 0.001],
        ['P1', 'volts', 'run', 1.207],
      ],
      '1V2_MEM',
    ],
    [
      'coil',
      [
        ['P1', 'volts', 'standby', 0.001],
        ['P1', 'volts', 'run', 1.79],
      ],
      '1V8_S5',
    ],
    ['big pad at the jack', [['P1', 'volts', 'standby', 19.4]], 'DC_IN'],
    [
      'coil near the cpu',
      [
        ['P1', 'volts', 'run', 0.87],
        ['P1', 'ohms', 'cold', 9],
      ],
      'VCORE',
    ],
  ] as [string, Read[], string][])('%s with %j', (words, reads, net) => {
    expect(named(words, ...reads).candidates[0]?.net).toBe(net);
  });

  const swing = (low: number, high: number): ReadingValue => ({ kind: 'swinging', low, high });

  it('two places that swing between the same volts are one net; one that stands still is another', () => {
    // The middle of the swing is what 3V3_ALW should read: without the swing it would be called that.
    const together = named(
      'pad',
      ['5V_ALW', 'volts', 'standby', swing(1.6, 5)],
      ['3V3_ALW', 'volts', 'standby', 3.3],
      ['P1', 'volts', 'standby', swing(1.7, 4.9)],
    );
    expect(together.candidates[0]).toMatchObject({ net: '5V_ALW' });
    expect(together.candidates[0]!.probability).toBeGreaterThan(0.5);
    expect(together.candidates[0]!.because[0]).toMatch(/^swings together with 5V_ALW/);
    const still = named(
      'pad',
      ['5V_ALW', 'volts', 'standby', swing(4.8, 5.2)],
      ['P1', 'volts', 'standby', 5],
    );
    expect(still.candidates[0]!.net).not.toBe('5V_ALW');
  });

  it('probabilities are shares of one, and a doubt is said', () => {
    const { candidates, question } = named('coil', ['P1', 'volts', 'run', 3.31]);
    expect(candidates.reduce((sum, one) => sum + one.probability, 0)).toBeCloseTo(1, 6);
    const [first, second] = candidates;
    // Always on and run rail read alike while it runs: before the press they part.
    expect([first?.net, second?.net].sort()).toEqual(['3V3_ALW', '3V3_RUN']);
    expect(first!.probability).toBeLessThan(0.7);
    expect(question).toMatchObject({ mode: 'volts', phase: 'standby' });
    const settled = named('coil', ['P1', 'volts', 'run', 3.31], ['P1', 'volts', 'standby', 0]);
    expect(settled.candidates[0]).toMatchObject({ net: '3V3_RUN' });
  });

  it('one that reads as a net that was found elsewhere is asked for by leads on both, and settled by them', () => {
    const reads: Read[] = [
      ['5V_RUN', 'volts', 'run', 4.93],
      ['P1', 'volts', 'standby', 0.001],
      ['P1', 'volts', 'run', 4.931],
    ];
    const before = named('coil', ...reads).candidates[0]!;
    expect(before.net).toBe('5V_RUN');
    const joined = named('coil', ...reads, ['P1', 'ohms', 'cold', 0.2, '5V_RUN']).candidates[0]!;
    expect(joined).toMatchObject({ net: '5V_RUN' });
    expect(joined.probability).toBeGreaterThan(0.95);
    const apart = named('coil', ...reads, ['P1', 'ohms', 'cold', 4700, '5V_RUN']);
    expect(apart.candidates[0]?.net).not.toBe('5V_RUN');
  });

  it('volts no rail of the sheet has are a net it lacks', () => {
    const { candidates } = named(
      'coil',
      ['P1', 'volts', 'standby', 8.4],
      ['P1', 'volts', 'run', 8.4],
    );
    expect(candidates[0]?.net).toBeNull();
  });

  it('with nothing read it goes by the place alone and claims little', () => {
    const { candidates } = named('coil beside the memory');
    expect(candidates[0]?.net).toMatch(/MEM|VPP/);
    expect(candidates[0]!.probability).toBeLessThan(0.5);
  });
});

describe('what readings say of choices left open', () => {
  const told = (...reads: Read[]) => {
    const board = loadedOf(composed({}));
    return narrowChoices(board, choicesOf(board)!, jobOf(...reads).readings).map(
      ({ question, fits }) => [question, ...fits.map((one) => one.id)],
    );
  };
  // JEDEC volts of memory, from memory; the rest common practice, no source.
  it.each([
    [[['VMEM', 'volts', 'run', 1.207]], ['memory', 'ddr4']],
    [[['VMEM', 'volts', 'trying', 1.51]], ['memory', 'ddr3']],
    [[['VMEM', 'volts', 'run', 1.08]], ['memory', 'lpddr4x', 'lpddr5']],
    [[['DC_IN', 'volts', 'standby', 12.1]], ['input', 'desktop-standby', 'single']],
    [
      [
        ['DC_IN', 'volts', 'standby', 19.5],
        ['VMAIN', 'volts', 'standby', 12.6],
      ],
      ['input', 'bus-charger'],
    ],
    [[['5V_ALW', 'volts', 'standby', 5.03]], ['alwaysOn', 'separate', 'dual']],
    [
      [
        ['5V_ALW', 'volts', 'standby', 0],
        ['3V3_ALW', 'volts', 'standby', 0],
        ['5V_ALW', 'volts', 'run', 5.01],
      ],
      ['alwaysOn', 'ldo-only'],
    ],
    [[['1V05_S5', 'volts', 'standby', 0.78]], ['handshake', 'soc']],
    [[['1V05_S5', 'volts', 'trying', 0.92]], ['handshake', 'soc']],
    [[['1V05_S5', 'volts', 'run', 1.05]], ['handshake', 'chipset', 'soc']],
    [
      [
        ['1V8_S5', 'volts', 'run', 0.01],
        ['PLTRST#', 'volts', 'run', 3.3],
      ],
      ['handshake', 'plain'],
    ],
    [
      [
        ['3V3_ALW', 'volts', 'standby', 0],
        ['EC_RST#', 'volts', 'standby', 3.3],
      ],
      ['controller', 'one'],
    ],
    [
      [
        ['3V3_ALW', 'volts', 'standby', 0],
        ['EC_RST#', 'volts', 'standby', 0.01],
        ['EC_RST#', 'volts', 'trying', 3.3],
      ],
      ['controller', 'two'],
    ],
  ] as [Read[], string[]][])('%j', (reads, narrowed) => {
    expect(told(...reads)).toEqual([narrowed]);
  });
  it('what may as well be a fault says nothing', () => {
    expect(told(['5V_ALW', 'volts', 'standby', 0], ['3V3_ALW', 'volts', 'standby', 0])).toEqual([]);
    expect(told(['VMEM', 'volts', 'run', 0.4])).toEqual([]);
    // A suspend rail between what the two take, or gone on a board that does not run.
    expect(told(['1V05_S5', 'volts', 'run', 0.94])).toEqual([]);
    expect(told(['1V05_S5', 'volts', 'run', 0.5])).toEqual([]);
    expect(told(['1V05_S5', 'volts', 'run', 1.13])).toEqual([]);
    expect(told(['1V8_S5', 'volts', 'run', 0.01], ['PLTRST#', 'volts', 'run', 0.1])).toEqual([]);
    // A reset that is held for good, and one let go where the coils run at rest.
    expect(told(['3V3_ALW', 'volts', 'standby', 0], ['EC_RST#', 'volts', 'standby', 0.01])).toEqual(
      [],
    );
    expect(told(['EC_RST#', 'volts', 'standby', 3.3])).toEqual([]);
    expect(told()).toEqual([]);
  });
});

it('coils found on the core rail say how many phases there are at least', () => {
  let text = composed({ input: 'barrel-pfet' });
  const phasesOf = (): string[] => {
    const board = loadedOf(text);
    return narrowChoices(board, choicesOf(board)!, []).flatMap(({ question, fits }) =>
      question === 'phases' ? fits.map((one) => one.id) : [],
    );
  };
  const told = ['coil beside the processor', 'Coil 2', 'third coil', 'a capacitor'].map((title) => {
    const added = editSheet(text, { do: 'add-point', title, net: 'VCORE' });
    if (!added.ok) throw new Error(added.error.join());
    text = added.value.text;
    return phasesOf();
  });
  expect(told).toEqual([[], ['2', '3', '4', '6'], ['3', '4', '6'], ['3', '4', '6']]);
});

describe('a sheet chosen again', () => {
  const change = (text: string, choices: Choices): string => {
    const done = chooseAgain(text, choices);
    if (!done.ok) throw new Error(done.error.join(' '));
    return done.value.text;
  };
  const open = composed({});
  const openChoices = choicesOf(loadedOf(open))!;

  it('is the sheet those choices would have made', () => {
    const wanted = { input: 'barrel-nfet', alwaysOn: 'dual', memory: 'ddr4' } as const;
    const again = loadedOf(change(open, { ...openChoices, ...wanted }));
    const fresh = loadedOf(composed(wanted));
    expect(again.nets).toEqual(fresh.nets);
    expect(again.chips).toEqual(fresh.chips);
    expect(again.parts).toEqual(fresh.parts);
    expect(choicesOf(again)).toMatchObject(wanted);
  });

  it('keeps what was put in since, and what was changed by hand', () => {
    const edits = [
      { do: 'add-point', title: 'coil', net: null },
      { do: 'set-net', net: '1V8_S5', volts: '1.75', origin: 'known-good' },
      { do: 'rename-net', net: 'VMEM', to: 'VDDQ_A' },
      { do: 'set-net', net: 'VMAIN', volts: '19.2', origin: 'known-good' },
    ] as const;
    const grown = edits.reduce((text, edit) => {
      const done = editSheet(text, edit);
      if (!done.ok) throw new Error(done.error.join(' '));
      return done.value.text;
    }, open);
    const board = loadedOf(
      change(grown, { ...openChoices, alwaysOn: 'dual', input: 'barrel-pfet' }),
    );
    expect(board.points.map((one) => one.id)).toContain('P1');
    expect(netById(board, '1V8_S5')).toMatchObject({
      volts: 1.75,
      origin: 'known-good',
    });
    expect(netById(board, 'VMAIN')).toMatchObject({
      volts: 19.2,
      rangeVolts: null,
    });
    expect(netById(board, 'VDDQ_A')?.aliases).toContain('VMEM');
    expect(board.nets.some((one) => one.id === '5V_LDO')).toBe(true);
  });

  it('a sheet that was not made by choices says so', () => {
    const plain = open.replace(/choices: .*\n/, '').replace(/choices:\n(?: {2}.*\n)*/, '');
    const done = chooseAgain(plain.includes('choices') ? plain : plain, openChoices);
    expect(done.ok || done.error.join()).not.toBe('');
  });
});

describe('a job on three versions of its sheet', () => {
  it('has every reading in its place: joined, renamed, split', () => {
    const first = point.value.text;
    const job = jobOf(['1V2_MEM', 'volts', 'run', 1.2], ['P1', 'volts', 'run', 1.207]);
    const own = deriveJob([
      ...plainEvents({
        type: 'reading',
        supersedes: [],
        reading: {
          ...plainReading('P1', 'volts', 'standby', { kind: 'number', value: 0, trend: 'steady' }),
          at: { net: 'P1', part: 'P1', pin: null },
        },
      }),
    ]);
    const netsOn = (text: string): string[] =>
      [job, own].flatMap((one) =>
        jobOnBoard(loadedOf(text), one).readings.map(({ reading }) => reading.at.net),
      );
    const step = (text: string, edit: Parameters<typeof editSheet>[1]): string => {
      const done = editSheet(text, edit);
      if (!done.ok) throw new Error(done.error.join(' '));
      return done.value.text;
    };
    expect(netsOn(first)).toEqual(['1V2_MEM', 'P1', 'P1']);
    const joined = step(first, { do: 'join', point: 'P1', net: '1V2_MEM' });
    expect(netsOn(joined)).toEqual(['1V2_MEM', '1V2_MEM', '1V2_MEM']);
    const renamed = step(joined, { do: 'rename-net', net: '1V2_MEM', to: 'VDDQ' });
    expect(netsOn(renamed)).toEqual(['VDDQ', 'VDDQ', 'VDDQ']);
    const split = step(renamed, { do: 'split', point: 'P1' });
    expect(netsOn(split)).toEqual(['VDDQ', 'P1', 'P1']);
    // Read at the point while it was joined: it goes with the point.
    const while1 = deriveJob(
      plainEvents({
        type: 'reading',
        supersedes: [],
        reading: {
          ...plainReading('VDDQ', 'volts', 'run', { kind: 'number', value: 1.2, trend: 'steady' }),
          at: { net: 'VDDQ', part: 'P1', pin: null },
        },
      }),
    );
    expect(jobOnBoard(loadedOf(split), while1).readings[0]?.reading.at.net).toBe('P1');
    // What was written down stays as it was written.
    expect(job.readings[1]?.reading.at.net).toBe('P1');
  });
});
