import { describe, expect, it } from 'vitest';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import type { Board } from '../board/index.ts';
import { composeSheetText, choicesSchema } from '../first-sheet/index.ts';
import { plainBoard, plainIntake, plainJob } from '@jiko/testing';
import { openSteps, safetySteps } from './index.ts';

const cairn = plainBoard(cairnText);
const beck = plainBoard(beckText);
const without = (kind: string): Board => ({
  ...cairn,
  sources: cairn.sources.filter((one) => one.kind !== kind),
});
const firstSheet = (branches: string[]): Board =>
  plainBoard(
    composeSheetText(
      { title: 'Unknown', marking: '', choices: choicesSchema.parse({ branches }) },
      'unknown',
    ),
  );
const items = (board: Board): string[] => safetySteps(board, plainJob()).map((one) => one.item);

describe('what is asked before a board is opened', () => {
  it('stands word for word', () => {
    expect(
      safetySteps(cairn, plainJob()).map(({ kind, title, why }) => `${kind}: ${title} | ${why}`),
    ).toMatchInlineSnapshot(`
      [
        "step: Source off and unplugged, button held for ten seconds | Ohms and diode-mode on a live board read nonsense and can burn the meter.",
        "step: Battery unplugged first, before any screw near the board | It feeds the board with nothing else connected; a slip shorts cells that can burn.",
        "step: Storage out and laid aside | The owner's data is on it; a wrong rail ends it.",
        "step: Large capacitors discharged through a resistor, checked in volts | The main rail holds its charge for a while; a screwdriver across it takes parts along.",
        "step: Coin cell known: there, out, or none | It holds the clock domain up: cold readings there are wrong while it is in.",
        "step: Wrist strap and mat on | What static kills reads like what you came to find.",
        "caution: Battery looked at: not swollen, dented or hot | A swollen or pierced cell can catch fire hours later. Do not press, bend or charge it; put it outside what burns and follow your local rules for it.",
        "caution: No mains-side work: adapters and supplies stay closed | Their capacitors kill with the plug out. That work is for licensed practice, not for this tool.",
        "caution: Liquids and cleaners | A wet board is dried before power. Alcohol and spray cleaners burn: no hot air, iron or source until they are gone, and fresh air.",
        "caution: Hot air and fumes | Flux and lead fumes are drawn off, eyes covered, cells and plastic shielded; what was heated stays hot for minutes.",
        "caution: Liquid metal under the heatsink | It runs, conducts and eats aluminium. Look before wiping; keep it off the board and away from skin.",
      ]
    `);
  });

  it('storage where the board has some', () => {
    const bare = { ...cairn, attachments: cairn.attachments.filter((one) => one.id !== 'storage') };
    expect(items(cairn)).toContain('storage-out');
    expect(items(bare)).not.toContain('storage-out');
  });

  it('a coin cell where there is one, and where a sheet of rails says nothing of it', () => {
    expect(cairn.depth).toBe('full');
    expect(items(cairn)).toContain('coin-cell');
    expect(items(without('coin-cell'))).not.toContain('coin-cell');
    expect(items({ ...without('coin-cell'), depth: 'rails' })).toContain('coin-cell');
  });

  it.each([
    ['a desktop board', beck],
    ['a sheet that forgot its battery source', without('battery')],
    ['a battery as an attachment only', plainBoard(fellText)],
    ['a first sheet', firstSheet([])],
    ['a first sheet with Charging', firstSheet(['charging'])],
  ])('%s is asked for its battery, until somebody says that there is none', (_, board) => {
    const asked = (...events: object[]): string[] =>
      safetySteps(board, plainJob(plainIntake({ happened: ['drop'] }), ...events)).flatMap((line) =>
        line.item === 'battery-out' || line.item === 'swollen-cell'
          ? [`${line.item} ${line.state}${line.pressing ? ' presses' : ''}`]
          : [],
      );
    expect(asked()).toEqual(['battery-out open', 'swollen-cell open presses']);
    expect(asked({ type: 'safety', item: 'battery-out', state: 'done' })).toEqual([
      'battery-out done',
      'swollen-cell open presses',
    ]);
    expect(asked({ type: 'safety', item: 'battery-out', state: 'none-here' })).toEqual([
      'battery-out none-here',
    ]);
  });

  it('comes in the order in which it is done, each line by the name its entry has', () => {
    expect(items(cairn)).toEqual([
      'source-off',
      'battery-out',
      'storage-out',
      'discharged',
      'coin-cell',
      'esd',
      'swollen-cell',
      'mains-side',
      'liquids',
      'hot-air',
      'liquid-metal',
    ]);
  });

  it('presses for nothing before anything is known of the device', () => {
    expect(safetySteps(cairn, plainJob()).filter((one) => one.pressing !== false)).toEqual([]);
  });

  it.each([
    ['drop', 'swollen-cell'],
    ['bite', 'swollen-cell'],
    ['liquid', 'liquids'],
    ['frost', 'liquids'],
  ])('after %s it presses for %s, and for nothing else', (happened, item) => {
    const steps = safetySteps(cairn, plainJob(plainIntake({ happened: [happened] })));
    expect(steps.filter((one) => one.pressing).map((one) => one.item)).toEqual([item]);
  });

  it('cautions are no steps: they are never named as not done', () => {
    const cautions = safetySteps(cairn, plainJob()).filter((one) => one.kind === 'caution');
    const open = openSteps(cairn, plainJob()).map((one) => one.item);
    expect(cautions.map((one) => one.item).filter((item) => open.includes(item))).toEqual([]);
    expect(cautions.length + open.length).toBe(items(cairn).length);
  });
});
