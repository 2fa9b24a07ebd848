export { foundBy, wordsOf } from './found-by.ts';
export {
  historyKinds,
  simpleThings,
  triedThings,
  simpleResults,
  safetyStates,
  heatWays,
  waitReasons,
  orderSteps,
  actionText,
  besideText,
  besideThings,
  repairActions,
  findingKinds,
  failureTexts,
  failureWays,
  proofs,
  allOutcomes,
  outcomes,
  partOrigins,
  slipKinds,
  type FailureWay,
  type TriedThing,
  type Outcome,
} from './kinds.ts';
export { triedTexts, triedWord, type TriedText } from './tried-texts.ts';
export {
  intakeSchema,
  picturePlaceSchema,
  type PicturePlace,
  eventBodySchema,
  jobEventSchema,
  keptEventSchema,
  seenSchema,
  type Intake,
  type EventBody,
  type EventInput,
  type Seen,
  type JobEvent,
  type KeptEvent,
} from './event.ts';
export { graceLeft, type PowerLoss } from './grace.ts';
export { jobOnBoard } from './on-board.ts';
export {
  deriveJob,
  goneParts,
  isChange,
  liftedParts,
  standingOf,
  type Job,
  type KeptReading,
  type Standing,
  type Happened,
  type Found,
  type Wait,
  type Order,
  type Approval,
} from './job.ts';
export { habitsElsewhere, habitsOf, type Habit } from './habits.ts';
export {
  jobSteps,
  jobSummarySchema,
  stepsDone,
  summaryOf,
  timeOf,
  moneyOf,
  dueOf,
  type Due,
  type JobStep,
  type JobSummary,
} from './summary.ts';
export { unkeepable, withoutUnkeepable } from './unkeepable.ts';
export { momentSchema } from './moment.ts';
export { wordless } from './wordless.ts';
export { saysSomething, seenTexts } from './seen-texts.ts';
export { isMended, lessonOf, taughtBy, taughtOf, type Taught } from './taught.ts';
export { knownGoodOf, knownGoodSchema, knownNetsOf, type KnownGood } from './known-good.ts';
export { shelfItemSchema, type ShelfItem } from './shelf-item.ts';
