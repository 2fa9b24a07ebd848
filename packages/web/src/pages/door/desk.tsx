import { Button, Input, InputNumber, Select } from 'antd';
import dayjs from 'dayjs';
import { useState } from 'react';
import { dueOf, summaryOf, moneyOf, timeOf, waitReasons } from '@jiko/core/record';
import { dateText } from '../../data/dates.ts';
import type { DoorPart } from './door-part.ts';

type Reason = (typeof waitReasons)[number];
const reasonText: Record<Reason, string> = {
  part: 'a part',
  owner: "the owner's yes",
  cooling: 'cooling',
  drying: 'drying',
  soak: 'a soak test',
  other: 'something else',
};

/** What the job waits for, parts to order, time against what was agreed, and what the owner is asked. */
export function Desk(part: DoorPart) {
  const now = dayjs().toISOString();
  const due = dueOf(summaryOf(part.job), now);
  return (
    <section className="card" aria-label="Waits, parts and time">
      <header>
        <h2>Waits, parts, time</h2>
        <span className={due.kind === 'now' ? 'tone-good' : 'tone-warn'}>
          {due.kind === 'now' ? 'can be worked on' : `waits for ${due.because}`}
        </span>
      </header>
      <Waits {...part} />
      <Orders {...part} />
      <Time {...part} />
      <Approvals {...part} />
    </section>
  );
}

function Waits({ job, onRecord }: DoorPart) {
  const [reason, setReason] = useState<Reason>('part');
  const [until, setUntil] = useState('');
  const [text, setText] = useState('');
  const keep = (): void => {
    onRecord({
      type: 'wait',
      reason,
      until: until === '' ? null : dayjs(until).toISOString(),
      text: text.trim(),
    });
    setUntil('');
    setText('');
  };
  return (
    <div className="desk-part">
      {job.waits
        .filter((one) => one.struck === null && one.over === null)
        .map(({ id, body }) => (
          <div className="desk-row" key={id}>
            <span>
              Waits for {reasonText[body.reason]}
              {body.text ? `: ${body.text}` : ''}
              {body.until && <span className="quiet"> until {dateText(body.until, 'moment')}</span>}
            </span>
            <Button size="small" onClick={() => onRecord({ type: 'wait-over', wait: id })}>
              It is over
            </Button>
          </div>
        ))}
      <div className="desk-form">
        <Select<Reason>
          aria-label="Waits for"
          value={reason}
          onChange={setReason}
          options={waitReasons.map((value) => ({ value, label: reasonText[value] }))}
          style={{ width: 140 }}
        />
        <Input
          aria-label="What it waits for"
          placeholder="which, from whom"
          value={text}
          maxLength={300}
          onChange={(event) => setText(event.target.value)}
          onPressEnter={keep}
        />
        <Input
          aria-label="Until"
          type="datetime-local"
          value={until}
          onChange={(event) => setUntil(event.target.value)}
          onPressEnter={keep}
          style={{ width: 190 }}
        />
        <Button onClick={keep}>Wait</Button>
      </div>
    </div>
  );
}

const nextStep = {
  'to-order': { step: 'ordered', label: 'Ordered' },
  ordered: { step: 'arrived', label: 'Is here' },
} as const;

function Orders({ job, healthy, onRecord }: DoorPart) {
  const [what, setWhat] = useState('');
  const [price, setPrice] = useState<number | null>(null);
  const { board } = healthy;
  const { spent, limit } = moneyOf(job);
  const isOver = limit !== null && spent > limit;
  const keep = (): void => {
    if (what.trim() === '') return;
    const ref = what.trim().split(/[\s,]/)[0] ?? '';
    const known = [...board.parts, ...board.chips].some((one) => one.ref === ref);
    onRecord({ type: 'order', what: what.trim(), part: known ? ref : null, price });
    setWhat('');
    setPrice(null);
  };
  return (
    <div className="desk-part">
      {job.orders
        .filter((one) => one.struck === null && one.step !== 'dropped' && one.step !== 'arrived')
        .map(({ id, body, step }) => {
          const next = nextStep[step as keyof typeof nextStep];
          return (
            <div className="desk-row" key={id}>
              <span>
                {body.what}{' '}
                {body.price !== null && <span className="quiet">{body.price.toFixed(2)} </span>}
                <span className={step === 'to-order' ? 'tone-warn' : 'quiet'}>
                  {step === 'to-order' ? 'to order' : 'on its way'}
                </span>
              </span>
              <span>
                <Button
                  size="small"
                  onClick={() => onRecord({ type: 'order-step', order: id, step: next.step })}
                >
                  {next.label}
                </Button>{' '}
                <Button
                  size="small"
                  type="text"
                  onClick={() => onRecord({ type: 'order-step', order: id, step: 'dropped' })}
                >
                  Drop
                </Button>
              </span>
            </div>
          );
        })}
      {(spent > 0 || limit !== null) && (
        <div className={isOver ? 'tone-bad' : 'quiet'}>
          Parts {spent.toFixed(2)}
          {limit === null ? '' : ` of ${limit.toFixed(2)} agreed`}
          {isOver ? ': ask before going on' : ''}
        </div>
      )}
      <div className="desk-form">
        <Input
          aria-label="Part to order"
          placeholder="Part to order: PQ1, P-channel 30 V"
          value={what}
          maxLength={200}
          onChange={(event) => setWhat(event.target.value)}
          onPressEnter={keep}
        />
        <InputNumber
          aria-label="What it costs"
          placeholder="costs"
          min={0}
          max={1_000_000}
          precision={2}
          value={price}
          onChange={setPrice}
          onPressEnter={keep}
          style={{ width: 90 }}
        />
        <Button onClick={keep}>To order</Button>
      </div>
    </div>
  );
}

function Time({ job, onRecord }: DoorPart) {
  const [spent, setSpent] = useState<number | null>(null);
  const { minutes, limitMinutes } = timeOf(job);
  const over = limitMinutes !== null && minutes > limitMinutes;
  const keep = (): void => {
    if (!spent) return;
    onRecord({ type: 'time', minutes: spent });
    setSpent(null);
  };
  return (
    <div className="desk-part">
      <div className="desk-form">
        <span className={over ? 'tone-bad' : ''} style={{ flex: 1 }}>
          {minutes} min spent{limitMinutes === null ? '' : ` of ${limitMinutes} agreed`}
          {over ? ': ask before going on' : ''}
        </span>
        <InputNumber
          aria-label="Minutes spent"
          min={1}
          max={1440}
          precision={0}
          suffix="min"
          value={spent}
          onChange={setSpent}
          onPressEnter={keep}
          style={{ width: 110 }}
        />
        <Button onClick={keep}>Add time</Button>
      </div>
    </div>
  );
}

function Approvals({ job, onRecord }: DoorPart) {
  const [found, setFound] = useState('');
  const [asks, setAsks] = useState('');
  const [minutes, setMinutes] = useState<number | null>(null);
  const [money, setMoney] = useState<number | null>(null);
  const keep = (): void => {
    if (found.trim() === '' || asks.trim() === '') return;
    onRecord({ type: 'approval', found: found.trim(), asks: asks.trim(), minutes, money });
    setFound('');
    setAsks('');
    setMinutes(null);
    setMoney(null);
  };
  return (
    <div className="desk-part">
      {job.approvals
        .filter((one) => one.struck === null)
        .map(({ id, body, answer }) => (
          <div className="desk-row" key={id}>
            <span>
              {body.found} Asked: {body.asks}
              {body.minutes === null ? '' : `, ${body.minutes} min more`}
              {body.money === null ? '' : `, ${body.money.toFixed(2)} more for parts`}
              {answer && (
                <strong className={answer.yes ? 'tone-good' : 'tone-bad'}>
                  {answer.yes ? ' Yes' : ' No'}
                </strong>
              )}
            </span>
            {!answer && (
              <span>
                <Button
                  size="small"
                  onClick={() => onRecord({ type: 'answer', approval: id, yes: true })}
                >
                  Owner says yes
                </Button>{' '}
                <Button
                  size="small"
                  onClick={() => onRecord({ type: 'answer', approval: id, yes: false })}
                >
                  No
                </Button>
              </span>
            )}
          </div>
        ))}
      <div className="desk-form">
        <Input
          aria-label="Found beyond the limit"
          placeholder="More was found"
          value={found}
          maxLength={500}
          onChange={(event) => setFound(event.target.value)}
          onPressEnter={keep}
        />
        <Input
          aria-label="Asked of the owner"
          placeholder="what the owner is asked"
          value={asks}
          maxLength={300}
          onChange={(event) => setAsks(event.target.value)}
          onPressEnter={keep}
        />
        <InputNumber
          aria-label="Minutes more"
          min={0}
          precision={0}
          suffix="min"
          value={minutes}
          onChange={setMinutes}
          onPressEnter={keep}
          style={{ width: 100 }}
        />
        <InputNumber
          aria-label="More for parts"
          placeholder="parts"
          min={0}
          max={1_000_000}
          precision={2}
          value={money}
          onChange={setMoney}
          onPressEnter={keep}
          style={{ width: 90 }}
        />
        <Button onClick={keep}>Ask</Button>
      </div>
    </div>
  );
}
