export {
  intakeSchema,
  eventBodySchema,
  jobEventSchema,
  repairActions,
  findingKinds,
  proofs,
  type Intake,
  type EventBody,
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
