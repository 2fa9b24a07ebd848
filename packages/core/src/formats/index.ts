export { spiceNetlist } from './netlist/spice.ts';
export { dictionaryCsv } from './csv/dictionary-csv.ts';
export { parseReadingsCsv, readingsCsv, type FileTrouble } from './csv/readings-csv.ts';
export { parseFindingsYaml, parseSignsYaml, type SignsFile } from './evidence-yaml.ts';
export { parseSweepPaste, type PastedSweep } from './csv/sweep-csv.ts';
export { kicadNetlist, parseKicadNetlist } from './netlist/kicad.ts';
export { ipcD356, parseIpcD356 } from './netlist/ipc-d-356.ts';
export { boardNetlist } from './netlist/board-netlist.ts';
export { blankSheet, takeNetlist } from './netlist/into-sheet.ts';
export type { Netlist, NetlistTrouble, ReadNetlist } from './netlist/netlist.ts';
export { parseTableCsv, tableCsv, takeTable } from './csv/table-csv.ts';
export {
  importFormat,
  importInto,
  largestImportCharacters,
  type Imported,
  type ImportFormat,
} from './import-file.ts';
export { sheetAsJson, sheetAsYaml } from './sheet-notation.ts';
export { parseTemperatureCsv, type TemperatureGrid } from './csv/temperature-csv.ts';
