import type { SheetBehaviour, SheetChip, SheetNeed } from './sheet-schema.ts';
import { behaviourSchema } from './sheet-schema.ts';
import { usualCharger, usualPowerDelivery } from './input-kinds.ts';
import { usualChipset, usualController } from './sequence-kinds.ts';

/**
 * The behaviour a chip of each kind has when its sheet says no more than its pins, so that a usual
 * chip is a line or two. Pins are known by their function; thresholds are data-sheet habits
 * (common practice, no source) and each can be written over in the sheet.
 *
 * | kind | pins it knows |
 * | buck, boost, ldo | VIN, OUT (or SW with SENSE), EN, VCC, PG |
 * | loadswitch | VIN, OUT, EN, PG |
 * | cpu-regulator | VIN, VCC, OUT, EN, PG |
 * | supervisor, detector | VCC, SENSE, RESET# or OUT |
 * | clock | VCC, OUT, EN |
 * | charger, pd | see input-kinds.ts |
 * | controller, chipset | see sequence-kinds.ts |
 * | others | none: they draw current, or say what they do |
 */
export function usualBehaviours(chip: SheetChip): SheetBehaviour[] {
  const has = (pin: string): boolean => pin in chip.pins;
  const above = (at: string, volts: number): SheetNeed => ({
    at,
    side: 'above',
    volts,
    hysteresisVolts: volts * 0.05,
    than: null,
  });
  const enables = has('EN') ? [above('EN', chip.enableAbove ?? 1.2)] : [];
  const supply = has('VCC') ? [above('VCC', chip.threshold ?? 2.7)] : [];

  switch (chip.kind) {
    case 'buck':
    case 'boost':
    case 'ldo':
    case 'loadswitch':
    case 'cpu-regulator': {
      const out = has('OUT') ? 'OUT' : 'SW';
      const volts = chip.volts;
      const lowestInput =
        chip.kind === 'loadswitch'
          ? 0.8
          : chip.kind === 'ldo'
            ? (volts ?? 1)
            : chip.kind === 'boost'
              ? 2.5
              : Math.max(2.5, (volts ?? 1) * 1.1);
      return [
        behaviourSchema.parse({
          do: 'regulator',
          in: 'VIN',
          out,
          ...(has('SENSE') ? { sense: 'SENSE' } : {}),
          ...(volts === undefined ? {} : { volts }),
          ...(chip.range === undefined ? {} : { range: chip.range }),
          limit: chip.limit ?? usualLimit[chip.kind],
          pass: passOf[chip.kind],
          efficiency: chip.efficiency ?? 0.9,
          needs: [
            { at: 'VIN', above: lowestInput, hysteresis: lowestInput * 0.08 },
            ...[...enables, ...supply].map((need) => ({
              at: need.at,
              above: need.volts,
              hysteresis: need.hysteresisVolts,
            })),
          ],
          ...(chip.delay === undefined ? {} : { onDelay: chip.delay }),
          ...(chip.softStart === undefined ? {} : { softStart: chip.softStart }),
          ...(chip.overload === undefined ? {} : { overload: chip.overload }),
          ...(has('PG') ? { powerGood: 'PG' } : {}),
        }),
      ];
    }
    case 'supervisor':
    case 'detector': {
      const out = has('RESET#') ? 'RESET#' : 'OUT';
      const sense = has('SENSE') ? 'SENSE' : 'VCC';
      return [
        behaviourSchema.parse({
          do: 'follower',
          out,
          supply: [{ at: 'VCC', above: 1 }],
          needs: [{ at: sense, above: chip.threshold ?? 2.9 }],
          onDelay: chip.delay ?? (chip.kind === 'supervisor' ? 0.02 : 0.001),
        }),
      ];
    }
    case 'clock':
      return [
        behaviourSchema.parse({
          do: 'follower',
          out: 'OUT',
          drive: 'push-pull',
          high: 'VCC',
          supply: [{ at: 'VCC', above: chip.threshold ?? 1.5 }],
          needs: enables.map((need) => ({ at: need.at, above: need.volts })),
          onDelay: chip.delay ?? 0.002,
        }),
      ];
    case 'charger':
      return usualCharger(chip);
    case 'pd':
      return usualPowerDelivery(chip);
    case 'controller':
      return usualController(chip);
    case 'chipset':
      return usualChipset(chip);
    case 'flash':
    case 'memory':
    case 'panel':
    case 'storage':
    case 'generic':
      return [];
  }
}

type Converter = 'buck' | 'boost' | 'ldo' | 'loadswitch' | 'cpu-regulator';
const usualLimit: Record<Converter, number> = {
  buck: 8,
  boost: 1,
  ldo: 0.3,
  loadswitch: 4,
  'cpu-regulator': 40,
};
const passOf: Record<Converter, 'switching' | 'linear' | 'switch' | 'boost'> = {
  buck: 'switching',
  boost: 'boost',
  ldo: 'linear',
  loadswitch: 'switch',
  'cpu-regulator': 'switching',
};
