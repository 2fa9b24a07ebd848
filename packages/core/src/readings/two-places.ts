import type { Reading } from './reading.ts';

// A net is one point to a meter, wherever it is touched. Volts at one pin of it and none at another, in the same
// moment, are no contradiction: the copper between the two is broken.

/** Volts that copper, joints and two tries of a meter never lose, and the same as a part of what is there. */
const leastApartVolts = 0.3;
const leastApartPart = 0.1;

/** Whether two readings were taken at two pins of one net, each named. */
export const isOtherPlace = (a: Reading['at'], b: Reading['at']): boolean =>
  a.net === b.net && [a, b].every((at) => at.part !== null && at.pin !== null)
    ? a.part !== b.part || a.pin !== b.pin
    : false;

/** With the same source, the same things on the board, and the board in the same state. */
function isSameMoment(a: Reading, b: Reading): boolean {
  const moment = ({ source, attached, lifted, state }: Reading): string =>
    JSON.stringify([source?.id, attached.toSorted(), lifted.toSorted(), state ?? 'usual']);
  return moment(a) === moment(b);
}

/** Whether two readings of volts at two pins of one net are too far apart for whole copper. */
export function isBrokenBetween(a: Reading, b: Reading): boolean {
  if (a.mode !== 'volts' || b.mode !== 'volts' || a.phase !== b.phase) return false;
  // Where a net is best touched is said by its sheet: by another version the same pad may be called otherwise.
  if (a.sheet !== b.sheet || !isSameMoment(a, b)) return false;
  if (a.reference !== null || b.reference !== null || !isOtherPlace(a.at, b.at)) return false;
  const [one, other] = [a.value, b.value];
  if (one.kind !== 'number' || other.kind !== 'number') return false;
  const most = Math.max(Math.abs(one.value), Math.abs(other.value));
  return Math.abs(one.value - other.value) > leastApartVolts + leastApartPart * most;
}

/** `F1.2`, where a reading stood at a pin. */
export const pinText = ({ part, pin }: Reading['at']): string => `${part}.${pin}`;
