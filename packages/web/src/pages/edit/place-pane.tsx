import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, InputNumber, Segmented, Select } from 'antd';
import { useMemo, useState } from 'react';
import { z } from 'zod';
import { api } from '@jiko/contract';
import type { Side } from '@jiko/core/board';
import { rowsOf, withRows, type SheetRow, type SheetTable } from '@jiko/core/sheet-edit';
import { useBench } from '../../data/bench.ts';
import { putPlaces } from '../../data/board-places.ts';
import { sendBoardPicture } from '../../data/pictures.ts';
import { useKept } from '../../data/kept.ts';
import { lookQuery } from '../../data/queries.ts';
import { PictureButton } from '../../widgets/picture-button.tsx';
import { frameFor, placedOf, placeMap } from './place-map.ts';

const placeTables = ['parts', 'chips', 'points'] as const satisfies readonly SheetTable[];
/** Width over height of a board nobody measured. */
const usualAspect = 1.5;
const usualWide = 240;
const wideSchema = z.number().min(20).max(1000);
/** How large a dot is, and its name, as parts of the picture's height. */
const dot = 0.008;

/** Places of parts by clicks on a photo, or on the outline where there is none. */
export function PlacePane({
  board,
  text,
  chosen,
  onChoose,
  onText,
}: {
  board: string;
  text: string;
  /** The part the next click places. */
  chosen: string | null;
  onChoose: (ref: string | null) => void;
  onText: (text: string) => void;
}) {
  const { who } = useBench();
  const client = useQueryClient();
  const look = useQuery(lookQuery(board)).data;
  const [side, setSide] = useState<Side>('top');
  const wideKey = `jiko-edit-wide-${board}`;
  const [wide, setWide] = useKept(wideKey, wideSchema, usualWide);
  const [aspects, setAspects] = useState<Record<string, number>>({});
  const [trouble, setTrouble] = useState<string | null>(null);

  // A point on a part is where the part is.
  const rows = useMemo(
    () =>
      placeTables.flatMap((table) =>
        rowsOf(text, table).flatMap((row) => (row['part'] ? [] : [{ table, row }])),
      ),
    [text],
  );
  const placed = useMemo(() => placedOf(rows.map((one) => one.row)), [rows]);
  // As it was when the pane was opened: it does not move under the hand.
  const [begun] = useState(placed);
  const photo = look?.pictures.filter((one) => one.side === side).at(-1) ?? null;
  const aspect = photo ? (aspects[photo.id] ?? usualAspect) : usualAspect;
  const isSparse = begun.length * 2 < rows.length;
  // One part alone fits no photo of its side: the photo is the board until there are two.
  const isFitted = photo !== null && begun.filter((one) => one.side === side).length >= 2;
  const frame = frameFor(begun, { wide, aspect, isSparse });
  const drawn = placeMap(frame, side, null)!;
  const anchors = photo
    ? (look?.places ?? []).flatMap(({ ref, frame: on, at }) => {
        const own = begun.find((one) => one.ref === ref && one.side === side);
        return on === photo.id && at.side === side && own
          ? [{ from: { u: at.u, v: at.v }, to: drawn.toPicture(own) }]
          : [];
      })
    : [];
  const map = placeMap(frame, side, isFitted ? { aspect, anchors } : null);
  const shape = photo ? aspect : frame.width / frame.height;
  const open = rows.filter(({ row }) => !placed.some((one) => one.ref === row.name));
  const ref = chosen ?? open[0]?.row.name ?? null;

  const keepOnPhoto = (at: { u: number; v: number }): void => {
    if (!photo || ref === null) return;
    void putPlaces(board, [{ ref, frame: photo.id, at: { side, ...at }, who }]).then(
      (next) => client.setQueryData(lookQuery(board).queryKey, next),
      (error: Error) => setTrouble(`The place on the photo was not kept. ${error.message}`),
    );
  };
  const click = (at: { u: number; v: number }): void => {
    setTrouble(null);
    const own = rows.find(({ row }) => row.name === ref);
    if (!own || ref === null) return setTrouble('Choose the part first that the click places.');
    if (!map) {
      if (!begun.some((one) => one.ref === ref && one.side === side))
        return setTrouble(
          `${ref} has no place on this side yet: first click two parts that have one.`,
        );
      return keepOnPhoto(at);
    }
    const { x, y } = map.toSheet(at);
    const done = withRows(
      text,
      own.table,
      rowsOf(text, own.table).map((row): SheetRow =>
        row.name === ref ? { ...row, side, x: String(x), y: String(y) } : row,
      ),
    );
    if (!done.ok) return setTrouble(done.error.join(' '));
    onText(done.value);
    keepOnPhoto(at);
    const after = open.filter(({ row }) => row.name !== ref);
    onChoose(after[0]?.row.name ?? null);
  };

  return (
    <section className="place-pane" aria-label="Places">
      <div className="edit-bar">
        <Segmented<Side>
          size="small"
          aria-label="Side"
          value={side}
          onChange={setSide}
          options={[
            { value: 'top', label: 'Top' },
            { value: 'bottom', label: 'Bottom' },
          ]}
        />
        <Select
          size="small"
          aria-label="Part to place"
          showSearch
          style={{ width: 150 }}
          value={ref}
          onChange={onChoose}
          options={rows.map(({ row }) => ({
            value: row.name as string,
            label: open.some((one) => one.row.name === row.name)
              ? `${row.name} ·`
              : (row.name as string),
          }))}
        />
        <span className="quiet">{open.length} without a place</span>
        {isSparse && (
          <InputNumber
            size="small"
            aria-label="Width of the board"
            min={20}
            max={1000}
            value={wide}
            suffix="mm wide"
            style={{ width: 150 }}
            onChange={(next) => next && setWide(next)}
          />
        )}
        <PictureButton
          size="small"
          label={photo ? 'Another photo' : 'Add a photo'}
          onPicture={async (file) => {
            await sendBoardPicture(board, side, file);
            await client.invalidateQueries({ queryKey: lookQuery(board).queryKey });
          }}
        />
      </div>
      <p className={map ? 'quiet' : 'tone-warn'}>
        {rows.length === 0
          ? 'No part can be read from the text.'
          : ref === null
            ? 'Every part has its place. Choose one to move it.'
            : map
              ? `Click where ${ref} is${side === 'bottom' ? ', seen from below' : ''}.${photo && !isFitted ? ' The photo is taken as the whole board: cut it at the edges.' : ''}`
              : `This photo does not lie on the sheet's places yet: choose a part that has one and click it, twice. ${anchors.length} of 2.`}
      </p>
      {trouble && <Alert type="error" showIcon title={trouble} />}
      {/* oxlint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/no-static-element-interactions -- a place is pointed at */}
      <div
        className="place-picture"
        style={{ aspectRatio: shape }}
        data-testid="place-picture"
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          click({
            u: (event.clientX - box.left) / box.width,
            v: (event.clientY - box.top) / box.height,
          });
        }}
      >
        {photo && (
          <img
            src={api.boardPicture(photo.id)}
            alt={`The ${side} side`}
            onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) =>
              setAspects({ ...aspects, [photo.id]: naturalWidth / naturalHeight })
            }
          />
        )}
        <svg viewBox={`0 0 ${shape} 1`} aria-hidden="true">
          {map &&
            placed
              .filter((one) => one.side === side)
              .map((one) => {
                const { u, v } = map.toPicture(one);
                return (
                  <g key={one.ref} className={one.ref === ref ? 'is-here' : ''}>
                    <circle cx={u * shape} cy={v} r={dot} />
                    <text x={u * shape + dot * 1.4} y={v + dot * 0.8}>
                      {one.ref}
                    </text>
                  </g>
                );
              })}
        </svg>
      </div>
    </section>
  );
}
