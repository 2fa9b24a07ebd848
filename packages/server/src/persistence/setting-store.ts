import type { DataSource } from 'typeorm';

/** What is known of this data as a whole, by name. */
export interface SettingStore {
  read(name: string): Promise<string | null>;
  keep(name: string, value: string): Promise<void>;
}

export function makeSettingStore(source: DataSource): SettingStore {
  return {
    async read(name) {
      const rows: { value: string }[] = await source.query(
        'SELECT value FROM setting WHERE name = $1',
        [name],
      );
      return rows[0]?.value ?? null;
    },
    async keep(name, value) {
      await source.query(
        `INSERT INTO setting (name, value) VALUES ($1, $2)
         ON CONFLICT (name) DO UPDATE SET value = $2`,
        [name, value],
      );
    },
  };
}
