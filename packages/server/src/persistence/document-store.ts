import { IsNull, type DataSource } from 'typeorm';
import type { BoardDocument } from '@jiko/contract';
import type { DocumentStore } from '../boards/documents.ts';
import { BoardDocumentTable, BoardVersion, type BoardDocumentEntity } from './entities.ts';

const rowOnly = {
  id: true,
  board: true,
  kind: true,
  name: true,
  bytes: true,
  pageCount: true,
  pagesWithText: true,
  troubles: true,
  addedAt: true,
} as const;

export function makeDocumentStore(source: DataSource): DocumentStore {
  const documents = source.getRepository(BoardDocumentTable);
  return {
    has: (board) => source.getRepository(BoardVersion).existsBy({ id: board }),
    async list(board) {
      const rows = await documents.find({
        where: { board, takenBackAt: IsNull() },
        select: rowOnly,
        order: { addedAt: 'ASC' },
      });
      return rows.map(documentRow);
    },
    async add(board, { id, kind, name, bytes, pages: pageCount, ...rest }, content, pages) {
      const { pagesWithText, troubles } = rest;
      await documents
        .createQueryBuilder()
        .insert()
        .values({
          id,
          board,
          kind,
          name,
          bytes,
          pageCount,
          pagesWithText,
          troubles,
          pages,
          content,
        })
        .orIgnore()
        .execute();
      const there = await documents.findOneBy({ id });
      return there?.board === board && there.content.equals(content) ? documentRow(there) : null;
    },
    async content(id) {
      const found = await documents.findOne({
        where: { id },
        select: { name: true, content: true },
      });
      return found && { name: found.name, content: found.content };
    },
    async pages(id) {
      // As the database writes it: nothing here reads it.
      const [found] = await source.query<{ pages: string }[]>(
        'SELECT pages::text AS pages FROM board_document WHERE id = $1',
        [id],
      );
      return found?.pages ?? null;
    },
    async takeBack(id) {
      const found = await documents.findOne({ where: { id }, select: { id: true, board: true } });
      if (!found) return null;
      await documents.update({ id }, { takenBackAt: new Date() });
      return found.board;
    },
  };
}

const documentRow = (entity: BoardDocumentEntity): BoardDocument => ({
  id: entity.id,
  kind: entity.kind as BoardDocument['kind'],
  name: entity.name,
  bytes: entity.bytes,
  pages: entity.pageCount,
  pagesWithText: entity.pagesWithText,
  troubles: entity.troubles as BoardDocument['troubles'],
  addedAt: entity.addedAt.toISOString(),
});
