import { Button, Input } from 'antd';
import { useState } from 'react';
import { api } from '@jiko/contract';
import type { FindingEffect } from '@jiko/core/prepare';
import type { EventInput, Found } from '@jiko/core/record';
import { FindingShape, findingText } from './finding-mark.tsx';

/** What was seen, by what it could do to the fault at hand; each can be cleared as harmless. */
export function FindingsList({
  effects,
  findings,
  onPick,
  onRecord,
}: {
  effects: readonly FindingEffect[];
  findings: readonly Found[];
  onPick: (ref: string) => void;
  onRecord: (body: EventInput) => void;
}) {
  const cleared = findings.filter((one) => one.struck === null && one.harmless !== null);
  return (
    <div className="card" aria-label="Findings" role="group">
      <h2>
        Findings <small className="quiet">likeliest to matter first</small>
      </h2>
      {effects.length === 0 && <p className="quiet">Nothing marked yet: unknown, not fine.</p>}
      <ol className="findings">
        {effects.map((effect) => (
          <Row key={effect.finding.id} effect={effect} onPick={onPick} onRecord={onRecord} />
        ))}
      </ol>
      {cleared.length > 0 && (
        <>
          <h3>Cleared as harmless</h3>
          <ul className="findings quiet">
            {cleared.map(({ id, body, harmless }) => (
              <li key={id}>
                {body.part ?? 'A spot'}, {findingText[body.kind]}: {harmless}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

function Row({
  effect: { finding, text, suspicion, byDesign },
  onPick,
  onRecord,
}: {
  effect: FindingEffect;
  onPick: (ref: string) => void;
  onRecord: (body: EventInput) => void;
}) {
  const [reason, setReason] = useState<string | null>(null);
  const { id, body } = finding;
  const clear = (): void => {
    onRecord({
      type: 'harmless',
      finding: id,
      reason: reason?.trim() || 'looked into, does no harm',
    });
    setReason(null);
  };
  return (
    <li>
      <FindingShape kind={body.kind} />
      <div>
        <button
          type="button"
          className="pick"
          disabled={body.part === null}
          onClick={() => body.part && onPick(body.part)}
        >
          <strong>{body.part ?? 'A spot'}</strong> {findingText[body.kind]}
          {suspicion !== null && !byDesign && suspicion > 0.005 && (
            <span className="share mono"> {Math.round(suspicion * 100)} %</span>
          )}
        </button>
        <div>{text}</div>
        {body.text && <div className="quiet">{body.text}</div>}
        {reason !== null && (
          <Input
            autoFocus
            size="small"
            aria-label="Why it does no harm"
            placeholder="Why it does no harm; Enter"
            value={reason}
            maxLength={200}
            onChange={(event) => setReason(event.target.value)}
            onPressEnter={clear}
            onKeyDown={(event) => event.key === 'Escape' && setReason(null)}
          />
        )}
      </div>
      {body.attachment && (
        <a href={api.attachment(body.attachment)} target="_blank" rel="noreferrer">
          <img
            src={api.attachment(body.attachment)}
            alt={`close-up of ${body.part ?? 'the spot'}`}
          />
        </a>
      )}
      <Button size="small" type="text" onClick={() => (reason === null ? setReason('') : clear())}>
        Harmless
      </Button>
    </li>
  );
}
