import { queryOptions } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import type { PageContent, Taking } from '@jiko/core/schematic';
import type { DocumentReading, Preview, SchematicWorker } from '../workers/schematic.worker.ts';

let worker: Remote<SchematicWorker> | null = null;

export const theWorker = (): Remote<SchematicWorker> =>
  (worker ??= wrap<SchematicWorker>(
    new Worker(new URL('../workers/schematic.worker.ts', import.meta.url), { type: 'module' }),
  ));

/** What a document says of nets and parts, beside a sheet; on a thread of its own. */
export const documentReadingQuery = (
  document: string,
  pages: readonly PageContent[],
  sheet: { hash: string; text: string },
) =>
  queryOptions({
    queryKey: ['document reading', document, sheet.hash],
    queryFn: (): Promise<DocumentReading> => theWorker().read(pages, sheet.text),
    staleTime: Infinity,
    gcTime: 60_000,
  });

/** The sheet with what was ticked, and what becomes doubtful by it. Nothing is kept. */
export const previewTaking = (text: string, taking: Taking): Promise<Preview> =>
  theWorker().preview(text, taking);
