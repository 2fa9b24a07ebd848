import type { JunctionModel } from '../circuit/index.ts';
import type { Part } from '../board/index.ts';
import { isSmallFet } from '../board/index.ts';

// Typical values of the kinds of part a mainboard carries: data-sheet habits, from memory.

/** Power FET: threshold 1.8 V, about 5 milliohm at 12 V of drive. Signal FET: 1.5 V, about 2 ohm. */
export function fetModel(part: Part): { thresholdVolts: number; beta: number } {
  return isSmallFet(part) ? { thresholdVolts: 1.5, beta: 0.2 } : { thresholdVolts: 1.8, beta: 20 };
}

/** A healthy body diode reads 0.4 to 0.6 V at a meter's milliamp (common practice, no source). */
export const bodyDiode: JunctionModel = { saturationAmps: 1e-11, emission: 1.05, seriesOhms: 0.01 };

/** A logic chip's protection diode, with the metal before it. */
export const protectionDiode: JunctionModel = {
  saturationAmps: 1e-12,
  emission: 1.05,
  seriesOhms: 10,
};

export function diodeModel(kind: 'diode' | 'schottky' | 'led' | 'zener' | 'tvs'): JunctionModel {
  switch (kind) {
    case 'schottky':
      return { saturationAmps: 1e-6, emission: 1.05, seriesOhms: 0.05 };
    case 'led':
      return { saturationAmps: 1e-18, emission: 2, seriesOhms: 2 };
    case 'diode':
    case 'zener':
    case 'tvs':
      return { saturationAmps: 2e-9, emission: 1.8, seriesOhms: 0.2 };
  }
}

/** A small switching transistor. */
export const signalTransistor = { saturationAmps: 1e-14, forwardBeta: 150, reverseBeta: 4 };

/** Ohms of parts that are nearly a wire. */
export const wireOhms = { coil: 0.008, ferrite: 0.015, fuse: 0.008, jumper: 0.001 } as const;

/** A logic output's resistance to its rail or to ground when driven. */
export const outputOhms = 40;
/** An open-drain output pulled low. */
export const openDrainOhms = 15;

/** A regulator that is off takes some microamps out of its feed: data-sheet habit, from memory. */
export const inputLeakOhms = 1e6;
