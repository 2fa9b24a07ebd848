import { Button } from 'antd';
import { Link } from 'react-router';
import type { EventInput } from '@jiko/core/record';
import type { Aftermath, Grade, OpenEnd, Proof } from '@jiko/core/repair';

export const proofText: Record<Proof, string> = {
  proven: 'proven',
  supported: 'supported by readings',
  'by-elimination': 'by elimination',
  'several-changed': 'one of several changed at once',
  'not-found': 'not found',
};

/** How well the record proves the cause, step by step. */
export function ProofCard({ grade }: { grade: Grade }) {
  const tone = grade.proof === 'proven' ? 'good' : grade.proof === 'not-found' ? 'quiet' : 'warn';
  return (
    <section className={`proof tone-edge-${tone}`} aria-label="Proof">
      <div className="quiet">By the record the cause is</div>
      <h2>
        {proofText[grade.proof]}
        {grade.parts.length > 0 && <span className="mono"> {grade.parts.join(', ')}</span>}
      </h2>
      <ul>
        {grade.steps.map((one) => (
          <li key={one.text} data-holds={one.holds}>
            <span className={one.holds ? 'tone-good' : 'tone-quiet'}>
              {one.holds ? 'yes' : 'no'}
            </span>{' '}
            {one.text}
          </li>
        ))}
      </ul>
      {grade.wanting && <p>{grade.wanting}</p>}
    </section>
  );
}

/** What was begun and not ended, what was changed without effect, and what stands next in line. */
export function OpenEnds({
  job,
  ends,
  after,
  idle,
  onRecord,
}: {
  job: string;
  ends: readonly OpenEnd[];
  after: readonly Aftermath[];
  idle: readonly { part: string; action: string }[];
  onRecord: (body: EventInput) => void;
}) {
  return (
    <>
      {idle.length > 0 && (
        <section className="card" aria-label="Without effect">
          <h2>Changed without effect</h2>
          <ul>
            {idle.map((one) => (
              <li key={`${one.part} ${one.action}`}>
                <span className="mono">{one.part}</span> {one.action}: nothing became right, so it
                was not the cause. The search goes on in{' '}
                <Link to={`/jobs/${job}/trace`}>Trace</Link>.
              </li>
            ))}
          </ul>
        </section>
      )}
      <section className="card" aria-label="Open ends">
        <h2>{ends.length === 0 ? 'No open ends' : `Open ends: ${ends.length}`}</h2>
        <ul>
          {ends.map((one) => (
            <li key={one.text} data-kind={one.kind}>
              {one.text}{' '}
              {one.kind === 'off-board' && one.part && (
                <>
                  <Button
                    size="small"
                    onClick={() =>
                      onRecord({ type: 'repair', action: 'refitted', parts: [one.part!], text: '' })
                    }
                  >
                    Refitted
                  </Button>{' '}
                  <Button
                    size="small"
                    onClick={() =>
                      onRecord({ type: 'repair', action: 'replaced', parts: [one.part!], text: '' })
                    }
                  >
                    Replaced
                  </Button>
                </>
              )}
            </li>
          ))}
        </ul>
      </section>
      {after.map((one) => (
        <section key={one.part} className="card" aria-label={`After ${one.part}`}>
          <h2>What killed {one.part}?</h2>
          {one.killedBy && <p>{one.killedBy}</p>}
          {one.next.length > 0 && (
            <ul>
              {one.next.map((next) => (
                <li key={next.net}>
                  {next.why}.{' '}
                  <Link to={`/jobs/${job}/stage?net=${encodeURIComponent(next.net)}`}>
                    Take {next.net} apart
                  </Link>
                </li>
              ))}
            </ul>
          )}
        </section>
      ))}
    </>
  );
}
