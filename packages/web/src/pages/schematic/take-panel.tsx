import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Segmented, Skeleton, Table } from 'antd';
import { useMemo, useState } from 'react';
import type { BoardDetail, BoardDocument } from '@jiko/contract';
import type { Board } from '@jiko/core/board';
import { boardNames, type Candidates, type Join, type Place } from '@jiko/core/schematic';
import { documentIndexQuery } from '../../data/documents.ts';
import { documentReadingQuery, previewTaking } from '../../data/document-reading.ts';
import { boardOf } from '../../data/read-sheet.ts';
import { useSheetSave } from '../../data/sheet-save.ts';
import { SheetClash } from '../../widgets/sheet-clash.tsx';
import type { DocumentReading, Preview } from '../../workers/schematic.worker.ts';

type Room = 'joins' | 'nets' | 'parts';

/** A row to tick: a name for a net of the sheet, a net or a part the sheet does not have. */
interface Row {
  key: string;
  room: Room;
  name: string;
  what: string;
  place: Place | null;
  sure: number;
}

/** What the document says that the sheet does not, to be ticked and taken in as a version of its own. */
export function TakePanel({
  sheet,
  document,
  onGo,
}: {
  sheet: BoardDetail;
  document: BoardDocument;
  onGo: (name: string, place: Place) => void;
}) {
  const pages = useQuery(documentIndexQuery(document.id));
  const reading = useQuery({
    ...documentReadingQuery(document.id, pages.data?.pages ?? [], sheet),
    enabled: pages.data !== undefined,
  });
  const board = boardOf(sheet);
  if (reading.isError)
    return (
      <Alert
        type="error"
        showIcon
        title="It could not be read"
        description={reading.error.message}
      />
    );
  if (!reading.data || !board) return <Skeleton active />;
  return (
    <Ticking
      key={`${document.id} ${sheet.hash}`}
      sheet={sheet}
      board={board}
      reading={reading.data}
      onGo={onGo}
    />
  );
}

function Ticking({
  sheet,
  board,
  reading,
  onGo,
}: {
  sheet: BoardDetail;
  board: Board;
  reading: DocumentReading;
  onGo: (name: string, place: Place) => void;
}) {
  const { candidates, joins } = reading;
  const rows = useMemo(() => rowsOf(board, candidates, joins), [board, candidates, joins]);
  const [room, setRoom] = useState<Room>(rows.joins.length > 0 ? 'joins' : 'nets');
  const [ticked, setTicked] = useState<ReadonlySet<string>>(
    () => new Set(rows.joins.map((one) => one.key)),
  );
  const [preview, setPreview] = useState<Preview | null>(null);
  /** The version of the sheet the preview was made from. */
  const [from, setFrom] = useState(sheet.hash);
  const saving = useSheetSave(sheet.id);
  const [isBusy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const shown = rows[room];
  const count = [...rows.joins, ...rows.nets, ...rows.parts].filter((one) =>
    ticked.has(one.key),
  ).length;
  const tick = (keys: readonly unknown[]): void => {
    const here = new Set(shown.map((one) => one.key));
    setTicked(new Set([...[...ticked].filter((key) => !here.has(key)), ...keys.map(String)]));
    setPreview(null);
  };
  const look = async (): Promise<void> => {
    setBusy(true);
    setTrouble(null);
    try {
      setFrom(sheet.hash);
      const is = (room: Room, name: string): boolean => ticked.has(`${room} ${name}`);
      setPreview(
        await previewTaking(sheet.text, {
          joins: joins.filter((one) => is('joins', one.net)),
          nets: candidates.nets.filter((one) => is('nets', one.name)),
          parts: candidates.parts.filter((one) => is('parts', one.ref)),
        }),
      );
    } catch (error) {
      setTrouble((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  const keep = async (): Promise<void> => {
    if (!preview?.ok) return;
    setBusy(true);
    await saving.save(preview.text, from);
    setBusy(false);
  };
  return (
    <section className="take-panel" aria-label="Read from the document">
      {candidates.about.length > 0 && (
        <p className="about">
          <span className="quiet">Look first: </span>
          {candidates.about.map(({ page, what }) => (
            <Button
              key={page}
              size="small"
              type="link"
              onClick={() => onGo('', { page, box: { x: 0, y: 0, w: 0, h: 0 } })}
            >
              {what}, p {page}
            </Button>
          ))}
        </p>
      )}
      <Segmented<Room>
        block
        aria-label="What was read"
        value={room}
        onChange={setRoom}
        options={[
          { value: 'joins', label: `Names ${rows.joins.length}` },
          { value: 'nets', label: `New nets ${rows.nets.length}` },
          { value: 'parts', label: `New parts ${rows.parts.length}` },
        ]}
      />
      <p className="quiet">{roomText[room]}</p>
      <Table<Row>
        size="small"
        virtual
        rowKey="key"
        pagination={false}
        scroll={{ y: 300, x: 380 }}
        dataSource={shown}
        rowSelection={{
          selectedRowKeys: shown.filter((one) => ticked.has(one.key)).map((one) => one.key),
          onChange: tick,
          getCheckboxProps: (row) => ({ 'aria-label': `Take ${row.name}` }) as object,
        }}
        locale={{ emptyText: <span className="quiet">The sheet has all of them.</span> }}
        columns={[
          {
            title: 'Name',
            width: 130,
            render: (_, row) => (
              <button
                type="button"
                className="row-go mono"
                onClick={() => row.place && onGo(row.name, row.place)}
              >
                {row.name}
              </button>
            ),
          },
          { title: 'What it is', dataIndex: 'what', width: 160 },
          { title: 'p', width: 36, render: (_, row) => row.place?.page ?? '' },
          { title: '%', width: 40, render: (_, row) => Math.round(row.sure * 100) },
        ]}
      />
      <p>
        <Button type="primary" loading={isBusy} disabled={count === 0} onClick={() => void look()}>
          What {count} ticked would change
        </Button>
      </p>
      {trouble !== null && <Alert type="error" showIcon title={trouble} />}
      <SheetClash saving={saving} />
      {preview && !preview.ok && (
        <Alert
          type="error"
          showIcon
          title="Nothing can be taken in"
          description={preview.why.slice(0, 6).join(' ')}
        />
      )}
      {preview?.ok && (
        <div className="take-preview">
          <h3>
            {preview.done.length === 0 ? 'It changes nothing' : `${preview.done.length} changes`}
          </h3>
          <Lines of={preview.done} />
          {preview.doubts.length > 0 && (
            <>
              <h3 className="tone-warn">Doubtful by it</h3>
              <Lines of={preview.doubts} />
            </>
          )}
          {preview.left.length > 0 && (
            <>
              <h3 className="quiet">Stays open</h3>
              <Lines of={preview.left} />
            </>
          )}
          {preview.done.length > 0 && (
            <Button type="primary" loading={isBusy} onClick={() => void keep()}>
              Keep as a new version of the sheet
            </Button>
          )}
        </div>
      )}
    </section>
  );
}

const roomText: Record<Room, string> = {
  joins: 'Nets of the sheet that the document calls otherwise. Every reading stays with its net.',
  nets: 'Nets that the sheet does not have.',
  parts:
    'Parts and chips that the sheet does not have. Chips come in with their pins, and do nothing of themselves.',
};

function Lines({ of }: { of: readonly string[] }) {
  return (
    <ul>
      {of.slice(0, 40).map((one) => (
        <li key={one}>{one}</li>
      ))}
      {of.length > 40 && <li className="quiet">and {of.length - 40} more</li>}
    </ul>
  );
}

function rowsOf(
  board: Board,
  { nets, parts }: Candidates,
  joins: readonly Join[],
): Record<Room, Row[]> {
  const names = boardNames(board);
  const byName = new Map(nets.map((one) => [one.name, one]));
  const joined = new Set(joins.map((one) => one.to));
  return {
    joins: joins
      .filter((one) => one.net !== one.to)
      .map((one) => ({
        key: `joins ${one.net}`,
        room: 'joins',
        name: one.to,
        what: `${one.net}: ${one.why}`,
        place: byName.get(one.to)?.places[0] ?? null,
        sure: one.sure,
      })),
    nets: nets
      .filter((one) => one.kind !== 'ground' && !joined.has(one.name) && !names.meant(one.name))
      .map((one) => ({
        key: `nets ${one.name}`,
        room: 'nets',
        name: one.name,
        what: [one.role ?? one.kind, one.volts === null ? '' : `${one.volts} V`, one.domain ?? '']
          .filter((word) => word !== '')
          .join(', '),
        place: one.places[0] ?? null,
        sure: one.sure,
      })),
    parts: parts
      .filter((one) => names.meant(one.ref)?.kind !== 'part')
      .map((one) => ({
        key: `parts ${one.ref}`,
        room: 'parts',
        name: one.ref,
        what: [
          one.kind ?? 'kind not known',
          one.value,
          one.pins.length > 2
            ? `${one.pins.length} pins`
            : one.pins.map((pin) => pin.net ?? '?').join(' to '),
          one.isFitted ? '' : 'not fitted',
        ]
          .filter((word) => word !== '')
          .join(', '),
        place: one.places[0] ?? null,
        sure: one.sure,
      })),
  };
}
