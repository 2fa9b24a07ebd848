import { queryOptions } from '@tanstack/react-query';
import type { ImportPreview } from '../workers/schematic.worker.ts';
import { theWorker } from './document-reading.ts';

/** A file of another format taken into a sheet, and what becomes doubtful by it; on a thread of its own. */
export const importPreviewQuery = (sheet: string, file: string) =>
  queryOptions({
    queryKey: ['import preview', sheet, file],
    queryFn: (): Promise<ImportPreview> => theWorker().importPreview(sheet, file),
    staleTime: Infinity,
    gcTime: 0,
  });
