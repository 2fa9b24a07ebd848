import { expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { attachmentOf, loadSheet, takeOff, type Board } from './index.ts';

const loaded = loadSheet(cairnText);
if (!loaded.ok) throw new Error('the sheet does not load');
const board: Board = loaded.value;
const on = board.chips.find((chip) => chip.on === 'battery')?.ref;

it('a part of an attachment is changed with it, never taken off', () => {
  const gauge = { ...board.chips[0]!, ref: 'UB1' as never, on: 'battery' };
  const with_ = { ...board, chips: [...board.chips, gauge] };
  expect(attachmentOf(with_, 'UB1')).toBe('battery');
  expect(takeOff(with_, 'UB1')).toEqual({
    seconds: null,
    why: 'it is in the battery: unplug that, and change it whole',
  });
  expect(attachmentOf(board, 'C14')).toBeNull();
  expect(on === undefined || takeOff(board, on).seconds === null).toBe(true);
});

it('what has its joints below is not taken off to see; the rest by size', () => {
  expect(takeOff(board, 'U40').why).toMatch(/grid below it/);
  const seconds = ['C14', 'PL3', 'PU4'].map((ref) => takeOff(board, ref).seconds);
  expect(seconds).toEqual([240, 420, 1200]);
  expect(takeOff(board, 'X99').seconds).toBeNull();
});
