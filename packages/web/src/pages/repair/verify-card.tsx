import { Button, Input } from 'antd';
import { useState } from 'react';
import type { EventInput } from '@jiko/core/record';
import type { VerifyItem } from '@jiko/core/repair';

const stateText: Record<VerifyItem['state'], { word: string; tone: string }> = {
  open: { word: 'open', tone: 'quiet' },
  passed: { word: 'passed', tone: 'good' },
  failed: { word: 'failed', tone: 'bad' },
  'left-out': { word: 'knowingly left out', tone: 'warn' },
};

/** What is checked before the board goes back: each line read, or knowingly left out. */
export function VerifyCard({
  items,
  onRecord,
}: {
  items: readonly VerifyItem[];
  onRecord: (body: EventInput) => void;
}) {
  const [text, setText] = useState<{ [id: string]: string }>({});
  const open = items.filter((one) => one.state === 'open').length;
  const say = (item: string, result: 'passed' | 'failed' | 'left-out'): void => {
    onRecord({ type: 'verify', item, result, text: text[item]?.trim() ?? '' });
    setText({ ...text, [item]: '' });
  };
  return (
    <section className="card" aria-label="Before it goes back">
      <header>
        <h2>Before it goes back</h2>
        <span className="quiet">{open === 0 ? 'all answered' : `${open} open`}</span>
      </header>
      <ul className="verify">
        {items.map((one) => (
          <li key={one.id} data-item={one.id} data-state={one.state}>
            <div className="what">
              <strong>{one.title}</strong>{' '}
              <span className={`tone-${stateText[one.state].tone}`}>
                {stateText[one.state].word}
              </span>
              {one.text && <span className="quiet"> {one.text}</span>}
              <div className="quiet">{one.how}</div>
              {one.caution && (
                <div className="caution-line" role="note">
                  <strong>Caution. </strong>
                  {one.caution}
                </div>
              )}
            </div>
            <Input
              aria-label={`About ${one.title}`}
              size="small"
              placeholder="1.9 A, then 0.1 A"
              maxLength={300}
              value={text[one.id] ?? ''}
              onChange={(event) => setText({ ...text, [one.id]: event.target.value })}
            />
            <span className="answers">
              <Button size="small" onClick={() => say(one.id, 'passed')}>
                Passed
              </Button>
              <Button size="small" danger onClick={() => say(one.id, 'failed')}>
                Failed
              </Button>
              <Button size="small" onClick={() => say(one.id, 'left-out')}>
                Leave out
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
