import { behaviourSchema, type SheetBehaviour, type SheetChip } from './sheet-schema.ts';

/**
 * What a charger does by the pins it has (data-sheet habits, common practice, no source):
 *
 * - REGN: its own 6 V from VCC.
 * - ACDET with ACDRV: drives the input FETs' gates low while the source is between its limits and,
 *   where ACP and ACN stand across the sense resistor, not drawing too much; refuses to begin when
 *   the board side already stands near the source (CMSRC to ACP): a FET is shorted.
 * - ACOK: the source is good.
 * - BATDRV with BAT: turns the battery FET on when there is no source.
 * - SW with SRN and EN: charges `volts` with `limit` amps, after a small pre-charge.
 */
export function usualCharger(chip: SheetChip): SheetBehaviour[] {
  const has = (...pins: string[]): boolean => pins.every((pin) => pin in chip.pins);
  const does: unknown[] = [];
  const alive = ['VCC > 4'];
  const inLimits = ['ACDET > 2.4', 'ACDET < 3.15'];
  if (has('REGN')) {
    const needs = has('ACDET') ? ['VCC > 5', 'ACDET > 0.6'] : ['VCC > 5'];
    does.push({
      do: 'regulator',
      name: 'REGN',
      in: 'VCC',
      out: 'REGN',
      volts: 6,
      pass: 'linear',
      limit: 0.05,
      needs,
    });
  }
  if (has('ACDET', 'ACDRV')) {
    does.push({
      do: 'follower',
      name: 'input FET drive',
      out: 'ACDRV',
      active: 'low',
      supply: alive,
      needs: inLimits,
      // 46 mV is 4.6 A in 10 milliohm: an adapter of that size is at its end.
      trips: has('ACP', 'ACN') ? [{ at: 'ACP', than: 'ACN', below: 0.044, hysteresis: 0 }] : [],
      startNeeds: has('ACP', 'CMSRC') ? [{ at: 'ACP', than: 'CMSRC', below: -2 }] : [],
      onDelay: 0.15,
    });
  }
  if (has('ACDET', 'ACOK'))
    does.push({
      do: 'follower',
      name: 'ACOK',
      out: 'ACOK',
      supply: alive,
      needs: inLimits,
      onDelay: 0.05,
    });
  if (has('ACDET', 'BATDRV', 'BAT')) {
    does.push({
      do: 'follower',
      name: 'battery FET drive',
      out: 'BATDRV',
      active: 'low',
      supply: alive,
      needs: ['ACDET < 2.2', 'BAT > 6'],
      onDelay: 0.01,
    });
  }
  if (has('SW', 'SRN', 'EN')) {
    const volts = chip.volts ?? 12.6;
    does.push({
      do: 'regulator',
      name: 'charging',
      in: has('VIN') ? 'VIN' : 'ACN',
      out: 'SW',
      sense: 'SRN',
      volts,
      limit: chip.limit ?? 2,
      overload: 'constant-current',
      precharge: { limit: (chip.limit ?? 2) * 0.08, below: volts * 0.7 },
      needs: ['VCC > 5', 'ACDET > 2.4', 'EN > 1.2', ...(has('REGN') ? ['REGN > 5'] : [])],
      softStart: 0.01,
    });
  }
  return does.map((one) => behaviourSchema.parse(one));
}

/**
 * A USB-C controller by the pins it has: LDO from VBUS; asks for `volts` (20 where not said) and
 * waits for them; drives the gates of an N-channel pair (GATE) 8 V above what they stand on (MID)
 * while VBUS is within 10 % of what was agreed.
 */
export function usualPowerDelivery(chip: SheetChip): SheetBehaviour[] {
  const has = (...pins: string[]): boolean => pins.every((pin) => pin in chip.pins);
  if (!has('VBUS', 'LDO')) return [];
  const volts = chip.volts ?? 20;
  const alive = ['LDO > 3'];
  const agreed = [`VBUS > ${volts * 0.9}`, `VBUS < ${volts * 1.1}`];
  const does: unknown[] = [
    {
      do: 'regulator',
      name: 'LDO',
      in: 'VBUS',
      out: 'LDO',
      volts: 3.3,
      pass: 'linear',
      limit: 0.05,
      needs: ['VBUS > 4'],
    },
    {
      do: 'sequence',
      name: 'negotiation',
      supply: alive,
      high: 'LDO',
      steps: [
        { pause: 0.2 },
        { ask: volts },
        { wait: [`VBUS > ${volts * 0.9}`], within: 1 },
        { mark: 'has its contract' },
      ],
    },
  ];
  if (has('GATE', 'MID')) {
    does.push({
      do: 'follower',
      name: 'input FET drive',
      out: 'GATE',
      drive: 'push-pull',
      high: 'MID',
      lift: 8,
      supply: alive,
      needs: agreed,
      onDelay: 0.05,
      // The board side already near VBUS before it is switched on: a FET is shorted.
      startNeeds: has('SYS') ? [{ at: 'SYS', than: 'VBUS', below: -2 }] : [],
      // Volts that sag as soon as it is on: overload.
      trips: [`VBUS > ${volts * 0.8}`],
    });
  }
  return does.map((one) => behaviourSchema.parse(one));
}
