export { spiceNetlist } from './netlist/spice.ts';
export { dictionaryCsv } from './csv/dictionary-csv.ts';
export { parseReadingsCsv, type FileTrouble } from './csv/readings-csv.ts';
export { parseFindingsYaml, parseSignsYaml, type SignsFile } from './evidence-yaml.ts';
export { parseSweepPaste, type PastedSweep } from './csv/sweep-csv.ts';
