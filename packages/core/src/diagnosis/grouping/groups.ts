import { isPlayed, voltsPlace } from '../../dictionary/index.ts';
import { classTitle, type FaultClass } from './classes.ts';
import { toldCold } from '../weighing/cold-knowledge.ts';
import { diodeSigma, ohmsSigmaDecades } from '../weighing/cold-likelihood.ts';
import { voltsSigma } from '../weighing/volts-likelihood.ts';
import { faultAt, swingAt, type Table } from '../weighing/table.ts';

/** Faults no reading tells apart, as one thing to find. */
export interface Group extends FaultClass {
  title: string;
  probability: number;
}

/** Only what still stands is held against each other: the rest keeps its class. */
const mostCompared = 24;
const leastCompared = 0.0002;

/**
 * Classes whose leading rows read the same everywhere a probe can go, put together; likeliest first.
 * That one goes off by itself parts them too, until it was watched: then it has said what it can.
 */
export function mergeAlike(
  table: Table,
  classes: readonly FaultClass[],
  weights: Float64Array,
  wasWatched: boolean,
): Group[] {
  const sum = (rows: readonly number[]): number =>
    rows.reduce((all, row) => all + weights[row]!, 0);
  const groups = classes
    .map((one): Group => ({
      ...one,
      title: titleOf(one),
      probability: sum(one.rows),
    }))
    .sort((a, b) => b.probability - a.probability);
  for (const group of groups)
    if (
      !group.isGone &&
      !group.between &&
      group.rows.every((row) => isAlike(table, row, 0, wasWatched))
    )
      group.title = silentTitle;
  const lead = (group: Group): number =>
    group.rows.reduce((best, row) => (weights[row]! > weights[best]! ? row : best), group.rows[0]!);
  const merged: Group[] = [];
  groups.forEach((group, index) => {
    const like =
      !group.isGone && !group.between && index < mostCompared && group.probability > leastCompared
        ? merged.find(
            (other) =>
              !other.isGone &&
              !other.between &&
              isAlike(table, lead(other), lead(group), wasWatched),
          )
        : undefined;
    if (!like) {
      merged.push({ ...group });
      return;
    }
    like.rows = [...like.rows, ...group.rows];
    like.faults = [...like.faults, ...group.faults];
    like.probability += group.probability;
  });
  return merged.sort((a, b) => b.probability - a.probability);
}

const titles = new WeakMap<FaultClass['faults'], string>();
/** A class is called the same whatever was read: the name is made once. */
function titleOf(one: FaultClass): string {
  let title = titles.get(one.faults);
  if (title === undefined) titles.set(one.faults, (title = classTitle(one)));
  return title;
}

export const silentTitle = 'Faults that no reading on the nets shows';

/** Single rows never change: what was compared once is kept. */
function isAlike(table: Table, a: number, b: number, wasWatched: boolean): boolean {
  // What was not played yet is like nothing else.
  if (!isPlayed(table.dictionary, a) || !isPlayed(table.dictionary, b)) return a === b;
  // One goes off by itself, the other does not: a clock tells them apart.
  if (!wasWatched && goesOff(table, a) !== goesOff(table, b)) return false;
  // A picture is seen or not, whatever the nets read.
  const { dark } = table.dictionary;
  if (dark.includes(a) !== dark.includes(b)) return false;
  if (Math.max(a, b) >= table.singles) return readAlike(table, a, b);
  const key = Math.min(a, b) * table.singles + Math.max(a, b);
  let known = table.alike.get(key);
  if (known === undefined) table.alike.set(key, (known = readAlike(table, a, b)));
  return known;
}

const goesOff = ({ dictionary }: Table, row: number): boolean =>
  !Number.isNaN(dictionary.offAfter[row]!);

/** Whether no reading on the nets would tell two rows apart on a board that is not quite the sheet's. */
function readAlike(table: Table, a: number, b: number): boolean {
  const { dictionary, where, tolerances, isSwitch } = table;
  const { nets, volts, ohms, diode } = dictionary;
  for (let net = 0; net < nets.length; net++) {
    for (const phase of isSwitch[net] ? [] : (['standby', 'trying'] as const)) {
      const [here, there] = [
        voltsPlace(dictionary, a, phase, net),
        voltsPlace(dictionary, b, phase, net),
      ];
      if ((swingAt(dictionary, here) === null) !== (swingAt(dictionary, there) === null))
        return false;
      const most = Math.max(Math.abs(volts[here]!), Math.abs(volts[there]!));
      const limit = 3 * voltsSigma(most, where[net]!, tolerances[net]);
      if (Math.abs(volts[here]! - volts[there]!) > limit) return false;
    }
    const told = (list: Float32Array, mode: 'ohms' | 'diode', row: number): number =>
      toldCold(table.cold[mode][net]!, mode, list[row * nets.length + net]!, list[net]!);
    const [left, right] = [told(ohms, 'ohms', a), told(ohms, 'ohms', b)];
    if ((left === Infinity) !== (right === Infinity)) return false;
    if (left !== Infinity) {
      const decades = Math.abs(Math.log10(Math.max(left, 0.3) / Math.max(right, 0.3)));
      if (decades > 3 * ohmsSigmaDecades) return false;
    }
    const [under, over] = [told(diode, 'diode', a), told(diode, 'diode', b)];
    if ((under === Infinity) !== (over === Infinity)) return false;
    if (under !== Infinity && Math.abs(under - over) > 3 * diodeSigma) return false;
  }
  return true;
}

/**
 * The classes of single faults with what was grown: another size of a fault is of its class, sets of
 * several whose members are of the same classes are one class more.
 */
export function withGrown(
  table: Table,
  classes: readonly FaultClass[],
  classOf: ArrayLike<number>,
): FaultClass[] {
  const byKey = new Map<string, FaultClass>();
  const sizes = new Map<number, number[]>();
  table.sets.forEach((members, index) => {
    if (members.length === 1) {
      const own = classOf[members[0]!]!;
      sizes.set(own, [...(sizes.get(own) ?? []), table.singles + index]);
      return;
    }
    const numbers = members.map((row) => classOf[row]!).sort((a, b) => a - b);
    const key = numbers.join();
    const one = byKey.get(key) ?? {
      rows: [],
      faults: members.map((row) => faultAt(table, row)),
      shortedNet: null,
      together: numbers.map((number) => classes[number]!),
    };
    one.rows.push(table.singles + index);
    byKey.set(key, one);
  });
  return [
    ...classes.map((one, number) => {
      const more = sizes.get(number);
      return more ? { ...one, rows: [...one.rows, ...more] } : one;
    }),
    ...byKey.values(),
  ];
}
