export { editSheet, type EditedSheet } from './edit-sheet.ts';
export type { SheetEdit } from './edits.ts';
export { compareSheets } from './compare-sheets.ts';
export { chooseAgain, choicesOf } from './choose-again.ts';
