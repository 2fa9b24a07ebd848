import { Button } from 'antd';
import { useRef, type MouseEvent } from 'react';
import { TransformComponent, TransformWrapper, useControls } from 'react-zoom-pan-pinch';
import { api, type BoardPicture } from '@jiko/contract';
import { type Board, type DrawnPicture, findPartOrChip } from '@jiko/core/board';
import type { Trace } from '@jiko/core/trace';
import type { HealthyBoard } from '@jiko/core/expectations';
import type { PathHop } from '@jiko/core/prepare';
import type { Found } from '@jiko/core/record';
import { FindingMark } from './finding-mark.tsx';
import { PathLines } from './path-lines.tsx';
import type { Marked } from './part-panel.tsx';
import type { Shown, Spot } from './picture-places.ts';

/** The picture is this high in its own units, whatever its pixels. */
const high = 1000;

/** One side of the board, drawn or photographed, with parts, findings and the way of the current. */
export function BoardView({
  board,
  healthy,
  trace,
  drawn,
  photo,
  shown,
  spots,
  path,
  findings,
  marked,
  isPlacing,
  onAspect,
  onClick,
}: {
  board: Board;
  healthy: HealthyBoard;
  trace: Trace;
  drawn: DrawnPicture;
  photo: BoardPicture | null;
  shown: Shown;
  spots: readonly Spot[];
  path: readonly PathHop[];
  findings: readonly Found[];
  marked: Marked | null;
  isPlacing: boolean;
  onAspect: (aspect: number) => void;
  onClick: (at: { u: number; v: number }) => void;
}) {
  const pressed = useRef<{ x: number; y: number } | null>(null);
  const wide = high * shown.aspect;
  /** Picture units per unit of the sheet. */
  const scale = high / drawn.height;
  const click = (event: MouseEvent<SVGSVGElement>): void => {
    const start = pressed.current;
    // A pan ends with a click as well: it means nothing.
    if (start && Math.hypot(event.clientX - start.x, event.clientY - start.y) > 4) return;
    // Through the picture's own units: it is fitted into its frame, with room left beside it.
    const toPicture = event.currentTarget.getScreenCTM()?.inverse();
    if (!toPicture) return;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(toPicture);
    const u = at.x / wide;
    const v = at.y / high;
    if (u >= 0 && u <= 1 && v >= 0 && v <= 1) onClick({ u, v });
  };
  const byRef = new Map(spots.map((one) => [one.ref, one]));
  return (
    <div className={`board-view${isPlacing ? ' is-placing' : ''}`}>
      <TransformWrapper
        key={shown.frame + shown.side}
        minScale={0.8}
        maxScale={14}
        wheel={{ step: 0.15 }}
        doubleClick={{ disabled: true }}
      >
        <ZoomButtons />
        <TransformComponent
          wrapperStyle={{ width: '100%', height: '100%' }}
          contentStyle={{ width: '100%', height: '100%' }}
        >
          {/* oxlint-disable-next-line jsx-a11y/click-events-have-key-events -- parts are chosen by keys in the list */}
          <svg
            viewBox={`0 0 ${wide} ${high}`}
            role="img"
            aria-label={`Board, ${shown.side} side`}
            data-aspect={shown.aspect.toFixed(4)}
            onMouseDown={(event) => (pressed.current = { x: event.clientX, y: event.clientY })}
            onClick={click}
          >
            {photo ? (
              <image
                href={api.boardPicture(photo.id)}
                width={wide}
                height={high}
                preserveAspectRatio="none"
              />
            ) : (
              <g className="bare">
                <rect width={wide} height={high} rx={12} />
                {spots.length === 0 && (
                  <text x={wide / 2} y={high / 2}>
                    No picture of this side yet: add a photo, or place parts by hand.
                  </text>
                )}
              </g>
            )}
            {photo && <Natural src={api.boardPicture(photo.id)} onAspect={onAspect} />}
            {spots.map((spot) => (
              <PartShape
                key={spot.ref}
                board={board}
                spot={spot}
                wide={wide}
                scale={scale}
                isPhoto={photo !== null}
                isMarked={marked?.part === spot.ref}
              />
            ))}
            <PathLines
              path={path}
              byRef={byRef}
              healthy={healthy}
              trace={trace}
              wide={wide}
              high={high}
            />
            {findings
              .filter((one) => one.struck === null)
              .map((finding) => {
                const at = placeOfFinding(finding, byRef, shown);
                return (
                  at && (
                    <FindingMark
                      key={finding.id}
                      finding={finding}
                      x={at.u * wide}
                      y={at.v * high}
                    />
                  )
                );
              })}
            {marked?.at && marked.at.side === shown.side && (
              <circle
                className="spot-here"
                cx={marked.at.u * wide}
                cy={marked.at.v * high}
                r={14}
              />
            )}
          </svg>
        </TransformComponent>
      </TransformWrapper>
    </div>
  );
}

/** At the part it names, or where it was marked on this very picture. */
function placeOfFinding(
  { body }: Found,
  byRef: ReadonlyMap<string, Spot>,
  { side, frame }: Shown,
): { u: number; v: number } | null {
  const part = body.part === null ? undefined : byRef.get(body.part);
  if (part) return part;
  const { place } = body;
  return place?.side === side && place.frame === frame ? place : null;
}

/** Loads the photo beside the drawing to learn its shape. */
function Natural({ src, onAspect }: { src: string; onAspect: (aspect: number) => void }) {
  return (
    <foreignObject width={1} height={1} style={{ visibility: 'hidden' }}>
      <img
        src={src}
        alt=""
        onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) =>
          onAspect(naturalWidth / Math.max(1, naturalHeight))
        }
      />
    </foreignObject>
  );
}

/** Sizes by kind, in the sheet's units: what a technician expects, not what a caliper says. */
function sizeOf(kind: string): [number, number] {
  switch (kind) {
    case 'resistor':
      return [2, 1.2];
    case 'capacitor':
      return [2.1, 1.4];
    case 'fuse':
    case 'ferrite':
    case 'diode':
    case 'schottky':
    case 'zener':
    case 'tvs':
    case 'led':
      return [2.4, 1.4];
    case 'coil':
      return [5, 5];
    case 'pfet':
    case 'nfet':
      return [3.6, 3.6];
    case 'npn':
    case 'pnp':
    case 'crystal':
      return [2.6, 1.8];
    case 'connector':
      return [7, 5];
    case 'chipset':
      return [13, 13];
    case 'controller':
      return [9, 9];
    case 'button':
    case 'fan':
      return [4, 3];
    default:
      return [4, 4];
  }
}

function PartShape({
  board,
  spot,
  wide,
  scale,
  isPhoto,
  isMarked,
}: {
  board: Board;
  spot: Spot;
  wide: number;
  scale: number;
  isPhoto: boolean;
  isMarked: boolean;
}) {
  const part = findPartOrChip(board, spot.ref);
  const [x, y] = [spot.u * wide, spot.v * high];
  const [w, h] = sizeOf(part?.kind ?? '').map((one) => one * scale) as [number, number];
  const isLarge = w * h > 150;
  const className = [
    'part',
    part?.fitted === false ? 'is-unfitted' : '',
    isMarked ? 'is-marked' : '',
    isPhoto ? 'is-photo' : '',
    board.chips.includes(part as never) ? 'is-chip' : '',
  ].join(' ');
  return (
    <g className={className} data-ref={spot.ref}>
      <rect x={x - w / 2} y={y - h / 2} width={w} height={h} rx={2} />
      {(!isPhoto || isMarked) && (
        <text x={x} y={y + (isLarge ? 4 : h / 2 + 7)} fontSize={isMarked ? 20 : isLarge ? 12 : 7.5}>
          {spot.ref}
        </text>
      )}
      <title>
        {spot.ref} {part?.title}
        {part?.fitted === false ? ', not fitted by design' : ''}
      </title>
    </g>
  );
}

function ZoomButtons() {
  const { zoomIn, zoomOut, resetTransform } = useControls();
  return (
    <div className="zoom">
      <Button size="small" onClick={() => zoomIn()} aria-label="Nearer">
        +
      </Button>
      <Button size="small" onClick={() => zoomOut()} aria-label="Farther">
        −
      </Button>
      <Button size="small" onClick={() => resetTransform()}>
        Whole
      </Button>
    </div>
  );
}
