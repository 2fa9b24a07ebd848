import { describe, expect, it } from 'vitest';
import { loadSheet, sheetIssueText, type Board, type NetId } from '../board/index.ts';
import { outcomeOf } from '../dictionary/index.ts';
import { playBoard, usualSetup } from '../play/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { sharedDictionary } from '@jiko/testing';
import type { PoweredPhase } from '../readings/index.ts';
import { faultName } from '../faults/index.ts';
import { choicesSchema, composeSheetText } from './index.ts';

// What each choice means on the bench: which rails stand before the button and which after, what a
// board of that kind has and others have not, and what breaks with what. Common practice, no source.

const made = (choices: object): Board => {
  const all = choicesSchema.parse(choices);
  const loaded = loadSheet(
    composeSheetText({ title: 'Hut board', marking: '', choices: all }, 'hut-board'),
  );
  if (!loaded.ok) throw new Error(loaded.error.map(sheetIssueText).join('\n'));
  return loaded.value;
};
const readerOf = (board: Board) => {
  const { phases } = playBoard(board, usualSetup(board));
  const idOf = (name: string): NetId | undefined =>
    board.nets.find((one) => one.id === name || one.aliases.includes(name as NetId))?.id;
  return (name: string, phase: PoweredPhase = 'standby'): number | null => {
    const net = idOf(name);
    return net === undefined ? null : (phases.get(phase)?.volts.get(net) ?? 0);
  };
};

describe('what stands before the button', () => {
  it.each([
    // A dual regulator: its two small ones and both coils.
    ['dual', { '5V_LDO': 5, '3V3_LDO': 3.3, '5V_ALW': 5, '3V3_ALW': 3.3 }],
    // Separate ones have no small rails of their own.
    ['separate', { '5V_LDO': null, '3V3_LDO': null, '5V_ALW': 5, '3V3_ALW': 3.3 }],
    // Small 3.3 V alone: both coils wait for the button.
    ['ldo-only', { '5V_LDO': null, '3V3_LDO': 3.3, '5V_ALW': 0, '3V3_ALW': 0 }],
  ] as const)('always on: %s', (alwaysOn, rails) => {
    const volts = readerOf(made({ input: 'barrel-pfet', alwaysOn }));
    for (const [net, expected] of Object.entries(rails)) {
      if (expected === null) expect(volts(net), net).toBeNull();
      else expect(volts(net), net).toBeCloseTo(expected, 1);
    }
    // After it, all of them.
    expect(volts('5V_ALW', 'run')).toBeCloseTo(5, 1);
    expect(volts('3V3_ALW', 'run')).toBeCloseTo(3.3, 1);
  });

  it.each(['5V_RUN', '3V3_RUN', 'VMEM'])('%s comes with the button, whatever is chosen', (net) => {
    for (const handshake of [null, 'chipset', 'soc', 'plain']) {
      const volts = readerOf(made({ handshake, memory: 'ddr4' }));
      expect(volts(net), `${handshake} standby`).toBeLessThan(0.3);
      expect(volts(net, 'run'), `${handshake} run`).toBeGreaterThan(1);
    }
  });
});

describe('what a choice adds', () => {
  it.each([
    // Second memory rails, JEDEC nominal volts, from memory.
    [{ memory: 'ddr3' }, '0V75_VTT', 0.75],
    [{ memory: 'ddr3l' }, '0V675_VTT', 0.675],
    [{ memory: 'ddr4' }, '2V5_VPP', 2.5],
    [{ memory: 'lpddr4x' }, '0V6_VDDQ', 0.6],
    [{ memory: 'lpddr5' }, '0V5_VDDQ', 0.5],
    [{ branches: ['fan'] }, '5V_FAN', 5],
  ] as const)('%j: %s of %f V', (choices, net, expected) => {
    const volts = readerOf(made(choices));
    expect(volts(net, 'run')).toBeCloseTo(expected, 1);
    // Nobody who did not choose it has it.
    expect(readerOf(made({}))(net)).toBeNull();
  });

  it.each([
    ['charging', 'charges', ['battery']],
    ['backlight', 'screen', ['panel']],
    ['storage', 'storage', ['storage']],
  ] as const)('%s: a goal that asks for what must be plugged in', (branch, id, withThese) => {
    const goal = made({ branches: [branch] }).goals.find((one) => one.id === id);
    expect(goal?.with).toEqual(withThese);
    expect(made({}).goals.some((one) => one.id === id)).toBe(false);
  });

  it('a light and a fan that were chosen can be seen: after the press, not before it', () => {
    const board = made({ controller: 'one', handshake: 'chipset', branches: ['lights', 'fan'] });
    const { phases } = playBoard(board, usualSetup(board));
    const seen = (phase: PoweredPhase) => {
      const { lit, turning } = phases.get(phase)!;
      return [...lit, ...turning];
    };
    expect(seen('standby')).toEqual([]);
    expect(seen('run')).toEqual(['POWER_LIGHT', 'FAN']);
    expect(made({ controller: 'one' }).parts.some((part) => part.kind === 'led')).toBe(false);
  });

  it('as many core coils as were counted, each a point at the end away from the FETs', () => {
    const coils = (phases: string | null): number =>
      made({ phases }).points.filter((one) => one.id.startsWith('core-coil-')).length;
    expect([null, '1', '2', '3', '4', '6'].map(coils)).toEqual([0, 1, 2, 3, 4, 6]);
  });
});

describe('what breaks with what', () => {
  const board = made({
    input: 'barrel-pfet',
    alwaysOn: 'dual',
    controller: 'one',
    handshake: 'chipset',
    memory: 'ddr4',
  });
  const setup = usualSetup(board);
  const dictionary = sharedDictionary(board, setup);
  const { stages } = studyHealthyBoard(board, setup);
  const missing = (name: string): string | null => {
    const at = dictionary.faults.findIndex((one) => faultName(one) === name);
    if (at < 0) throw new Error(name);
    return outcomeOf(board, stages, dictionary, dictionary.rowOf[at]!).firstMissing;
  };

  it.each([
    ['VMAIN short to ground', 'main'],
    ['5V_LDO short to ground', '5V_LDO'],
    ['5V_ALW short to ground', '5V_ALW'],
    ['3V3_ALW short to ground', '3V3_ALW'],
    ['1V8_S5 short to ground', '1V8_S5'],
    ['1V2_MEM short to ground', 'memory'],
    ['2V5_VPP short to ground', 'memory-2'],
    // A switch passes a short on to what feeds it, and what else hangs there goes first.
    ['3V3_RUN short to ground', '1V8_S5'],
    ['adapter gives nothing, or its lead is open', 'input'],
  ])('%s: first missing %s', (fault, stage) => {
    expect(missing(fault)).toBe(stage);
  });
});
