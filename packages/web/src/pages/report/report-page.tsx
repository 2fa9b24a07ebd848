import { Alert, Button, Skeleton, Space } from 'antd';
import dayjs from 'dayjs';
import { useMemo } from 'react';
import { useParams } from 'react-router';
import { api } from '@jiko/contract';
import { readingsCsv } from '@jiko/core/formats';
import { buildReport, reportMarkdown } from '@jiko/core/report';
import { useHealthyBoard } from '../../data/job-on-board.ts';
import { useJob } from '../../data/queries.ts';
import { saveFile } from '../../data/save-file.ts';
import { CloseJob } from './close-job.tsx';
import '../../widgets/readings.css';
import './report.css';

/** What was attached differs from reading to reading: the report judges by the bare board. */
const nothingAttached: readonly string[] = [];

export function ReportPage() {
  const { id = '' } = useParams();
  const { job, events, error, isLoading } = useJob(id);
  const { healthy, trouble } = useHealthyBoard(job, job?.intake?.source ?? '', nothingAttached);
  const report = useMemo(
    () => (healthy && events.length > 0 ? buildReport(healthy, events) : null),
    [events, healthy],
  );

  if (error || trouble) {
    return (
      <div className="column">
        <Alert
          type="error"
          showIcon
          title="This report cannot be shown"
          description={error?.message ?? trouble}
        />
      </div>
    );
  }
  if (isLoading || !report || !job) {
    return (
      <div className="column">
        <Skeleton active />
      </div>
    );
  }

  const save = (): void => {
    const name = report.title.toLowerCase().replace(/[^a-z0-9]+/g, '-');
    saveFile(`${name}.md`, reportMarkdown(report), 'text/markdown');
  };

  return (
    <article className="report">
      <Space className="no-print" style={{ float: 'right' }}>
        <Button
          onClick={() =>
            saveFile(
              `${report.title.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.csv`,
              readingsCsv(
                job.readings
                  .filter((one) => one.standing.kind === 'stands')
                  .map((one) => one.reading),
              ),
              'text/csv',
            )
          }
        >
          Readings as CSV
        </Button>
        <Button onClick={save}>Save as Markdown</Button>
        <Button type="primary" onClick={() => window.print()}>
          Print
        </Button>
      </Space>
      <h1>{report.title}</h1>
      <dl>
        {report.facts.map((fact) => (
          <div key={fact.name} style={{ display: 'contents' }}>
            <dt>{fact.name}</dt>
            <dd>{fact.value}</dd>
          </div>
        ))}
      </dl>

      <h2>Finding</h2>
      {report.missing ? (
        <p>
          <strong>
            {report.missing.certain ? 'First missing stage' : 'First missing stage so far'}:{' '}
            {report.missing.title}.
          </strong>{' '}
          {report.missing.why}
        </p>
      ) : (
        report.before.length === 0 && <p>No missing stage has been read.</p>
      )}
      {report.before.map((one) => (
        <p key={one.repair}>
          <strong>
            Before “{one.repair}” the first missing stage was: {one.title}.
          </strong>{' '}
          {one.why}
        </p>
      ))}
      <p>{report.reached}</p>
      {report.close && (
        <p>
          <strong>Outcome: {report.close.outcome}.</strong> {report.close.cause} (
          {report.close.proof}){report.close.reason && ` ${report.close.reason}`}
        </p>
      )}

      {report.sections.map(({ title, lines }) => (
        <section key={title}>
          <h2>{title}</h2>
          <ul>
            {lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
      ))}

      <h2>What was done</h2>
      {report.done.length === 0 ? (
        <p>Nothing was changed on the board.</p>
      ) : (
        <ul>
          {report.done.map((one) => (
            <li key={one.at}>
              {one.text}{' '}
              <span className="quiet">
                ({one.who}, {dayjs(one.at).format('D MMM HH:mm')})
              </span>
            </li>
          ))}
        </ul>
      )}

      <h2>Readings</h2>
      {report.readings.length === 0 ? (
        <p>None yet.</p>
      ) : (
        <div className="readings">
          <table>
            <thead>
              <tr>
                <th>Phase</th>
                <th>Point</th>
                <th>Reading</th>
                <th>Expected</th>
                <th>Verdict</th>
              </tr>
            </thead>
            <tbody>
              {report.readings.map((row) => (
                <tr key={`${row.at} ${row.point}`} className={row.isVoid ? 'aside' : ''}>
                  <td>{row.phase}</td>
                  <td className="mono" style={{ whiteSpace: 'normal' }}>
                    {row.point}
                  </td>
                  <td className="mono value">{row.reading}</td>
                  <td>{row.expected}</td>
                  <td>
                    <strong>{[row.verdict, row.aside].filter(Boolean).join(', ')}</strong>
                    {row.verdict !== 'good' && <div className="reason">{row.why}</div>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}

      <h2>Stages on the way</h2>
      <ol>
        {report.stages.map((one) => (
          <li key={one.title}>
            {one.title}: {one.state}
          </li>
        ))}
      </ol>

      {report.notes.length > 0 && (
        <>
          <h2>Notes</h2>
          <ul>
            {report.notes.map((one) => (
              <li key={one.at}>
                {one.text} <span className="quiet">({one.who})</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {job.pictures.length > 0 && (
        <>
          <h2>Pictures</h2>
          {job.pictures
            .filter((one) => one.struck === null)
            .map((one) => (
              <figure key={one.id} style={{ margin: '0 0 16px' }}>
                <img
                  src={api.attachment(one.body.attachment)}
                  alt={one.body.caption || 'Picture of the board'}
                  style={{ maxWidth: '100%' }}
                />
                <figcaption className="quiet">{one.body.caption}</figcaption>
              </figure>
            ))}
        </>
      )}
      <CloseJob id={id} job={job} />
    </article>
  );
}
