import type { DataSource } from 'typeorm';
import type { BoardRow } from '@jiko/contract';
import type { BoardStore } from '../boards/boards.ts';
import { BoardVersion, type BoardVersionEntity } from './entities.ts';
import { makeSettingStore } from './setting-store.ts';
import { inTransaction } from './transaction.ts';

/** Ids of the boards that were put away. */
const setting = 'archived boards';

export function makeBoardStore(
  source: DataSource,
): BoardStore & { has(id: string): Promise<boolean> } {
  const repository = source.getRepository(BoardVersion);
  const settings = makeSettingStore(source);
  const idsIn = (kept: string | null): string[] => JSON.parse(kept ?? '[]') as string[];
  return {
    has: (id) => repository.existsBy({ id }),
    async list() {
      const rows = await repository
        .createQueryBuilder('b')
        .distinctOn(['b.id'])
        .orderBy('b.id')
        .addOrderBy('b.saved_at', 'DESC')
        .getMany();
      const away = new Set(idsIn(await settings.read(setting)));
      return rows.map((one) => ({ ...row(one), archived: away.has(one.id) }));
    },
    async versions(id) {
      return (await repository.find({ where: { id }, order: { savedAt: 'DESC' } })).map(row);
    },
    async archive(id, isAway) {
      await settings.change(setting, (old) => {
        const others = idsIn(old).filter((board) => board !== id);
        return JSON.stringify(isAway ? [...others, id] : others);
      });
    },
    async find(id, hash) {
      const found = await repository.findOne({
        where: hash ? { id, hash } : { id },
        order: { savedAt: 'DESC' },
      });
      return found && { ...row(found), text: found.text };
    },
    async save(board, base) {
      return inTransaction(source, async (manager) => {
        // One at a time: between the look and the save nobody else saves this board.
        await manager.query('SELECT pg_advisory_xact_lock(hashtext($1))', [`board ${board.id}`]);
        const versions = manager.getRepository(BoardVersion);
        const present = await versions.findOne({
          where: { id: board.id },
          order: { savedAt: 'DESC' },
        });
        if (present?.hash === board.hash) return row(present);
        if ((present?.hash ?? null) !== base) return null;
        // Whatever the clock says, it is newer than the one it was made from.
        const now = Math.max(Date.now(), (present?.savedAt.getTime() ?? 0) + 1);
        const saved = { ...board, savedAt: new Date(now) };
        await versions.upsert(saved, ['id', 'hash']);
        return row(saved);
      });
    },
  };
}

const row = (version: BoardVersionEntity): BoardRow => ({
  id: version.id,
  title: version.title,
  revision: version.revision,
  depth: version.depth,
  hash: version.hash,
  updatedAt: version.savedAt.toISOString(),
});
