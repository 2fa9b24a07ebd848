import { lazy, Suspense, useEffect, useState } from 'react';
import type { Health } from '@jiko/contract';
import { saveFile } from '../data/save-file.ts';
import {
  forgetDamaged,
  forgetRefused,
  forgetCleaned,
  tryAgain,
  useOutbox,
} from '../offline/outbox.ts';
import type { Refused } from '../offline/waiting-store.ts';

const MendEntry = lazy(() => import('./mend-entry.tsx'));

/** More than so many refused entries are counted, not listed. */
const mostListed = 4;

/** What is sent within this says nothing: a line that comes and goes with every reading is only unrest. */
const quietMilliseconds = 2000;

/** What waits, what was refused, and why nothing is lost by it. */
export function Notices({ health, isCut }: { health: Health | undefined; isCut: boolean }) {
  const { waiting, refused, damaged, unkept, cleaned } = useOutbox();
  const [mending, mend] = useState<Refused | null>(null);
  const isFull = health?.database === 'read-only';
  const isDamaged = health?.database === 'damaged';
  const isSlow = useLasting(waiting.length > 0, quietMilliseconds);
  return (
    <div role="status">
      {unkept.length > 0 && (
        <div className="notice">
          {unkept.length === 1 ? '1 entry is' : `${unkept.length} entries are`} in this page only:
          the browser has no room left. Leave the page open until it is sent.{' '}
          <button type="button" onClick={() => saveEntries('not-kept', unkept)}>
            Save as a file
          </button>
        </div>
      )}
      {refused.slice(0, mostListed).map((one) => (
        <div className="notice" key={one.entry.event.id}>
          The server refused an entry ({one.entry.event.body.type}): {one.words} It is kept in this
          browser.{' '}
          <button type="button" onClick={() => tryAgain(one)}>
            Try again
          </button>{' '}
          <button type="button" onClick={() => mend(one)}>
            Mend
          </button>{' '}
          <button type="button" onClick={() => saveEntries('refused', [one])}>
            Save as a file
          </button>{' '}
          <LetGo onGo={() => forgetRefused(one.entry.event.id)} />
        </div>
      ))}
      {refused.length > mostListed && (
        <div className="notice">
          {refused.length - mostListed} more refused entries are kept in this browser.{' '}
          <button type="button" onClick={() => saveEntries('refused', refused)}>
            Save all as a file
          </button>
        </div>
      )}
      {damaged.map(({ key, text }) => (
        <div className="notice" key={key}>
          An entry kept in this browser is damaged and cannot be sent.{' '}
          <button type="button" onClick={() => saveFile('jiko-damaged.txt', text, 'text/plain')}>
            Save as a file
          </button>{' '}
          <LetGo onGo={() => forgetDamaged(key)} />
        </div>
      ))}
      {cleaned && (
        <div className="notice">
          Characters that no store can keep were taken out of what you recorded.{' '}
          <button type="button" onClick={forgetCleaned}>
            Good
          </button>
        </div>
      )}
      {isDamaged && (
        <div className="notice">
          The database found its files damaged ({health.because ?? ''}). Copy the data folder away
          as it is, check the disk, then restore a backup from before.
        </div>
      )}
      {(isCut || isFull || isSlow) && (
        <div className="notice">
          {isCut ? 'The server cannot be reached. ' : ''}
          {isFull ? `The database keeps nothing at present (${health.because ?? ''}). ` : ''}
          {waitingText(waiting.length, isCut || isFull)}
        </div>
      )}
      {mending && (
        <Suspense fallback={null}>
          <MendEntry refused={mending} onClose={() => mend(null)} />
        </Suspense>
      )}
    </div>
  );
}

/** True once `is` has been true for so long without a break. */
function useLasting(is: boolean, milliseconds: number): boolean {
  const [lasts, setLasts] = useState(false);
  useEffect(() => {
    if (!is) return;
    const timer = setTimeout(() => setLasts(true), milliseconds);
    return () => {
      clearTimeout(timer);
      setLasts(false);
    };
  }, [is, milliseconds]);
  return is && lasts;
}

const saveEntries = (what: string, entries: readonly unknown[]): void =>
  saveFile(`jiko-${what}.json`, JSON.stringify(entries, null, 2), 'application/json');

/** Asks once more: what goes here is gone. */
function LetGo({ onGo }: { onGo: () => void }) {
  const [asked, ask] = useState(false);
  useEffect(() => {
    if (!asked) return;
    const timer = setTimeout(() => ask(false), 5000);
    return () => clearTimeout(timer);
  }, [asked]);
  return (
    <button type="button" onClick={asked ? onGo : () => ask(true)}>
      {asked ? 'It is gone then: really?' : 'Let it go'}
    </button>
  );
}

function waitingText(waiting: number, cut: boolean): string {
  const entries = waiting === 1 ? '1 entry' : `${waiting} entries`;
  if (!cut) return `Sending ${entries}.`;
  if (waiting === 0) return 'What you record will wait in this browser until it is back.';
  return `${entries} ${waiting === 1 ? 'waits' : 'wait'} in this browser and will be sent when it is back.`;
}
