import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Empty, Table, type TableColumnsType } from 'antd';
import dayjs from 'dayjs';
import relativeTime from 'dayjs/plugin/relativeTime';
import { Link, useNavigate } from 'react-router';
import type { JobRow } from '@jiko/contract';
import { jobsQuery } from '../../data/queries.ts';

dayjs.extend(relativeTime);

const columns: TableColumnsType<JobRow> = [
  {
    title: 'Device',
    render: (_, row) => (
      <>
        <Link to={`/jobs/${row.id}/trace`}>
          <strong>{row.intake.device}</strong>
        </Link>
        <div className="quiet">{row.intake.complaint}</div>
      </>
    ),
  },
  { title: 'Board', width: 130, dataIndex: 'boardTitle' },
  {
    title: 'How far',
    width: 150,
    render: (_, row) =>
      row.closed
        ? closedText[row.closed]
        : row.readings === 0
          ? 'not started'
          : `${row.readings} readings`,
  },
  {
    title: 'Promised',
    width: 150,
    render: (_, row) => <Promised day={row.intake.promised} closed={row.closed !== null} />,
  },
  { title: 'Last entry', width: 140, render: (_, row) => dayjs(row.updatedAt).fromNow() },
];

const closedText = {
  repaired: 'repaired',
  'not-repaired': 'not repaired',
  returned: 'returned',
} as const;

/** Open jobs first, the earliest promise on top, jobs without a day by their last entry. */
function inOrder(rows: readonly JobRow[]): JobRow[] {
  const rank = (row: JobRow): string => `${row.closed ? 1 : 0} ${row.intake.promised ?? '9999'}`;
  return rows.toSorted(
    (a, b) => rank(a).localeCompare(rank(b)) || b.updatedAt.localeCompare(a.updatedAt),
  );
}

function Promised({ day, closed }: { day: string | null; closed: boolean }) {
  if (!day) return <span className="quiet">no day</span>;
  const days = dayjs(day).startOf('day').diff(dayjs().startOf('day'), 'day');
  const text = days === 0 ? 'today' : days === 1 ? 'tomorrow' : dayjs(day).format('ddd D MMM');
  if (closed) return <span className="quiet">{text}</span>;
  if (days < 0) return <strong className="tone-bad">{text}, overdue</strong>;
  return days === 0 ? <strong className="tone-warn">{text}</strong> : <>{text}</>;
}

export function JobsPage() {
  const jobs = useQuery(jobsQuery);
  const navigate = useNavigate();
  return (
    <div className="column">
      <header>
        <h1>On the bench</h1>
        <Link to="/jobs/new">
          <Button type="primary" size="large">
            New job
          </Button>
        </Link>
      </header>
      {jobs.isError && (
        <Alert
          type="error"
          showIcon
          title="The jobs cannot be shown"
          description={jobs.error.message}
        />
      )}
      {(!jobs.isError || jobs.data) && (
        <Table
          rowKey="id"
          columns={columns}
          dataSource={inOrder(jobs.data ?? [])}
          loading={jobs.isLoading}
          pagination={jobs.data && jobs.data.length > 50 ? { pageSize: 50 } : false}
          onRow={(row) => ({ onDoubleClick: () => void navigate(`/jobs/${row.id}/trace`) })}
          locale={{
            emptyText: (
              <Empty description="Nothing on the bench. Take in the first board with New job." />
            ),
          }}
        />
      )}
    </div>
  );
}
