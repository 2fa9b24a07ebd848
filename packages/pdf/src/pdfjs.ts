import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type * as PdfJs from 'pdfjs-dist/legacy/build/pdf.mjs';

/** Where the library lies, with its fonts and character maps. */
export const pdfHome = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
const build = (name: string): string =>
  pathToFileURL(join(pdfHome, 'legacy/build', name)).toString();

// The small builds: the loader goes through every file of a new thread, and these are a third.
export const pdfjs = (await import(build('pdf.min.mjs'))) as typeof PdfJs;
pdfjs.GlobalWorkerOptions.workerSrc = build('pdf.worker.min.mjs');
