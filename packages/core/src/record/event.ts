import { z } from 'zod';
import { phases, readingSchema } from '../readings/index.ts';

const id = z.uuid();
const name = z.string().min(1).max(64);
const text = (most: number) => z.string().trim().max(most);
const someText = (most: number) => z.string().trim().min(1, 'is empty').max(most);

/** What is written down when a board comes in. A later intake event corrects an earlier one. */
export const intakeSchema = z.strictObject({
  board: name,
  device: someText(120),
  complaint: someText(2000),
  history: text(2000),
  goal: name,
  source: name,
  keep: text(500),
  promised: z.iso.date().nullable(),
});
export type Intake = z.output<typeof intakeSchema>;

export const repairActions = [
  'replaced',
  'reflowed',
  'jumper',
  'cleaned',
  'reprogrammed',
  'removed',
  'refitted',
  'other',
] as const;

export const findingKinds = [
  'corrosion',
  'burnt',
  'cracked',
  'missing',
  'bridged',
  'reworked',
  'wrong-part',
  'lifted-pad',
  'hot',
] as const;

/** Signs other than the draw. Lights are those that were on; `reached` is a stage of the sheet. */
export const seenSchema = z.strictObject({
  lights: z.array(name).max(32).optional(),
  fan: z.boolean().optional(),
  picture: z.boolean().optional(),
  restarts: z.boolean().optional(),
  startsOnConnect: z.boolean().optional(),
  offAfterSeconds: z.number().min(0).max(3600).optional(),
  reached: name.optional(),
  beeps: text(120).optional(),
});
export type Seen = z.output<typeof seenSchema>;

/** How well a cause is proven. */
export const proofs = [
  'proven',
  'supported',
  'by-elimination',
  'several-changed',
  'not-found',
] as const;

/** Everything that can happen in a job. Events are only ever added. */
export const eventBodySchema = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('intake'), intake: intakeSchema }),
  z.strictObject({
    type: z.literal('reading'),
    reading: readingSchema,
    /** Earlier readings this re-measure decides against. */
    supersedes: z.array(id).max(50),
  }),
  z.strictObject({ type: z.literal('strike'), event: id, reason: someText(200) }),
  z.strictObject({
    type: z.literal('sign'),
    phase: z.enum(phases),
    drawAmps: z.number().min(0).max(50).nullable(),
    drawShape: z.enum(['steady', 'pulsing', 'limited', 'rising']).nullable(),
    /** What else was seen from outside; what is missing here was not looked at. */
    seen: seenSchema.default({}),
    text: text(400),
  }),
  z.strictObject({
    type: z.literal('finding'),
    kind: z.enum(findingKinds),
    part: name.nullable(),
    text: text(400),
  }),
  z.strictObject({
    type: z.literal('repair'),
    action: z.enum(repairActions),
    parts: z.array(name).max(50),
    text: text(1000),
  }),
  z.strictObject({ type: z.literal('note'), text: someText(2000) }),
  z.strictObject({ type: z.literal('picture'), attachment: id, caption: text(200) }),
  z.strictObject({
    type: z.literal('close'),
    outcome: z.enum(['repaired', 'not-repaired', 'returned']),
    cause: text(1000),
    proof: z.enum(proofs),
  }),
]);
export type EventBody = z.output<typeof eventBodySchema>;

/** An event with its id made by the client, so that sending it again changes nothing. */
export const jobEventSchema = z.strictObject({
  id,
  who: someText(60),
  /** When it happened, by the client's clock. */
  at: z.iso.datetime({ offset: true }),
  body: eventBodySchema,
});
export type JobEvent = z.output<typeof jobEventSchema>;
