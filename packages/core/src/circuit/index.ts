export {
  makeSolver,
  checkSolverSettings,
  type OrderCache,
  type Solver,
  type SolverSettings,
} from './operating-point.ts';
export type { OperatingPoint } from './point.ts';
export type {
  Circuit,
  Device,
  Node,
  ResistorDevice,
  SourceDevice,
  LoadDevice,
  DiodeDevice,
  FetDevice,
  BipolarDevice,
  RegulatorDevice,
} from './device.ts';
export { thermalVolts, wrightOmega, junctionCurrent, type JunctionModel } from './junction.ts';
