import { DataSource } from 'typeorm';
import { entities } from './entities.ts';
import { First1767225600000 } from './migrations/0001-first.ts';
import { Dictionaries1795478400000 } from './migrations/0002-dictionaries.ts';
import { Look1795564800000 } from './migrations/0003-look.ts';
import { NothingLost1795651200000 } from './migrations/0004-nothing-lost.ts';
import { Documents1795737600000 } from './migrations/0005-documents.ts';
import { Shelf1795824000000 } from './migrations/0006-shelf.ts';
import { Taught1796083200000 } from './migrations/0007-taught.ts';
import { OnlyTakenOut1796169600000 } from './migrations/0008-only-taken-out.ts';
import { FoundBy1796256000000 } from './migrations/0009-found-by.ts';

export const migrations = [
  First1767225600000,
  Dictionaries1795478400000,
  Look1795564800000,
  NothingLost1795651200000,
  Documents1795737600000,
  Shelf1795824000000,
  Taught1796083200000,
  OnlyTakenOut1796169600000,
  FoundBy1796256000000,
];

export function makeDataSource(url: string): DataSource {
  return new DataSource({
    type: 'postgres',
    url,
    entities,
    migrations,
    migrationsTransactionMode: 'each',
    synchronize: false,
    installExtensions: false,
    uuidExtension: 'pgcrypto',
    poolSize: 10,
    extra: { connectionTimeoutMillis: 5000 },
  });
}

export async function openDatabase(url: string): Promise<DataSource> {
  return makeDataSource(url).initialize();
}

/** The data was last used by a version that knows more than this one. */
export class NewerData extends Error {}

/**
 * Brings the tables up to date. `app` is the role the app connects as, where that is another one: it may
 * read and add entries, but neither change nor delete them, nor touch the tables themselves.
 */
export async function bringUpToDate(owner: DataSource, app: string | null): Promise<void> {
  const known = new Set(migrations.map((one) => one.name));
  const [{ there } = { there: false }] = await owner.query<{ there: boolean }[]>(
    `SELECT to_regclass('public.migrations') IS NOT NULL AS there`,
  );
  if (there) {
    const rows = await owner.query<{ name: string }[]>('SELECT name FROM migrations ORDER BY id');
    const strange = rows.find(({ name }) => !known.has(name));
    if (strange)
      throw new NewerData(
        `The data was last used by a newer Jiko (${strange.name} is not known to this one): start that one, or restore a backup of before into another data folder (JIKO_DATA). Nothing was changed.`,
      );
  }
  await owner.runMigrations();
  if (app !== null) await grant(owner, app);
}

async function grant(owner: DataSource, app: string): Promise<void> {
  const role = `"${app.replaceAll('"', '""')}"`;
  await owner.transaction(async (manager) => {
    for (const text of [
      `REVOKE ALL ON ALL TABLES IN SCHEMA public FROM ${role}`,
      `REVOKE CREATE ON SCHEMA public FROM PUBLIC`,
      `GRANT USAGE ON SCHEMA public TO ${role}`,
      `GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO ${role}`,
      `REVOKE UPDATE, DELETE ON job_event FROM ${role}`,
      `REVOKE DELETE ON job FROM ${role}`,
      `REVOKE INSERT, UPDATE, DELETE ON migrations FROM ${role}`,
      `GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO ${role}`,
      `GRANT EXECUTE ON FUNCTION take_words_out, remove_demo_jobs TO ${role}`,
    ])
      await manager.query(text);
  });
}

/**
 * Whether the database answers, and whether it takes writing: a full disk, or one that went read-only,
 * answers questions and keeps nothing. `because` in the database's words.
 */
export interface DatabaseState {
  database: 'ok' | 'unreachable' | 'read-only';
  because: string | null;
}

/** The same, asked every few seconds by every page: while writing goes well it is tried once in a while. */
export function makeDatabaseCheck(source: DataSource): () => Promise<DatabaseState> {
  let wroteAt = -Infinity;
  return async () => {
    const now = Date.now();
    const state = await checkDatabase(source, now - wroteAt > writeEveryMilliseconds);
    if (state.database !== 'ok') wroteAt = -Infinity;
    else if (now - wroteAt > writeEveryMilliseconds) wroteAt = now;
    return state;
  };
}
const writeEveryMilliseconds = 15_000;

export async function checkDatabase(source: DataSource, isToWrite = true): Promise<DatabaseState> {
  try {
    await source.query('SELECT 1');
  } catch (error) {
    return { database: 'unreachable', because: (error as Error).message };
  }
  if (!isToWrite) return { database: 'ok', because: null };
  try {
    // Nothing that packs small: a disk with a few bytes left takes a small row.
    await source.query(
      `INSERT INTO setting (name, value) VALUES ('health', (SELECT string_agg(md5(random()::text), '') FROM generate_series(1, 300)))
       ON CONFLICT (name) DO UPDATE SET value = excluded.value`,
    );
    return { database: 'ok', because: null };
  } catch (error) {
    return { database: 'read-only', because: (error as Error).message };
  }
}
