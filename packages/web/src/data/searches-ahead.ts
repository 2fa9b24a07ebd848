import type { DictionarySearch, Making } from './dictionary-search.ts';

/** A search whose news goes to whoever listens; what was last told is told again to who comes later. */
export interface HeardSearch {
  search: DictionarySearch;
  listen(tell: (making: Making) => void, tellUnreadable: () => void): void;
}

export function heardSearch(
  begin: (tell: (making: Making) => void, tellUnreadable: () => void) => DictionarySearch,
): HeardSearch {
  let last: Making | null = null;
  let isUnreadable = false;
  let hear: { tell: (making: Making) => void; tellUnreadable: () => void } | null = null;
  const search = begin(
    (making) => {
      last = making;
      hear?.tell(making);
    },
    () => {
      isUnreadable = true;
      hear?.tellUnreadable();
    },
  );
  return {
    search,
    listen(tell, tellUnreadable) {
      hear = { tell, tellUnreadable };
      if (last) tell(last);
      if (isUnreadable) tellUnreadable();
    },
  };
}

/**
 * Searches begun before anybody asks: a sheet that is being saved is played meanwhile. One at a time;
 * what is not asked for by the time of the next is ended.
 */
export interface SearchesAhead {
  begin(subject: string, make: () => HeardSearch): void;
  /** The one of this subject, which is then the asker's to end; null where there is none. */
  take(subject: string): HeardSearch | null;
  /** Nobody will ask: the sheet was not saved. */
  drop(): void;
}

export function makeSearchesAhead(): SearchesAhead {
  let waiting: { subject: string; heard: HeardSearch } | null = null;
  const drop = (): void => {
    waiting?.heard.search.end();
    waiting = null;
  };
  return {
    begin(subject, make) {
      drop();
      waiting = { subject, heard: make() };
    },
    take(subject) {
      if (waiting?.subject !== subject) return null;
      const { heard } = waiting;
      waiting = null;
      return heard;
    },
    drop,
  };
}
