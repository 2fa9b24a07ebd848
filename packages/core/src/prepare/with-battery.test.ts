import { describe, expect, it } from 'vitest';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import otterText from '../../../../sheets/otter-14.yaml?raw';
import type { Source } from '../board/index.ts';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { batteryCharge, studyHealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainJob } from '@jiko/testing';
import { judgeCharge, whyText } from '../readings/index.ts';
import { benchCannotShow, withBattery } from './with-battery.ts';

const first = composeSheetText(
  { title: 'Unknown', marking: '', choices: choicesSchema.parse({ branches: ['charging'] }) },
  'unknown',
);
const cairn = studyHealthyBoard(plainBoard(cairnText));
const sourceOf = ({ board }: typeof cairn, kind: string): Source =>
  board.sources.find((one) => one.kind === kind)!;

describe('what flows into the battery', () => {
  it.each([
    ['its charger is drawn', cairnText, 2, false],
    ['its charger is not drawn', otterText, 2, true],
    ['it is an attachment only', fellText, 2, true],
    ['a first sheet with Charging', first, 2, true],
  ])('%s: 3 A says to unplug it now', (_, text, amps, isGuess) => {
    const known = batteryCharge(plainBoard(text));
    expect(known?.charge).toMatchObject({ amps, isGuess });
    const verdict = judgeCharge(3, known!.charge);
    expect(verdict.kind).toBe('overcurrent');
    expect(whyText(verdict)).toMatch(/unplug the battery now, keep away from it/);
    // What is guessed is never called good.
    expect(judgeCharge(1.5, known!.charge).kind).toBe(isGuess ? 'undecided' : 'good');
  });

  it('a stated limit is no guess of ours', () => {
    const stated = otterText.replace('kind: battery,', 'kind: battery, chargeLimit: 0.8,');
    const known = batteryCharge(plainBoard(stated));
    expect(known?.charge).toMatchObject({ amps: 0.8, isGuess: false });
    expect(judgeCharge(3, known!.charge).kind).toBe('overcurrent');
    expect(judgeCharge(0.93, known!.charge).kind).toBe('good');
    expect(judgeCharge(0.95, known!.charge).kind).toBe('overcurrent');
  });

  it('a board without battery has none', () => {
    expect(batteryCharge(plainBoard(beckText))).toBeNull();
  });
});

describe('supply and battery together', () => {
  // By hand: 11.4 V times 2 A over 19.5 V and 0.85 is 1.3756 A; with 0.16 A it is 0.11 A.
  it('what the charge draws from the source', () => {
    const step = withBattery(cairn, sourceOf(cairn, 'bench'), plainJob())!;
    const run = Math.max(...[...cairn.play.phases.values()].map((one) => one.sourceAmps ?? 0));
    expect(step.drawAmps.full - run).toBeCloseTo(1.3756, 3);
    expect(step.drawAmps.precharge - run).toBeCloseTo(0.11, 3);
    expect(step.leastLimitAmps).toBe(step.drawAmps.precharge);
    expect(step.isGuess).toBe(false);
    expect(step.formula).toMatch(/efficiency of 0\.85/);
  });

  it('a guess is said to be one', () => {
    const unknown = studyHealthyBoard(plainBoard(first));
    const step = withBattery(unknown, sourceOf(unknown, 'adapter'), plainJob())!;
    // 2 A for a board nobody knows; 11.4 V times 0.2 A over 19 V and 0.85.
    expect(step.leastLimitAmps).toBeCloseTo(2 + (11.4 * 0.2) / (19 * 0.85), 6);
    expect(step.isGuess).toBe(true);
  });

  it('none where it feeds the board itself, or there is none', () => {
    expect(withBattery(cairn, sourceOf(cairn, 'battery'), plainJob())).toBeNull();
    const none = plainJob({ type: 'safety', item: 'battery-out', state: 'none-here' });
    expect(withBattery(cairn, sourceOf(cairn, 'bench'), none)).toBeNull();
  });
});

it('a bench supply says what it cannot show, an adapter has nothing to say', () => {
  const says = benchCannotShow(cairn.board, sourceOf(cairn, 'bench'));
  expect(says).toHaveLength(4);
  expect(says.join(' ')).toMatch(/identity line of their own adapter/);
  expect(says.join(' ')).toMatch(/end of the supply, not of the board/);
  expect(benchCannotShow(cairn.board, sourceOf(cairn, 'adapter'))).toEqual([]);
});
