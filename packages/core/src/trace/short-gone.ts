import { asOnBench, findChip, findPart, joinedTo, type Board, type NetId } from '../board/index.ts';
import { leadOhms, type Reading } from '../readings/index.ts';

// A part was taken off a shorted rail, or something unplugged, and its ohms read again: the short went with it, or
// it did not.

/** Ohms from a net of a rail to ground, with some parts off. */
export interface OhmsRead {
  id: string;
  net: NetId;
  ohms: number;
  lifted: readonly string[];
}

/** The same, with what was plugged in. */
interface OhmsOnBench extends OhmsRead {
  attached: readonly string[];
}

/** What the short went with. */
export interface ShortGone {
  /** The part, or the attachment by its id. */
  part: string;
  /** How it is called: `C64`, `the battery`. */
  title: string;
  net: NetId;
  /** What follows: `The short went with C64: it is the part.` */
  said: string;
  /** By which readings. */
  text: string;
  /** What is done now. */
  remedy: string;
}

/** More than this is what hangs on a rail and no short of it. A guess. */
const mostShortOhms = 30;
/** So many times the first reading, the short is gone. */
const goneTimes = 4;

/** The least a rail was read at with nothing off: what the short has. Null where it was not read. */
export function shortOhms(ohms: readonly OhmsRead[]): number | null {
  const all = ohms.filter(({ lifted }) => lifted.length === 0);
  const last = all.at(-1) ?? ohms.at(0);
  return last ? last.ohms : null;
}

/** Whether a reading still shows the short. */
export const stillShort = (ohms: number, first: number): boolean =>
  ohms <= goneTimes * first + leadOhms.often;

/** Cold ohms to ground among readings that stand, on all that milliohms join with a net. */
export function ohmsOnRail(
  board: Board,
  readings: readonly { id: string; reading: Reading }[],
  net: NetId,
): OhmsOnBench[] {
  const rail = joinedTo(board, [net]);
  return readings.flatMap(({ id, reading }): OhmsOnBench[] => {
    const { mode, reference, at, value, lifted, attached } = reading;
    if (mode !== 'ohms' || reference !== null || !rail.has(at.net as NetId)) return [];
    const ohms =
      value.kind === 'number'
        ? value.value
        : value.kind === 'over'
          ? Infinity
          : value.kind === 'beep'
            ? 1
            : null;
    return ohms === null ? [] : [{ id, net: at.net as NetId, ohms, lifted, attached }];
  });
}

/** A part is proven where the short goes with it, all else being as it was; `names`: what could be it. */
export function wentWith(
  board: Board,
  read: readonly OhmsRead[],
  first: number | null,
  /** A coil that was out only split the rail. */
  names: readonly string[],
): Pick<ShortGone, 'part' | 'text'> | null {
  if (first === null) return null;
  const rail = ({ net, lifted }: OhmsRead): Set<NetId> =>
    joinedTo(asOnBench(board, { lifted }), [net]);
  for (const gone of read) {
    if (gone.lifted.length === 0 || stillShort(gone.ohms, first)) continue;
    for (const there of read) {
      const more = gone.lifted.filter((ref) => !there.lifted.includes(ref));
      const alike = there.lifted.every((ref) => gone.lifted.includes(ref));
      if (more.length !== 1 || !alike || !rail(gone).has(there.net)) continue;
      if (!names.includes(more[0]!) || !stillShort(there.ohms, first)) continue;
      return {
        part: more[0]!,
        text: `${there.net} read ${ohmsText(there.ohms)} with ${more[0]} on and ${ohmsText(gone.ohms)} without it.`,
      };
    }
  }
  return null;
}

const ohmsText = (ohms: number): string =>
  Number.isFinite(ohms) ? `${Number(ohms.toPrecision(3))} Ω` : 'OL';

/**
 * The part with which a short went, on whichever rail; null where none did. The cause is found then: fit a
 * good one and read again. `off`: what is off the board now.
 */
export function shortGoneWith(
  board: Board,
  readings: readonly { id: string; reading: Reading }[],
  off: readonly string[],
): ShortGone | null {
  for (const part of off) {
    const nets = [
      ...(findPart(board, part)?.pins.map((pin) => pin.net) ?? []),
      ...(findChip(board, part)?.pins.values() ?? []),
    ];
    for (const net of nets) {
      if (net === board.ground) continue;
      const read = ohmsOnRail(board, readings, net);
      const proven = wentWith(board, read, shortOhms(read), [part]);
      if (proven)
        return {
          ...proven,
          title: part,
          net,
          said: `The short went with ${part}: it is the part.`,
          remedy: remedy('Fit a new one', net),
        };
    }
  }
  return goneUnplugged(board, readings);
}

const remedy = (anew: string, net: NetId): string =>
  `${anew} and read ${net} again, source off, before anything is powered.`;

const same = (a: readonly string[], b: readonly string[]): boolean =>
  a.toSorted().join() === b.toSorted().join();

/** An attachment that is unplugged and took the short with it; null where none did. */
function goneUnplugged(
  board: Board,
  readings: readonly { id: string; reading: Reading }[],
): ShortGone | null {
  const now = readings.at(-1)?.reading.attached ?? [];
  for (const { id, title } of board.attachments) {
    if (now.includes(id)) continue;
    const nets = new Set(
      [...board.parts, ...board.chips]
        .filter(({ on }) => on === id)
        .flatMap((one) =>
          'behaviours' in one ? [...one.pins.values()] : one.pins.map((pin) => pin.net),
        ),
    );
    for (const net of nets) {
      if (net === board.ground) continue;
      const read = ohmsOnRail(board, readings, net);
      const gone = read.findLast(({ attached }) => !attached.includes(id));
      const there = read.find(
        (one) =>
          gone !== undefined &&
          one.attached.includes(id) &&
          same(one.attached, [...gone.attached, id]) &&
          same(one.lifted, gone.lifted),
      );
      if (!gone || !there || stillShort(gone.ohms, there.ohms)) continue;
      if (there.ohms > mostShortOhms) continue;
      const name = title.toLowerCase();
      return {
        part: id,
        title: `the ${name}`,
        said: `The short went with the ${name}: the fault is in it.`,
        remedy: remedy('Put a good one in its place', net),
        net,
        text: `${there.net} read ${ohmsText(there.ohms)} with the ${name} plugged in and ${ohmsText(gone.ohms)} without it.`,
      };
    }
  }
  return null;
}
