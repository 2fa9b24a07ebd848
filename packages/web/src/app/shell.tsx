import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { NavLink, Outlet, useLocation, useMatch, useParams } from 'react-router';
import { stepsDone, type JobStep } from '@jiko/core/record';
import { useBench, setBench, benches } from '../data/bench.ts';
import { healthQuery, useJob } from '../data/queries.ts';
import { sendNow } from '../offline/outbox.ts';
import { entryLine, keepFocus } from './focus-keeper.ts';
import { Notices } from './notices.tsx';
import { keysOf } from './page-keys.ts';
import { useWindowTitle } from './window-title.ts';

const KeysList = lazy(async () => ({
  default: (await import('../widgets/keys-list.tsx')).KeysList,
}));

const GoTo = lazy(async () => ({ default: (await import('./go-to.tsx')).GoTo }));

export function Shell() {
  const { who, light } = useBench();
  const { id } = useParams();
  const isJob = useMatch('/jobs/:id/*') !== null && id !== undefined;
  const health = useQuery(healthQuery);
  const isThere = health.data?.database === 'ok' && !health.isError;
  useEffect(() => {
    if (isThere) sendNow();
  }, [isThere]);
  useEffect(() => {
    document.documentElement.dataset['light'] = light;
  }, [light]);

  const main = useRef<HTMLElement>(null);
  useEffect(() => keepFocus(document), []);
  const { pathname } = useLocation();
  useWindowTitle(isJob ? null : pathname);
  const [keysShown, showKeys] = useState(false);
  useEffect(() => {
    // A page that has a list of its own has shown it by now.
    const ask = (event: KeyboardEvent): void => {
      if (event.key !== 'F1' || event.defaultPrevented) return;
      event.preventDefault();
      showKeys(true);
    };
    window.addEventListener('keydown', ask);
    return () => window.removeEventListener('keydown', ask);
  }, []);

  const [isGoing, setGoing] = useState(false);
  useEffect(() => {
    const ask = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return;
      event.preventDefault();
      setGoing(true);
    };
    window.addEventListener('keydown', ask);
    return () => window.removeEventListener('keydown', ask);
  }, []);

  const isCut = health.isError || health.data?.database === 'unreachable';
  return (
    <div className="shell">
      <button
        type="button"
        className="skip"
        onClick={() => (entryLine(document) ?? main.current)?.focus()}
      >
        To the work
      </button>
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
              <NavLink to="/shelf">Shelf</NavLink>
              <NavLink to="/sums">Sums</NavLink>
              <NavLink to="/words">Words</NavLink>
              <NavLink to="/shop">Shop</NavLink>
            </>
          )}
        </nav>
        <button type="button" title="Ctrl K" onClick={() => setGoing(true)}>
          Go to
        </button>
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
      <main className="page" ref={main} tabIndex={-1}>
        <Outlet />
      </main>
      {/* Below the page: what is under the pointer stays where it is when a line comes or goes. */}
      <Notices health={health.data} isCut={isCut} />
      {isGoing && (
        <Suspense>
          <GoTo job={isJob ? id : null} onClose={() => setGoing(false)} />
        </Suspense>
      )}
      {keysShown && (
        <Suspense>
          <KeysList
            title="Keys of this page"
            groups={keysOf(pathname)}
            isOpen
            onClose={() => showKeys(false)}
          />
        </Suspense>
      )}
    </div>
  );
}

/** Views of a job in the order of the work; none is forced. */
const jobTabs: { path: string; title: string; steps: JobStep[] }[] = [
  { path: 'door', title: 'Door', steps: ['signs', 'safe'] },
  { path: 'look', title: 'Look', steps: ['look'] },
  { path: 'cold', title: 'Cold', steps: ['cold'] },
  { path: 'trace', title: 'Trace', steps: ['trace'] },
  { path: 'stage', title: 'Stage', steps: [] },
  { path: 'repair', title: 'Repair', steps: [] },
  { path: 'report', title: 'Report', steps: [] },
];

function JobTabs({ id }: { id: string }) {
  const { job } = useJob(id);
  const { pathname } = useLocation();
  useWindowTitle(pathname, job?.intake?.device ?? null);
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
      <NavLink to="/sums">Sums</NavLink>
      <span className="job-name" style={{ alignSelf: 'center', marginLeft: 12 }}>
        {job?.intake?.device}
      </span>
    </>
  );
}
