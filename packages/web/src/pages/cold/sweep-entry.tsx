import { Button, Checkbox, Input } from 'antd';
import { useEffect, useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import type { Board } from '@jiko/core/board';
import type { JudgedReading } from '@jiko/core/trace';
import type { SweepPoint } from '@jiko/core/prepare';
import { entryTroubleText, parseEntry, usualMeter, valueText, whyText } from '@jiko/core/readings';
import { formatOhms } from '@jiko/core/units';
import { Expected } from '../../widgets/expected.tsx';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';

/** The point to read now, with its entry line; Enter records and goes to the next one not read. */
export function SweepEntry({
  board,
  point,
  place,
  of,
  last,
  leads,
  text,
  said,
  attached,
  onAttached,
  onText,
  onEnter,
  onStep,
  onPaste,
  onNewPoint,
}: {
  board: Board;
  point: SweepPoint;
  /** Its place in the sweep, from 1, of so many. */
  place: number;
  of: number;
  last: JudgedReading | null;
  leads: number | null;
  text: string;
  said: { kind: 'trouble' | 'recorded'; text: string } | null;
  attached: readonly string[];
  onAttached: (attached: string[]) => void;
  onText: (text: string) => void;
  onEnter: () => void;
  onStep: (by: 1 | -1) => void;
  onPaste: (text: string) => void;
  /** A point of one's own, by where it is. */
  onNewPoint: (title: string) => Promise<boolean>;
}) {
  const [fresh, setFresh] = useState<string | null>(null);
  const makePoint = async (): Promise<void> => {
    const title = fresh?.trim() ?? '';
    if (title !== '' && (await onNewPoint(title))) setFresh(null);
  };
  const entry = useRef<HTMLInputElement>(null);
  useEffect(() => {
    entry.current?.focus();
  }, [point.key]);
  const keys = (event: KeyboardEvent<HTMLInputElement>): void => {
    const act: Record<string, (() => void) | undefined> = {
      Enter: onEnter,
      ArrowDown: () => onStep(1),
      ArrowUp: () => onStep(-1),
      Escape: () => onText(''),
    };
    const action = act[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  };
  const paste = (event: ClipboardEvent<HTMLInputElement>): void => {
    const pasted = event.clipboardData.getData('text');
    if (!/[\n\t]/.test(pasted.trim())) return;
    event.preventDefault();
    onPaste(pasted);
  };
  const parsed = text.trim() === '' ? null : parseEntry(text, point.mode, usualMeter);
  const { expectation } = point;
  return (
    <div
      className="probe is-cold"
      data-net={point.net}
      data-reference={point.reference ?? ''}
      data-mode={point.mode}
    >
      <div className="sweep-head">
        <span className="why">
          {place} of {of} · {point.why}
        </span>
        <span>
          <Button size="small" onClick={() => setFresh(fresh === null ? '' : null)}>
            New point
          </Button>{' '}
          <Button size="small" onClick={() => onPaste('')}>
            Paste a table
          </Button>
        </span>
      </div>
      {fresh !== null && (
        <Input
          autoFocus
          size="small"
          aria-label="Where the new point is"
          placeholder="where it is: coil beside the memory, top side · Enter makes it"
          maxLength={80}
          value={fresh}
          onChange={(event) => setFresh(event.target.value)}
          onPressEnter={() => void makePoint()}
          onKeyDown={(event) => event.key === 'Escape' && setFresh(null)}
        />
      )}
      <h1 className="net">
        {point.net}
        {point.reference && <small> red, black on {point.reference}</small>}
      </h1>
      <div className="where">
        <strong>{point.mode === 'ohms' ? 'Ω' : 'Diode'}</strong> at{' '}
        <strong>{point.place.text}</strong>
        {point.place.side && <span className="quiet"> · {point.place.side} side</span>}
        {point.title && <span className="quiet"> · {point.title}</span>}
        {!point.reference && (
          <span className="quiet">
            {' '}
            · {point.mode === 'diode' ? 'red lead on ground, black here' : 'black lead on ground'}
          </span>
        )}
      </div>
      <div className="expect">
        <Expected of={expectation} />
        {point.shortOhms !== null && (
          <span className="quiet">
            a short below {formatOhms(Number(point.shortOhms.toPrecision(2)))}
          </span>
        )}
        {leads !== null && point.mode === 'ohms' && (
          <span className="quiet">leads alone read {formatOhms(leads)}</span>
        )}
      </div>
      <div className="entry">
        <input
          ref={entry}
          aria-label={`Cold reading at ${point.net}${point.reference ? ` against ${point.reference}` : ''} in ${point.mode}`}
          value={text}
          autoComplete="off"
          spellCheck={false}
          placeholder={point.mode === 'ohms' ? '2k2, OL or beep' : '412 or OL'}
          onChange={(event) => onText(event.target.value)}
          onKeyDown={keys}
          onPaste={paste}
        />
      </div>
      <div className="echo" aria-live="polite">
        {parsed && !parsed.ok ? (
          <span className="trouble">{entryTroubleText(parsed.error)}</span>
        ) : parsed?.ok ? (
          <span>
            <span className="quiet">Enter records </span>
            <span className="understood">{valueText(parsed.value, point.mode)}</span>
          </span>
        ) : said ? (
          <span className={said.kind === 'trouble' ? 'trouble' : ''}>{said.text}</span>
        ) : last ? (
          <span>
            <VerdictMark kind={last.verdict.kind} />{' '}
            <span className="mono">{valueText(last.reading.value, last.reading.mode)}</span>{' '}
            <span className="quiet">{whyText(last.verdict)} A new reading takes its place.</span>
          </span>
        ) : (
          <span className="quiet">
            Enter records and goes on · empty Enter skips · ? could not reach · * OL · ↑ ↓ another
            point
          </span>
        )}
      </div>
      <div className="plugged">
        <span className="quiet">Still plugged in </span>
        {board.attachments.map((one) => (
          <Checkbox
            key={one.id}
            checked={attached.includes(one.id)}
            onChange={(event) =>
              onAttached(
                event.target.checked
                  ? [...attached, one.id]
                  : attached.filter((other) => other !== one.id),
              )
            }
          >
            {one.title}
          </Checkbox>
        ))}
      </div>
    </div>
  );
}
