export {
  fourQuestions,
  wayBack,
  type Answer,
  type BackStep,
  type Question,
  type QuestionNet,
  type StageQuestions,
} from './questions.ts';
export {
  explainLowNet,
  lowNetAt,
  settledBy,
  type Explains,
  type Leg,
  type LowNet,
} from './low-net.ts';
export { chipBehind, pinRole, pinTable, type PinRole, type PinRow } from './pins.ts';
export {
  findPin,
  packages,
  pinCountTrouble,
  rowName,
  turns,
  type FoundPin,
  type Package,
  type Turn,
} from './pin-finder.ts';
export { nearPads, worstSlip, type NearPad, type Slip } from './near-pads.ts';
export { checkPart, fetPinsPowered, type CheckStep, type PartCheck } from './part-checks.ts';
export { proposeJumper, type Jumper } from './jumper.ts';
export { partsAround, type ExpectedPart } from './whats-there.ts';
