import type { DataSource } from 'typeorm';
import type { BoardRow } from '@jiko/contract';
import type { BoardStore } from '../boards/boards.ts';
import { BoardVersion, type BoardVersionEntity } from './entities.ts';

export function makeBoardStore(
  source: DataSource,
): BoardStore & { has(id: string): Promise<boolean> } {
  const repository = source.getRepository(BoardVersion);
  return {
    has: (id) => repository.existsBy({ id }),
    async list() {
      const rows = await repository
        .createQueryBuilder('b')
        .distinctOn(['b.id'])
        .orderBy('b.id')
        .addOrderBy('b.saved_at', 'DESC')
        .getMany();
      return rows.map(row);
    },
    async find(id, hash) {
      const found = await repository.findOne({
        where: hash ? { id, hash } : { id },
        order: { savedAt: 'DESC' },
      });
      return found && { ...row(found), text: found.text };
    },
    async save(board) {
      const saved = { ...board, savedAt: new Date() };
      await repository.upsert(saved, ['id', 'hash']);
      return row(saved);
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
