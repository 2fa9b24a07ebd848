// What the tests of first sheets share: sheets made of choices, and choices that meet every pair.
import { expect } from 'vitest';
import { lintBoard, loadSheet, sheetIssueText, type Board } from '../board/index.ts';
import { checkHealthyPlay } from '../expectations/index.ts';
import { branches, choicesSchema, composeSheetText, questions, type Choices } from './index.ts';

export const made = (choices: Choices): { text: string; board: Board } => {
  const text = composeSheetText({ title: 'Hut board', marking: 'HB-2', choices }, 'hut-board');
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(loaded.error.map(sheetIssueText).join('\n'));
  return { text, board: loaded.value };
};

/** Every pair of options of the first four questions stands together in one of these. */
export function everyPair(): Choices[] {
  const ids = questions.slice(0, 4).map(({ options }) => [null, ...options.map((one) => one.id)]);
  const list: Choices[] = [];
  // 8 x 4 x 4 x 4 options in 128 rows; that every pair is among them is checked below.
  for (const [at, input] of ids[0]!.entries())
    for (let b = 0; b < 4; b++)
      for (let c = 0; c < 4; c++) {
        list.push(
          choicesSchema.parse({
            input,
            alwaysOn: ids[1]![b],
            controller: ids[2]![c],
            handshake: ids[3]![(b + c + at) % 4],
            memory: [null, 'ddr3', 'ddr3l', 'ddr4', 'ddr5', 'lpddr4x', 'lpddr5'][list.length % 7],
            phases: [null, '1', '2', '3', '4', '6'][list.length % 6],
            branches: branches
              .map((one) => one.id)
              .filter((_, bit) => (list.length >> bit) % 2 === 0),
          }),
        );
      }
  return list;
}

/** A sheet loads, lints clean, plays and reaches its goals. */
export function expectSound(choices: Choices): void {
  const { text, board } = made(choices);
  const doubts = [...lintBoard(board, text), ...checkHealthyPlay(board, text)].map(sheetIssueText);
  expect({ choices, doubts }).toEqual({ choices, doubts: [] });
}
