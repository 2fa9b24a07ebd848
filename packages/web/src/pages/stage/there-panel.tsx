import { Button } from 'antd';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import type { EventInput } from '@jiko/core/record';
import type { ExpectedPart } from '@jiko/core/taking-apart';

const stateText: Record<ExpectedPart['state'], string> = {
  unseen: 'not looked at',
  there: 'there',
  missing: 'missing',
  'not-fitted': 'not fitted on this board',
};

/** The sheet's parts around a stage, ticked off one by one under the microscope. */
export function TherePanel({
  parts,
  here,
  onHere,
  onRecord,
}: {
  parts: readonly ExpectedPart[];
  here: string | null;
  onHere: (ref: string) => void;
  onRecord: (body: EventInput) => void;
}) {
  const list = useRef<HTMLDivElement>(null);
  const at =
    parts.find((one) => one.ref === here) ??
    parts.find((one) => one.state === 'unseen') ??
    parts[0];
  useEffect(() => {
    list.current?.focus({ preventScroll: true });
  }, []);
  const go = (by: 1 | -1): void => {
    if (!at) return;
    const next = parts[(parts.indexOf(at) + by + parts.length) % parts.length];
    if (next) onHere(next.ref);
  };
  const mark = (state: 'there' | 'missing' | 'not-fitted'): void => {
    if (!at) return;
    onRecord(
      state === 'missing'
        ? {
            type: 'finding',
            kind: 'missing',
            part: at.ref,
            place: null,
            attachment: null,
            text: '',
          }
        : { type: 'part-seen', part: at.ref, state },
    );
    go(1);
  };
  const keys = (event: KeyboardEvent): void => {
    const act: Record<string, (() => void) | undefined> = {
      Enter: () => mark('there'),
      '+': () => mark('there'),
      '-': () => mark('missing'),
      '/': () => mark('not-fitted'),
      ArrowDown: () => go(1),
      ArrowUp: () => go(-1),
    };
    const action = act[event.key];
    if (!action || (event.target as HTMLElement).matches('button, input')) return;
    event.preventDefault();
    action();
  };
  const seen = parts.filter((one) => one.state !== 'unseen').length;
  if (parts.length === 0)
    return <p>The sheet draws no parts around this stage: nothing to hold the board against.</p>;
  return (
    <div
      className="there"
      ref={list}
      role="group"
      tabIndex={0}
      onKeyDown={keys}
      aria-label="Parts around the stage"
    >
      <div className="panel-bar">
        <strong>
          {seen} of {parts.length} looked at
        </strong>
        <span className="quiet">
          <kbd>Enter</kbd> there · <kbd>-</kbd> missing · <kbd>/</kbd> never fitted here · ↑ ↓
        </span>
      </div>
      <ul>
        {parts.map((one) => (
          // oxlint-disable-next-line jsx-a11y/click-events-have-key-events -- the list's arrow keys do the same
          <li
            key={one.ref}
            className={`is-${one.state}${one === at ? ' is-here' : ''}`}
            aria-current={one === at ? 'true' : undefined}
            onClick={() => onHere(one.ref)}
          >
            <span className="mono">{one.ref}</span>
            <span>
              {one.kind} {one.value}
            </span>
            <span className="quiet">
              {one.millimetres === null ? '' : `${Math.round(one.millimetres)} mm`}
              {one.side ? ` ${one.side}` : ''}
            </span>
            <span>{stateText[one.state]}</span>
            {one === at && (
              <span className="marks">
                <Button size="small" onClick={() => mark('there')}>
                  There
                </Button>
                <Button size="small" danger onClick={() => mark('missing')}>
                  Missing
                </Button>
                <Button size="small" onClick={() => mark('not-fitted')}>
                  Never fitted
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
