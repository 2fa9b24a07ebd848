import type { JobEvent } from '@jiko/core/record';

/** An entry on its way to the server. */
export interface Waiting {
  job: string;
  event: JobEvent;
  /** The job itself is new: opened with this event. */
  opens: boolean;
}

/** An entry the server refused, with its words: sending it again as it is would not help. */
export interface Refused {
  entry: Waiting;
  words: string;
}

/** Something in the storage under our name that cannot be read: kept as it is. */
export interface Damaged {
  key: string;
  text: string;
}

/** What the browser keeps: one item per entry, so that two tabs do not write over each other. */
export interface WaitingStore {
  /** In the order recorded, whatever any clock said. */
  read(): { waiting: Waiting[]; refused: Refused[]; damaged: Damaged[] };
  /** False where there is no room, or no storage at all. */
  keep(entry: Waiting): boolean;
  setAside(refused: Refused): boolean;
  forget(id: string): void;
  forgetDamaged(key: string): void;
}

const waitingPrefix = 'jiko-outbox ';
const refusedPrefix = 'jiko-refused ';
const counterKey = 'jiko-outbox-counter';

export type Storage = Pick<
  globalThis.Storage,
  'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'
>;

export function makeWaitingStore(storage: Storage | null): WaitingStore {
  const keys = (): string[] =>
    storage
      ? Array.from({ length: storage.length }, (_, at) => storage.key(at) ?? '').filter(
          (key) => key.startsWith(waitingPrefix) || key.startsWith(refusedPrefix),
        )
      : [];
  const idIn = (key: string): string => key.split(' ').at(-1) ?? '';
  const write = (key: string, value: unknown): boolean => {
    try {
      storage?.setItem(key, JSON.stringify(value));
      return storage !== null;
    } catch {
      return false;
    }
  };
  /** A number past all that wait: tabs that count at once differ by the id behind it. */
  const count = (): string => {
    const numbers = keys()
      .filter((key) => key.startsWith(waitingPrefix))
      .map((key) => Number.parseInt(key.slice(waitingPrefix.length), 10))
      .filter(Number.isFinite);
    const next = Math.max(Number(storage?.getItem(counterKey)) || 0, 0, ...numbers) + 1;
    try {
      storage?.setItem(counterKey, String(next));
    } catch {
      // the entries themselves are counted as well
    }
    return String(next).padStart(16, '0');
  };
  return {
    read() {
      const found: ReturnType<WaitingStore['read']> = { waiting: [], refused: [], damaged: [] };
      for (const key of keys().sort()) {
        const text = storage?.getItem(key);
        // Another tab took it meanwhile.
        if (text === null || text === undefined) continue;
        const value = parsed(text);
        if (key.startsWith(waitingPrefix) && isWaiting(value)) found.waiting.push(value);
        else if (key.startsWith(refusedPrefix) && isRefused(value)) found.refused.push(value);
        else found.damaged.push({ key, text });
      }
      return found;
    },
    keep: (entry) => write(`${waitingPrefix}${count()} ${entry.event.id}`, entry),
    setAside(refused) {
      const { id } = refused.entry.event;
      if (!write(`${refusedPrefix}${id}`, refused)) return false;
      for (const key of keys())
        if (key.startsWith(waitingPrefix) && idIn(key) === id) storage?.removeItem(key);
      return true;
    },
    forget(id) {
      for (const key of keys()) if (idIn(key) === id) storage?.removeItem(key);
    },
    forgetDamaged: (key) => storage?.removeItem(key),
  };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

function isWaiting(value: unknown): value is Waiting {
  const one = value as Partial<Waiting> | null;
  return (
    typeof one?.job === 'string' &&
    typeof one.opens === 'boolean' &&
    typeof one.event?.id === 'string' &&
    typeof one.event.body?.type === 'string'
  );
}

function isRefused(value: unknown): value is Refused {
  const one = value as Partial<Refused> | null;
  return typeof one?.words === 'string' && isWaiting(one.entry);
}
