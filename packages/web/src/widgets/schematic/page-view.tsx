import { Button } from 'antd';
import { useEffect, useMemo, useRef, useState, type MouseEvent, type PointerEvent } from 'react';
import {
  TransformComponent,
  TransformWrapper,
  type ReactZoomPanPinchRef,
} from 'react-zoom-pan-pinch';
import type { VerdictKind } from '@jiko/core/readings';
import type { BoardNames, Box, DocumentIndex, Hit, Named, Token } from '@jiko/core/schematic';
import { VerdictShape } from '../verdict-mark.tsx';
import { PageCanvas } from './page-canvas.tsx';
import { zoomFor } from './view-state.ts';

/** What stands beside a name on the page. */
export interface PageMark {
  text: string;
  /** Null: not read, the text is what is expected. */
  verdict: VerdictKind | null;
  /** The probe goes here now. */
  isAsked: boolean;
}

/** Nearer than this, in points, a second mark of the same net says nothing new. */
const markEvery = 90;

/** One page with names that can be clicked, hits, and what was read beside them. */
export function PageView({
  document,
  page,
  tokens,
  hit,
  hits,
  names,
  isChosen,
  markOf,
  onChoose,
  onBox = null,
}: {
  document: string;
  page: DocumentIndex['pages'][number];
  tokens: readonly Token[];
  hit: Hit | null;
  hits: readonly Hit[];
  names: BoardNames;
  isChosen: (named: Named) => boolean;
  markOf: (named: Named) => PageMark | null;
  onChoose: (named: Named) => void;
  /** A box is being marked: what is drawn with the pointer, instead of moving the page. */
  onBox?: ((box: Box) => void) | null;
}) {
  const [corner, setCorner] = useState<{ from: DOMPoint; to: DOMPoint } | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  const zoom = useRef<ReactZoomPanPinchRef>(null);
  const pressed = useRef<{ x: number; y: number } | null>(null);
  const [size, setSize] = useState({ w: 0, h: 0 });
  const [sharp, setSharp] = useState(1);
  useEffect(() => {
    if (!frame.current) return;
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setSize({ w: entry.contentRect.width, h: entry.contentRect.height });
    });
    watch.observe(frame.current);
    return () => watch.disconnect();
  }, []);
  const fit = Math.min(size.w / page.width, size.h / page.height) || 0;
  const [wide, high] = [page.width * fit, page.height * fit];

  const known = useMemo(
    () =>
      tokens
        .filter((one) => one.page === page.page)
        .flatMap((token) => {
          const named = names.meant(token.text);
          return named ? [{ token, named }] : [];
        }),
    [tokens, page.page, names],
  );

  /** Turns the view so that a place is seen and can be read. */
  const hitKey = hit ? `${hit.page} ${hit.box.x} ${hit.box.y}` : '';
  useEffect(() => {
    if (fit === 0) return;
    const place = (middle: number, whole: number, room: number, scale: number): number => {
      const length = whole * scale;
      // Never past the edge of the page, and in the middle where all of it is seen.
      if (length <= room) return (room - length) / 2;
      return Math.min(0, Math.max(room - length, room / 2 - middle * fit * scale));
    };
    const move = (): void => {
      if (!zoom.current) return;
      const now = zoom.current.state.scale;
      const scale = hit ? Math.max(now, zoomFor(hit.box, fit, hit.turn)) : 1;
      const [x, y] = hit
        ? [hit.box.x + hit.box.w / 2, hit.box.y + hit.box.h / 2]
        : [page.width / 2, page.height / 2];
      void zoom.current.setTransform(
        place(x, wide, size.w, scale),
        place(y, high, size.h, scale),
        scale,
        0,
      );
      setSharp((before) => Math.max(before, Math.ceil(scale)));
    };
    // The zooming frame takes the new size in first.
    const later = window.setTimeout(move, 40);
    return () => window.clearTimeout(later);
    // Only when one goes to another place: a pan of one's own stays.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [hitKey, page.page, fit]);

  const click = (event: MouseEvent<SVGSVGElement>): void => {
    if (onBox) return;
    const start = pressed.current;
    // A pan ends with a click as well: it means nothing.
    if (start && Math.hypot(event.clientX - start.x, event.clientY - start.y) > 4) return;
    const toPage = event.currentTarget.getScreenCTM()?.inverse();
    if (!toPage) return;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(toPage);
    const slack = 2;
    const meant = known.find(
      ({ token: { x: left, y: top, w, h } }) =>
        x > left - slack && x < left + w + slack && y > top - slack && y < top + h + slack,
    );
    if (meant) onChoose(meant.named);
  };
  const marks = spreadOut(
    known.flatMap(({ token, named }) => {
      const mark = named.kind === 'net' ? markOf(named) : null;
      return mark ? [{ token, named, mark }] : [];
    }),
  );
  const pixels = Math.min(5000, Math.round(wide * sharp * (window.devicePixelRatio || 1)));
  return (
    // The page is moved about by keys of its own: it takes the focus.
    <div
      className="page-frame"
      ref={frame}
      role="group"
      aria-label={`Page ${page.page}, moved about by arrow keys`}
      tabIndex={0}
      data-page={page.page}
      onKeyDown={(event) => {
        if (!zoom.current) return;
        const { scale, positionX, positionY } = zoom.current.state;
        const step = 60;
        if (event.key === '+') void zoom.current.zoomIn(0.3, 0);
        else if (event.key === '-') void zoom.current.zoomOut(0.3, 0);
        else if (event.key === '0')
          void zoom.current.setTransform((size.w - wide) / 2, (size.h - high) / 2, 1, 0);
        else if (event.key === 'ArrowLeft')
          void zoom.current.setTransform(positionX + step, positionY, scale, 0);
        else if (event.key === 'ArrowRight')
          void zoom.current.setTransform(positionX - step, positionY, scale, 0);
        else if (event.key === 'ArrowUp')
          void zoom.current.setTransform(positionX, positionY + step, scale, 0);
        else if (event.key === 'ArrowDown')
          void zoom.current.setTransform(positionX, positionY - step, scale, 0);
        else return;
        event.preventDefault();
      }}
    >
      <TransformWrapper
        ref={zoom}
        minScale={0.7}
        maxScale={10}
        limitToBounds={false}
        wheel={{ step: 0.12 }}
        doubleClick={{ disabled: true }}
        panning={{ disabled: onBox !== null }}
        onZoomStop={({ state }) => setSharp((now) => Math.max(now, Math.ceil(state.scale)))}
      >
        <div className="zoom">
          <Button size="small" onClick={() => zoom.current?.zoomIn()} aria-label="Nearer">
            +
          </Button>
          <Button size="small" onClick={() => zoom.current?.zoomOut()} aria-label="Farther">
            −
          </Button>
          <Button
            size="small"
            onClick={() =>
              zoom.current?.setTransform((size.w - wide) / 2, (size.h - high) / 2, 1, 0)
            }
          >
            Whole
          </Button>
        </div>
        <TransformComponent wrapperStyle={{ width: '100%', height: '100%' }}>
          <div className="page-sheet" style={{ width: wide, height: high }}>
            <PageCanvas document={document} page={page.page} pixelsWide={pixels} />
            {/* oxlint-disable-next-line jsx-a11y/click-events-have-key-events -- names are chosen by keys in the search */}
            <svg
              viewBox={`0 0 ${page.width} ${page.height}`}
              role="img"
              aria-label={`Page ${page.page}`}
              className={onBox ? 'is-marking' : ''}
              onPointerDown={(event) => {
                pressed.current = { x: event.clientX, y: event.clientY };
                const at = onBox && pointAt(event);
                if (!at) return;
                event.currentTarget.setPointerCapture(event.pointerId);
                setCorner({ from: at, to: at });
              }}
              onPointerMove={(event) => {
                const at = corner && pointAt(event);
                if (at) setCorner({ from: corner.from, to: at });
              }}
              onPointerUp={() => {
                if (!corner) return;
                setCorner(null);
                const box = boxBetween(corner.from, corner.to);
                if (box.w > 5 && box.h > 5) onBox?.(box);
              }}
              onClick={click}
            >
              {known
                .filter(({ named }) => isChosen(named))
                .map(({ token }, at) => (
                  <rect key={at} className="is-chosen" {...boxAround(token, 1.5)} rx={1.5} />
                ))}
              {hits
                .filter((one) => one.page === page.page)
                .map((one, at) => (
                  <rect key={at} className="is-hit" {...boxAround(one.box, 2)} rx={1.5} />
                ))}
              {corner && (
                <rect className="is-marked" {...boxAround(boxBetween(corner.from, corner.to), 0)} />
              )}
              {hit && <rect className="is-here" {...boxAround(hit.box, 3)} rx={2} />}
              {known.map(({ token, named }, at) => (
                <rect
                  key={at}
                  className="is-known"
                  data-name={named.kind === 'net' ? named.net : named.ref}
                  {...boxAround(token, 1)}
                />
              ))}
              {marks.map(({ token, mark }, at) => (
                <Mark key={at} token={token} mark={mark} />
              ))}
            </svg>
          </div>
        </TransformComponent>
      </TransformWrapper>
    </div>
  );
}

const boxAround = (box: { x: number; y: number; w: number; h: number }, by: number) => ({
  x: box.x - by,
  y: box.y - by,
  width: box.w + 2 * by,
  height: box.h + 2 * by,
});

const boxBetween = (a: DOMPoint, b: DOMPoint): Box => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  w: Math.abs(a.x - b.x),
  h: Math.abs(a.y - b.y),
});

/** Where a pointer is, in points of the page. */
function pointAt(event: PointerEvent<SVGSVGElement>): DOMPoint | null {
  const toPage = event.currentTarget.getScreenCTM()?.inverse();
  return toPage ? new DOMPoint(event.clientX, event.clientY).matrixTransform(toPage) : null;
}

function Mark({ token, mark }: { token: Token; mark: PageMark }) {
  const height = token.turn === 90 || token.turn === 270 ? token.w : token.h;
  const size = Math.max(5, height);
  const long = mark.text.length * size * 0.62;
  const wide = long + (mark.verdict ? size * 1.2 : 0) + 3;
  const [x, y] = [token.x + token.w + 2, token.y + token.h / 2 - size * 0.65];
  return (
    <g
      className={`page-mark${mark.verdict === null ? ' is-expected' : ''}${mark.isAsked ? ' is-asked' : ''}`}
      transform={`translate(${x} ${y})`}
    >
      <rect width={wide} height={size * 1.3} rx={1.5} />
      {mark.verdict && (
        <g transform={`translate(1.500 ${size * 0.15}) scale(${size / 15})`}>
          <VerdictShape kind={mark.verdict} />
        </g>
      )}
      {/* As long as its frame, whatever the font makes of it. */}
      <text
        x={(mark.verdict ? size * 1.2 : 0) + 1.5}
        y={size}
        fontSize={size * 0.95}
        textLength={long}
      >
        {mark.text}
      </text>
    </g>
  );
}

/** One mark for each net where its name stands several times close by. */
function spreadOut<T extends { token: Token; named: Named }>(all: readonly T[]): T[] {
  const kept: T[] = [];
  for (const one of all) {
    const isNear = kept.some(
      (other) =>
        other.named.kind === 'net' &&
        one.named.kind === 'net' &&
        other.named.net === one.named.net &&
        Math.hypot(other.token.x - one.token.x, other.token.y - one.token.y) < markEvery,
    );
    if (!isNear) kept.push(one);
  }
  return kept;
}
