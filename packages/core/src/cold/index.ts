export {
  diesOf,
  makeColdBench,
  makeColdMeter,
  type ColdMeter,
  type ColdReading,
} from './cold-meter.ts';
export { makeColdSweep, readCold, type ColdReadings, type ColdSweep } from './cold-sweep.ts';
export { makeColdReader, type ColdReader, type Spot } from './cold-reader.ts';
export { compareCold } from './compare-cold.ts';
export { resistorInCircuit } from './in-circuit.ts';
