import { behaviourSchema, type SheetBehaviour, type SheetChip } from './sheet-schema.ts';

type WrittenStep = Record<string, unknown>;

/**
 * What an embedded controller does by the pins it has (common practice, no source). Supplied at VCC
 * (and FLASH), released by RST, it reads its firmware, waits for its button SW, and then for each of
 * these it has, in this order: S5EN until S5PG, RSMRST, a pulse on PBTN, S4 and S3 awaited, SUSEN
 * until MEMPG, RUNEN until RUNPG, VRON until VRRDY, PWROK, SYSOK with LCDEN and FAN, BLEN. EN5 is
 * given as soon as it runs, and PG5 awaited before the button; LED shows that the button was seen.
 * CHGEN follows ACOK with BATDET low.
 */
export function usualController(chip: SheetChip): SheetBehaviour[] {
  const has = (pin: string): boolean => pin in chip.pins;
  const outputs = [
    'S5EN',
    'RSMRST',
    'SUSEN',
    'RUNEN',
    'VRON',
    'PWROK',
    'SYSOK',
    'LCDEN',
    'FAN',
    'BLEN',
  ];
  const driven = outputs.filter(has);
  if (!has('VCC') || !has('SW') || driven.length === 0) return [];
  const supply = has('FLASH') ? ['VCC > 2.8', 'FLASH > 2.7'] : ['VCC > 2.8'];
  const needs = has('RST') ? ['RST > 2'] : [];
  const steps: WrittenStep[] = [{ pause: 0.03 }, { mark: 'has read its flash' }];
  const wait = (within: number, ...pins: string[]): void => {
    const there = pins.filter(has);
    if (there.length > 0) steps.push({ wait: there.map((pin) => `${pin} > 2`), within });
  };
  const drive = (...pins: string[]): boolean => {
    const there = pins.filter(has);
    if (there.length > 0)
      steps.push({
        drive: Object.fromEntries(there.map((pin) => [pin, pin === 'LED' ? 'low' : 'high'])),
      });
    return there.length > 0;
  };
  if (has('PG5')) steps.push({ wait: ['PG5 > 2'] });
  steps.push({ wait: ['SW < 0.8'] }, { pause: 0.02 });
  drive('S5EN', 'LED');
  wait(0.5, 'S5PG');
  if (has('RSMRST')) {
    steps.push({ pause: 0.01 });
    drive('RSMRST');
  }
  if (has('PBTN')) steps.push({ pause: 0.03 }, { pulse: 'PBTN', to: 'low', for: 0.02 });
  wait(1, 'S4', 'S3');
  drive('SUSEN');
  wait(0.3, 'MEMPG');
  drive('RUNEN');
  wait(0.3, 'RUNPG');
  drive('VRON');
  wait(0.3, 'VRRDY');
  if (has('PWROK')) {
    // PWROK comes about a tenth of a second after the rails, as from a desktop supply.
    steps.push({ pause: 0.1 });
    drive('PWROK');
  }
  steps.push({ pause: 0.01 });
  drive('SYSOK', 'LCDEN', 'FAN');
  if (has('BLEN')) {
    steps.push({ pause: 0.2 });
    drive('BLEN');
  }
  const idle: Record<string, string> = Object.fromEntries(driven.map((pin) => [pin, 'low']));
  for (const pin of ['PBTN', 'LED'].filter(has)) idle[pin] = 'release';
  const does: unknown[] = [];
  const follows = { do: 'follower', drive: 'push-pull', high: 'VCC', supply };
  // Both stay on when the sequence gives up.
  if (has('EN5')) does.push({ ...follows, name: '5 V enable', out: 'EN5', needs, onDelay: 0.03 });
  if (has('CHGEN'))
    does.push({
      ...follows,
      name: 'charge enable',
      out: 'CHGEN',
      needs: [...needs, 'ACOK > 2', 'BATDET < 0.8'],
      onDelay: 0.1,
    });
  does.push({
    do: 'sequence',
    name: 'power sequence',
    supply,
    needs,
    high: 'VCC',
    idle,
    steps,
    settle: 0.005,
  });
  return does.map((one) => behaviourSchema.parse(one));
}

/**
 * What a chipset does by the pins it has: supplied at VCC, V18, V105 and its clock domain (RTCRST),
 * released by RSMRST, it waits for PBTN, gives S4 and S3, waits for PWROK and SYSOK and releases
 * PLTRST.
 */
export function usualChipset(chip: SheetChip): SheetBehaviour[] {
  const has = (pin: string): boolean => pin in chip.pins;
  if (!['VCC', 'RSMRST', 'S3', 'PWROK', 'PLTRST'].every(has)) return [];
  const supply = ['VCC > 2.9', 'V18 > 1.6', 'V105 > 0.95', 'RTCRST > 1.5'].filter((need) =>
    has(need.split(' ')[0] as string),
  );
  const steps: WrittenStep[] = [{ pause: 0.005 }];
  if (has('PBTN')) steps.push({ wait: ['PBTN < 0.8'] });
  steps.push({ pause: 0.016 });
  if (has('S4')) steps.push({ drive: { S4: 'high' } }, { pause: 0.002 });
  steps.push({ drive: { S3: 'high' } }, { wait: ['PWROK > 2'] });
  if (has('SYSOK')) steps.push({ wait: ['SYSOK > 2'] });
  steps.push({ pause: 0.005 }, { drive: { PLTRST: 'high' } });
  const idle = Object.fromEntries(['S4', 'S3', 'PLTRST'].filter(has).map((pin) => [pin, 'low']));
  return [
    behaviourSchema.parse({
      do: 'sequence',
      name: 'wake',
      supply,
      needs: ['RSMRST > 2'],
      high: 'VCC',
      idle,
      steps,
      settle: 0.005,
    }),
  ];
}
