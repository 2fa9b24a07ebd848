import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { api } from '@jiko/contract';
import type { Board } from '@jiko/core/board';
import type { FindingEffect } from '@jiko/core/prepare';
import type { EventInput, Found } from '@jiko/core/record';
import { formatChance } from '@jiko/core/units';
import { FindingShape, findingText } from './finding-mark.tsx';

/** What was seen, by what it could do to the fault at hand; each can be cleared as harmless. */
export function FindingsList({
  board,
  effects,
  findings,
  onPick,
  onRecord,
}: {
  board: Board;
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
          <Row
            key={effect.finding.id}
            board={board}
            effect={effect}
            onPick={onPick}
            onRecord={onRecord}
          />
        ))}
      </ol>
      {cleared.length > 0 && (
        <>
          <h3>Cleared as harmless</h3>
          <ul className="findings quiet">
            {cleared.map((finding) => (
              <li key={finding.id}>
                {placeText(finding)}, {findingText[finding.body.kind]}: {finding.harmless}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

/** What can be said of a finding in one line: why it does no harm, or what it asks of the owner. */
type Saying = 'harmless' | 'ask';
const sayings: Record<Saying, { label: string; placeholder: string }> = {
  harmless: { label: 'Why it does no harm', placeholder: 'Why it does no harm; Enter' },
  ask: {
    label: 'What the owner is asked',
    placeholder: 'Beyond what was agreed? What is asked; Enter',
  },
};

/** The part a finding is at, or the net it was tied to. */
const placeText = ({ body, net }: Found): string =>
  body.part ?? (net === null ? 'A spot' : `A spot on ${net}`);

/** A spot may be said to belong to a part, or to a net: what lies there may not be on the picture. */
function TieSelect({
  board,
  finding: { id, body, net },
  onRecord,
}: {
  board: Board;
  finding: Found;
  onRecord: (body: EventInput) => void;
}) {
  const parts = [...board.parts, ...board.chips.filter((chip) => !chip.virtual)];
  const choices = [
    {
      label: 'Parts',
      options: parts.map(({ ref, title }) => ({
        value: `part ${ref}`,
        label: title ? `${ref} ${title}` : (ref as string),
      })),
    },
    {
      label: 'Nets',
      options: board.nets.map(({ id: net, title }) => ({
        value: `net ${net}`,
        label: title ? `${net} ${title}` : (net as string),
      })),
    },
  ];
  return (
    <Select
      size="small"
      aria-label={`Part or net of ${body.part ?? 'the spot'}`}
      placeholder="Which part or net is it?"
      showSearch={{ optionFilterProp: 'label' }}
      style={{ width: 210 }}
      popupMatchSelectWidth={300}
      value={body.part ? `part ${body.part}` : net ? `net ${net}` : null}
      options={choices}
      onChange={(chosen: string) => {
        const [kind, ...name] = chosen.split(' ');
        const said = name.join(' ');
        onRecord({
          type: 'tied',
          finding: id,
          part: kind === 'part' ? said : null,
          net: kind === 'net' ? said : null,
        });
      }}
    />
  );
}

function Row({
  board,
  effect: { finding, text, suspicion, byDesign },
  onPick,
  onRecord,
}: {
  board: Board;
  effect: FindingEffect;
  onPick: (ref: string) => void;
  onRecord: (body: EventInput) => void;
}) {
  const [saying, setSaying] = useState<{ kind: Saying; text: string } | null>(null);
  const { id, body } = finding;
  const title = `${placeText(finding)} ${findingText[body.kind]}`;
  /** Marked at no part: it may be said, and said again, what it belongs to. */
  const isLoose = finding.isSpot;
  const say = (): void => {
    if (!saying) return;
    const said = saying.text.trim();
    if (saying.kind === 'harmless')
      onRecord({ type: 'harmless', finding: id, reason: said || 'looked into, does no harm' });
    else if (said === '') return;
    else
      onRecord({
        type: 'approval',
        found: [title, body.text].filter(Boolean).join(', '),
        asks: said,
      });
    setSaying(null);
  };
  const button = (kind: Saying, label: string) => (
    <Button
      size="small"
      type="text"
      onClick={() => (saying?.kind === kind ? say() : setSaying({ kind, text: '' }))}
    >
      {label}
    </Button>
  );
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
          <strong>{placeText(finding)}</strong> {findingText[body.kind]}
          {suspicion !== null && !byDesign && suspicion > 0.005 && (
            <span className="share mono"> {formatChance(suspicion)}</span>
          )}
        </button>
        <div>{text}</div>
        {isLoose && <TieSelect board={board} finding={finding} onRecord={onRecord} />}
        {body.text && <div className="quiet">{body.text}</div>}
        {saying && (
          <Input
            autoFocus
            size="small"
            aria-label={sayings[saying.kind].label}
            placeholder={sayings[saying.kind].placeholder}
            value={saying.text}
            maxLength={200}
            onChange={(event) => setSaying({ ...saying, text: event.target.value })}
            onPressEnter={say}
            onKeyDown={(event) => event.key === 'Escape' && setSaying(null)}
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
      <span className="finding-do">
        {button('harmless', 'Harmless')}
        {button('ask', 'Ask owner')}
      </span>
    </li>
  );
}
