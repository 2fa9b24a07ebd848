import type { DataSource } from 'typeorm';
import { shelfSchema, type Shelf } from '@jiko/contract';
import type { ShelfItem } from '@jiko/core/record';

/** The shop's donor boards and loose parts. */
export interface ShelfStore {
  /** Used-up ones last; what this version cannot read is left out, and stays. */
  list(): Promise<Shelf>;
  /** Puts an item there, or what it has become. */
  keep(id: string, item: ShelfItem): Promise<void>;
}

export function makeShelfStore(source: DataSource): ShelfStore {
  return {
    async list() {
      const rows: unknown[] = await source.query(
        `SELECT id, item FROM shelf_item
         ORDER BY (item->>'count')::int = 0, lower(item->>'what'), id`,
      );
      return rows.flatMap((row) => {
        const known = shelfSchema.safeParse([row]);
        return known.success ? known.data : [];
      });
    },
    async keep(id, item) {
      await source.query(
        `INSERT INTO shelf_item (id, item) VALUES ($1, $2)
         ON CONFLICT (id) DO UPDATE SET item = $2, updated_at = now()`,
        [id, JSON.stringify(item)],
      );
    },
  };
}
