export { spiceNetlist } from './netlist/spice.ts';
export { dictionaryCsv } from './csv/dictionary-csv.ts';
