import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { JobRow } from '@jiko/contract';
import type { Intake } from '@jiko/core/record';
import { dateText } from '../../data/dates.ts';
import { jobSearchQuery } from '../../data/queries.ts';
import { outcomeText } from '../../widgets/outcome-text.ts';

const mostShown = 4;
const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Jobs on the same board that were there before, those of the very device first. */
export function EarlierJobs({ id, intake }: { id: string; intake: Intake }) {
  const found = useQuery(jobSearchQuery({ q: '', board: intake.board }));
  const { rows = [], total = 0 } = found.data ?? {};
  const others = rows.filter((row) => row.id !== id);
  if (others.length === 0) return null;
  const isSame = (row: JobRow): boolean => same(row.intake.device, intake.device);
  const shown = [...others.filter(isSame), ...others.filter((row) => !isSame(row))];
  return (
    <section className="card" aria-label="Earlier jobs">
      <header>
        <h2>Earlier jobs on this board</h2>
        <Link to={`/jobs?board=${intake.board}`}>All {total}</Link>
      </header>
      <ul className="earlier">
        {shown.slice(0, mostShown).map((row) => (
          <li key={row.id}>
            <Link to={`/jobs/${row.id}/report`}>{row.intake.device}</Link>
            {isSame(row) && <strong> this device</strong>}
            <span className="quiet">
              {' '}
              {dateText(row.createdAt, 'day')}, {row.closed ? outcomeText[row.closed] : 'open'}
            </span>
            <div className="quiet">{row.intake.complaint}</div>
          </li>
        ))}
      </ul>
    </section>
  );
}
