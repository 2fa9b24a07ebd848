import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Input, Segmented, Skeleton } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { BoardDetail } from '@jiko/contract';
import { chipKinds, partKinds, sheetKeys, type NetId, type PartRef } from '@jiko/core/board';
import {
  pinCells,
  pinRowsOf,
  rowsOf,
  tables,
  withPinRows,
  withRows,
  type SheetRow,
  type SheetTable,
} from '@jiko/core/sheet-edit';
import { useBeside } from '../../data/beside.ts';
import { boardQuery, versionQuery } from '../../data/queries.ts';
import { useSheetSave } from '../../data/sheet-save.ts';
import { sheetCheckQuery } from '../../data/sheet-check.ts';
import { SheetClash } from '../../widgets/sheet-clash.tsx';
import { useEditDraft } from './edit-draft.ts';
import { PlacePane } from './place-pane.tsx';
import { rebaseRows } from './rebase-rows.ts';
import { SheetEditor, type SheetEditorHandle } from './sheet-editor.tsx';
import { SheetTableGrid } from './sheet-table.tsx';
import './edit.css';

export function EditPage() {
  const { id = '' } = useParams();
  const sheet = useQuery(boardQuery(id));
  if (sheet.isError)
    return (
      <div className="column">
        <Alert
          type="error"
          showIcon
          title="This board cannot be shown"
          description={sheet.error.message}
        />
      </div>
    );
  if (!sheet.data)
    return (
      <div className="column">
        <Skeleton active />
      </div>
    );
  return <EditView key={id} sheet={sheet.data} />;
}

type Shown = SheetTable | 'pins';
const shownTables: { value: Shown; label: string }[] = [
  { value: 'nets', label: 'Nets' },
  { value: 'parts', label: 'Parts' },
  { value: 'chips', label: 'Chips' },
  { value: 'pins', label: 'Pins' },
  { value: 'stages', label: 'Stages' },
  { value: 'points', label: 'Points' },
  { value: 'sources', label: 'Sources' },
  { value: 'goals', label: 'Goals' },
];

/** A sheet in tables and as text, always in step; what is not saved yet is kept in this browser. */
function EditView({ sheet }: { sheet: BoardDetail }) {
  const [draft, setDraft] = useEditDraft(sheet);
  const text = draft?.text ?? sheet.text;
  const setText = (next: string): void =>
    setDraft(next === sheet.text ? null : { base: draft ? draft.base : sheet.hash, text: next });
  const saving = useSheetSave(sheet.id);
  const isOld = draft !== null && draft.base !== sheet.hash;
  // What is changed here is told against the version it was begun from.
  const from = useQuery(versionQuery(sheet.id, (isOld && draft.base) || '')).data;
  const [shown, setShown] = useState<Shown>('nets');
  const [wanted, setWanted] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [beside, setBeside] = useState<'text' | 'places'>('text');
  const [placing, setPlacing] = useState<string | null>(null);
  const editor = useRef<SheetEditorHandle>(null);
  const isChanged = draft !== null;

  // Tables, lint and play follow a moment behind the typing: reading a large sheet takes longer than a key.
  const [settled, settle] = useSlowly(text, 200);
  const allRows = useMemo(
    () => (shown === 'pins' ? pinRowsOf(settled) : rowsOf(settled, shown)),
    [settled, shown],
  );
  // Rows without a name are not in the sheet yet: they stand here until they have one.
  const [unfinished, setUnfinished] = useState<SheetRow[]>([]);
  const isWanted = (row: SheetRow): boolean =>
    wanted === '' ||
    Object.values(row).some((cell) => cell?.toLowerCase().includes(wanted.toLowerCase()));
  const rows = [...allRows.filter(isWanted), ...unfinished];
  const change = (next: SheetRow[]): void => {
    const isNew = (row: SheetRow): boolean =>
      row.was === null && (shown === 'pins' ? !row.chip || !row.pin || !row.net : !row.name);
    setUnfinished(next.filter(isNew));
    const hidden = allRows.filter((row) => !isWanted(row));
    const left = [...hidden, ...next.filter((row) => !isNew(row))];
    const now = shown === 'pins' ? pinRowsOf(text) : rowsOf(text, shown);
    const all = settled === text ? left : rebaseRows(allRows, left, now);
    const done = shown === 'pins' ? withPinRows(text, all) : withRows(text, shown, all);
    setTrouble(done.ok ? null : done.error.join(' '));
    if (!done.ok || done.value === text) return;
    setText(done.value);
    // A cell that was left stands in its table at once.
    settle(done.value);
  };

  const check = useQuery(sheetCheckQuery(settled, from?.text ?? sheet.text));
  const { issues = [], order = [], nets = 0, parts = 0, changes = [] } = check.data ?? {};
  const stopping = issues.filter((one) => one.stops);
  const words = useMemo(
    () => () => [
      ...rowsOf(settled, 'nets').map((row) => ({ label: row.name as string, detail: 'net' })),
      ...rowsOf(settled, 'parts').map((row) => ({ label: row.name as string, detail: 'part' })),
      ...rowsOf(settled, 'chips').map((row) => ({ label: row.name as string, detail: 'chip' })),
      ...[...partKinds, ...chipKinds].map((label) => ({ label, detail: 'kind' })),
      ...sheetKeys().map((label) => ({ label, detail: 'key' })),
    ],
    [settled],
  );

  const save = async (): Promise<void> => {
    const hash = await saving.save(text, draft ? draft.base : sheet.hash);
    if (hash !== null) saved();
  };
  const saved = (): void => {
    setTrouble(null);
    setDraft(null);
  };
  const chipNames = useMemo(
    () => new Set(rowsOf(settled, 'chips').map((row) => row.name as string)),
    [settled],
  );
  // The schematic in its own window goes along, and what is clicked there is looked up here.
  const tell = useBeside(sheet.id, 'work', (named) => {
    setShown(named.kind === 'net' ? 'nets' : chipNames.has(named.ref) ? 'chips' : 'parts');
    setWanted(named.kind === 'net' ? named.net : named.ref);
  });
  const follow = (row: SheetRow): void => {
    const name = row.name ?? row.chip ?? '';
    if (name && ['parts', 'chips', 'points'].includes(shown)) setPlacing(name);
    if (shown === 'nets' && name) tell({ kind: 'net', net: name as NetId });
    else if (shown === 'points' && row.net) tell({ kind: 'net', net: row.net as NetId });
    else if (name && ['parts', 'chips', 'pins'].includes(shown))
      tell({ kind: 'part', ref: name as PartRef });
  };
  const cells = shown === 'pins' ? pinCells : tables[shown];

  return (
    <div
      className="edit"
      role="presentation"
      onKeyDown={(event) => {
        if (!(event.ctrlKey || event.metaKey) || event.key !== 's') return;
        event.preventDefault();
        void save();
      }}
    >
      <header>
        <h1>{sheet.title}</h1>
        <span className="quiet">
          {check.data && `${nets} nets · ${parts} parts · `}
          {isChanged
            ? `${changes.length} change${changes.length === 1 ? '' : 's'} not saved${isOld ? ', begun on an older version' : ''}`
            : 'as saved'}
        </span>
        <span className="grow" />
        <Button onClick={() => editor.current?.undo()}>Undo</Button>
        <Button onClick={() => editor.current?.redo()}>Redo</Button>
        <Button disabled={!isChanged} onClick={() => setDraft(null)}>
          As saved
        </Button>
        <Button
          type="primary"
          disabled={!isChanged}
          loading={saving.isSaving}
          onClick={() => void save()}
        >
          Save a version (Ctrl S)
        </Button>
        <Button
          onClick={() => window.open(`/boards/${sheet.id}/schematic`, `jiko-schematic-${sheet.id}`)}
        >
          Schematic
        </Button>
        <Link to={`/boards/${sheet.id}`}>Play</Link>
        <Link to={`/boards/${sheet.id}/versions`}>Versions</Link>
      </header>
      {trouble && <Alert type="error" showIcon title={trouble} />}
      {saving.trouble && <p className="quiet">What you changed is kept in this browser.</p>}
      <SheetClash saving={saving} onLaid={saved} />
      <div className="edit-both">
        <section aria-label="Tables">
          <div className="edit-bar">
            <Segmented<Shown>
              aria-label="Which tables are shown"
              size="small"
              value={shown}
              onChange={(next) => {
                setShown(next);
                setUnfinished([]);
              }}
              options={shownTables}
            />
            <Input
              size="small"
              allowClear
              aria-label="Search the table"
              placeholder="search"
              value={wanted}
              onChange={(event) => setWanted(event.target.value)}
            />
          </div>
          <SheetTableGrid
            key={shown}
            cells={cells}
            rows={rows}
            height={430}
            onRows={change}
            onRow={follow}
          />
          <div className="edit-below">
            <div className="issues">
              <h2>
                {!check.data
                  ? 'Being checked'
                  : issues.length === 0
                    ? 'Nothing found wrong'
                    : stopping.length > 0
                      ? `${stopping.length} to put right before it can be used`
                      : `${issues.length} doubtful`}
              </h2>
              {issues.length > 0 && (
                <ul aria-label="What is wrong">
                  {issues.slice(0, 30).map((one, at) => (
                    <li key={at}>
                      <button
                        type="button"
                        className={one.stops ? 'is-stop' : ''}
                        onClick={() => editor.current?.goTo(one.line)}
                      >
                        {one.text.length > 240 ? `${one.text.slice(0, 240)}…` : one.text}
                      </button>
                    </li>
                  ))}
                </ul>
              )}
            </div>
            {/* Longer than its place: arrow keys scroll it. */}
            <div className="order" tabIndex={0} role="group" aria-label="Order of waking">
              <h2>Order of waking</h2>
              <ol>
                {order.map((one) => (
                  <li key={one.id} className={one.phase === 'never' ? 'is-never' : ''}>
                    {one.title}{' '}
                    <span className="quiet">
                      {one.phase === 'never'
                        ? 'never comes'
                        : `${one.phase}, ${one.milliseconds} ms`}
                    </span>
                  </li>
                ))}
              </ol>
            </div>
          </div>
        </section>
        <section aria-label="Beside the tables">
          <Segmented<'text' | 'places'>
            size="small"
            aria-label="Beside the tables"
            value={beside}
            onChange={setBeside}
            options={[
              { value: 'text', label: 'As text' },
              { value: 'places', label: 'Places on the board' },
            ]}
          />
          {beside === 'places' && (
            <PlacePane
              board={sheet.id}
              text={text}
              chosen={placing}
              onChoose={setPlacing}
              onText={setText}
            />
          )}
          {/* Undo is the editor's, also while something else is shown. */}
          <div className={beside === 'text' ? 'text-pane' : 'is-away'}>
            <SheetEditor
              text={text}
              onText={setText}
              issues={issues}
              words={words}
              handle={editor}
            />
          </div>
        </section>
      </div>
    </div>
  );
}

/** A value once it has stood still for a while, or at once where that is said. */
function useSlowly(value: string, milliseconds: number): [string, (now: string) => void] {
  const [slow, setSlow] = useState(value);
  useEffect(() => {
    const soon = setTimeout(() => setSlow(value), milliseconds);
    return () => clearTimeout(soon);
  }, [value, milliseconds]);
  return [slow, setSlow];
}
