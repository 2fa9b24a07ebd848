import type { DataSource } from 'typeorm';
import type { BoardRow } from '@jiko/contract';
import type { BoardStore } from '../boards/boards.ts';
import { BoardVersion, type BoardVersionEntity } from './entities.ts';
import { makeSettingStore } from './setting-store.ts';

/** Ids of the boards that were put away. */
const setting = 'archived boards';

export function makeBoardStore(
  source: DataSource,
): BoardStore & { has(id: string): Promise<boolean> } {
  const repository = source.getRepository(BoardVersion);
  const settings = makeSettingStore(source);
  const archived = async (): Promise<string[]> =>
    JSON.parse((await settings.read(setting)) ?? '[]') as string[];
  return {
    has: (id) => repository.existsBy({ id }),
    async list() {
      const rows = await repository
        .createQueryBuilder('b')
        .distinctOn(['b.id'])
        .orderBy('b.id')
        .addOrderBy('b.saved_at', 'DESC')
        .getMany();
      const away = new Set(await archived());
      return rows.map((one) => ({ ...row(one), archived: away.has(one.id) }));
    },
    async versions(id) {
      return (await repository.find({ where: { id }, order: { savedAt: 'DESC' } })).map(row);
    },
    async archive(id, isAway) {
      const others = (await archived()).filter((one) => one !== id);
      await settings.keep(setting, JSON.stringify(isAway ? [...others, id] : others));
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
