import { useQuery } from '@tanstack/react-query';
import { Alert } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { jobSearchSchema, type JobSearchQuery } from '@jiko/contract';
import { dueOf } from '@jiko/core/record';
import { boardsQuery, jobSearchQuery } from '../../data/queries.ts';
import { JobGroup, pageOf, type Listed } from './job-group.tsx';

/** Typing goes on: what is typed within so many milliseconds is asked for once. */
const typingMilliseconds = 150;

/** What jobs are searched by: it stands in the address, so that Back and Reload find it again. */
export function useJobSearch() {
  const [params, setParams] = useSearchParams();
  // What cannot be read in an address is left out of it.
  const read = jobSearchSchema.safeParse(Object.fromEntries(params));
  const asked: JobSearchQuery = read.success
    ? read.data
    : { q: params.get('q')?.slice(0, 200) ?? '' };
  const ask = (change: Partial<Record<keyof JobSearchQuery, string>>): void =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [key, value] of Object.entries(change))
          if (value) next.set(key, value);
          else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const { q, board, state, from, to } = asked;
  return { asked, ask, isAsked: Boolean(q.trim() || board || state || from || to) };
}

export function SearchLine({ asked, ask, isAsked }: ReturnType<typeof useJobSearch>) {
  const boards = useQuery({ ...boardsQuery, enabled: isAsked });
  const line = useRef<HTMLInputElement>(null);
  const [text, setText] = useState(asked.q);
  /** What the address was asked to hold last: anything else came by a link. */
  const sent = useRef(asked.q);
  useEffect(() => {
    if (asked.q === sent.current) return;
    sent.current = asked.q;
    setText(asked.q);
  }, [asked.q]);
  useEffect(() => {
    if (text === sent.current) return;
    const timer = setTimeout(() => {
      sent.current = text;
      ask({ q: text });
    }, typingMilliseconds);
    return () => clearTimeout(timer);
  });
  const clear = (): void => {
    setText('');
    sent.current = '';
    ask({ q: '', board: '', state: '', from: '', to: '' });
    line.current?.focus();
  };
  return (
    <search className="job-search">
      <input
        ref={line}
        type="search"
        aria-label="Find a job"
        placeholder="Find: device, the owner's words, board, part, net, who"
        value={text}
        maxLength={200}
        onChange={(event) => setText(event.target.value)}
      />
      {isAsked && (
        <>
          <label>
            Board{' '}
            <select
              value={asked.board ?? ''}
              onChange={(event) => ask({ board: event.target.value })}
            >
              <option value="">any</option>
              {asked.board && !boards.data?.some(({ id }) => id === asked.board) && (
                <option>{asked.board}</option>
              )}
              {boards.data?.map(({ id, title }) => (
                <option key={id} value={id}>
                  {title}
                </option>
              ))}
            </select>
          </label>
          <label>
            Jobs{' '}
            <select
              aria-label="Open or closed"
              value={asked.state ?? ''}
              onChange={(event) => ask({ state: event.target.value })}
            >
              <option value="">open and closed</option>
              <option value="open">open</option>
              <option value="closed">closed</option>
            </select>
          </label>
          <label>
            From{' '}
            <input
              type="date"
              value={asked.from ?? ''}
              onChange={(event) => ask({ from: event.target.value })}
            />
          </label>
          <label>
            to{' '}
            <input
              type="date"
              value={asked.to ?? ''}
              onChange={(event) => ask({ to: event.target.value })}
            />
          </label>
          <button type="button" onClick={clear}>
            All jobs
          </button>
        </>
      )}
    </search>
  );
}

/** What the search found; Enter in the line is a link away. */
export function Found({ asked, now }: { asked: JobSearchQuery; now: string }) {
  const found = useQuery(jobSearchQuery(asked));
  const navigate = useNavigate();
  const first = found.data?.rows[0];
  useEffect(() => {
    const open = (event: KeyboardEvent): void => {
      const { target } = event;
      if (event.key !== 'Enter' || !(target instanceof HTMLInputElement)) return;
      if (target.type === 'search' && first) void navigate(pageOf(first));
    };
    window.addEventListener('keydown', open);
    return () => window.removeEventListener('keydown', open);
  }, [first, navigate]);
  if (found.isError)
    return (
      <Alert type="error" showIcon title="The search failed" description={found.error.message} />
    );
  if (!found.data) return null;
  const { rows, total } = found.data;
  const listed = rows.map((row): Listed => ({ ...row, due: dueOf(row.summary, now) }));
  return (
    <div role="status">
      {rows.length === 0 ? (
        <p>No job has all of these words. Fewer letters find more.</p>
      ) : (
        <JobGroup title="Found" rows={listed} total={total} isFirst />
      )}
      {rows.length < total && (
        <p className="quiet">The latest {rows.length} are shown. Another word makes them fewer.</p>
      )}
    </div>
  );
}
