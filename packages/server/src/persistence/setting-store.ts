import type { DataSource, EntityManager } from 'typeorm';
import { inTransaction } from './transaction.ts';

/** What is known of this data as a whole, by name. */
export interface SettingStore {
  read(name: string): Promise<string | null>;
  keep(name: string, value: string): Promise<void>;
  /** Makes a new value of the old one; whoever does the same meanwhile waits. */
  change(name: string, to: (old: string | null) => string): Promise<void>;
}

export function makeSettingStore(source: DataSource): SettingStore {
  return {
    read: (name) => read(source, name),
    keep: (name, value) => keep(source, name, value),
    change: (name, to) =>
      inTransaction(source, async (manager) => {
        await manager.query('SELECT pg_advisory_xact_lock(hashtext($1))', [`setting ${name}`]);
        await keep(manager, name, to(await read(manager, name)));
      }),
  };
}

type Asked = Pick<DataSource | EntityManager, 'query'>;

async function read(database: Asked, name: string): Promise<string | null> {
  const rows: { value: string }[] = await database.query(
    'SELECT value FROM setting WHERE name = $1',
    [name],
  );
  return rows[0]?.value ?? null;
}

async function keep(database: Asked, name: string, value: string): Promise<void> {
  await database.query(
    `INSERT INTO setting (name, value) VALUES ($1, $2)
     ON CONFLICT (name) DO UPDATE SET value = $2`,
    [name, value],
  );
}
