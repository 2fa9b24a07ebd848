import { Button } from 'antd';
import dayjs from 'dayjs';
import relativeTime from 'dayjs/plugin/relativeTime';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { JobRow } from '@jiko/contract';
import { jobSteps, type Due, type JobStep } from '@jiko/core/record';
import { dateText } from '../../data/dates.ts';
import { outcomeText } from '../../widgets/outcome-text.ts';
import './jobs.css';

dayjs.extend(relativeTime);

export interface Listed extends JobRow {
  due: Due;
}

/** Where a click on a job leads: to the furthest step something was recorded of. */
export function pageOf({ id, summary }: JobRow): string {
  const pages: Partial<Record<JobStep, string>> = { trace: 'trace', cold: 'cold', look: 'look' };
  const furthest = summary.done.findLast((step) => step in pages);
  return `/jobs/${id}/${furthest ? pages[furthest] : 'door'}`;
}

const stepText: Record<JobStep, string> = {
  door: 'door',
  signs: 'first signs',
  safe: 'made safe',
  look: 'looked at',
  cold: 'cold checks',
  power: 'powered by plan',
  trace: 'traced',
};

/** One mark per step, filled where something was recorded; the furthest in words. */
function HowFar({ done, readings }: JobRow['summary']) {
  const last = done.at(-1);
  return (
    <>
      <span
        className="steps"
        role="img"
        aria-label={`done: ${done.map((one) => stepText[one]).join(', ')}`}
      >
        {jobSteps.map((step) => (
          <span
            key={step}
            className={done.includes(step) ? 'is-done' : ''}
            title={`${stepText[step]}${done.includes(step) ? '' : ': not done'}`}
          />
        ))}
      </span>
      <div className="quiet">
        {last ? stepText[last] : ''}
        {readings > 0 ? `, ${readings} readings` : ''}
      </div>
    </>
  );
}

function Now({ row }: { row: Listed }) {
  const { due, summary } = row;
  const order = summary.toOrder.length > 0 && (
    <div className="tone-warn">to order: {summary.toOrder.join(', ')}</div>
  );
  const coming = summary.ordered.length > 0 && (
    <div className="quiet">on its way: {summary.ordered.join(', ')}</div>
  );
  return (
    <>
      {due.kind === 'now' ? (
        <span className="tone-good">{due.because || 'ready'}</span>
      ) : (
        <>
          waits for {due.because}
          {due.until && <span className="quiet"> until {dateText(due.until, 'moment')}</span>}
        </>
      )}
      {summary.refused.length > 0 && (
        <div className="tone-bad">owner said no: {summary.refused.join(', ')}</div>
      )}
      {order}
      {coming}
    </>
  );
}

function Spent({ minutes, limit }: { minutes: number; limit: number | null }) {
  if (minutes === 0 && limit === null) return <span className="quiet">–</span>;
  const over = limit !== null && minutes > limit;
  const near = limit !== null && minutes > 0.8 * limit;
  return (
    <span className={over ? 'tone-bad' : near ? 'tone-warn' : ''}>
      {minutes} min{limit === null ? '' : ` of ${limit}`}
      {over ? ', beyond' : ''}
    </span>
  );
}

/** What parts cost, against what was agreed; nothing where no price was written down. */
function SpentMoney({ spent, limit }: { spent: number; limit: number | null }) {
  if (spent === 0) return null;
  const over = limit !== null && spent > limit;
  return (
    <div className={over ? 'tone-bad' : 'quiet'}>
      {spent.toFixed(2)}
      {limit === null ? ' parts' : ` of ${limit.toFixed(2)}`}
      {over ? ', beyond' : ''}
    </div>
  );
}

function Promised({ day, closed }: { day: string | null; closed: boolean }) {
  if (!day) return <span className="quiet">no day</span>;
  const days = dayjs(day).startOf('day').diff(dayjs().startOf('day'), 'day');
  const text = days === 0 ? 'today' : days === 1 ? 'tomorrow' : dateText(day, 'weekday');
  if (closed) return <span className="quiet">{text}</span>;
  if (days < 0) return <strong className="tone-bad">{text}, overdue</strong>;
  return days === 0 ? <strong className="tone-warn">{text}</strong> : <>{text}</>;
}

/** More than so many are shown when asked for. */
const mostShown = 50;

/** A plain table: the first page loads no grid for it. */
export function JobGroup({
  title,
  rows,
  isFirst,
  total = rows.length,
}: {
  title: string;
  rows: Listed[];
  isFirst: boolean;
  /** How many there are, where not all of them are in `rows`. */
  total?: number;
}) {
  const navigate = useNavigate();
  const [isWhole, showWhole] = useState(false);
  const shown = isWhole ? rows : rows.slice(0, mostShown);
  return (
    <section className="job-group" aria-label={title}>
      <h2>
        {title} <span className="quiet">{total}</span>
      </h2>
      <table className="job-table">
        <colgroup>
          <col />
          <col style={{ width: 100 }} />
          <col style={{ width: 170 }} />
          <col style={{ width: 250 }} />
          <col style={{ width: 125 }} />
          <col style={{ width: 110 }} />
        </colgroup>
        <thead className={isFirst ? '' : 'only-heard'}>
          <tr>
            {['Device', 'Board', 'How far', 'Now', 'Promised', 'Spent'].map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <tr key={row.id} onDoubleClick={() => void navigate(pageOf(row))}>
              <td>
                <Link to={pageOf(row)}>
                  <strong>{row.intake.device}</strong>
                </Link>
                <div className="quiet">{row.trouble ?? row.intake.complaint}</div>
              </td>
              <td>{row.boardTitle}</td>
              <td>{row.closed ? outcomeText[row.closed] : <HowFar {...row.summary} />}</td>
              <td>{row.closed ? null : <Now row={row} />}</td>
              <td>
                <Promised day={row.intake.promised} closed={row.closed !== null} />
              </td>
              <td>
                <Spent minutes={row.summary.minutes} limit={row.intake.limitMinutes ?? null} />
                <SpentMoney spent={row.summary.money} limit={row.summary.limitMoney} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length < rows.length && (
        <Button type="link" onClick={() => showWhole(true)}>
          Show all {rows.length}
        </Button>
      )}
    </section>
  );
}
