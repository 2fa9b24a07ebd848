export { phases, poweredPhases, type Phase, type PoweredPhase } from './phase.ts';
export { meterSchema, usualMeter, type Meter } from './meter.ts';
export {
  modes,
  readingSchema,
  readingValueSchema,
  probePlaceSchema,
  type Mode,
  type Reading,
  type ReadingValue,
  type ProbePlace,
} from './reading.ts';
export {
  parseEntry,
  entryTroubleText,
  valueText,
  shortValue,
  unitOf,
  type EntryTrouble,
} from './entry-line.ts';
export {
  expectationText,
  loadingText,
  shortExpectation,
  comesFrom,
  leastGoodBoards,
  originText,
  usualTolerance,
  type Expectation,
} from './expectation.ts';
export {
  isGood,
  isBad,
  verdict,
  type Because,
  type LoadBehind,
  type Verdict,
  type VerdictKind,
} from './verdict.ts';
export { whyText } from './verdict-text.ts';
export { groundPinOhms, judge, judgeCharge, type Charge, type JudgeContext } from './judge.ts';
export { lowByNature, type Drive } from './judge-cold.ts';
export { leastCellVolts, type SeriesFeed } from './judge-volts.ts';
export { judgeAcross, type AcrossPart } from './judge-across.ts';
export {
  leadOhms,
  leastStepVolts,
  leastSwingVolts,
  nothingVolts,
  somethingVolts,
} from './meter-limits.ts';
export { judgeThrough, leastThroughOhms, type ThroughStage } from './judge-across.ts';
export type { InCircuit } from './in-circuit.ts';
export { judgeInCircuit, ohmsBehind } from './judge-in-circuit.ts';
export { askOnce, otherMoment, suits, type OtherMoment } from './moment.ts';
export { oddReading } from './plausible.ts';
export { isBrokenBetween, pinText } from './two-places.ts';
export { isProvoked, readingText, remarksText } from './remarks.ts';
export { splitRemarks, type Remarks } from './split-remarks.ts';
export {
  judgeFet,
  type FetJudgement,
  type FetReadings,
  type FetSituation,
  type FetState,
} from './fet.ts';
export { floatingVolts, lowLevelVolts } from './floating.ts';
export { makeReading, type BenchMoment, type Typed } from './make-reading.ts';
