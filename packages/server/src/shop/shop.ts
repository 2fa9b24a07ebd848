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
}

export interface ShopUseCases {
  look(): Promise<Shop>;
  backUp(): Promise<Outcome<Shop>>;
  /** Takes a daily backup where the last is a day old; called now and then. */
  keepDaily(): Promise<void>;
  removeDemo(): Promise<Shop>;
}

const hour = 3_600_000;
/** A daily backup older than this is not daily any more. */
const oldHours = 36;
/** Less room than this, or than three backups need, is short. */
const leastFreeBytes = 1024 ** 3;

export function makeShop(
  place: BackupFolder | null,
  demo: Pick<Demo, 'remove' | 'state'>,
  now: () => Date = () => new Date(),
): ShopUseCases {
  let last: Shop['last'] = null;
  let running: Promise<void> | null = null;
  const attempt = (daily: boolean): Promise<void> =>
    (running ??= (async () => {
      const at = now().toISOString();
      try {
        last = { at, ok: true, words: (await place?.make(daily)) ?? '' };
      } catch (error) {
        last = { at, ok: false, words: (error as Error).message };
      } finally {
        running = null;
      }
    })());
  const look = async (): Promise<Shop> => {
    const backups = (await place?.list()) ?? [];
    const freeBytes = place ? await place.freeBytes().catch(() => null) : null;
    return {
      folder: place?.folder ?? null,
      backups,
      last,
      freeBytes,
      warnings: place ? warningsOf(backups, last, freeBytes, now()) : [],
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
      await attempt(true);
      return { ok: true, value: await look() };
    },
    async keepDaily() {
      if (!place) return;
      const [newest] = await place.list();
      if (!newest || now().getTime() - Date.parse(newest.at) > 24 * hour) await attempt(true);
    },
    async removeDemo() {
      await demo.remove();
      return look();
    },
  };
}

/** What is wrong with the backups or the room for them, worst first. */
export function warningsOf(
  backups: Shop['backups'],
  last: Shop['last'],
  freeBytes: number | null,
  now: Date,
): string[] {
  const warnings: string[] = [];
  const [newest] = backups;
  if (last && !last.ok) warnings.push(`The last backup failed: ${last.words}`);
  if (newest && now.getTime() - Date.parse(newest.at) > oldHours * hour)
    warnings.push(`The newest backup is of ${newest.at.slice(0, 10)}: more than a day old.`);
  const wanted = Math.max(leastFreeBytes, 3 * (newest?.bytes ?? 0));
  if (freeBytes !== null && freeBytes < wanted)
    warnings.push(
      `Only ${Math.floor(freeBytes / 1024 ** 2)} MB are left on the disk the data lies on: make room before entries cannot be kept any more.`,
    );
  return warnings;
}
