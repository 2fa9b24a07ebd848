import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import type { Board } from '@jiko/core/board';
import {
  askOnce,
  entryTroubleText,
  makeReading,
  otherMoment,
  parseEntry,
  usualMeter,
  oddReading,
  readingText,
  valueText,
  whyText,
  type Phase,
} from '@jiko/core/readings';
import { liftedParts, type EventInput, type Job } from '@jiko/core/record';
import type { Trace } from '@jiko/core/trace';
import type { BenchState } from '../../data/bench-state.ts';
import { VerdictMark } from '../verdict-mark.tsx';
import { readAt, type Target } from './target.ts';
import '../probe.css';
import './read-card.css';

const modeWord = { volts: 'V', ohms: 'Ω', diode: 'Diode', amps: 'A', celsius: '°C', seconds: 's' };

/** The reading to take now: one line, Enter records and goes on to the next. */
export function ReadCard({
  board,
  job,
  trace,
  bench,
  target,
  place,
  of,
  onStep,
  onPhase,
  onRecord,
}: {
  board: Board;
  job: Job;
  trace: Trace;
  bench: BenchState;
  target: Target;
  place: number;
  of: number;
  onStep: (by: 1 | -1) => void;
  onPhase: (phase: Phase) => void;
  onRecord: (body: EventInput) => void;
}) {
  const [text, setText] = useState('');
  const [said, setSaid] = useState<{ isTrouble: boolean; text: string } | null>(null);
  const entry = useRef<HTMLInputElement>(null);
  const shown = useRef(target.key);
  useEffect(() => {
    // What was typed for one point is not taken over to another.
    if (shown.current !== target.key) {
      shown.current = target.key;
      setText('');
    }
    entry.current?.focus();
  }, [target.key]);
  const last = readAt(trace, target, liftedParts(job));
  const isCold = target.phase === 'cold';
  const other = otherMoment(target, bench.phase, true);
  // What Enter was pressed for though the strip says otherwise: pressed again, it counts.
  const [asked, setAsked] = useState<string | null>(null);

  const enter = (): void => {
    if (text.trim() === '') return onStep(1);
    const made = makeReading(
      board,
      {
        at: target.at,
        reference: target.reference,
        mode: target.mode,
        text,
        polarity: target.polarity,
      },
      {
        phase: target.phase,
        source: isCold ? null : bench.source,
        attached: bench.attached,
        lifted: liftedParts(job),
      },
    );
    if (!made.ok) {
      setSaid({ isTrouble: true, text: `${made.error.join(' ')} Nothing was recorded.` });
      return;
    }
    const odd = oddReading(board, made.value);
    const moment = `${target.key} ${bench.phase} ${odd === null ? '' : text}`;
    if ((other || odd !== null) && asked !== moment) {
      setAsked(moment);
      setSaid({ isTrouble: true, text: askOnce(other, odd) });
      return;
    }
    if (other) onPhase(other.phase);
    onRecord({ type: 'reading', reading: made.value, supersedes: last ? [last.id] : [] });
    setText('');
    setAsked(null);
    setSaid({
      isTrouble: false,
      text: `Recorded ${target.title}: ${readingText(made.value)}.`,
    });
    onStep(1);
  };
  const keys = (event: KeyboardEvent<HTMLInputElement>): void => {
    const act: Record<string, (() => void) | undefined> = {
      Enter: enter,
      ArrowDown: () => onStep(1),
      ArrowUp: () => onStep(-1),
      Escape: () => setText(''),
    };
    const action = act[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  };
  const parsed = text.trim() === '' ? null : parseEntry(text, target.mode, usualMeter);
  return (
    <div className="probe is-stage" data-target={target.title}>
      <div className="read-head">
        <div>
          <div className="net">{target.title}</div>
          <div className="quiet">
            <strong>{modeWord[target.mode]}</strong> {target.phase} · {target.where}
          </div>
          <div>
            <span className="quiet">expect </span>
            <span className="mono">{target.expected}</span>
          </div>
        </div>
        <div className="entry">
          <input
            ref={entry}
            aria-label={`Reading at ${target.title} in ${target.mode}`}
            value={text}
            autoComplete="off"
            spellCheck={false}
            placeholder={isCold ? '2k2, 412, OL' : '3.31'}
            onChange={(event) => {
              setText(event.target.value);
              setSaid(null);
              setAsked(null);
            }}
            onKeyDown={keys}
          />
        </div>
      </div>
      <div className="echo" aria-live="polite">
        {other && !said && (
          <span className="quiet">
            Read {isCold ? 'cold' : `in ${target.phase}`}; the bench below says {bench.phase}.{' '}
          </span>
        )}
        {parsed && !parsed.ok ? (
          <span className="trouble">{entryTroubleText(parsed.error)}</span>
        ) : said?.isTrouble ? (
          <span className="trouble">{said.text}</span>
        ) : parsed?.ok ? (
          <span>
            <span className="quiet">Enter records </span>
            <span className="understood">{valueText(parsed.value, target.mode)}</span>
          </span>
        ) : said ? (
          <span className={said.isTrouble ? 'trouble' : ''}>{said.text}</span>
        ) : last ? (
          <span>
            <VerdictMark kind={last.verdict.kind} />{' '}
            <span className="mono">{valueText(last.reading.value, last.reading.mode)}</span>{' '}
            <span className="quiet">{whyText(last.verdict)}</span>
          </span>
        ) : (
          <span className="quiet">
            {of > 1 && `${place} of ${of} · `}Enter records and goes on · empty Enter skips · ↑ ↓
          </span>
        )}
      </div>
    </div>
  );
}
