export {
  intakeSchema,
  eventBodySchema,
  jobEventSchema,
  repairActions,
  findingKinds,
  proofs,
  seenSchema,
  type Intake,
  type EventBody,
  type Seen,
  type JobEvent,
} from './event.ts';
export {
  deriveJob,
  liftedParts,
  type Job,
  type KeptReading,
  type Standing,
  type Happened,
} from './job.ts';
export { habitsOf, type Habit } from './habits.ts';
