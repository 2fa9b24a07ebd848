import { netById } from '../board/index.ts';
import { describe, expect, it } from 'vitest';
import { studyHealthyBoard } from '../expectations/index.ts';
import { boardIdFrom, choicesSchema, leftOpen, nothingChosen, questions } from './index.ts';
import { everyPair, expectSound, made } from './test-choices.ts';

describe('a first sheet made by choices', () => {
  it('is tried with every pair of options of the first four questions', () => {
    const four = ['input', 'alwaysOn', 'controller', 'handshake'] as const;
    const met = new Set(
      everyPair().flatMap((one) =>
        four.flatMap((a) => four.map((b) => `${a} ${one[a]} ${b} ${one[b]}`)),
      ),
    );
    const options = four.map((_, at) => questions[at]!.options.length + 1);
    const pairs = options.flatMap((a, at) => options.map((b, other) => (at === other ? a : a * b)));
    expect(met.size).toBe(pairs.reduce((sum, one) => sum + one, 0));
  });

  it('loads, lints clean, plays and reaches its goals: of every ninth pair of choices', () => {
    for (const choices of everyPair().filter((_, at) => at % 9 === 0)) expectSound(choices);
  });

  it('says of every net where its volts come from, and which figures are guesses', () => {
    const { board, text } = made(nothingChosen);
    expect(board.guessed).toEqual(['loads', 'limits', 'times']);
    for (const net of board.nets)
      if (net.kind !== 'ground')
        expect([net.id, net.origin]).toEqual([
          net.id,
          expect.stringMatching(/guess|rule-of-thumb/),
        ]);
    expect(text).toContain('Way in: left open.');
    expect(leftOpen(nothingChosen)).toHaveLength(6);
  });

  it('comes in the order boards wake in', () => {
    const order = (choices: object): string[] =>
      studyHealthyBoard(made(choicesSchema.parse(choices)).board).stages.map((one) => one.stage.id);
    expect(
      order({
        input: 'barrel-pfet',
        alwaysOn: 'dual',
        controller: 'one',
        handshake: 'chipset',
        memory: 'ddr4',
      }),
    ).toEqual(
      // oxfmt-ignore
      ['input', 'main', '5V_LDO', '3V3_LDO', '5V_ALW', '3V3_ALW', 'button', 'ec-reset', '1V8_S5',
        '1V05_S5', 'rsmrst', 'sleep', 'memory', 'memory-2', '5V_RUN', '3V3_RUN', 'core', 'pwrok',
        'reset'],
    );
  });

  // JEDEC nominal volts, from memory.
  it.each([
    ['ddr3', '1V5_MEM', 1.5],
    ['ddr3l', '1V35_MEM', 1.35],
    ['ddr4', '1V2_MEM', 1.2],
    ['lpddr4x', '1V1_MEM', 1.1],
    ['lpddr5', '1V05_MEM', 1.05],
    ['ddr5', '5V_MEM', 5],
  ])('%s: %s of %f V, found under VMEM too', (memory, net, volts) => {
    const { board } = made(choicesSchema.parse({ memory }));
    expect(netById(board, net)).toMatchObject({ volts, aliases: ['VMEM'] });
  });

  it('draws its input FETs, whose body diodes show when they stay off', () => {
    const { board } = made(choicesSchema.parse({ input: 'barrel-nfet', inputVolts: 19.5 }));
    const { play } = studyHealthyBoard(board);
    const volts = (net: string): number => play.phases.get('run')?.volts.get(net as never) ?? 0;
    // Source followers: on with the gate about 5 V above (common practice, no source).
    expect(volts('IN_GATE') - volts('DC_IN')).toBeGreaterThan(4.5);
    expect(volts('VMAIN')).toBeGreaterThan(19.3);
  });
});

describe('the id of a new board', () => {
  it.each([
    ['Rime 15 (new)', [], 'rime-15-new'],
    ['Rime 15', ['rime-15'], 'rime-15-2'],
    ['Ü', [], 'board-u'],
    ['山', [], 'board'],
    ['x'.repeat(80), [], 'x'.repeat(36)],
  ])('%s', (title, taken, id) => {
    expect(boardIdFrom(title, new Set(taken))).toBe(id);
  });
});
