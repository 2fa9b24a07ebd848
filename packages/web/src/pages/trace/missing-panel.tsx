import { Link, useParams } from 'react-router';
import type { NetId } from '@jiko/core/board';
import { checksAfterRails } from '@jiko/core/diagnosis';
import { triedWord } from '@jiko/core/record';
import { roleText, type Lack, type NetStatus, type Trace } from '@jiko/core/trace';
import { valueText } from '@jiko/core/readings';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';

/** The first missing stage, what it needs, and what an input FET's pins say. */
export function MissingPanel({ trace, onPick }: { trace: Trace; onPick: (net: NetId) => void }) {
  const { id = '' } = useParams();
  const { board } = trace.known.healthy;
  const { firstMissing: missing } = trace;
  if (trace.goalReached) {
    return (
      <div className="missing is-reached">
        <h3>The goal is reached</h3>
        What it stands on was read as there. Verify under load before it leaves.
      </div>
    );
  }
  if (trace.lacking) {
    return (
      <div className="missing is-open" aria-label="Past the rails">
        <h3>The nets of the goal read right, and {lackText[trace.lacking.what]}</h3>
        {trace.lacking.runsCode === false && (
          <p>By its draw it runs no code: contents and clocks come before the screen.</p>
        )}
        {trace.lacking.runsCode === true && <p>By its draw or its beeps it runs code.</p>}
        <ol className="tried">
          {checksAfterRails(board, trace.lacking).map(({ thing, title, answer }) => (
            <li key={thing} className={answer ? 'is-done' : ''}>
              {title}
              {answer && <strong> {triedWord(thing, answer)}</strong>}
            </li>
          ))}
        </ol>
      </div>
    );
  }
  if (!missing) {
    const path = trace.stages.filter((one) => one.onPath);
    const read = path.some((one) => one.state !== 'unread');
    return (
      <div className="missing is-open">
        <h3>{read ? 'Nothing missing so far' : 'Start at the source'}</h3>
        <span className="quiet">
          {read
            ? 'Every point read is as it should be. What was not read is not known to be good.'
            : 'Take the proposed readings in turn. The first stage whose needs are there and whose output is not will stand here.'}
        </span>
      </div>
    );
  }
  return (
    <>
      <div
        className={`missing${missing.certain ? '' : ' is-open'}`}
        data-net={missing.net}
        data-stage={missing.stage ?? ''}
      >
        <div className="quiet">{missing.certain ? 'First missing stage' : 'Missing so far'}</div>
        <h3>{missing.title}</h3>
        {missing.why}{' '}
        <Link to={`/jobs/${id}/stage?net=${encodeURIComponent(missing.net)}`}>Take it apart</Link>
        {missing.needs.length > 0 && (
          <ul className="needs" aria-label="What it needs">
            {missing.needs.map((need) => (
              <li key={need.net}>
                <button type="button" onClick={() => onPick(need.net)}>
                  <span className="quiet">{roleText[need.role]}</span>
                  <span className="mono">{need.net}</span>
                  <NeedStatus status={need.status} />
                </button>
              </li>
            ))}
          </ul>
        )}
      </div>
      {trace.fets.map(({ part, judgement }) => (
        <div key={part.ref} className="missing is-open">
          <h3>
            {part.ref}: {fetText[judgement.state]}
          </h3>
          {judgement.why}
          {judgement.causes.length > 0 && (
            <ul className="causes">
              {judgement.causes.map((one) => (
                <li key={one.cause}>
                  {one.cause}
                  <div className="quiet">told apart by: {one.toldApartBy}</div>
                </li>
              ))}
            </ul>
          )}
          {judgement.next && (
            <div style={{ marginTop: 6 }}>
              <span className="quiet">Read next: </span>
              {judgement.next}
            </div>
          )}
        </div>
      ))}
    </>
  );
}

function NeedStatus({ status }: { status: NetStatus }) {
  if (status.kind === 'unread') return <span className="quiet">not read</span>;
  return (
    <span title={valueText(status.reading.reading.value, status.reading.reading.mode)}>
      <VerdictMark kind={status.kind === 'contradicting' ? 'odd' : status.reading.verdict.kind} />
    </span>
  );
}

const fetText = {
  on: 'on',
  off: 'off',
  'half-on': 'half on',
  'conducts-with-gate-off': 'conducts with its gate off',
  'blocks-with-gate-on': 'blocks with its gate on',
  'no-feed': 'has no feed',
  unread: 'not judged yet',
} as const;

const lackText: Record<Lack, string> = {
  start: 'it does not start',
  picture: 'there is no picture',
  storage: 'it does not find its storage',
  charge: 'it does not charge',
};
