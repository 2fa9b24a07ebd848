import type { DictionarySearch, KnownBefore, Making } from './dictionary-search.ts';

/** How a search stands, and what is to be said of it besides. */
export interface Standing {
  making: Making;
  note: string | null;
}

/** Part in a search; who has none of its own goes on with what another began. */
export interface Seat {
  start(known?: KnownBefore): void;
  cancel(): void;
  hold(isHeld: boolean): void;
  leave(): void;
}

/** A search about to be begun, told to whoever takes part. */
export type Begin = (
  tell: (making: Making) => void,
  tellNote: (note: string) => void,
) => DictionarySearch;

interface Shared {
  sheet: string;
  search: DictionarySearch;
  standing: Standing;
  members: Set<(standing: Standing) => void>;
  isHeld: boolean;
}

/** So many that nobody takes part in are kept; each is some megabytes. */
const mostLeft = 3;

/**
 * Searches for dictionaries that outlive the page that began them: what is played behind one view of a
 * job is there for the next. One that nobody takes part in goes on while no other works, and ends when
 * another sheet is asked about.
 */
export interface SharedSearches {
  /** `subject` names sheet and bench; `listen` hears at once how it stands, and each time that changes. */
  join(subject: string, sheet: string, begin: Begin, listen: (standing: Standing) => void): Seat;
}

export function makeSharedSearches(): SharedSearches {
  /** Oldest first. */
  const open = new Map<string, Shared>();

  const setHeld = (shared: Shared, isHeld: boolean): void => {
    if (shared.isHeld === isHeld) return;
    shared.isHeld = isHeld;
    shared.search.hold(isHeld);
  };
  /** What nobody waits for gives way to what somebody does. */
  const giveWay = (): void => {
    const all = [...open.values()];
    const isWanted = all.some(
      ({ members, standing }) => members.size > 0 && standing.making.state === 'working',
    );
    for (const one of all) if (one.members.size === 0) setHeld(one, isWanted);
  };
  const end = (subject: string, { search }: Shared): void => {
    open.delete(subject);
    search.end();
  };
  /** Ends what nobody will ask for again. */
  const clear = (sheet: string): void => {
    const left = [...open].filter(([, { members }]) => members.size === 0);
    for (const [subject, one] of left) if (one.sheet !== sheet) end(subject, one);
    const ofThis = left.filter(([, one]) => one.sheet === sheet);
    for (const [subject, one] of ofThis.slice(0, Math.max(0, ofThis.length - mostLeft)))
      end(subject, one);
  };

  const beginAt = (subject: string, sheet: string, begin: Begin): Shared => {
    const shared: Shared = {
      sheet,
      search: { start: nothing, cancel: nothing, hold: nothing, end: nothing },
      standing: { making: { state: 'none' }, note: null },
      members: new Set(),
      isHeld: false,
    };
    const tell = (change: Partial<Standing>): void => {
      shared.standing = { ...shared.standing, ...change };
      shared.members.forEach((listen) => listen(shared.standing));
      giveWay();
    };
    open.set(subject, shared);
    shared.search = begin(
      (making) => tell({ making }),
      (note) => tell({ note }),
    );
    return shared;
  };

  return {
    join(subject, sheet, begin, listen) {
      clear(sheet);
      const known = open.get(subject);
      // What failed is tried anew by whoever comes next.
      if (known?.standing.making.state === 'failed' && known.members.size === 0)
        end(subject, known);
      const shared = open.get(subject) ?? beginAt(subject, sheet, begin);
      shared.members.add(listen);
      listen(shared.standing);
      setHeld(shared, false);
      giveWay();
      return {
        start: (known) => shared.search.start(known),
        cancel: () => shared.search.cancel(),
        hold: (isHeld) => {
          if (shared.members.has(listen)) setHeld(shared, isHeld);
        },
        leave: () => {
          if (!shared.members.delete(listen)) return;
          // Who let it wait waits no longer: it goes on unless it is in somebody's way.
          giveWay();
        },
      };
    },
  };
}

const nothing = (): void => undefined;
