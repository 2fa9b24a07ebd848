import { Button, InputNumber } from 'antd';
import { useState } from 'react';
import { findPart, type Board, type NetId } from '@jiko/core/board';
import type { EventInput, Job } from '@jiko/core/record';
import type { Hunt, HuntAction, LiveFeed } from '@jiko/core/short-hunt';
import { formatAmps, formatChance, formatOhms, formatVolts } from '@jiko/core/units';
import { DropsForm, FedForm, LiveFeedForm, OwnPowerForm, WarmForm } from './hunt-forms.tsx';
import { RailMap } from './rail-map.tsx';
import { Strike } from '../../widgets/strike.tsx';

export type Setting = { volts: number; limitAmps: number };

/** Where the hunt for a short stands, and what to do next with its cautions. */
export function ShortPanel({
  board,
  job,
  hunt,
  live,
  isWorking,
  asked,
  onAsked,
  onRead,
  onRecord,
}: {
  board: Board;
  job: Job;
  hunt: Hunt;
  live: LiveFeed;
  isWorking: boolean;
  asked: Setting | undefined;
  onAsked: (asked: Setting | undefined) => void;
  /** Ohms at a net are wanted next. */
  onRead: (net: NetId) => void;
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [shown, setShown] = useState(true);
  const action =
    hunt.actions.find((one) => keyOf(one) === chosen) ??
    (hunt.proven ? undefined : hunt.actions[0]);
  const others = hunt.actions.filter((one) => one !== action).slice(0, 5);
  const first = hunt.candidates.filter((one) => one.probability > 0.005).slice(0, 10);
  const cleared = hunt.candidates.filter((one) => one.cleared !== null);
  if (hunt.ohms === null)
    return (
      <p>
        <strong>Read {hunt.net} to ground in ohms first</strong>, source off: the hunt begins with
        what the short has.{' '}
        <Button size="small" onClick={() => onRead(hunt.net)}>
          Read {hunt.net}
        </Button>
      </p>
    );
  return (
    <div className={`hunt${isWorking ? ' is-working' : ''}`}>
      <div className="hunt-now">
        <p className="hunt-rail">
          <span className="mono">{hunt.net}</span> reads{' '}
          <strong>
            {Number.isFinite(hunt.ohms) ? formatOhms(Number(hunt.ohms.toPrecision(3))) : 'OL'}
          </strong>
          {hunt.nets.length > 1 && (
            <span className="quiet">
              {' '}
              · one rail with {hunt.nets.filter((one) => one !== hunt.net).join(', ')}
            </span>
          )}
        </p>
        {hunt.lifted.length > 0 && (
          <p className="off-board">
            Off the board:{' '}
            {hunt.lifted.map((ref) => (
              <span key={ref}>
                <span className="mono">{ref}</span>{' '}
                <Button
                  size="small"
                  onClick={() =>
                    onRecord({ type: 'repair', action: 'refitted', parts: [ref], text: '' })
                  }
                >
                  Put back
                </Button>{' '}
                <Button
                  size="small"
                  onClick={() =>
                    onRecord({
                      type: 'repair',
                      action: 'replaced',
                      parts: [ref],
                      text: 'a good one',
                    })
                  }
                >
                  Replaced
                </Button>{' '}
              </span>
            ))}
          </p>
        )}
        {hunt.unread.length > 0 && (
          <div className="advice" role="status">
            <h2>
              {hunt.unread.join(', ')} {hunt.unread.length > 1 ? 'are' : 'is'} out: read ohms on{' '}
              <span className="mono">{hunt.net}</span>
            </h2>
            What to do next follows from that reading.{' '}
            <Button type="primary" size="small" onClick={() => onRead(hunt.net)}>
              Read {hunt.net}
            </Button>
          </div>
        )}
        {hunt.unfit.length > 0 && (
          <p role="status">
            <strong>These millivolts do not fit a rail.</strong> Wherever the current leaves it,
            those at {hunt.unfit.join(', ')} cannot all be right: they count for nothing. Read them
            again, black tip on one ground, red tip on the solder of the part.
          </p>
        )}
        {hunt.proven && (
          <div className="advice" role="status">
            <h2>{hunt.proven.part} was the short</h2>
            {hunt.proven.text} Fit a good one, read the rail again, then power up with a limit.
          </div>
        )}
        {action && (
          <section className="next-action" aria-label="Do next">
            <h2>{action.text}</h2>
            <ul className="outcomes">
              {action.outcomes.map((one) => (
                <li key={one.text}>
                  {one.probability < 1 && (
                    <span className="mono">{formatChance(one.probability)} </span>
                  )}
                  {one.text}
                </li>
              ))}
            </ul>
            {(action.kind === 'inject' || action.kind === 'drops') && (
              <InjectionLine hunt={hunt} asked={asked} onAsked={onAsked} />
            )}
            <ActionForm
              key={keyOf(action)}
              board={board}
              hunt={hunt}
              action={action}
              onRead={onRead}
              onRecord={onRecord}
            />
            {action.cautions.map((one) => (
              <div key={one} className="caution-line" role="note">
                <strong>Caution. </strong>
                {one}
              </div>
            ))}
          </section>
        )}
        {others.length > 0 && (
          <>
            <h3 className="quiet">{action ? 'Or' : 'Other tests'}</h3>
            <ul className="other-actions">
              {others.map((one) => (
                <li key={keyOf(one)}>
                  <button type="button" onClick={() => setChosen(keyOf(one))}>
                    {one.text}
                  </button>{' '}
                  <span className="quiet">about {Math.round(one.cost / 60)} min</span>
                </li>
              ))}
            </ul>
          </>
        )}
        <LiveFeedForm hunt={hunt} live={live} onRecord={onRecord} />
        <OwnPowerForm hunt={hunt} onRecord={onRecord} />
        <Done job={job} hunt={hunt} onRecord={onRecord} />
      </div>
      <div className="hunt-who">
        <h3>What it could be</h3>
        <ol className="candidates" aria-label="What it could be">
          {first.map((one) => (
            <li key={`${one.name} ${one.net}`} data-part={one.name}>
              <span className="mono">{one.name}</span>
              <span className="bar" style={{ width: `${Math.max(2, one.probability * 100)}%` }} />
              <span className="percent">{formatChance(one.probability)}</span>
              <span className="quiet">{one.take.why || (one.pin ? `pin ${one.pin}` : '')}</span>
            </li>
          ))}
        </ol>
        <button type="button" className="strike" onClick={() => setShown(!shown)}>
          {shown ? 'Hide' : 'Show'} the rail
        </button>
        {shown && <RailMap hunt={hunt} />}
        {cleared.length > 0 && (
          <details>
            <summary>{cleared.length} cleared</summary>
            <ul>
              {cleared.map((one) => (
                <li key={`${one.name} ${one.net}`}>
                  <span className="mono">{one.name}</span>{' '}
                  <span className="quiet">
                    {one.pin && `pin ${one.pin}: `}
                    {one.cleared}
                  </span>
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
    </div>
  );
}

const keyOf = (action: HuntAction): string => `${action.kind} ${action.what.join(' ')}`;

/** What the supply is to be set to; other settings are tried here before they are tried on the board. */
function InjectionLine({
  hunt: { injection },
  asked,
  onAsked,
}: {
  hunt: Hunt;
  asked: Setting | undefined;
  onAsked: (asked: Setting | undefined) => void;
}) {
  const change = (part: Partial<Setting>): void =>
    onAsked({ volts: injection.volts, limitAmps: injection.limitAmps, ...part });
  return (
    <div className="injection">
      <label>
        Volts{' '}
        <InputNumber
          aria-label="Set volts"
          min={0}
          max={60}
          step={0.1}
          value={injection.volts}
          onChange={(volts) => volts !== null && change({ volts })}
        />
      </label>
      <label>
        Limit, A{' '}
        <InputNumber
          aria-label="Set limit in amps"
          min={0}
          max={20}
          step={0.5}
          value={injection.limitAmps}
          onChange={(limitAmps) => limitAmps !== null && change({ limitAmps })}
        />
      </label>
      {asked && (
        <Button size="small" onClick={() => onAsked(undefined)}>
          As proposed
        </Button>
      )}
      <div>
        {injection.says.map((one) => (
          <div key={one}>{one}</div>
        ))}
        <div className="quiet">
          Never above {formatVolts(injection.mostVolts)} or {formatAmps(injection.mostAmps)}. Played
          on this sheet with the short burnt open.
        </div>
        {injection.harms.map((one) => (
          <div key={one} className="tone-bad" role="alert">
            <strong>Do not: </strong>
            {one}
          </div>
        ))}
      </div>
    </div>
  );
}

function ActionForm({
  board,
  hunt,
  action,
  onRead,
  onRecord,
}: {
  board: Board;
  hunt: Hunt;
  action: HuntAction;
  onRead: (net: NetId) => void;
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  switch (action.kind) {
    case 'split':
    case 'lift': {
      const [ref] = action.what as [string];
      const nets = findPart(board, ref)?.pins.map((pin) => pin.net) ?? [];
      const read =
        action.kind === 'split' ? nets[0] : hunt.candidates.find((one) => one.name === ref)?.net;
      return (
        <Button
          type="primary"
          onClick={() => {
            onRecord({
              type: 'repair',
              action: 'removed',
              parts: [ref],
              text:
                action.kind === 'split' ? 'one end lifted to split the rail' : 'taken off to see',
            });
            if (read) onRead(read);
          }}
        >
          {ref} is out: read ohms
        </Button>
      );
    }
    case 'inject': {
      const last = hunt.log.fed.at(-1);
      return (
        <>
          <FedForm hunt={hunt} at={action.what[1] ?? null} onRecord={onRecord} />
          {last && <WarmForm board={board} hunt={hunt} fed={last.id} onRecord={onRecord} />}
        </>
      );
    }
    case 'drops': {
      const [, at, ...places] = action.what as [string, string, ...string[]];
      return <DropsForm hunt={hunt} at={at} places={places} onRecord={onRecord} />;
    }
  }
}

/** What was done on this rail, latest first; each can be taken back. */
function Done({
  job,
  hunt,
  onRecord,
}: {
  job: Job;
  hunt: Hunt;
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const lines = [
    ...hunt.log.ohms.map((one) => ({
      id: one.id,
      text: `${one.net} ${Number.isFinite(one.ohms) ? formatOhms(Number(one.ohms.toPrecision(3))) : 'OL'}${one.lifted.length > 0 ? ` with ${one.lifted.join(', ')} out` : ''}`,
    })),
    ...hunt.log.fed.map((one) => ({
      id: one.id,
      text: `fed${one.at ? ` at ${one.at}` : ''}: ${formatAmps(one.amps)}${one.volts === null ? '' : ` at ${formatVolts(one.volts)}`}${one.warm
        .map((heat) =>
          heat.part === null
            ? ', nothing warm'
            : `, ${heat.part} warm${heat.rise === null ? '' : ` by ${heat.rise.toFixed(1)} K`}`,
        )
        .join(
          '',
        )}${one.drops.length > 0 ? `, ${one.drops.map((drop) => `${drop.part} ${(drop.volts * 1000).toFixed(1)} mV`).join(', ')}` : ''}`,
    })),
  ].reverse();
  if (lines.length === 0) return null;
  const order = new Map([...job.readings, ...job.fed].map((one, index) => [one.id, index]));
  lines.sort((a, b) => (order.get(b.id) ?? 0) - (order.get(a.id) ?? 0));
  return (
    <details className="hunt-done">
      <summary>{lines.length} things done on this rail</summary>
      <ul>
        {lines.map(({ id, text }) => (
          // A feed whose millivolts were read again stands here once for each time.
          <li key={`${id} ${text}`}>
            {text}{' '}
            <Strike
              label="strike out"
              of={text}
              onStrike={(reason) => onRecord({ type: 'strike', event: id, reason })}
            />
          </li>
        ))}
      </ul>
    </details>
  );
}
