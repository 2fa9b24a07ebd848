import { Alert, Button, Select } from 'antd';
import { useMemo, useState } from 'react';
import { netOf, type NetId } from '@jiko/core/board';
import { namePoint, namingIsSure, type NamingQuestion } from '@jiko/core/naming';
import type { HealthyBoard } from '@jiko/core/expectations';
import type { Job } from '@jiko/core/record';
import { formatChance } from '@jiko/core/units';
import type { SheetEditing } from '../../data/sheet-edit.ts';
import './naming.css';

/** Which net a point of one's own most likely is, why, and what would settle it. */
export function NamingPanel({
  healthy,
  job,
  net,
  editing,
  onAsk,
}: {
  healthy: HealthyBoard;
  job: Job;
  net: NetId;
  editing: SheetEditing;
  onAsk: (question: NamingQuestion) => void;
}) {
  const { board } = healthy;
  const { title } = netOf(board, net);
  const { candidates, question } = useMemo(
    () => namePoint(healthy, job.readings, net, title),
    [healthy, job.readings, net, title],
  );
  const [other, setOther] = useState<string | null>(null);
  const read = job.readings.some(
    (one) => one.standing.kind === 'stands' && one.reading.at.net === net,
  );
  const shown = candidates.filter((one) => one.probability >= 0.03).slice(0, 5);
  const first = candidates[0];
  const join = (to: string): void => void editing.edit({ do: 'join', point: net, net: to });
  return (
    <section className="naming" aria-label="Which net is it?">
      <h3>
        Which net is {net}?{' '}
        <span className="quiet">
          {!read
            ? 'Nothing read here yet: by its place alone.'
            : first && first.probability >= namingIsSure
              ? 'Most likely as good as sure.'
              : 'Not settled.'}
        </span>
      </h3>
      <ol>
        {shown.map((one) => (
          <li key={one.net ?? 'none'}>
            <span className="share">{formatChance(one.probability)}</span>
            <span className="mono">{one.net ?? 'none of the sheet'}</span>
            <span className="quiet because">
              {one.net && netOf(board, one.net).title}
              {one.because.length > 0 && ` · ${one.because.slice(0, 3).join(', ')}`}
            </span>
            {one.net !== null && (
              <Button
                size="small"
                loading={editing.isSaving}
                onClick={() => join(one.net as string)}
              >
                It is {one.net}
              </Button>
            )}
          </li>
        ))}
      </ol>
      {question && (
        <p>
          <Button size="small" type="primary" onClick={() => onAsk(question)}>
            Settle it: {question.mode === 'volts' ? `volts in ${question.phase}` : question.mode}
            {question.against && ` against ${question.against}`}
          </Button>{' '}
          <span className="quiet">{question.why}</span>
        </p>
      )}
      <p>
        <Select
          size="small"
          aria-label="It is another net"
          style={{ width: 220 }}
          placeholder="it is another net"
          value={other}
          showSearch={{ optionFilterProp: 'label' }}
          onChange={(to: string) => {
            setOther(null);
            join(to);
          }}
          options={board.nets
            .filter((one) => !one.isUnnamed && one.kind !== 'ground')
            .map((one) => ({
              value: one.id as string,
              label: one.title ? `${one.id}: ${one.title}` : one.id,
            }))}
        />
      </p>
      {editing.trouble && <Alert type="error" showIcon title={editing.trouble} />}
    </section>
  );
}
