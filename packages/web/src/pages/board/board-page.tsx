import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Checkbox, Segmented, Select, Skeleton } from 'antd';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Board } from '@jiko/core/board';
import { faultKey, faultName, listFaults, type Fault } from '@jiko/core/faults';
import type { BoardDetail } from '@jiko/contract';
import { attachedIn, usualSetup, type BenchSetup } from '@jiko/core/play';
import { boardQuery } from '../../data/queries.ts';
import { coldQuery, playQuery } from '../../data/plays.ts';
import { boardOf } from '../../data/read-sheet.ts';
import { FaultList } from './fault-list.tsx';
import { PlaySigns } from './play-signs.tsx';
import { PlayTable } from './play-table.tsx';
import '../../widgets/readings.css';
import './board.css';
import { Several } from '../../widgets/several.tsx';

// The chart library comes with the first chart.
const EventChart = lazy(async () => ({
  default: (await import('./event-chart.tsx')).EventChart,
}));

/** A sheet's play: phases as columns, nets as rows, with any faults put in. */
export function BoardPage() {
  const { id = '' } = useParams();
  const sheet = useQuery(boardQuery(id));
  const board = sheet.data ? boardOf(sheet.data) : null;

  if (sheet.isError) {
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
  }
  if (!sheet.data || !board) {
    return (
      <div className="column">
        <Skeleton active />
      </div>
    );
  }
  if (board.sources.length === 0)
    return (
      <div className="column">
        <Alert
          type="info"
          showIcon
          title={`${board.title} names no source yet`}
          description={
            <>
              Add one under Sources in <Link to={`/boards/${board.id}/edit`}>Edit</Link>, and it can
              be played.
            </>
          }
        />
      </div>
    );
  return <PlayView board={board} sheet={sheet.data} />;
}

function PlayView({ board, sheet }: { board: Board; sheet: BoardDetail }) {
  const powered = board.sources.filter((one) => !one.stays);
  const [source, setSource] = useState<string>(() => usualSetup(board).source);
  const [attached, setAttached] = useState<string[]>(() => attachedIn(board, usualSetup(board)));
  const [keys, setKeys] = useState<string[]>([]);
  const [view, setView] = useState<'nets' | 'faults'>('nets');
  const all = useMemo(
    () => new Map(listFaults(board).map((fault): [string, Fault] => [faultKey(fault), fault])),
    [board],
  );
  const bench = useMemo((): BenchSetup => ({ source, attached }), [source, attached]);
  const faults = keys.flatMap((key) => all.get(key) ?? []);
  const healthy = useQuery(playQuery(sheet, bench, []));
  const faulty = useQuery(playQuery(sheet, bench, faults));
  const coldHealthy = useQuery(coldQuery(sheet, bench, []));
  const coldFaulty = useQuery(coldQuery(sheet, bench, faults));
  const play = faults.length > 0 ? faulty : healthy;

  return (
    <div className="column play">
      <header>
        <h1>{board.title}</h1>
        <span className="quiet">
          revision {board.revision} · {board.nets.length} nets ·{' '}
          {board.parts.length + board.chips.length} parts · {all.size} single faults
        </span>
        <Link to={`/boards/${sheet.id}/edit`}>Edit</Link>
        <Link to={`/boards/${sheet.id}/schematic`}>Schematic</Link>
        <Link to={`/boards/${sheet.id}/versions`}>Versions</Link>
        <Link to={`/boards/${sheet.id}/history`}>History</Link>
        <Link to="/boards">All boards</Link>
      </header>
      {board.notes && <p className="quiet">{board.notes}</p>}
      <div className="play-bench">
        <label>
          <span className="quiet">Source </span>
          <Select
            style={{ width: 220 }}
            value={source}
            onChange={setSource}
            options={powered.map((one) => ({ value: one.id as string, label: one.title }))}
          />
        </label>
        <span>
          <span className="quiet">Attached </span>
          <Checkbox.Group
            value={attached}
            onChange={(ids) => setAttached(ids)}
            options={board.attachments.map((one) => ({ value: one.id, label: one.title }))}
          />
        </span>
        <label className="play-faults">
          <span className="quiet">Faults </span>
          <Several
            aria-label="Faults"
            style={{ flex: 1, minWidth: 320 }}
            placeholder="healthy: type a part to put a fault in"
            value={keys}
            onChange={setKeys}
            showSearch={{ optionFilterProp: 'label' }}
            options={[...all].map(([value, fault]) => ({ value, label: faultName(fault) }))}
          />
          {keys.length > 0 && <Button onClick={() => setKeys([])}>Healthy again</Button>}
        </label>
      </div>
      <Segmented<'nets' | 'faults'>
        aria-label="What the table shows"
        value={view}
        onChange={setView}
        options={[
          { value: 'nets', label: 'This play' },
          { value: 'faults', label: 'Every single fault' },
        ]}
      />
      {play.isError && (
        <Alert type="error" showIcon title="The play failed" description={play.error.message} />
      )}
      {view === 'faults' ? (
        <FaultList
          board={board}
          sheet={sheet}
          bench={bench}
          onPick={(fault) => {
            setKeys([faultKey(fault)]);
            setView('nets');
          }}
        />
      ) : play.data && healthy.data ? (
        <>
          {play.data.status === 'invalid' && (
            <Alert
              style={{ marginBottom: 12 }}
              type="warning"
              showIcon
              title="This play cannot be trusted"
              description={`${play.data.because}. What is shown is the last moment that was solved.`}
            />
          )}
          <PlaySigns play={play.data} />
          <Suspense fallback={<p className="quiet">Drawing the events…</p>}>
            <EventChart events={play.data.events} pressedAtSeconds={play.data.pressedAtSeconds} />
          </Suspense>
          <PlayTable
            board={board}
            healthy={healthy.data}
            play={play.data}
            cold={
              coldHealthy.data && coldFaulty.data
                ? { healthy: coldHealthy.data, faulty: coldFaulty.data }
                : null
            }
            isFaulty={faults.length > 0}
          />
        </>
      ) : (
        !play.isError && <Skeleton active />
      )}
    </div>
  );
}
