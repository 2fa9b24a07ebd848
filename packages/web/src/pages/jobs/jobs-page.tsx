import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Empty } from 'antd';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { JobRow } from '@jiko/contract';
import { dueOf, outcomes } from '@jiko/core/record';
import { jobsQuery } from '../../data/queries.ts';
import { JobGroup, type Listed } from './job-group.tsx';
import { Found, SearchLine, useJobSearch } from './job-search.tsx';

/** By the earliest promise, then by the last entry. */
const byPromise = (a: JobRow, b: JobRow): number =>
  (a.intake.promised ?? '9999').localeCompare(b.intake.promised ?? '9999') ||
  b.updatedAt.localeCompare(a.updatedAt);
/** What is over first comes first; waits without an end come last. */
const byEnd = (a: Listed, b: Listed): number => {
  const end = ({ due }: Listed): string => (due.kind === 'waits' ? (due.until ?? '9999') : '');
  return end(a).localeCompare(end(b)) || byPromise(a, b);
};

/** Closed and still here. Jobs closed by older versions say nothing of it. */
const isReady = ({ closed, summary }: Listed): boolean =>
  outcomes.some((one) => one === closed) && !summary.handedOver;

/** Something may be over while the list is looked at. */
function useMinute(): string {
  const [now, setNow] = useState(() => new Date().toISOString());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date().toISOString()), 30_000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

export function JobsPage() {
  const jobs = useQuery(jobsQuery);
  const now = useMinute();
  const search = useJobSearch();
  const rows = (jobs.data ?? []).map((row): Listed => ({ ...row, due: dueOf(row.summary, now) }));
  const open = rows.filter((row) => row.closed === null);
  const groups = [
    {
      title: 'Can be worked on now',
      rows: open.filter((row) => row.due.kind === 'now').sort(byPromise),
    },
    { title: 'Waits', rows: open.filter((row) => row.due.kind === 'waits').sort(byEnd) },
    { title: 'Ready to go back', rows: rows.filter(isReady).sort(byPromise) },
    { title: 'Closed', rows: rows.filter((row) => row.closed !== null && !isReady(row)) },
  ];
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
      {jobs.data && rows.length === 0 && (
        <Empty description="Nothing on the bench. Take in the first board with New job." />
      )}
      <SearchLine {...search} />
      {search.isAsked && <Found asked={search.asked} now={now} />}
      {(search.isAsked ? [] : groups)
        .filter((group) => group.rows.length > 0)
        .map((group, index) => (
          <JobGroup key={group.title} {...group} isFirst={index === 0} />
        ))}
    </div>
  );
}
