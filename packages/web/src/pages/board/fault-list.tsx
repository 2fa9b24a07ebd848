import { Alert, Button, Input, Progress, Table } from 'antd';
import { useMemo, useState } from 'react';
import type { BoardDetail } from '@jiko/contract';
import type { Board } from '@jiko/core/board';
import { faultName, type Fault } from '@jiko/core/faults';
import { dictionaryCsv } from '@jiko/core/formats';
import { benchSetup, type BenchSetup } from '@jiko/core/play';
import { outcomeOf, type Dictionary, type Outcome } from '@jiko/core/dictionary';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { formatAmps } from '@jiko/core/units';
import { useDictionary } from '../../data/dictionaries.ts';

/** Every single fault of a sheet and what the board does with it. */
export function FaultList({
  board,
  sheet,
  bench,
  onPick,
}: {
  board: Board;
  sheet: BoardDetail;
  bench: BenchSetup;
  onPick: (fault: Fault) => void;
}) {
  const { making, start, cancel } = useDictionary(sheet, bench);
  switch (making.state) {
    case 'none':
      return (
        <section className="all-faults">
          <p>
            Plays the board once with each fault it can have: which stage is then missing, what the
            board draws, and what every net reads in every phase and cold. It takes some seconds and
            is kept in this browser until the sheet changes.
          </p>
          <Button type="primary" onClick={() => start()}>
            Play every single fault
          </Button>
        </section>
      );
    case 'working': {
      const { done, total } = making;
      return (
        <section className="all-faults" aria-live="polite">
          <Progress
            aria-label="Faults played"
            percent={total > 0 ? Math.floor((done / total) * 100) : 0}
          />
          <p className="quiet">
            {total > 0
              ? `${done} of ${total} different faults played`
              : 'Playing the healthy board'}
          </p>
          <Button onClick={cancel}>Cancel</Button>
        </section>
      );
    }
    case 'failed':
      return (
        <Alert
          type="error"
          showIcon
          title="The faults could not be played"
          description={making.because}
        />
      );
    case 'ready':
      return (
        <Outcomes board={board} bench={bench} dictionary={making.dictionary} onPick={onPick} />
      );
  }
}

interface Row {
  key: number;
  name: string;
  fault: Fault;
  /** How many faults of the list read the same because they are one to the circuit. */
  alike: number;
  outcome: Outcome;
  isInvalid: boolean;
}

function Outcomes({
  board,
  bench,
  dictionary,
  onPick,
}: {
  board: Board;
  bench: BenchSetup;
  dictionary: Dictionary;
  onPick: (fault: Fault) => void;
}) {
  const [text, setText] = useState('');
  const titles = useMemo(
    () => new Map(board.stages.map((stage) => [stage.id as string, stage.title])),
    [board],
  );
  const rows = useMemo(() => {
    const { stages } = studyHealthyBoard(board, benchSetup(board, bench));
    const alike = new Map<number, number>();
    dictionary.rowOf.forEach((row) => alike.set(row, (alike.get(row) ?? 0) + 1));
    const outcomes = new Map<number, Outcome>();
    return dictionary.faults.map((fault, index): Row => {
      const row = dictionary.rowOf[index] as number;
      const outcome = outcomes.get(row) ?? outcomeOf(board, stages, dictionary, row);
      outcomes.set(row, outcome);
      return {
        key: index,
        name: faultName(fault),
        fault,
        alike: (alike.get(row) ?? 1) - 1,
        outcome,
        isInvalid: dictionary.invalid.has(row),
      };
    });
  }, [board, bench, dictionary]);
  const shown = rows.filter(
    (row) =>
      row.name.toLowerCase().includes(text.toLowerCase()) ||
      stageTitle(titles, row.outcome).toLowerCase().includes(text.toLowerCase()),
  );
  const silent = rows.filter((row) => row.outcome.changed === 0).length;

  const save = (): void => {
    const blob = new Blob([dictionaryCsv(dictionary)], { type: 'text/csv' });
    const link = document.createElement('a');
    link.href = URL.createObjectURL(blob);
    link.download = `${board.id}-faults.csv`;
    link.click();
    URL.revokeObjectURL(link.href);
  };

  return (
    <section className="all-faults">
      <p>
        <strong>{rows.length} single faults</strong>, {dictionary.rows - 1} of them different to the
        circuit. {silent} change no reading a meter would see.{' '}
        {dictionary.invalid.size > 0
          ? `${dictionary.invalid.size} could not be played and are not trusted.`
          : 'All could be played.'}
      </p>
      <div className="all-faults-bar">
        <Input
          allowClear
          aria-label="Find a fault or stage"
          placeholder="part, fault or missing stage"
          style={{ width: 280 }}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button onClick={save}>Save as CSV</Button>
      </div>
      <Table<Row>
        size="small"
        dataSource={shown}
        pagination={{ defaultPageSize: 50, showSizeChanger: false }}
        onRow={(row) => ({ onClick: () => onPick(row.fault), style: { cursor: 'pointer' } })}
        columns={[
          {
            title: 'Fault',
            key: 'name',
            sorter: (a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }),
            render: (_, row) => (
              <Button
                type="link"
                size="small"
                style={{ padding: 0 }}
                onClick={() => onPick(row.fault)}
              >
                {row.name}
              </Button>
            ),
          },
          {
            title: 'First missing stage',
            key: 'stage',
            sorter: (a, b) =>
              stageTitle(titles, a.outcome).localeCompare(stageTitle(titles, b.outcome)),
            render: (_, row) => (row.isInvalid ? 'not trusted' : stageTitle(titles, row.outcome)),
          },
          {
            title: 'Standby',
            key: 'standby',
            align: 'right',
            onCell: () => ({ className: 'mono' }),
            sorter: (a, b) => a.outcome.standbyAmps - b.outcome.standbyAmps,
            render: (_, row) => formatAmps(row.outcome.standbyAmps),
          },
          {
            title: 'Trying or running',
            key: 'trying',
            align: 'right',
            onCell: () => ({ className: 'mono' }),
            sorter: (a, b) => a.outcome.tryingAmps - b.outcome.tryingAmps,
            render: (_, row) => formatAmps(row.outcome.tryingAmps),
          },
          {
            title: 'Still',
            key: 'reached',
            render: (_, { outcome }) =>
              [
                ...board.goals
                  .filter((goal) => outcome.reached.includes(goal.id))
                  .map((goal) => goal.title),
                ...(outcome.swings ? ['(something swings)'] : []),
              ].join(', '),
          },
          {
            title: 'Readings that differ',
            key: 'changed',
            align: 'right',
            onCell: () => ({ className: 'mono' }),
            sorter: (a, b) => a.outcome.changed - b.outcome.changed,
            render: (_, row) => row.outcome.changed,
          },
          {
            title: 'Reads the same',
            key: 'alike',
            align: 'right',
            onCell: () => ({ className: 'mono' }),
            render: (_, row) => (row.alike > 0 ? `+${row.alike}` : ''),
          },
        ]}
      />
    </section>
  );
}

const stageTitle = (titles: ReadonlyMap<string, string>, { firstMissing }: Outcome): string =>
  firstMissing === null ? 'none' : (titles.get(firstMissing) ?? firstMissing);
