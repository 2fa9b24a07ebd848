import type { Shop } from '@jiko/contract';
import type { Outcome } from '../outcome.ts';
import type { Demo } from '../demo/load-demo.ts';

/** What the shop's use cases need of the world: the files beside the database. */
export interface BackupFolder {
  /** The data folder. */
  folder: string;
  /** Daily backups, newest first. */
  list(): Promise<Shop['backups']>;
  /** Makes one and reads it back; what was done in words. An error's message says why not. */
  make(daily: boolean): Promise<string>;
  /** Bytes left on the disk the data lies on. */
  freeBytes(): Promise<number>;
  /** Ends a backup that is being made: the app stops. */
  stop(): void;
}

export interface ShopUseCases {
  look(): Promise<Shop>;
  backUp(): Promise<Outcome<Shop>>;
  /** Takes a daily backup where the last is a day old; called now and then. */
  keepDaily(): Promise<void>;
  removeDemo(): Promise<Shop>;
  /** Ends what is at work; nothing half done is left. */
  stop(): void;
}

const hour = 3_600_000;
/** A daily backup older than this is not daily any more. */
const oldHours = 36;
/** Less room than this, or than three backups need, is short. */
const leastFreeBytes = 1024 ** 3;
/** Whoever asked for a backup is answered after this, done or not; it goes on. */
const answerSeconds = 60;
/** A file that is dated so far ahead was made while the clock was wrong: it says nothing of today. */
const aheadHours = 1;
const isAhead = (at: string, now: Date): boolean =>
  Date.parse(at) - now.getTime() > aheadHours * hour;

export function makeShop(
  place: BackupFolder | null,
  demo: Pick<Demo, 'remove' | 'state'>,
  now: () => Date = () => new Date(),
): ShopUseCases {
  let last: Shop['last'] = null;
  let running: { done: Promise<void>; since: Date } | null = null;
  const make = async (daily: boolean, since: Date): Promise<void> => {
    const at = since.toISOString();
    try {
      const words = (await place?.make(daily)) ?? '';
      // What a program says it did is believed once the file is seen.
      const newest = await newestTrue();
      if (place && (!newest || Date.parse(newest.at) < since.getTime() - 2000))
        throw new Error('It was made, but its file is not in the folder of backups.');
      last = { at, ok: true, words };
    } catch (error) {
      last = { at, ok: false, words: (error as Error).message };
    } finally {
      running = null;
    }
  };
  const attempt = (daily: boolean): Promise<void> => {
    const since = now();
    running ??= { done: make(daily, since), since };
    return running.done;
  };
  const newestTrue = async (): Promise<Shop['backups'][number] | undefined> =>
    (await place?.list())?.find(({ at }) => !isAhead(at, now()));
  const look = async (): Promise<Shop> => {
    const backups = (await place?.list()) ?? [];
    const freeBytes = place ? await place.freeBytes().catch(() => null) : null;
    return {
      folder: place?.folder ?? null,
      backups,
      last,
      freeBytes,
      warnings: place ? warningsOf(backups, last, freeBytes, now(), running?.since) : [],
      demo: await demo.state(),
    };
  };
  return {
    look,
    async backUp() {
      if (!place)
        return {
          ok: false,
          problem: {
            status: 409,
            title: 'The database is not kept by Jiko',
            detail: 'DATABASE_URL names another server: it is backed up there.',
          },
        };
      let timer: NodeJS.Timeout | undefined;
      const late = new Promise<void>((resolve) => {
        timer = setTimeout(resolve, answerSeconds * 1000);
      });
      await Promise.race([attempt(true), late]);
      clearTimeout(timer);
      return { ok: true, value: await look() };
    },
    async keepDaily() {
      if (!place) return;
      const newest = await newestTrue();
      if (!newest || now().getTime() - Date.parse(newest.at) > 24 * hour) await attempt(true);
    },
    async removeDemo() {
      await demo.remove();
      return look();
    },
    stop: () => place?.stop(),
  };
}

/** What is wrong with the backups or the room for them, worst first. */
export function warningsOf(
  backups: Shop['backups'],
  last: Shop['last'],
  freeBytes: number | null,
  now: Date,
  runningSince?: Date,
): string[] {
  const warnings: string[] = [];
  const newest = backups.find(({ at }) => !isAhead(at, now));
  const ahead = backups.filter(({ at }) => isAhead(at, now));
  if (last && !last.ok) warnings.push(`The last backup failed: ${last.words}`);
  if (runningSince && now.getTime() - runningSince.getTime() > answerSeconds * 1000)
    warnings.push(
      `A backup has been at work since ${runningSince.toISOString().slice(11, 16)} UTC.`,
    );
  if (last && !newest) warnings.push('There is no daily backup.');
  if (ahead.length > 0)
    warnings.push(
      `${ahead.length} daily backup${ahead.length === 1 ? ' is' : 's are'} dated in the future (${ahead[0]?.name}): the clock was wrong when it was made. Check the clock; such a backup is neither counted nor deleted.`,
    );
  if (newest && now.getTime() - Date.parse(newest.at) > oldHours * hour)
    warnings.push(`The newest backup is of ${newest.at.slice(0, 10)}: more than a day old.`);
  const wanted = Math.max(leastFreeBytes, 3 * (newest?.bytes ?? 0));
  if (freeBytes !== null && freeBytes < wanted)
    warnings.push(
      `Only ${Math.floor(freeBytes / 1024 ** 2)} MB are left on the disk the data lies on: make room before entries cannot be kept any more.`,
    );
  return warnings;
}
