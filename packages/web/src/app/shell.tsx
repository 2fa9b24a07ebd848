import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { NavLink, Outlet, useParams } from 'react-router';
import { useBench, setBench, benches } from '../data/bench.ts';
import { healthQuery, useJob } from '../data/queries.ts';
import { useOutbox } from '../offline/outbox.ts';

export function Shell() {
  const { who, light } = useBench();
  const { id } = useParams();
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
          {id ? (
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
        {(cut || waiting > 0 || outbox.refused) && (
          <div className="notice">
            {outbox.refused
              ? `The server refused an entry: ${outbox.refused} It is kept in this browser.`
              : cut
                ? `The server cannot be reached.${waiting > 0 ? ` ${waiting} ${waiting === 1 ? 'entry waits' : 'entries wait'} in this browser and will be sent when it is back.` : ' What you record will wait in this browser until it is back.'}`
                : `${waiting} ${waiting === 1 ? 'entry is' : 'entries are'} being sent.`}
          </div>
        )}
      </div>
      <main className="page">
        <Outlet />
      </main>
    </div>
  );
}

function JobTabs({ id }: { id: string }) {
  const { job } = useJob(id);
  return (
    <>
      <NavLink to="/jobs" end>
        ← Jobs
      </NavLink>
      <NavLink to={`/jobs/${id}/trace`}>Trace</NavLink>
      <NavLink to={`/jobs/${id}/report`}>Report</NavLink>
      <span className="job-name" style={{ alignSelf: 'center', marginLeft: 12 }}>
        {job?.intake?.device}
      </span>
    </>
  );
}
