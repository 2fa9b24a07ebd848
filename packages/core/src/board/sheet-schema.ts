import { z } from 'zod';
import { parseQuantity, quantityTroubleText, type Unit } from '../units/index.ts';

/**
 * The sheet as a user writes it (`format: jiko-board/1`). Values may be numbers in the core's units
 * or written as on a schematic: `100k`, `4u7`, `19.5`, `2m`. load-sheet.ts turns it into a Board.
 */

/** A value in the given unit: a number, or text such as `100k`. */
const quantity = (unit: Unit) =>
  z
    .union([z.number(), z.string()])
    .transform((written, context) => {
      if (typeof written === 'number') return written;
      const parsed = parseQuantity(written, unit);
      if (parsed.ok) return parsed.value;
      context.addIssue({ code: 'custom', message: quantityTroubleText(parsed.error) });
      return z.NEVER;
    })
    .describe(`${unit}, as a number or as written on a schematic`);

const positive = (unit: Unit) =>
  quantity(unit).refine((value) => value > 0, { message: `must be more than 0 ${unit}` });
const notNegative = (unit: Unit) =>
  quantity(unit).refine((value) => value >= 0, { message: `must not be below 0 ${unit}` });

const volts = quantity('volts');
const amps = notNegative('amps');
const ohms = positive('ohms');
const seconds = notNegative('seconds');
const name = z.string().min(1).max(64).regex(/^\S+$/, 'a name has no spaces');
const label = z.string().min(1).max(60);
const fraction = z
  .union([z.number(), z.string().regex(/^\d+(\.\d+)?\s*%$/)])
  .transform((written) => (typeof written === 'number' ? written : parseFloat(written) / 100))
  .refine((value) => value > 0 && value < 1, { message: 'must lie between 0 and 100 %' });

/** Where a number comes from; it decides how far a reading may stray before it is called wrong. */
export const originSchema = z.enum([
  'schematic',
  'datasheet',
  'known-good',
  'rule-of-thumb',
  'guess',
]);

/** A threshold on a pin or net: `EN > 1.2`, or with its hysteresis in volts spelled out. */
const needText = /^(\S+)\s*([<>])\s*(\S+)$/;
export const needSchema = z
  .union([
    z.string().regex(needText, 'write NAME > volts or NAME < volts'),
    z.strictObject({
      at: name,
      above: volts.optional(),
      below: volts.optional(),
      hysteresis: notNegative('volts').optional(),
      /** Volts are taken from this pin instead of ground: across a sense resistor or a FET. */
      than: name.optional(),
    }),
  ])
  .transform((written, context) => {
    if (typeof written !== 'string') {
      if ((written.above === undefined) === (written.below === undefined)) {
        context.addIssue({ code: 'custom', message: 'give either above or below' });
        return z.NEVER;
      }
      const threshold = (written.above ?? written.below) as number;
      return {
        at: written.at,
        side: written.above === undefined ? ('below' as const) : ('above' as const),
        volts: threshold,
        hysteresisVolts: written.hysteresis ?? usualHysteresis(threshold),
        than: written.than ?? null,
      };
    }
    const [, at = '', sign = '', text = ''] = needText.exec(written) ?? [];
    const parsed = parseQuantity(text, 'volts');
    if (!parsed.ok) {
      context.addIssue({ code: 'custom', message: quantityTroubleText(parsed.error) });
      return z.NEVER;
    }
    return {
      at,
      side: sign === '>' ? ('above' as const) : ('below' as const),
      volts: parsed.value,
      hysteresisVolts: usualHysteresis(parsed.value),
      than: null,
    };
  });

/** Comparators let go a little later than they grip; 5 % is a data-sheet habit. */
const usualHysteresis = (threshold: number): number => Math.abs(threshold) * 0.05;

const needs = z.array(needSchema).default([]);
const level = z.enum(['high', 'low', 'release']);

const overloads = ['hiccup', 'latch', 'foldback', 'constant-current'] as const;

const regulatorSchema = z.strictObject({
  do: z.literal('regulator'),
  name: label.optional(),
  in: name,
  out: name,
  sense: name.optional(),
  feedback: name.optional(),
  feedbackVolts: positive('volts').optional(),
  volts: positive('volts').optional(),
  range: z.tuple([positive('volts'), positive('volts')]).optional(),
  limit: positive('amps').default(5),
  pass: z.enum(['switching', 'linear', 'switch', 'boost']).default('switching'),
  efficiency: fraction.default(0.9),
  dropout: notNegative('volts').default(0.15),
  outOhms: ohms.default(0.005),
  needs,
  onDelay: seconds.default(0.0001),
  softStart: seconds.default(0.001),
  /** A linear regulator holds its current limit; the others try again. */
  overload: z.enum(overloads).optional(),
  /** A charger begins with little: `limit` amps for `time`, and on until the output is above `below`. */
  precharge: z
    .strictObject({ limit: positive('amps'), below: positive('volts'), time: seconds.default(1) })
    .optional(),
  powerGood: name.optional(),
  powerGoodDelay: seconds.default(0.001),
});

const followerSchema = z.strictObject({
  do: z.literal('follower'),
  name: label.optional(),
  out: name,
  drive: z.enum(['open-drain', 'push-pull']).default('open-drain'),
  active: z.enum(['high', 'low']).default('high'),
  high: name.optional(),
  /** The output's level above its supply, for charge-pump gate drives. */
  lift: notNegative('volts').optional(),
  supply: needs,
  needs,
  /** Looked at only before it turns on. */
  startNeeds: needs,
  /** What must hold while it is on, or it lets go at once and tries again: `tries` times in all. */
  trips: needs,
  tries: z.number().int().min(1).max(7).default(3),
  retry: seconds.default(1),
  onDelay: seconds.default(0.0001),
  offDelay: seconds.default(0.00001),
});

const stepSchema = z.union([
  z.strictObject({ wait: z.array(needSchema).min(1), within: seconds.optional() }),
  z.strictObject({ pause: seconds }),
  z.strictObject({ drive: z.record(name, level) }),
  z.strictObject({ pulse: name, to: level, for: seconds }),
  z.strictObject({ ask: positive('volts') }),
  z.strictObject({ mark: z.string().min(1).max(80) }),
]);

const sequenceSchema = z.strictObject({
  do: z.literal('sequence'),
  name: label.optional(),
  supply: z.array(needSchema).min(1),
  high: name,
  idle: z.record(name, level).default({}),
  drive: z.enum(['open-drain', 'push-pull']).default('push-pull'),
  needs,
  steps: z.array(stepSchema).min(1),
  abort: needs,
  retries: z.number().int().min(0).max(3).default(0),
  /** Released (its needs) sooner than this after its supply, it hangs until the supply goes. */
  settle: seconds.default(0),
});

export const behaviourSchema = z.discriminatedUnion('do', [
  regulatorSchema,
  followerSchema,
  sequenceSchema,
]);

const place = {
  side: z.enum(['top', 'bottom']).optional(),
  x: z.number().optional(),
  y: z.number().optional(),
};

const netSchema = z.strictObject({
  kind: z.enum(['ground', 'rail', 'signal', 'switch', 'analog']).default('signal'),
  aliases: z.array(name).default([]),
  title: z.string().max(120).optional(),
  volts: volts.optional(),
  range: z.tuple([volts, volts]).optional(),
  tolerance: fraction.optional(),
  load: amps.optional(),
  cold: z.strictObject({ ohms: ohms.optional(), diode: positive('volts').optional() }).optional(),
  origin: originSchema.optional(),
  /** A point of one's own that nobody has named yet: which net it is stays open. */
  unnamed: z.boolean().default(false),
  /** Places in their order along the copper, from the feed on: points of the sheet or PART.PIN. */
  along: z.array(name).max(40).default([]),
});

export const partKinds = [
  'resistor',
  'capacitor',
  'coil',
  'ferrite',
  'fuse',
  'jumper',
  'diode',
  'schottky',
  'zener',
  'tvs',
  'led',
  'pfet',
  'nfet',
  'npn',
  'pnp',
  'crystal',
  'fan',
  'button',
  'connector',
] as const;

const common = {
  title: z.string().max(120).optional(),
  fitted: z.boolean().default(true),
  package: z.string().max(40).optional(),
  marking: z.string().max(40).optional(),
  rating: z.string().max(60).optional(),
  notes: z.string().max(400).optional(),
  /** Belongs to what can be unplugged: an id of `attachments`. */
  on: name.optional(),
  ...place,
};

const partSchema = z.strictObject({
  kind: z.enum(partKinds),
  pins: z.union([z.array(name).min(1).max(8), z.record(name, name)]),
  value: z.union([z.string().max(40), z.number()]).optional(),
  /** Stands for something nobody looked up: that it joins these nets is a guess, and its drop tells nothing. */
  guess: z.boolean().default(false),
  ...common,
});

export const chipKinds = [
  'buck',
  'boost',
  'ldo',
  'loadswitch',
  'charger',
  'pd',
  'detector',
  'supervisor',
  'controller',
  'chipset',
  'cpu-regulator',
  'flash',
  'clock',
  'memory',
  'panel',
  'storage',
  'generic',
] as const;

const chipSchema = z.strictObject({
  kind: z.enum(chipKinds),
  pins: z.record(name, name),
  /** Numbers of pins in the package, as the data sheet counts them: `{ VIN: 5, OUT: B2 }`. */
  numbers: z
    .record(
      name,
      z.union([z.number().int().min(1), z.string().regex(/^[A-Za-z]{0,2}\d{1,4}$|^EP$/)]),
    )
    .default({}),
  /** What the kind's default behaviour is made from; see chip-kinds.ts. */
  volts: positive('volts').optional(),
  range: z.tuple([positive('volts'), positive('volts')]).optional(),
  limit: positive('amps').optional(),
  threshold: volts.optional(),
  enableAbove: volts.optional(),
  delay: seconds.optional(),
  softStart: seconds.optional(),
  efficiency: fraction.optional(),
  overload: z.enum(overloads).optional(),
  /** The supply pin its signal pins clamp to; null for none. Controllers and chipsets have one. */
  clamp: name.nullable().optional(),
  /** The crystal without which it does not run. */
  crystal: name.optional(),
  /** The diode of a boost converter, without which nothing comes out. */
  diode: name.optional(),
  /** Amps drawn at supply pins while supplied. */
  draws: z.record(name, amps).default({}),
  does: z.array(behaviourSchema).default([]),
  ...common,
});

const stageSchema = z.strictObject({
  title: z.string().min(1).max(80),
  gives: z.array(name).min(1),
  by: z.array(name).default([]),
  notes: z.string().max(400).optional(),
  /** What must be plugged in for this stage to come. */
  with: z.array(name).default([]),
  // A sheet at rails depth says the rest here instead of drawing chips.
  feed: name.optional(),
  /** How it gives what it gives: a converter, an LDO, or a switch that passes its feed on. */
  pass: z.enum(['switching', 'linear', 'switch']).optional(),
  enable: needSchema.optional(),
  after: z.array(needSchema).default([]),
  powerGood: name.optional(),
  powerGoodVolts: positive('volts').optional(),
  limit: positive('amps').optional(),
  delay: seconds.optional(),
});

const sourceSchema = z.strictObject({
  kind: z.enum(['adapter', 'usb-c', 'battery', 'coin-cell', 'bench']),
  title: z.string().max(80),
  net: name,
  volts: positive('volts'),
  idle: positive('volts').optional(),
  limit: positive('amps'),
  seriesOhms: ohms.default(0.05),
  /** Amps beyond which it leaves its idle volts. */
  wakes: positive('amps').default(0.002),
  /** A battery or coin cell that is there unless taken off. */
  stays: z.boolean().default(false),
  /** The attachment it is: in place whenever that is plugged in. */
  on: name.optional(),
  /** A battery: amps its charger is set to, where the sheet does not draw the charger. */
  chargeLimit: positive('amps').optional(),
  /** USB-C: fixed supply volts on offer, from 5 V upward. */
  offers: z.array(positive('volts')).default([]),
});

const goalSchema = z.strictObject({
  title: z.string().max(80),
  reached: z.array(needSchema).min(1),
  phase: z.enum(['standby', 'pressed', 'run']).default('run'),
  with: z.array(name).default([]),
  /** What is seen from outside when it is reached. */
  shows: z.enum(['picture']).optional(),
});

const pointSchema = z.strictObject({
  net: name,
  part: name.optional(),
  pin: name.optional(),
  title: z.string().max(80).optional(),
  ...place,
});

export const sheetSchema = z.strictObject({
  format: z.literal('jiko-board/1'),
  id: z.string().regex(/^[a-z0-9][a-z0-9-]{1,40}$/, 'small letters, digits and dashes'),
  title: z.string().min(1).max(80),
  revision: z.string().max(20).default('-'),
  depth: z.enum(['rails', 'chips', 'full']),
  notes: z.string().max(4000).optional(),
  /** What a first sheet was made from: see core/first-sheet. */
  choices: z
    .record(name, z.union([z.string(), z.number(), z.null(), z.array(z.string())]))
    .optional(),
  /** Figures nobody knows on this board: what they give is no evidence and draws no alarm. */
  guessed: z.array(z.enum(['loads', 'limits', 'times'])).default([]),
  nets: z.record(
    name,
    netSchema.nullable().transform((net) => net ?? netSchema.parse({})),
  ),
  parts: z.record(name, partSchema).default({}),
  chips: z.record(name, chipSchema).default({}),
  stages: z.record(name, stageSchema),
  points: z.record(name, pointSchema).default({}),
  sources: z.record(name, sourceSchema),
  goals: z.record(name, goalSchema),
  button: z
    .strictObject({ net: name, hold: seconds.default(0.5), title: z.string().optional() })
    .optional(),
  attachments: z.record(name, z.strictObject({ title: z.string().max(80) })).default({}),
  pictures: z
    .array(z.strictObject({ side: z.enum(['top', 'bottom']), attachment: z.string().max(80) }))
    .default([]),
  documents: z
    .array(z.strictObject({ title: z.string().max(80), attachment: z.string().max(80) }))
    .default([]),
});

export type Sheet = z.output<typeof sheetSchema>;
export type SheetNeed = z.output<typeof needSchema>;
export type SheetBehaviour = z.output<typeof behaviourSchema>;
export type SheetChip = z.output<typeof chipSchema>;
export type SheetStage = z.output<typeof stageSchema>;
export type Origin = z.output<typeof originSchema>;
export type PartKind = (typeof partKinds)[number];
export type ChipKind = (typeof chipKinds)[number];

/** The published JSON Schema of a sheet as written. */
export function sheetJsonSchema(): unknown {
  return z.toJSONSchema(sheetSchema, { io: 'input', unrepresentable: 'any' });
}

/** Every key a sheet may hold, for completion while it is typed. */
export function sheetKeys(): string[] {
  const keys = new Set<string>();
  const collect = (node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    if (Array.isArray(node)) return node.forEach(collect);
    const { properties } = node as { properties?: Record<string, unknown> };
    Object.keys(properties ?? {}).forEach((key) => keys.add(key));
    Object.values(node).forEach(collect);
  };
  collect(sheetJsonSchema());
  return [...keys].sort();
}
