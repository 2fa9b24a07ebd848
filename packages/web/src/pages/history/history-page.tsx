import { useQuery } from '@tanstack/react-query';
import { Alert, Skeleton, Table } from 'antd';
import { Link, useParams } from 'react-router';
import type { BoardHistory } from '@jiko/contract';
import { failureTexts } from '@jiko/core/record';
import { formatQuantity } from '@jiko/core/units';
import { leastGoodBoards, unitOf } from '@jiko/core/readings';
import { dateText } from '../../data/dates.ts';
import { boardQuery, historyQuery } from '../../data/queries.ts';
import { outcomeText } from '../../widgets/outcome-text.ts';

type Lesson = BoardHistory['lessons'][number];
type Known = BoardHistory['known'][number];

/** What closed jobs left of a board: its typical faults, what proved them, and what good ones read. */
export function HistoryPage() {
  const { id = '' } = useParams();
  const history = useQuery(historyQuery(id));
  const board = useQuery(boardQuery(id));
  if (history.isError)
    return (
      <div className="column">
        <Alert
          type="error"
          showIcon
          title="The history cannot be shown"
          description={history.error.message}
        />
      </div>
    );
  if (!history.data)
    return (
      <div className="column">
        <Skeleton active />
      </div>
    );
  const { lessons, known } = history.data;
  const typical = typicalOf(lessons);
  return (
    <div className="column">
      <header>
        <h1>{board.data?.title ?? id}, its history</h1>
        <Link to={`/boards/${id}`}>Play</Link>
        <Link to={`/boards/${id}/versions`}>Versions</Link>
        <Link to="/boards">All boards</Link>
      </header>
      {lessons.length === 0 && (
        <p className="quiet">No job on this board is closed yet: there is nothing to learn from.</p>
      )}
      {typical.length > 0 && (
        <section className="card" aria-label="Typical faults">
          <h2>Typical faults</h2>
          <Table
            size="small"
            pagination={false}
            rowKey="part"
            dataSource={typical}
            columns={[
              { title: 'Part', dataIndex: 'part', className: 'mono' },
              { title: 'How', dataIndex: 'how' },
              { title: 'Jobs', dataIndex: 'times' },
              { title: 'Proven', dataIndex: 'proven' },
              { title: 'What it was', dataIndex: 'cause' },
            ]}
          />
        </section>
      )}
      {known.length > 0 && (
        <section className="card" aria-label="What good ones read">
          <h2>What good ones read</h2>
          <p className="quiet">
            From jobs that ended fixed, after their last repair. Cold values of {leastGoodBoards}{' '}
            boards and more, and volts all read on the source of the job at hand, stand before rules
            of thumb and guesses of the sheet.
          </p>
          <Table<Known>
            size="small"
            pagination={{ pageSize: 20, hideOnSinglePage: true }}
            rowKey={(row) => [row.net, row.against, row.mode, row.phase, row.polarity].join(' ')}
            dataSource={known}
            columns={[
              {
                title: 'Point',
                className: 'mono',
                render: (_, row) => `${row.net}${row.against ? ` – ${row.against}` : ''}`,
              },
              { title: 'Phase', dataIndex: 'phase' },
              {
                title: 'Median',
                className: 'mono',
                render: (_, row) => text(row.median, row),
              },
              {
                title: 'Half within',
                className: 'mono',
                render: (_, row) => (row.count > 1 ? `± ${text(row.spread, row)}` : ''),
              },
              { title: 'Boards', dataIndex: 'count' },
              { title: 'Source', render: (_, row) => row.sources.join(', ') },
              { title: 'Meter', render: (_, row) => row.meters.join(', ') },
            ]}
          />
        </section>
      )}
      {lessons.length > 0 && (
        <section className="card" aria-label="Closed jobs">
          <h2>Closed jobs</h2>
          <Table<Lesson>
            size="small"
            pagination={{ pageSize: 20, hideOnSinglePage: true }}
            rowKey="job"
            dataSource={[...lessons].reverse()}
            columns={[
              {
                title: 'Job',
                render: (_, row) => <Link to={`/jobs/${row.job}/report`}>{row.device}</Link>,
              },
              { title: 'Closed', render: (_, row) => dateText(row.at, 'day') },
              { title: 'Ended', render: (_, row) => outcomeText[row.outcome] },
              {
                title: 'Known how well',
                render: (_, row) => row.proof.replaceAll('-', ' '),
              },
              { title: 'What it was', dataIndex: 'cause' },
              {
                title: 'Teaches',
                render: (_, row) =>
                  row.parts.length === 0 ? '' : row.teaches ? row.parts.join(', ') : 'taken out',
              },
            ]}
          />
        </section>
      )}
    </div>
  );
}

const text = (value: number, { mode }: Known): string =>
  formatQuantity(Number(value.toPrecision(3)), unitOf[mode]);

/** Parts at which jobs ended, most often first, with what proved them. */
function typicalOf(
  lessons: readonly Lesson[],
): { part: string; how: string; times: number; proven: string; cause: string }[] {
  const byPart = new Map<string, Lesson[]>();
  for (const lesson of lessons)
    if (lesson.teaches)
      for (const part of lesson.parts) byPart.set(part, [...(byPart.get(part) ?? []), lesson]);
  return [...byPart]
    .map(([part, own]) => ({
      part,
      how: [...new Set(own.flatMap((one) => (one.how ? [failureTexts[one.how]] : [])))].join(', '),
      times: own.length,
      proven: `${own.filter((one) => one.proof === 'proven').length} of ${own.length}`,
      cause: [...new Set(own.map((one) => one.cause))].slice(0, 3).join(' · '),
    }))
    .sort((a, b) => b.times - a.times);
}
