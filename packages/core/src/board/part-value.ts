import { fail, ok, type Result } from '../base/index.ts';
import { parseQuantity, quantityTroubleText, type Unit } from '../units/index.ts';
import type { PartKind } from './sheet-schema.ts';

/** Pins each kind of part must have, in the order they are written in a list. */
export const pinNames: Partial<Record<PartKind, readonly string[]>> = {
  resistor: ['1', '2'],
  capacitor: ['1', '2'],
  coil: ['1', '2'],
  ferrite: ['1', '2'],
  fuse: ['1', '2'],
  jumper: ['1', '2'],
  crystal: ['1', '2'],
  fan: ['1', '2'],
  button: ['1', '2'],
  diode: ['A', 'K'],
  schottky: ['A', 'K'],
  led: ['A', 'K'],
  zener: ['A', 'K'],
  tvs: ['A', 'K'],
  pfet: ['G', 'D', 'S'],
  nfet: ['G', 'D', 'S'],
  npn: ['B', 'C', 'E'],
  pnp: ['B', 'C', 'E'],
};

export const valueUnit: Partial<Record<PartKind, Unit>> = {
  resistor: 'ohms',
  jumper: 'ohms',
  fan: 'ohms',
  capacitor: 'farads',
  coil: 'henries',
  zener: 'volts',
  tvs: 'volts',
};

/** A part's value in the core's units; null where it has none. Fails with what is wrong with it. */
export function partValue(
  kind: PartKind,
  written: string | number | undefined,
): Result<number | null, string> {
  const unit = valueUnit[kind];
  if (unit === undefined) return ok(null);
  if (written === undefined) {
    return kind === 'resistor' || kind === 'fan' || kind === 'zener' || kind === 'tvs'
      ? fail(`a ${kind} needs a value`)
      : ok(null);
  }
  const parsed = typeof written === 'number' ? ok(written) : parseQuantity(written, unit);
  if (!parsed.ok) return fail(quantityTroubleText(parsed.error));
  if (parsed.value < 0 || (parsed.value === 0 && kind !== 'resistor' && kind !== 'jumper')) {
    return fail(`${String(written)} must be more than 0`);
  }
  return ok(parsed.value);
}
