import {
  getDocument,
  GlobalWorkerOptions,
  type PDFDocumentProxy,
  type RenderTask,
} from 'pdfjs-dist';
import workerUrl from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import { api } from '@jiko/contract';

GlobalWorkerOptions.workerSrc = workerUrl;

const opened = new Map<string, Promise<PDFDocumentProxy>>();
/** So many documents are held open; a schematic, a placement drawing and a data sheet or two. */
const mostOpen = 4;

/** A document of a board, opened once; nothing comes from anywhere but this server. */
export function openPdf(id: string): Promise<PDFDocumentProxy> {
  const known = opened.get(id);
  if (known) return known;
  const task = getDocument({
    url: api.document(id),
    isEvalSupported: false,
    enableXfa: false,
    useWasm: false,
    cMapUrl: '/pdf/cmaps/',
    standardFontDataUrl: '/pdf/standard_fonts/',
    wasmUrl: '/pdf/wasm/',
    verbosity: 0,
  });
  const made = task.promise.catch((error: unknown) => {
    opened.delete(id);
    throw error;
  });
  opened.set(id, made);
  const oldest = opened.keys().next().value;
  if (opened.size > mostOpen && oldest !== undefined) {
    void opened.get(oldest)?.then((one) => one.loadingTask.destroy());
    opened.delete(oldest);
  }
  return made;
}

/** Draws a page so many pixels wide; the way to stop. */
export function drawPage(
  id: string,
  page: number,
  canvas: HTMLCanvasElement,
  pixelsWide: number,
): { done: Promise<void>; stop: () => void } {
  let render: RenderTask | null = null;
  let isStopped = false;
  const done = (async () => {
    const document = await openPdf(id);
    const shown = await document.getPage(page);
    if (isStopped) return;
    const { width } = shown.getViewport({ scale: 1 });
    const viewport = shown.getViewport({ scale: pixelsWide / width });
    // Drawn aside and shown at once: the page never flickers while it is drawn anew.
    const aside = window.document.createElement('canvas');
    aside.width = Math.round(viewport.width);
    aside.height = Math.round(viewport.height);
    render = shown.render({ canvas: aside, viewport });
    await render.promise;
    if (isStopped) return;
    canvas.width = aside.width;
    canvas.height = aside.height;
    canvas.getContext('2d')?.drawImage(aside, 0, 0);
  })();
  return {
    done: done.catch((error: unknown) => {
      if (!isStopped) throw error;
    }),
    stop: () => {
      isStopped = true;
      render?.cancel();
    },
  };
}
