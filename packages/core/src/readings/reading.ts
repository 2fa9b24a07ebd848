import { z } from 'zod';
import { meterSchema } from './meter.ts';
import { phases } from './phase.ts';

/** What is measured. Diode is the meter's diode range: volts at its test current. */
export const modes = ['volts', 'diode', 'ohms', 'amps', 'celsius', 'seconds'] as const;
export type Mode = (typeof modes)[number];

const finite = z.number().refine((value) => Number.isFinite(value) && Math.abs(value) < 1e12);

/** What the meter showed. Numbers are in the unit of the mode: volts, ohms, amps, degrees, seconds. */
export const readingValueSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('number'),
    value: finite,
    trend: z.enum(['steady', 'rising', 'falling', 'unsettled']),
  }),
  z
    .strictObject({ kind: z.literal('swinging'), low: finite, high: finite })
    .refine((swing) => swing.low < swing.high, { message: 'low must be below high' }),
  /** OL: above the meter's range, which was `limit`. */
  z.strictObject({ kind: z.literal('over'), limit: finite }),
  /** The buzzer sounded: below its threshold `limit`, in ohms. */
  z.strictObject({ kind: z.literal('beep'), limit: finite }),
  /** The probe could not get there. */
  z.strictObject({ kind: z.literal('unreached') }),
]);
export type ReadingValue = z.output<typeof readingValueSchema>;

const name = z.string().min(1).max(64);
export const probePlaceSchema = z.strictObject({
  net: name,
  part: name.nullable(),
  pin: name.nullable(),
});
export type ProbePlace = z.output<typeof probePlaceSchema>;

/** A reading as it was taken. It is never edited: struck out or superseded instead. */
export const readingSchema = z
  .strictObject({
    at: probePlaceSchema,
    /** Null: against ground. Otherwise the other place the black lead stood on. */
    reference: probePlaceSchema.nullable(),
    /** Which lead stood on the point; it matters for diode-mode. */
    polarity: z.enum(['red-on-point', 'black-on-point']),
    mode: z.enum(modes),
    phase: z.enum(phases),
    value: readingValueSchema,
    source: z
      .strictObject({
        id: name,
        volts: finite.nullable(),
        limitAmps: finite.nullable(),
      })
      .nullable(),
    /** Attachments of the sheet that were plugged in: battery, panel, memory... */
    attached: z.array(name).max(40),
    /** Parts taken off or lifted at that time. */
    lifted: z.array(name).max(200),
    meter: meterSchema,
    /** The sheet's content hash the reading was judged by. */
    sheet: z.string().max(64),
    note: z.string().max(400),
    /** How the board was then, where somebody said so: warmed, cold, or pushed upon. */
    state: z.enum(['warm', 'cold', 'pushed']).optional(),
    /** Whether the display moved: a clock's needle does. */
    moves: z.boolean().optional(),
    /** Volts from peak to peak beside the steady value. */
    ripple: z.number().min(0).max(1000).optional(),
  })
  .superRefine((reading, context) => {
    const { value, mode } = reading;
    const least = value.kind === 'number' ? value.value : value.kind === 'swinging' ? value.low : 0;
    if ((mode === 'ohms' || mode === 'seconds') && least < 0) {
      context.addIssue({ code: 'custom', path: ['value'], message: `${mode} are never negative` });
    }
    if (value.kind === 'beep' && mode !== 'ohms' && mode !== 'diode') {
      context.addIssue({
        code: 'custom',
        path: ['value'],
        message: 'beep belongs to ohms or diode',
      });
    }
    if ((mode === 'ohms' || mode === 'diode') && reading.phase !== 'cold') {
      context.addIssue({
        code: 'custom',
        path: ['phase'],
        message: 'ohms and diode-mode are taken cold, with nothing connected',
      });
    }
  });
export type Reading = z.output<typeof readingSchema>;
