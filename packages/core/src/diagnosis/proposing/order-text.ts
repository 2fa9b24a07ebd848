import type { NetId } from '../../board/index.ts';
import { faultPlace } from '../../faults/index.ts';
import type { Mode, Phase } from '../../readings/index.ts';
import type { NextStep } from './next-step.ts';

// What is to be done now, as one would call it across the bench: at most twelve words.

export const phaseWords: Record<Phase, string> = {
  cold: 'source off',
  standby: 'source on, not pressed',
  pressed: 'button held',
  trying: 'after the press',
  run: 'after the press',
};

const modeWords: Record<Mode, string> = {
  volts: 'volts',
  ohms: 'ohms',
  diode: 'diode-mode',
  amps: 'amps',
  celsius: 'degrees',
  seconds: 'seconds',
};

export const mostOrderWords = 12;
const fits = (text: string): boolean => text.split(/\s+/).length <= mostOrderWords;

/** A reading to take: `Read volts on 1V2_MEM at coil PL7, pin 2, after the press.` */
export function orderToRead(reading: {
  net: NetId | string;
  /** Where the tip goes; left out where the sentence would be too long. */
  place: string;
  mode: Mode;
  phase: Phase;
  reference?: string | null;
  across?: string | null;
}): string {
  const { net, place, mode, phase, reference = null, across = null } = reading;
  const begin = `Read ${modeWords[mode]}`;
  const end = `${phaseWords[phase]}.`;
  if (across) return `${begin} across ${across}, ${end}`;
  if (reference) return `${begin} from ${net} to ${reference}, ${end}`;
  const at = `${begin} on ${net} at ${place}, ${end}`;
  return place && place !== net && fits(at) ? at : `${begin} on ${net}, ${end}`;
}

/** A test that comes instead of a reading; null where a reading is next. */
export function orderToTest(step: NextStep): string | null {
  if (step.kind === 'check') return step.check.order;
  if (step.kind !== 'test') return null;
  const { suspect, because, rail } = step;
  const [first] = suspect.faults;
  const place = first ? faultPlace(first.fault) : '';
  switch (because) {
    case 'shorted':
      return `Find the short on ${rail ?? place}, source off.`;
    case 'broken':
      return suspect.between
        ? `Measure ohms from ${suspect.between.there} to ${suspect.between.missing}, source off.`
        : `Check ${place} before you heat anything.`;
    case 'went':
      return `Fit a new part in place of ${place}.`;
    case 'measured':
    case 'leads':
    case 'nothing-parts':
      return place ? `Check ${place} before you heat anything.` : null;
  }
}
