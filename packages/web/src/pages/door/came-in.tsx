import { useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useState } from 'react';
import { api } from '@jiko/contract';
import { goalTitle } from '@jiko/core/board';
import type { EventInput } from '@jiko/core/record';
import { dateText } from '../../data/dates.ts';
import { sendJobPicture } from '../../data/pictures.ts';
import { boardQuery } from '../../data/queries.ts';
import { IntakeForm } from '../../widgets/intake-form.tsx';
import { PictureButton } from '../../widgets/picture-button.tsx';
import type { DoorPart } from './door-part.ts';

/** What came in, as it was written down; corrected in place, the old words stay in the record. */
export function CameIn({ id, job, healthy, onRecord }: DoorPart) {
  const client = useQueryClient();
  const [isEditing, setEditing] = useState(false);
  const { intake } = job;
  if (!intake) return null;
  if (isEditing)
    return (
      <section className="card">
        <h2>What came in</h2>
        <IntakeForm
          draftKey={`jiko-intake-${id}`}
          before={intake}
          label="Keep"
          onCancel={() => setEditing(false)}
          onIntake={(next) => {
            const hash = client.getQueryData(boardQuery(next.board).queryKey)?.hash;
            // Another board: the job goes on with its sheet as it is today.
            const stands: EventInput[] =
              next.board !== intake.board && hash ? [{ type: 'sheet', hash }] : [];
            onRecord({ type: 'intake', intake: next }, ...stands);
            setEditing(false);
          }}
        />
      </section>
    );
  const { board } = healthy;
  const goal = goalTitle(board, intake.goal);
  const happened = [intake.happened.map((one) => one.replace('-', ' ')).join(', '), intake.history];
  const facts: [string, string][] = [
    ['Complaint', intake.complaint],
    ['Happened', happened.filter(Boolean).join(': ')],
    ['Earlier repair', intake.earlierRepair],
    ['Their guess', intake.otherGuess && `${intake.otherGuess} (a guess, no evidence)`],
    ['Came with', intake.cameWith],
    ['Missing', intake.lacking],
    ['Done when it', goal],
    ['To be kept', intake.keep],
    ['Promised', intake.promised ? dateText(intake.promised, 'promised') : ''],
    [
      'Agreed',
      [
        intake.limitMinutes === null ? '' : `${intake.limitMinutes} min`,
        intake.limitMoney === null ? '' : `${intake.limitMoney.toFixed(2)} for parts`,
        intake.limitText,
      ]
        .filter(Boolean)
        .join(', '),
    ],
  ];
  return (
    <section className="card" aria-label="What came in">
      <header>
        <h2>What came in</h2>
        <Button size="small" onClick={() => setEditing(true)}>
          Correct
        </Button>
      </header>
      <dl className="facts">
        {facts
          .filter(([, value]) => value !== '')
          .map(([name, value]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
      </dl>
      <div className="photos">
        {job.pictures
          .filter((one) => one.struck === null)
          .map(({ id: event, body }) => (
            <a key={event} href={api.attachment(body.attachment)} target="_blank" rel="noreferrer">
              <img
                src={api.attachment(body.attachment)}
                alt={body.caption || 'picture of the job'}
                loading="lazy"
              />
            </a>
          ))}
        <PictureButton
          size="small"
          label="Add a photo"
          onPicture={async (file) => {
            const sent = await sendJobPicture(id, file);
            onRecord({ type: 'picture', attachment: sent.id, caption: '' });
          }}
        />
      </div>
    </section>
  );
}
