export { editSheet, type EditedSheet } from './edit-sheet.ts';
export type { SheetEdit } from './edits.ts';
export { compareSheets } from './compare-sheets.ts';
export { layOver, type LaidOver } from './lay-over.ts';
export { chooseAgain, choicesOf } from './choose-again.ts';
export {
  tables,
  pinCells,
  rowsOf,
  pinRowsOf,
  withRows,
  withPinRows,
  type SheetRow,
  type SheetTable,
} from './tables.ts';
export { copySheet } from './copy-sheet.ts';
export { mergeNets, renameNet } from './rename-net.ts';
export { feedOf } from './feed-of.ts';
