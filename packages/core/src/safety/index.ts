export {
  cautions,
  cautionsAt,
  cautionText,
  deeds,
  type BenchFacts,
  type Caution,
  type Deed,
} from './cautions.ts';
export {
  safetyItems,
  safetyLines,
  type DeviceFacts,
  type SafetyItem,
  type SafetyLine,
} from './before-opening.ts';
export { coolerCount, type CoolerCount } from './cooler.ts';
export * from './limits.ts';
