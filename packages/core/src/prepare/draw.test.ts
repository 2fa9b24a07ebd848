import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type GoalId, type StageId } from '../board/index.ts';
import { studyHealthyBoard, type HealthyBoard } from '../expectations/index.ts';
import { usualSetup } from '../play/index.ts';
import { makeDiagnoser, noEvidence, noSigns } from '../diagnosis/index.ts';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { plainBoard, sharedDictionary } from '@jiko/testing';
import { drawMeaning } from './index.ts';

const cairn = ((): HealthyBoard => {
  const loaded = loadSheet(cairnText);
  if (!loaded.ok) throw new Error('the sheet does not load');
  return studyHealthyBoard(loaded.value, usualSetup(loaded.value));
})();
const goal = cairn.board.goals[0]?.id as GoalId;
const idOf = (title: string): StageId => {
  const found = cairn.stages.find((one) => one.stage.title === title);
  if (!found) throw new Error(`no stage ${title}`);
  return found.stage.id;
};
const meaning = (regions: readonly (readonly [string | null, number])[]) =>
  drawMeaning(
    cairn.stages,
    cairn.path(goal),
    regions.map(([title, probability]) => ({
      stage: title === null ? null : idOf(title),
      probability,
    })),
  );

describe('what the signs say, in words', () => {
  it('names where it may stop, the likeliest first, and the stage before all of them', () => {
    expect(
      meaning([
        ['Memory rails', 0.5],
        ['Suspend rails', 0.3],
      ])?.text,
    ).toBe('Comes as far as 5 V always on; stops at Memory rails (50 %) or Suspend rails (30 %).');
  });

  it('that every stage comes is no stage to stop at', () => {
    const found = meaning([
      [null, 0.4],
      ['Memory rails', 0.3],
      ['Core rail', 0.2],
    ]);
    expect(found?.text).toMatch(
      /^Comes as far as .+; stops at Memory rails \(30 %\) or Core rail \(20 %\)\. Or every stage comes \(40 %\)\.$/,
    );
    expect(found?.stops.map((one) => one.title)).toEqual(['Memory rails', 'Core rail']);
    expect(meaning([[null, 0.9]])?.text).toBe('Every stage comes (90 %).');
  });

  it('may stop at the first stage, and then nothing comes before', () => {
    const found = meaning([['Power jack', 0.8]]);
    expect(found).toMatchObject({ after: null, text: 'Stops at Power jack (80 %).' });
  });

  it('what is a twentieth or less is not named, nor a fifth place', () => {
    expect(meaning([['Core rail', 0.05]])).toBeNull();
    const titles = ['Core rail', 'Memory rails', 'Suspend rails', 'Run rails', 'Main rail'];
    expect(meaning(titles.map((title, at) => [title, 0.2 - at / 100]))?.stops).toHaveLength(4);
    expect(meaning([['Core rail', 0.051]])?.stops).toHaveLength(1);
  });
});

describe('on a sheet of guesses, whose loads nobody knows', () => {
  const board = plainBoard(
    composeSheetText(
      {
        title: 'Unknown',
        marking: '',
        choices: choicesSchema.parse({
          input: 'barrel-nfet',
          alwaysOn: 'dual',
          controller: 'one',
          handshake: 'chipset',
          memory: 'ddr4',
          branches: ['charging', 'fan', 'lights'],
        }),
      },
      'unknown',
    ),
  );
  const setup = usualSetup(board);
  const { stages } = studyHealthyBoard(board, setup);
  const diagnoser = makeDiagnoser(board, stages, sharedDictionary(board, setup), setup);
  /** How likely every stage comes, by what it draws after the press; its play draws 0.36 A and more then. */
  const everyStage = (amps: number): number =>
    diagnoser
      .diagnose(
        { ...noEvidence, signs: { ...noSigns, draw: [{ phase: 'trying', amps, shape: null }] } },
        { phase: 'trying', side: '' },
        1,
      )
      .regions.find(({ stage }) => stage === null)?.probability ?? 0;

  it('a twentieth of what it draws awake is no board of which every stage comes', () => {
    const before = diagnoser
      .diagnose(noEvidence, { phase: 'trying', side: '' }, 1)
      .regions.find(({ stage }) => stage === null)!.probability;
    expect(everyStage(0.022)).toBeLessThan(before / 3);
    expect(everyStage(0.5)).toBeGreaterThan(before);
    // Less than half of the guess may be the board's own size.
    expect(everyStage(0.15)).toBeGreaterThan(0.8 * before);
  });
});
