import { z } from 'zod';
import { phases, readingSchema } from '../readings/index.ts';
import { safetyItems } from '../safety/index.ts';
import {
  allOutcomes,
  besideThings,
  failureWays,
  findingKinds,
  heatWays,
  historyKinds,
  orderSteps,
  partOrigins,
  proofs,
  repairActions,
  safetyStates,
  simpleResults,
  slipKinds,
  triedThings,
  waitReasons,
} from './kinds.ts';
import { momentSchema } from './moment.ts';

const id = z.uuid();
const name = z.string().min(1).max(64);
const text = (most: number) => z.string().trim().max(most);
/** In the shop's own money: no currency is written down. */
const money = z.number().min(0).max(1_000_000);
const someText = (most: number) => z.string().trim().min(1, 'is empty').max(most);

/** What is written down when a board comes in. A later intake event corrects an earlier one. */
export const intakeSchema = z.strictObject({
  board: name,
  device: someText(120),
  complaint: someText(2000),
  happened: z.array(z.enum(historyKinds)).max(historyKinds.length).default([]),
  history: text(2000),
  /** Who worked on it before, in general terms, and what was done. */
  earlierRepair: text(500).default(''),
  /** What another workshop thinks it is: kept as a guess, no evidence. */
  otherGuess: text(500).default(''),
  cameWith: text(300).default(''),
  lacking: text(300).default(''),
  goal: name,
  source: name,
  /** Data and settings that must not be lost. */
  keep: text(500),
  promised: z.iso.date().nullable(),
  /** What was agreed on: working minutes that may be spent without asking again, and in words. */
  limitMinutes: z.number().int().min(0).max(10_000).nullable().default(null),
  limitText: text(200).default(''),
  /** What may be spent on parts without asking again, in the shop's own money. */
  limitMoney: money.nullable().default(null),
});
export type Intake = z.output<typeof intakeSchema>;

/** A place on a board picture. `u` and `v` run from 0 to 1 over its width and height. */
export const picturePlaceSchema = z.strictObject({
  side: z.enum(['top', 'bottom']),
  u: z.number().min(0).max(1),
  v: z.number().min(0).max(1),
});
export type PicturePlace = z.output<typeof picturePlaceSchema>;

/** The same with the picture it was marked on: a photo of the board by its id, or the drawn one. */
const markPlaceSchema = picturePlaceSchema.extend({ frame: z.union([id, z.literal('drawn')]) });

/** Signs other than the draw. Lights are those that were on; `reached` is a stage of the sheet. */
export const seenSchema = z.strictObject({
  lights: z.array(name).max(32).optional(),
  fan: z.boolean().optional(),
  picture: z.boolean().optional(),
  /** A picture so dark that it shows under a torch only: its light is missing. */
  faintPicture: z.boolean().optional(),
  restarts: z.boolean().optional(),
  startsOnConnect: z.boolean().optional(),
  /** False: the button was pressed, and nothing changed. */
  answers: z.boolean().optional(),
  offAfterSeconds: z.number().min(0).max(3600).optional(),
  /** It was watched after it came on: it goes off by itself, or it does not. */
  goesOff: z.boolean().optional(),
  reached: name.optional(),
  /** Volts that a cable meter or the supply shows at the plug. */
  shownVolts: z.number().min(0).max(60).optional(),
  beeps: text(120).optional(),
});
export type Seen = z.output<typeof seenSchema>;

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
    /** What fed the board then, and what it was set to; null where nobody wrote it down. */
    source: z
      .strictObject({
        id: name,
        volts: z.number().min(0).max(60).nullable(),
        limitAmps: z.number().min(0).max(50).nullable(),
      })
      .nullable()
      .default(null),
    attached: z.array(name).max(40).nullable().default(null),
    /** How long the source was on. */
    lastedSeconds: z.number().min(0).max(86_400).nullable().default(null),
    text: text(400),
  }),
  z.strictObject({
    type: z.literal('finding'),
    kind: z.enum(findingKinds),
    part: name.nullable(),
    /** Where on the board picture; null where it was not marked there. */
    place: markPlaceSchema.nullable().default(null),
    /** A picture of it from near. */
    attachment: id.nullable().default(null),
    text: text(400),
  }),
  /** Which part or net a finding belongs to, where that was not known when it was marked; the last one counts. */
  z.strictObject({
    type: z.literal('tied'),
    finding: id,
    part: name.nullable(),
    net: name.nullable(),
  }),
  /** A finding that was looked into and does no harm: it raises no suspicion any more. */
  z.strictObject({ type: z.literal('harmless'), finding: id, reason: someText(200) }),
  z.strictObject({
    type: z.literal('tried'),
    thing: z.enum(triedThings),
    result: z.enum(simpleResults),
    /** Ohms the leads read shorted together. */
    ohms: z.number().min(0).max(1000).nullable().default(null),
    text: text(300).default(''),
  }),
  z.strictObject({
    type: z.literal('safety'),
    item: z.enum(safetyItems),
    state: z.enum(safetyStates),
  }),
  z.strictObject({
    type: z.literal('wait'),
    reason: z.enum(waitReasons),
    /** In UTC, so that moments compare as text. */
    until: z.iso.datetime().nullable(),
    text: text(300),
  }),
  z.strictObject({ type: z.literal('wait-over'), wait: id }),
  z.strictObject({
    type: z.literal('order'),
    what: someText(200),
    part: name.nullable(),
    price: money.nullable().default(null),
  }),
  z.strictObject({ type: z.literal('order-step'), order: id, step: z.enum(orderSteps) }),
  z.strictObject({ type: z.literal('time'), minutes: z.number().int().min(1).max(1440) }),
  /** A finding beyond what was agreed: work stops until the owner has said yes. */
  z.strictObject({
    type: z.literal('approval'),
    found: someText(500),
    asks: someText(300),
    minutes: z.number().int().min(0).max(10_000).nullable().default(null),
    money: money.nullable().default(null),
  }),
  z.strictObject({
    type: z.literal('answer'),
    approval: id,
    yes: z.boolean(),
    text: text(300).default(''),
  }),
  /** The board is powered: with what, and which warnings stood. */
  z.strictObject({
    type: z.literal('power'),
    source: name,
    volts: z.number().min(0).max(60).nullable(),
    limitAmps: z.number().min(0).max(50).nullable(),
    despite: z.array(someText(300)).max(20),
  }),
  z.strictObject({
    type: z.literal('repair'),
    action: z.enum(repairActions),
    /** What it was, where it was not on the board. */
    beside: z.enum(besideThings).optional(),
    parts: z.array(name).max(50),
    text: text(1000),
    /** What was fitted: as it is marked, and where it came from. */
    marking: text(60).optional(),
    from: z.enum(partOrigins).optional(),
    /** It was measured before it was fitted. */
    measured: z.boolean().optional(),
  }),
  /** A slip of the hand: pads bridged, a part burnt or lost. It reopens suspicion about these parts. */
  z.strictObject({
    type: z.literal('slip'),
    what: z.enum(slipKinds),
    parts: z.array(name).max(20),
    text: text(400),
  }),
  /** One line of the list before the board goes back: read, failed, or knowingly left out. */
  z.strictObject({
    type: z.literal('verify'),
    item: name,
    result: z.enum(['passed', 'failed', 'left-out']),
    text: text(300),
  }),
  /** The firmware of a flash: its old contents saved under this hash, what was written read back. */
  z.strictObject({
    type: z.literal('firmware'),
    part: name,
    volts: z.number().min(0).max(6),
    saved: z
      .strictObject({
        name: someText(200),
        sha256: z.string().regex(/^[0-9a-f]{64}$/),
        bytes: z.number().int().min(1),
      })
      .nullable(),
    /** The saved contents themselves, kept with the job. */
    attachment: id.nullable().default(null),
    verified: z.boolean(),
    text: text(400),
  }),
  /** A rail fed from a bench supply, the board's own sources off unless `live`. */
  z.strictObject({
    type: z.literal('fed'),
    net: name,
    /** The part and pin the red lead stood on; null where nobody said. */
    at: z.strictObject({ part: name, pin: name.nullable() }).nullable(),
    volts: z.number().min(0).max(60),
    limitAmps: z.number().min(0).max(50),
    /** What the supply showed then. */
    drawnVolts: z.number().min(0).max(60).nullable(),
    drawnAmps: z.number().min(0).max(50).nullable(),
    live: z.boolean().default(false),
    /** What spoke against it when it was done all the same. */
    despite: z.array(someText(300)).max(10).optional(),
  }),
  /** What got warm while a rail was fed; `part` null: looked, and nothing did. */
  z.strictObject({
    type: z.literal('warm'),
    /** Null: the board's own source was on. */
    fed: id.nullable(),
    part: name.nullable(),
    /** Kelvin above what is around it; null where the eye judged. */
    rise: z.number().min(0).max(500).nullable(),
    by: z.enum(heatWays),
  }),
  /** Volts to ground at a place of a rail while it was fed: lowest where the current leaves it. */
  z.strictObject({
    type: z.literal('drop'),
    fed: id,
    part: name,
    pin: name.nullable(),
    volts: z.number().min(-1).max(60),
  }),
  /** A part looked for under the microscope: it is there, or this board never had it. */
  z.strictObject({
    type: z.literal('part-seen'),
    part: name,
    state: z.enum(['there', 'not-fitted']),
  }),
  z.strictObject({ type: z.literal('note'), text: someText(2000) }),
  z.strictObject({ type: z.literal('picture'), attachment: id, caption: text(200) }),
  z.strictObject({
    type: z.literal('close'),
    outcome: z.enum(allOutcomes),
    cause: text(1000),
    proof: z.enum(proofs),
    /** Why it ends so, where it was not repaired. */
    reason: text(1000).default(''),
    /** Parts it was, where parts are named: what the next jobs learn from. */
    parts: z.array(name).max(20).optional(),
    /** How they had failed. */
    how: z.enum(failureWays).optional(),
    /** What these parts are on a board of this scheme, for boards of the same. */
    scheme: text(200).optional(),
    roles: z.array(text(120)).max(20).optional(),
    /** Suspects that stood when it was given up, and what would separate them. */
    left: z
      .array(
        z.strictObject({
          title: someText(200),
          probability: z.number().min(0).max(1),
          separate: text(600),
        }),
      )
      .max(12)
      .optional(),
  }),
  /** The device is back with its owner. */
  z.strictObject({ type: z.literal('handed-over'), text: text(300).default('') }),
  /** Whether this closed job teaches the next ones: a wrong closing is taken out, and may come back. */
  z.strictObject({ type: z.literal('lesson'), counts: z.boolean(), reason: text(300) }),
  /** The job goes on with this version of its board's sheet. */
  z.strictObject({ type: z.literal('sheet'), hash: z.string().regex(/^[0-9a-f]{16}$/) }),
  z.strictObject({ type: z.literal('reopen'), reason: someText(300) }),
  /** The owner asked for it: name, words and pictures are taken out, the technical record stays. */
  z.strictObject({ type: z.literal('erased'), reason: text(300).default('') }),
]);
export type EventBody = z.output<typeof eventBodySchema>;
/** The same as it may be written: what has a usual value may be left away. */
export type EventInput = z.input<typeof eventBodySchema>;

/** An event with its id made by the client, so that sending it again changes nothing. */
export const jobEventSchema = z.strictObject({
  id,
  who: someText(60),
  /** When it happened, by the client's clock. */
  at: momentSchema.refine(
    isOfOurTimes,
    'is no time between the years 2000 and 2100: set the clock',
  ),
  body: eventBodySchema,
});
export type JobEvent = z.output<typeof jobEventSchema>;

/** A clock that is further off than this is no clock. */
function isOfOurTimes(at: string): boolean {
  const year = Number(at.slice(0, 4));
  return year >= 2000 && year < 2100;
}

/** An entry of a kind, or with details, that this version does not know: kept, and shown as such. */
export interface StrangeBody {
  type: 'strange';
  /** The kind it says it is. */
  was: string;
}
export interface KeptEvent {
  id: string;
  who: string;
  at: string;
  body: EventBody | StrangeBody;
}

const outsideSchema = z.looseObject({
  id,
  who: z.string(),
  at: z.string(),
  body: z.unknown(),
});
/** An entry as it was kept, by this version or another. */
export const keptEventSchema = outsideSchema.transform((raw): KeptEvent => {
  const known = jobEventSchema.safeParse(raw);
  if (known.success) return known.data;
  const { id, who, at, body } = raw;
  const type = (body as { type?: unknown } | null)?.type;
  const was = typeof type === 'string' ? type : 'unreadable';
  return { id, who, at, body: { type: 'strange', was } };
});
