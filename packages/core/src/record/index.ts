export {
  intakeSchema,
  historyKinds,
  simpleThings,
  simpleResults,
  safetyItems,
  safetyStates,
  heatWays,
  waitReasons,
  orderSteps,
  picturePlaceSchema,
  type PicturePlace,
  eventBodySchema,
  jobEventSchema,
  keptEventSchema,
  repairActions,
  findingKinds,
  proofs,
  allOutcomes,
  outcomes,
  partOrigins,
  slipKinds,
  seenSchema,
  type Outcome,
  type Intake,
  type EventBody,
  type EventInput,
  type Seen,
  type JobEvent,
  type KeptEvent,
} from './event.ts';
export { jobOnBoard } from './on-board.ts';
export {
  deriveJob,
  goneParts,
  liftedParts,
  type Job,
  type KeptReading,
  type Standing,
  type Happened,
  type Found,
  type Wait,
  type Order,
  type Approval,
} from './job.ts';
export { habitsOf, isMended, lessonOf, type Habit } from './habits.ts';
export {
  jobSteps,
  jobSummarySchema,
  stepsDone,
  summaryOf,
  timeOf,
  dueOf,
  type Due,
  type JobStep,
  type JobSummary,
} from './summary.ts';
export { unkeepable, withoutUnkeepable } from './unkeepable.ts';
export { wordless } from './wordless.ts';
export { seenTexts } from './seen-texts.ts';
export { knownGoodOf, knownGoodSchema, type KnownGood } from './known-good.ts';
export { shelfItemSchema, type ShelfItem } from './shelf-item.ts';
