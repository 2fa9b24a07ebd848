export { simpleSteps, leadOhms, type SimpleStep, type SimpleThing } from './simple-things.ts';
export { hasNoBattery, safetySteps, openSteps, type SafetyStep } from './make-safe.ts';
export { type WithBattery } from './with-battery.ts';
export { powerPath, type PathHop } from './power-path.ts';
export {
  ampsRangeText,
  drawMeaning,
  drawStops,
  type AmpsRange,
  type DrawMeaning,
  type DrawStop,
} from './draw.ts';
export { shortList } from './short-list.ts';
export { inputSection, makeSweep, type SweepPoint } from './sweep.ts';
export { lastCold, namedShorts, type NamedBridge, type NamedShort } from './shorts.ts';
export {
  judgeDraw,
  judgeIdleSource,
  pathToCheck,
  powerPlan,
  type PlanStep,
  type PowerPlan,
} from './power-plan.ts';
export { findingEffects, type FindingEffect } from './finding-effect.ts';
export { sumFills, type SumFill } from './sum-fills.ts';
