import { queryOptions } from '@tanstack/react-query';
import {
  api,
  boardDocumentSchema,
  boardDocumentsSchema,
  documentPagesSchema,
  largestDocumentBytes,
  type BoardDocument,
} from '@jiko/contract';
import { indexDocument, type DocumentIndex, type PageContent } from '@jiko/core/schematic';
import { request } from './http.ts';

/** PDFs of a board. */
export const documentsQuery = (board: string) =>
  queryOptions({
    queryKey: ['documents', board],
    queryFn: () => request(boardDocumentsSchema, api.documents(board)),
  });

/** What was read of a document, ready to be searched: made once for each. */
export const documentIndexQuery = (id: string) =>
  queryOptions({
    queryKey: ['document index', id],
    queryFn: async (): Promise<{ pages: PageContent[]; index: DocumentIndex }> => {
      const pages = await request(documentPagesSchema, api.documentPages(id));
      return { pages, index: indexDocument(pages) };
    },
    staleTime: Infinity,
    enabled: id !== '',
    // A search index is no plain data.
    structuralSharing: false,
  });

/** Adds a PDF to a board; throws with what is wrong with it. */
export async function sendDocument(
  board: string,
  kind: BoardDocument['kind'],
  file: File,
): Promise<BoardDocument> {
  if (file.size > largestDocumentBytes)
    throw new Error(
      `${file.name} has ${Math.ceil(file.size / 1024 / 1024)} MB; at most ${largestDocumentBytes / 1024 / 1024} MB are taken. Nothing was stored.`,
    );
  const form = new FormData();
  form.append('id', crypto.randomUUID());
  form.append('kind', kind);
  form.append('file', file);
  return request(boardDocumentSchema, api.documents(board), { method: 'POST', body: form });
}

/** Shows a document no more; what is left. */
export const takeDocumentBack = (id: string): Promise<BoardDocument[]> =>
  request(boardDocumentsSchema, api.document(id), { method: 'DELETE' });
