import { useEffect, useRef, useState } from 'react';
import { drawPage } from './pdf-file.ts';

/** A page of a document as a picture, drawn anew where more pixels are wanted. */
export function PageCanvas({
  document,
  page,
  pixelsWide,
}: {
  document: string;
  page: number;
  pixelsWide: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (!canvas.current || pixelsWide < 10) return;
    setTrouble(null);
    const { done, stop } = drawPage(document, page, canvas.current, pixelsWide);
    done.then(
      () => canvas.current?.setAttribute('data-drawn', String(page)),
      (error: unknown) => setTrouble((error as Error).message),
    );
    return stop;
  }, [document, page, pixelsWide]);
  return (
    <>
      <canvas ref={canvas} aria-hidden />
      {trouble !== null && <p className="page-trouble">This page cannot be drawn: {trouble}</p>}
    </>
  );
}

/** The same, small, drawn only once it comes into view. */
export function PageThumb({ document, page }: { document: string; page: number }) {
  const frame = useRef<HTMLSpanElement>(null);
  const [isSeen, setSeen] = useState(false);
  useEffect(() => {
    if (!frame.current) return;
    const watch = new IntersectionObserver(
      (entries) => entries.some((one) => one.isIntersecting) && setSeen(true),
      { rootMargin: '200px' },
    );
    watch.observe(frame.current);
    return () => watch.disconnect();
  }, []);
  return (
    <span ref={frame} className="thumb-frame">
      {isSeen && <PageCanvas document={document} page={page} pixelsWide={220} />}
    </span>
  );
}
