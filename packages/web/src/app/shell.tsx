import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { NavLink, Outlet, useMatch, useParams } from 'react-router';
import { stepsDone, type JobStep } from '@jiko/core/record';
import { useBench, setBench, benches } from '../data/bench.ts';
import { healthQuery, useJob } from '../data/queries.ts';
import { forgetRefused, useOutbox } from '../offline/outbox.ts';

export function Shell() {
  const { who, light } = useBench();
  const { id } = useParams();
  const isJob = useMatch('/jobs/:id/*') !== null && id !== undefined;
  const health = useQuery(healthQuery);
  const outbox = useOutbox();
  useEffect(() => {
    document.documentElement.dataset['light'] = light;
  }, [light]);

  const cut = health.isError || health.data?.status === 'failing';
  const waiting = outbox.waiting.length;
  return (
    <div className="shell">
      <header className="topbar">
        <NavLink to="/jobs" end className="brand">
          <img src="/jiko.svg" alt="" width="26" height="26" /> Jiko
        </NavLink>
        <nav>
          {isJob ? (
            <JobTabs id={id} />
          ) : (
            <>
              <NavLink to="/jobs">Jobs</NavLink>
              <NavLink to="/boards">Boards</NavLink>
            </>
          )}
        </nav>
        <label>
          <span className="quiet" style={{ color: '#a9bcc2' }}>
            Who{' '}
          </span>
          <select value={who} onChange={(event) => setBench({ who: event.target.value })}>
            {benches.map((bench) => (
              <option key={bench}>{bench}</option>
            ))}
          </select>
        </label>
        <button
          type="button"
          onClick={() => setBench({ light: light === 'day' ? 'night' : 'day' })}
          title="Day or night bench"
        >
          {light === 'day' ? 'Night' : 'Day'}
        </button>
      </header>
      <div role="status">
        {outbox.refused.map(({ entry, words }) => (
          <div className="notice" key={entry.event.id}>
            The server refused an entry ({entry.event.body.type}): {words} It is kept in this
            browser.{' '}
            <button type="button" onClick={forgetRefused}>
              Let it go
            </button>
          </div>
        ))}
        {(cut || waiting > 0) && (
          <div className="notice">
            {cut ? 'The server cannot be reached. ' : ''}
            {waitingText(waiting, cut)}
          </div>
        )}
      </div>
      <main className="page">
        <Outlet />
      </main>
    </div>
  );
}

function waitingText(waiting: number, cut: boolean): string {
  const entries = waiting === 1 ? '1 entry' : `${waiting} entries`;
  if (!cut) return `Sending ${entries}.`;
  if (waiting === 0) return 'What you record will wait in this browser until it is back.';
  return `${entries} ${waiting === 1 ? 'waits' : 'wait'} in this browser and will be sent when it is back.`;
}

/** Views of a job in the order of the work; none is forced. */
const jobTabs: { path: string; title: string; steps: JobStep[] }[] = [
  { path: 'door', title: 'Door', steps: ['signs', 'safe'] },
  { path: 'look', title: 'Look', steps: ['look'] },
  { path: 'cold', title: 'Cold', steps: ['cold'] },
  { path: 'trace', title: 'Trace', steps: ['trace'] },
  { path: 'report', title: 'Report', steps: [] },
];

function JobTabs({ id }: { id: string }) {
  const { job } = useJob(id);
  const done = job ? stepsDone(job) : [];
  return (
    <>
      <NavLink to="/jobs" end>
        ← Jobs
      </NavLink>
      {jobTabs.map(({ path, title, steps }) => (
        <NavLink key={path} to={`/jobs/${id}/${path}`}>
          {title}
          {steps.length > 0 && (
            <span
              aria-hidden
              className={`tab-mark${steps.some((one) => done.includes(one)) ? ' is-done' : ''}`}
              title={
                steps.some((one) => done.includes(one))
                  ? 'something is recorded'
                  : 'nothing recorded'
              }
            />
          )}
        </NavLink>
      ))}
      <span className="job-name" style={{ alignSelf: 'center', marginLeft: 12 }}>
        {job?.intake?.device}
      </span>
    </>
  );
}
