import { describe, expect, it } from 'vitest';
import type { GoalId, NetId } from '../board/index.ts';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { studyHealthyBoard, type HealthyBoard } from '../expectations/index.ts';
import {
  plainBoard,
  plainEvents,
  plainIntake,
  plainReading,
  walkJob,
  type WalkedTrace,
} from '@jiko/testing';
import type { Mode, Phase, ReadingValue } from '../readings/index.ts';
import { deriveJob } from '../record/index.ts';

// Where a sheet made by choices may be wrong, the search looks before it names. What is expected was
// written down from common practice before it was run.

const boardOf = (choices: object): HealthyBoard =>
  studyHealthyBoard(
    plainBoard(
      composeSheetText(
        {
          title: 'Hut',
          marking: '',
          choices: choicesSchema.parse({
            input: 'barrel-pfet',
            controller: 'one',
            handshake: 'chipset',
            memory: 'ddr4',
            ...choices,
          }),
        },
        'hut',
      ),
    ),
  );
const separate = boardOf({ alwaysOn: 'separate' });
const open = boardOf({});

type Read = [net: string, mode: Mode, phase: Phase, value: number | 'swings' | 'OL'];
const valueOf = (value: Read[3]): ReadingValue =>
  value === 'swings'
    ? { kind: 'swinging', low: 0.1, high: 3 }
    : value === 'OL'
      ? { kind: 'over', limit: 40e6 }
      : { kind: 'number', value, trend: 'steady' };
const traced = (healthy: HealthyBoard, ...reads: Read[]): WalkedTrace =>
  walkJob(
    healthy,
    deriveJob([
      ...plainEvents(plainIntake({ board: 'hut', source: 'adapter' })),
      ...plainEvents(
        ...reads.map(([net, mode, phase, value]) => ({
          type: 'reading',
          supersedes: [],
          reading: {
            ...plainReading(net, mode, phase, valueOf(value)),
            source: phase === 'cold' ? null : { id: 'adapter', volts: null, limitAmps: null },
          },
        })),
      ),
    ]),
    'boots' as GoalId,
  );

const input: Read[] = [
  ['DC_IN', 'volts', 'standby', 19],
  ['DC_MID', 'volts', 'standby', 19],
  ['VMAIN', 'volts', 'standby', 19],
];
const atRest: Read[] = [
  ...input,
  ['5V_ALW', 'volts', 'standby', 5],
  ['3V3_ALW', 'volts', 'standby', 3.3],
];

describe('always-on rails that may come after the button', () => {
  const dead: Read[] = [...input, ['5V_ALW', 'volts', 'standby', 0]];

  it('are read again after the press where nobody said how they are made', () => {
    const { firstMissing, next } = traced(open, ...dead);
    expect(firstMissing).toMatchObject({ net: '5V_ALW', certain: false });
    expect(next).toMatchObject({ net: '5V_ALW', mode: 'volts', phase: 'run' });
    expect(next!.why).toContain('press it and read again');
  });

  it('are what they were taken for where somebody did', () => {
    expect(traced(separate, ...dead).next).toMatchObject({ net: '5V_ALW_IN' });
  });

  it('count as there when they come after the press, and the walk goes on', () => {
    const late = traced(open, ...dead, ['5V_ALW', 'volts', 'trying', 5.02]);
    expect(late.firstMissing).toBeNull();
    expect(late.stages.find((one) => one.stage.gives.includes('5V_ALW' as never))?.state).toBe(
      'up',
    );
    const never = traced(open, ...dead, ['5V_ALW', 'volts', 'trying', 0.01]);
    expect(never.firstMissing).toMatchObject({ net: '5V_ALW', certain: false });
    expect(never.next).toMatchObject({ net: '5V_ALW_IN' });
  });

  it('are not asked for again once one of them stood at rest', () => {
    const { next } = traced(open, ...dead, ['3V3_ALW', 'volts', 'standby', 3.31]);
    expect(next).toMatchObject({ net: '5V_ALW_IN', phase: 'standby' });
  });

  it('are not pressed for into a short that is known', () => {
    const short = traced(open, ...dead, ['5V_ALW', 'ohms', 'cold', 0.4]);
    expect(short.next).not.toMatchObject({ net: '5V_ALW', phase: 'run' });
    expect(short.firstMissing).toMatchObject({ net: '5V_ALW', pulledDown: 'surely' });
    const none = traced(open, ...dead, ['5V_ALW', 'ohms', 'cold', 40]);
    expect(none.next).toMatchObject({ net: '5V_ALW', phase: 'run' });
  });

  it('take what stands on them with them', () => {
    const { next } = traced(open, ...input, ['EC_RST#', 'volts', 'standby', 0]);
    expect(next).toMatchObject({ net: 'EC_RST#', phase: 'run' });
  });
});

describe('a feed that comes and goes', () => {
  const swinging: Read[] = [
    ...atRest,
    ['5V_RUN', 'volts', 'trying', 'swings'],
    ['5V_RUN_IN', 'volts', 'trying', 'swings'],
  ];

  it('is dragged by what it feeds more often than dead: ohms of that first', () => {
    expect(traced(separate, ...swinging).next).toMatchObject({
      net: '5V_RUN',
      mode: 'ohms',
      phase: 'cold',
    });
  });

  it.each([
    [0.99, { net: '5V_RUN', certain: true, pulledDown: 'surely' }],
    // A rail that is no core and reads an ohm or more is not shorted by that alone.
    [1.3, { net: '5V_RUN_IN' }],
  ])('%f ohms: %o', (ohms, expected) => {
    const { firstMissing } = traced(separate, ...swinging, ['5V_RUN', 'ohms', 'cold', ohms]);
    expect(firstMissing).toMatchObject(expected);
  });

  it('a feed that was never there is no such thing', () => {
    const { next } = traced(
      separate,
      ...atRest,
      ['5V_RUN', 'volts', 'trying', 0],
      ['5V_RUN_IN', 'volts', 'trying', 0],
    );
    expect(next).not.toMatchObject({ net: '5V_RUN', mode: 'ohms' });
  });
});

describe('a power-good that is missing', () => {
  const low: Read[] = [
    ...atRest,
    ['VCORE', 'volts', 'trying', 0.8],
    ['VR_PG', 'volts', 'trying', 0.01],
    ['VR_PG', 'volts', 'trying', 0.01],
  ];

  it('is seen as missing though no stage gives it; one that swings may do so with the board', () => {
    expect(traced(separate, ...low.slice(0, -1)).firstMissing).toMatchObject({ net: 'VR_PG' });
    const swings: Read[] = [...atRest, ['VR_PG', 'volts', 'trying', 'swings']];
    expect(traced(separate, ...swings).firstMissing).toBeNull();
  });

  it('of a rail whose volts are a range: is that rail pulled down?', () => {
    const { next } = traced(separate, ...low);
    expect(next).toMatchObject({ net: 'VCORE', mode: 'ohms', phase: 'cold' });
    expect(next!.why).toContain('VR_PG reports on VCORE');
  });

  it.each([
    [0.49, { net: 'VCORE', pulledDown: 'likely' }],
    [0.51, { net: 'VR_PG', pulledDown: null }],
  ])('%f ohms on the core: %o', (ohms, expected) => {
    const { firstMissing } = traced(separate, ...low, ['VCORE', 'ohms', 'cold', ohms]);
    expect(firstMissing).toMatchObject({ certain: true, ...expected });
    expect(firstMissing!.why.includes('little even for a core rail')).toBe(ohms < 0.5);
  });
});

describe('a line that lets several rails on', () => {
  const low: Read[] = [
    ...atRest,
    ['ALW_PG', 'volts', 'standby', 3.3],
    ['EC_RST#', 'volts', 'standby', 3.3],
    ['BTN#', 'volts', 'standby', 3.3],
    ['1V8_S5', 'volts', 'trying', 1.8],
    ['1V05_S5', 'volts', 'trying', 1.05],
    ['S5_PG', 'volts', 'trying', 3.3],
    ['RSMRST#', 'volts', 'trying', 3.3],
    ['SLP_S4#', 'volts', 'trying', 3.3],
    ['SLP_S3#', 'volts', 'trying', 3.3],
    ['1V2_MEM', 'volts', 'trying', 1.2],
    ['MEM_PG', 'volts', 'trying', 3.3],
    ['5V_RUN', 'volts', 'trying', 0],
    ['5V_RUN_IN', 'volts', 'trying', 5],
    ['5V_RUN_EN', 'volts', 'trying', 0],
    ['RUN_EN', 'volts', 'trying', 0],
    ['RUN_EN', 'volts', 'trying', 0],
  ];

  it('has what it lets on read cold before its maker is blamed, each once', () => {
    const first = traced(separate, ...low);
    expect(first.firstMissing).toMatchObject({ net: 'RUN_EN', certain: true });
    const asked: string[] = [];
    const reads: Read[] = [...low];
    for (let { next } = first; next; { next } = traced(separate, ...reads)) {
      expect(next).toMatchObject({ mode: 'ohms', phase: 'cold' });
      asked.push(next.net);
      reads.push([next.net, 'ohms', 'cold', 'OL']);
    }
    expect(asked.sort()).toEqual(['3V3_RUN', '5V_RUN']);
    expect(traced(separate, ...reads).firstMissing).toMatchObject({ net: 'RUN_EN' });
  });

  it('three of them at most, however many it lets on', () => {
    const plain = boardOf({ alwaysOn: 'separate', handshake: 'plain' });
    const reads: Read[] = [
      ...atRest,
      ['ALW_PG', 'volts', 'standby', 3.3],
      ['EC_RST#', 'volts', 'standby', 3.3],
      ['BTN#', 'volts', 'standby', 3.3],
      ['1V2_MEM', 'volts', 'trying', 0],
      ['memory_IN', 'volts', 'trying', 19],
      ['memory_EN', 'volts', 'trying', 0],
      ['RUN_EN', 'volts', 'trying', 0],
      ['RUN_EN', 'volts', 'trying', 0],
    ];
    const asked = new Set<string>();
    for (let { next } = traced(plain, ...reads); next; { next } = traced(plain, ...reads)) {
      expect(next).toMatchObject({ mode: 'ohms', phase: 'cold' });
      asked.add(next.net);
      reads.push([next.net, 'ohms', 'cold', 'OL']);
    }
    expect(asked.size).toBe(3);
    expect(traced(plain, ...reads).firstMissing).toMatchObject({ net: 'RUN_EN', certain: true });
  });

  it('and the one that is shorted is what is missing', () => {
    const { firstMissing, next } = traced(separate, ...low, ['3V3_RUN', 'ohms', 'cold', 0.3]);
    expect(firstMissing).toMatchObject({ net: '3V3_RUN', certain: true, pulledDown: 'surely' });
    expect(next).toBeNull();
  });
});

describe('the way to a converter is a guess', () => {
  const dead: Read[] = [
    ...input,
    ['1V05_S5', 'volts', 'trying', 0],
    ['1V05_S5_IN', 'volts', 'trying', 0],
  ];

  it('an always-on rail that was not read may lead there too', () => {
    const { firstMissing, next } = traced(separate, ...dead);
    expect(firstMissing).toMatchObject({ net: '1V05_S5_IN', certain: false });
    expect(next).toMatchObject({ net: '5V_ALW', phase: 'standby' });
    const missing = traced(separate, ...dead, ['5V_ALW', 'volts', 'standby', 0]);
    expect(missing.firstMissing).toMatchObject({ net: '5V_ALW' });
  });

  it('with both there it is what leads to that pin', () => {
    const { firstMissing } = traced(separate, ...dead, ...atRest);
    expect(firstMissing).toMatchObject({ net: '1V05_S5_IN', certain: true });
  });

  it('what a rail is made from does not hang on that rail', () => {
    const { firstMissing } = traced(
      separate,
      ...input,
      ['5V_ALW', 'volts', 'standby', 0],
      ['5V_ALW_IN', 'volts', 'standby', 0],
      ['3V3_ALW', 'volts', 'standby', 3.3],
    );
    expect(firstMissing).toMatchObject({ net: '5V_ALW_IN', certain: true });
  });
});

describe('the line behind a pin that lets a converter on', () => {
  const down: Read[] = [...atRest, ['5V_RUN', 'volts', 'run', 0], ['5V_RUN_IN', 'volts', 'run', 5]];
  const asked = (...reads: Read[]) => traced(separate, ...down, ...reads).next;

  it('is read first while a power-good it waits for was not read', () => {
    expect(asked()).toMatchObject({ net: 'RUN_EN', why: 'RUN_EN leads to the enable of 5V_RUN' });
    // Low, it is what is missing; the pin behind it need not be read.
    const low = traced(separate, ...down, ['RUN_EN', 'volts', 'run', 0]);
    expect(low.firstMissing?.net).toBe('RUN_EN');
    expect(low.next?.net).not.toBe('5V_RUN_EN');
    // There, the pin may still be cut off from it.
    expect(asked(['RUN_EN', 'volts', 'run', 3.3])?.net).toBe('5V_RUN_EN');
  });

  it('is read after the pin once all it waits for stands', () => {
    const goods = healthyGoods('RUN_EN').map((net): Read => [net, 'volts', 'run', 3.3]);
    expect(goods.length).toBeGreaterThan(0);
    expect(asked(...goods)).toMatchObject({
      net: '5V_RUN_EN',
      why: '5V_RUN_EN is the enable of 5V_RUN',
    });
    expect(asked(...goods.slice(1))?.net).toBe('RUN_EN');
  });

  const healthyGoods = (line: string): string[] =>
    separate.upstream
      .of(line as NetId)
      .filter((one) => one.role === 'power-good')
      .map((one) => one.net);
});

it('nothing read once at a rail with all it needs is read again, also where its power-good is low', () => {
  const down: Read[] = [
    ...atRest,
    ['1V2_MEM', 'volts', 'run', 0],
    ['memory_IN', 'volts', 'run', 5],
    ['memory_EN', 'volts', 'run', 3.3],
  ];
  // The search may have come from that power-good: it is no witness.
  for (const more of [[], [['MEM_PG', 'volts', 'run', 0] as Read]])
    expect(traced(separate, ...down, ...more).next).toMatchObject({
      net: '1V2_MEM',
      mode: 'volts',
    });
});

it('two readings that contradict each other are decided in the phase they were taken in', () => {
  const { next } = traced(
    separate,
    ...atRest,
    ['1V05_S5', 'volts', 'trying', 0],
    ['1V05_S5_IN', 'volts', 'trying', 0],
    ['1V05_S5_IN', 'volts', 'trying', 19],
  );
  expect(next).toMatchObject({ net: '1V05_S5_IN', phase: 'trying' });
  expect(next!.decides).toHaveLength(2);
});

it('a rail that stands too high is not asked whether something pulls it down', () => {
  const reads: Read[] = [
    ...atRest,
    ['1V8_S5', 'volts', 'trying', 3.3],
    ['1V8_S5_IN', 'volts', 'trying', 5],
    ['1V8_S5_EN', 'volts', 'trying', 3.3],
  ];
  const { firstMissing, next } = traced(separate, ...reads);
  expect(firstMissing).toMatchObject({ net: '1V8_S5', certain: true });
  expect(firstMissing!.why).toContain('something holds 1V8_S5 up');
  expect(next).toBeNull();
});
