import { z } from 'zod';

/** The meter in hand: what `OL` and `beep` mean belongs to it. */
export const meterSchema = z.strictObject({
  name: z.string().min(1).max(60),
  /** Above these the display shows OL. */
  mostVolts: z.number().positive(),
  mostOhms: z.number().positive(),
  mostDiodeVolts: z.number().positive(),
  /** The buzzer sounds below this. */
  beepOhms: z.number().positive(),
  /** Between its leads in volts: what it takes from a point it reads. */
  inputOhms: z.number().positive().default(10e6),
});
export type Meter = z.output<typeof meterSchema>;

/** A usual hand-held meter (common practice, no source). */
export const usualMeter: Meter = {
  name: 'Bench meter',
  mostVolts: 600,
  mostOhms: 40e6,
  mostDiodeVolts: 2,
  beepOhms: 30,
  inputOhms: 10e6,
};
