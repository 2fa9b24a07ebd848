import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type NetId } from '../board/index.ts';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { editSheet } from '../sheet-edit/index.ts';
import { probePlace } from './index.ts';

const boardOf = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('does not load');
  return loaded.value;
};
const first = composeSheetText(
  { title: 'Hut', marking: '', choices: choicesSchema.parse({ input: 'barrel-pfet' }) },
  'hut',
);

describe('where to put the probe', () => {
  it('names parts that are on the board, the handy ones first', () => {
    const board = boardOf(cairnText);
    expect(probePlace(board, '3V3_ALW' as NetId).text).toBe('coil PL1 output side');
    expect(probePlace(board, '3V3_ALW' as NetId, ['PL1']).text).not.toContain('PL1');
  });

  it.each([
    ['3V3_ALW', '3.3 V always on'],
    ['BTN#', 'button line, pulled low by the button'],
    ['5V_ALW_IN', 'feed where it goes into the converter of 5V_ALW'],
    ['VMAIN', 'drain of the second input FET'],
    ['IN_GATE', 'gate of the first input FET'],
  ])('%s of a first sheet: %s, and no stand-in by its reference', (net, text) => {
    expect(probePlace(boardOf(first), net as NetId).text).toBe(text);
  });

  it('a chip is probed at the pin by its number where that is known', () => {
    const [pin, net] = ['OUT', 'NEW_RAIL'];
    const text = first.replace(/^nets:\n/m, `nets:\n  ${net}: { kind: rail, volts: 1.8 }\n`);
    const done = editSheet(text.replace(/^choices:[\s\S]*?(?=^\S)/m, ''), {
      do: 'add-chip',
      ref: 'U90',
      kind: 'generic',
      title: '',
      volts: null,
      pins: [{ pin, net, number: 'B2' }],
    });
    if (!done.ok) throw new Error(done.error.join());
    const board = { ...done.value.board, choices: null };
    expect(probePlace(board, net as NetId).text).toBe('U90 pin B2 (OUT)');
  });

  it('a point of ones own is where it was said to be', () => {
    const done = editSheet(first, { do: 'add-point', title: 'coil near the fan', net: '3V3_ALW' });
    if (!done.ok) throw new Error(done.error.join());
    expect(probePlace(done.value.board, '3V3_ALW' as NetId).text).toBe('coil near the fan');
  });
});
