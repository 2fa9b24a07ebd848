import { expose } from 'comlink';
import { lintBoard, loadSheet, sheetIssueText, stopsUse } from '@jiko/core/board';
import { checkHealthyPlay, studyHealthyBoard } from '@jiko/core/expectations';
import { compareSheets } from '@jiko/core/sheet-edit';

/** What is wrong with a sheet, and the order its stages wake in. */
export interface SheetCheck {
  issues: { line: number; text: string; stops: boolean }[];
  /** In the order of waking; empty where the sheet cannot be played. */
  order: { id: string; title: string; phase: string; milliseconds: number | null }[];
  nets: number;
  parts: number;
  /** What differs from the sheet as it was saved, in words. */
  changes: string[];
}

function check(text: string, saved: string): SheetCheck {
  const changes = text === saved ? [] : compareSheets(saved, text);
  const loaded = loadSheet(text);
  const asLine = (issue: Parameters<typeof sheetIssueText>[0]) => ({
    line: issue.line,
    text: sheetIssueText(issue),
    stops: stopsUse(issue),
  });
  if (!loaded.ok)
    return { issues: loaded.error.map(asLine), order: [], nets: 0, parts: 0, changes };
  const board = loaded.value;
  const issues = [...lintBoard(board, text), ...checkHealthyPlay(board, text)].map(asLine);
  const order =
    board.sources.length === 0
      ? []
      : studyHealthyBoard(board).stages.map(({ stage, phase, upAtSeconds }) => ({
          id: stage.id,
          title: stage.title,
          phase: phase ?? 'never',
          milliseconds: phase === null ? null : Math.round(upAtSeconds * 1000),
        }));
  return {
    issues,
    order,
    nets: board.nets.length,
    parts: board.parts.length + board.chips.filter((one) => !one.virtual).length,
    changes,
  };
}

const worker = { check };
export type LintWorker = typeof worker;
expose(worker);
