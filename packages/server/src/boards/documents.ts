import type { BoardDocument } from '@jiko/contract';
import type { PdfContent } from '@jiko/pdf';
import { boardProblem, type Outcome } from '../outcome.ts';
import { expectDocument, readPdfAside } from './pdf-reader.ts';

/** PDFs of a board, with what was read of their pages. */
export interface DocumentStore {
  has(board: string): Promise<boolean>;
  list(board: string): Promise<BoardDocument[]>;
  /** Null when the id belongs to another document; the same bytes again are harmless. */
  add(
    board: string,
    document: Omit<BoardDocument, 'addedAt'>,
    content: Buffer,
    pages: PdfContent['pages'],
  ): Promise<BoardDocument | null>;
  content(id: string): Promise<{ name: string; content: Buffer } | null>;
  /** What was read of its pages, as JSON. */
  pages(id: string): Promise<string | null>;
  /** Shows a document no more; its board, null where there is none. */
  takeBack(id: string): Promise<string | null>;
}

export interface DocumentUseCases {
  list(board: string): Promise<Outcome<BoardDocument[]>>;
  add(
    board: string,
    document: Pick<BoardDocument, 'id' | 'kind' | 'name'>,
    content: Buffer,
  ): Promise<Outcome<BoardDocument>>;
  content(id: string): Promise<Outcome<{ name: string; content: Buffer }>>;
  pages(id: string): Promise<Outcome<string>>;
  takeBack(id: string): Promise<Outcome<BoardDocument[]>>;
}

const noDocument = {
  ok: false as const,
  problem: { status: 404 as const, title: 'No such document' },
};

export function makeDocuments(store: DocumentStore): DocumentUseCases {
  const missing = (board: string) => {
    const { problem } = boardProblem(board, 'id');
    return { ok: false as const, problem: { ...problem, status: 404 as const } };
  };
  return {
    async list(board) {
      if (!(await store.has(board))) return missing(board);
      expectDocument();
      return { ok: true, value: await store.list(board) };
    },
    async add(board, { id, kind, name }, content) {
      if (!(await store.has(board))) return missing(board);
      const refused = (why: string) => ({
        ok: false as const,
        problem: {
          status: 415 as const,
          title: 'The file cannot be taken',
          detail: `${name} ${why} Nothing was stored.`,
          errors: [{ field: 'file', message: why }],
        },
      });
      if (content.subarray(0, 1024).indexOf('%PDF-') < 0) return refused('is no PDF.');
      const read = await readPdfAside(content);
      if (!read.ok) return refused(read.why);
      const { pages, troubles } = read.content;
      const pagesWithText = pages.filter((one) => one.runs.length > 0).length;
      const row = {
        id,
        kind,
        name,
        bytes: content.length,
        pages: pages.length,
        pagesWithText,
        troubles: troubles.slice(0, 50),
      };
      const added = await store.add(board, row, content, pages);
      return added
        ? { ok: true, value: added }
        : { ok: false, problem: { status: 409, title: 'This id belongs to another document' } };
    },
    async content(id) {
      const found = await store.content(id);
      return found ? { ok: true, value: found } : noDocument;
    },
    async pages(id) {
      const found = await store.pages(id);
      return found === null ? noDocument : { ok: true, value: found };
    },
    async takeBack(id) {
      const board = await store.takeBack(id);
      return board === null ? noDocument : { ok: true, value: await store.list(board) };
    },
  };
}
