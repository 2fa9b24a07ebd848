import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Select, Skeleton, Space } from 'antd';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { loadSheet, type Board } from '@jiko/core/board';
import { faultKey, faultName, listFaults, type Fault } from '@jiko/core/faults';
import { boardQuery } from '../../data/queries.ts';
import { playQuery } from '../../data/plays.ts';
import { EventChart } from './event-chart.tsx';
import { PlayTable } from './play-table.tsx';

/** A sheet's play: phases as columns, nets as rows, with any faults put in. */
export function BoardPage() {
  const { id = '' } = useParams();
  const sheet = useQuery(boardQuery(id));
  const board = useMemo(() => {
    const loaded = sheet.data ? loadSheet(sheet.data.text) : null;
    return loaded?.ok ? loaded.value : null;
  }, [sheet.data]);

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
  return <PlayView board={board} sheet={sheet.data} />;
}

function PlayView({
  board,
  sheet,
}: {
  board: Board;
  sheet: NonNullable<Parameters<typeof playQuery>[0]>;
}) {
  const powered = board.sources.filter((one) => !one.stays);
  const [source, setSource] = useState<string>(powered[0]?.id ?? '');
  const [keys, setKeys] = useState<string[]>([]);
  const all = useMemo(
    () => new Map(listFaults(board).map((fault): [string, Fault] => [faultKey(fault), fault])),
    [board],
  );
  const faults = keys.flatMap((key) => all.get(key) ?? []);
  const healthy = useQuery(playQuery(sheet, source, []));
  const faulty = useQuery(playQuery(sheet, source, faults));
  const play = faults.length > 0 ? faulty : healthy;

  return (
    <div className="column play">
      <header>
        <h1>{board.title}</h1>
        <span className="quiet">
          revision {board.revision} · {board.nets.length} nets ·{' '}
          {board.parts.length + board.chips.length} parts · {all.size} single faults
        </span>
        <Link to="/boards">All boards</Link>
      </header>
      {board.notes && <p className="quiet">{board.notes}</p>}
      <Space wrap align="center" style={{ marginBottom: 14 }}>
        <label>
          <span className="quiet">Source </span>
          <Select
            style={{ width: 220 }}
            value={source}
            onChange={setSource}
            options={powered.map((one) => ({ value: one.id as string, label: one.title }))}
          />
        </label>
        <label>
          <span className="quiet">Faults </span>
          <Select<string[]>
            mode="multiple"
            aria-label="Faults"
            style={{ minWidth: 420 }}
            placeholder="healthy: type a part to put a fault in"
            value={keys}
            onChange={setKeys}
            showSearch={{ optionFilterProp: 'label' }}
            options={[...all].map(([value, fault]) => ({ value, label: faultName(fault) }))}
          />
        </label>
        {keys.length > 0 && <Button onClick={() => setKeys([])}>Healthy again</Button>}
      </Space>
      {play.isError && (
        <Alert type="error" showIcon title="The play failed" description={play.error.message} />
      )}
      {play.data?.status === 'invalid' && (
        <Alert
          style={{ marginBottom: 12 }}
          type="warning"
          showIcon
          title="This play cannot be trusted"
          description={`${play.data.because}. What is shown is the last moment that was solved.`}
        />
      )}
      {play.data && healthy.data ? (
        <>
          <EventChart events={play.data.events} pressedAtSeconds={play.data.pressedAtSeconds} />
          <PlayTable
            board={board}
            healthy={healthy.data}
            play={play.data}
            isFaulty={faults.length > 0}
          />
        </>
      ) : (
        !play.isError && <Skeleton active />
      )}
    </div>
  );
}
