import type { DataSource } from 'typeorm';
import type { DictionaryStore } from '../dictionaries/dictionaries.ts';

/** The latest used are kept; each is some megabytes. */
const mostKept = 60;

export function makeDictionaryStore(source: DataSource): DictionaryStore {
  return {
    async read(name) {
      // An UPDATE gives its rows and their count.
      const [rows]: [{ content: Buffer }[], number] = await source.query(
        'UPDATE dictionary SET used_at = now() WHERE name = $1 RETURNING content',
        [name],
      );
      return rows[0]?.content ?? null;
    },
    async keep(name, content) {
      await source.query(
        `INSERT INTO dictionary (name, content) VALUES ($1, $2)
         ON CONFLICT (name) DO UPDATE SET content = $2, used_at = now()`,
        [name, content],
      );
      await source.query(
        `DELETE FROM dictionary WHERE name NOT IN
          (SELECT name FROM dictionary ORDER BY used_at DESC LIMIT $1)`,
        [mostKept],
      );
    },
  };
}
