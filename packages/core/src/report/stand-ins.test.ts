import { expect, it } from 'vitest';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainEvents, plainIntake } from '@jiko/testing';
import { buildReport, printedMarkdown, technicianReport } from './index.ts';

it('names that stand for parts nobody has found are said to be that, where the report uses them', () => {
  const choices = choicesSchema.parse({ input: 'barrel-pfet', alwaysOn: 'dual' });
  const board = plainBoard(composeSheetText({ title: 'Unknown', marking: '', choices }, 'unknown'));
  const written = (...bodies: unknown[]): string =>
    printedMarkdown(
      technicianReport(
        buildReport(
          studyHealthyBoard(board),
          plainEvents(plainIntake({ board: board.id }), ...bodies),
        ),
      ),
    );
  const removed = { type: 'repair', action: 'removed', parts: ['ON_5V_ALW'], text: '' };
  expect(written(removed)).toContain('- ON\\_5V\\_ALW: stands for what lets it on');
  expect(written(removed)).not.toContain('ON\\_3V3\\_ALW');
  expect(written()).not.toContain('Names that stand for');
});
