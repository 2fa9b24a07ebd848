import { DataSource } from 'typeorm';
import { entities } from './entities.ts';
import { First1767225600000 } from './migrations/0001-first.ts';
import { Dictionaries1795478400000 } from './migrations/0002-dictionaries.ts';
import { Look1795564800000 } from './migrations/0003-look.ts';

export function makeDataSource(url: string): DataSource {
  return new DataSource({
    type: 'postgres',
    url,
    entities,
    migrations: [First1767225600000, Dictionaries1795478400000, Look1795564800000],
    migrationsTransactionMode: 'each',
    synchronize: false,
    installExtensions: false,
    uuidExtension: 'pgcrypto',
    poolSize: 10,
    extra: { connectionTimeoutMillis: 5000 },
  });
}

/** Connects and brings the tables up to date. */
export async function openDatabase(url: string): Promise<DataSource> {
  const source = makeDataSource(url);
  await source.initialize();
  await source.runMigrations();
  return source;
}

export async function isReachable(source: DataSource): Promise<boolean> {
  try {
    await source.query('SELECT 1');
    return true;
  } catch {
    return false;
  }
}
