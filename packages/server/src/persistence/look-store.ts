import type { DataSource } from 'typeorm';
import type { BoardPicture, BoardPlace } from '@jiko/contract';
import type { LookStore } from '../boards/board-look.ts';
import { BoardPictureTable, BoardPlaceTable, BoardVersion } from './entities.ts';
import type { BoardPictureEntity } from './entities.ts';
import { inTransaction } from './transaction.ts';

export function makeLookStore(source: DataSource): LookStore {
  const pictures = source.getRepository(BoardPictureTable);
  const places = source.getRepository(BoardPlaceTable);
  return {
    has: (board) => source.getRepository(BoardVersion).existsBy({ id: board }),
    async look(board) {
      const newest = await pictures
        .createQueryBuilder('p')
        .select(['p.id', 'p.side', 'p.type', 'p.bytes', 'p.name', 'p.addedAt'])
        .distinctOn(['p.side'])
        .where('p.board = :board AND p.taken_back_at IS NULL', { board })
        .orderBy('p.side')
        .addOrderBy('p.added_at', 'DESC')
        .getMany();
      const rows = await places.find({ where: { board }, order: { ref: 'ASC' } });
      const frames = new Set(['drawn', ...newest.map((one) => one.id)]);
      return {
        pictures: newest.map(pictureRow),
        places: rows
          .filter((one) => frames.has(one.frame))
          .map(({ ref, frame, side, u, v, who }): BoardPlace => ({
            ref,
            frame,
            at: { side, u, v },
            who,
          })),
      };
    },
    async addPicture(board, { id, side, type, bytes, name }, content) {
      await pictures
        .createQueryBuilder()
        .insert()
        .values({ id, board, side, type, bytes, name, content })
        .orIgnore()
        .execute();
      const there = await pictures.findOneBy({ id });
      return there?.board === board && there.content.equals(content) ? pictureRow(there) : null;
    },
    async picture(id) {
      const found = await pictures.findOneBy({ id });
      return found && { type: found.type, content: found.content };
    },
    async takeBack(id) {
      const found = await pictures.findOne({ where: { id }, select: { id: true, board: true } });
      if (!found) return null;
      await pictures.update({ id }, { takenBackAt: new Date() });
      return found.board;
    },
    setPlaces: (board, wanted) =>
      inTransaction(source, async (manager) => {
        const repository = manager.getRepository(BoardPlaceTable);
        // In one order: two who place the same parts do not wait for each other.
        const inOrder = [...wanted].sort((a, b) =>
          `${a.ref} ${a.frame}` < `${b.ref} ${b.frame}` ? -1 : 1,
        );
        for (const { ref, frame, at, who } of inOrder) {
          if (at === null) await repository.delete({ board, ref, frame });
          else
            await repository.upsert({ board, ref, frame, ...at, who, placedAt: new Date() }, [
              'board',
              'ref',
              'frame',
            ]);
        }
      }),
  };
}

const pictureRow = (entity: BoardPictureEntity): BoardPicture => ({
  id: entity.id,
  side: entity.side,
  type: entity.type as BoardPicture['type'],
  bytes: entity.bytes,
  name: entity.name,
  addedAt: entity.addedAt.toISOString(),
});
