export { editSheet, type EditedSheet } from './edit-sheet.ts';
export type { SheetEdit } from './edits.ts';
export { compareSheets } from './compare-sheets.ts';
