import { expect, it } from 'vitest';
import * as limits from './limits.ts';

// The edges themselves are tested where they decide (power plan, injection, charge, countdown): this holds
// the numbers, so that a change of one is a change of two places.
it('numbers that decide, one by one', () => {
  expect({ ...limits }).toEqual({
    gentleVolts: 1,
    mostInjectedAmps: 5,
    mostPartWatts: 5,
    leakOhms: 200,
    overVolts: 0.3,
    drivenVolts: 0.3,
    liveAmps: 0.5,
    offVolts: 0.3,
    guessedLimits: { standby: 0.3, pressed: 2 },
    standbyLimit: { times: 3, leastAmps: 0.1 },
    pressedLimit: { times: 1.3, leastAmps: 0.3 },
    drawBand: { more: 1.33, moreAmps: 0.01, less: 0.67, lessAmps: 0.003 },
    coolerOffSeconds: 5,
    coolerWarnSeconds: 2,
    guessedChargeAmps: 2,
    guessedPrechargePart: 0.1,
    chargerEfficiency: 0.85,
    guessedBatteryPart: 0.6,
    overCharge: { times: 1.15, amps: 0.02 },
    leastChargeAmps: 0.01,
    prechargeTimes: 1.5,
    graceMinutes: 10,
    oddVoltsTimes: 1.5,
  });
});
