export { spiceNetlist } from './netlist/spice.ts';
