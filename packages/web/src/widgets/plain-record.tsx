import { Button } from 'antd';
import { api } from '@jiko/contract';
import type { KeptEvent } from '@jiko/core/record';
import { dateText } from '../data/dates.ts';
import { useBench } from '../data/bench.ts';
import { useJob } from '../data/queries.ts';
import { record } from '../offline/outbox.ts';

/** Entries the list shows; the file has all of them. */
const mostShown = 50;

/** What is only about other entries, or must stay: it is not struck out here. */
const kept = ['strike', 'erased', 'strange'];

/**
 * The entries of a job as they were written, newest first, each with its way to be struck out: for when
 * the view that would show them cannot. It works nothing out, so it cannot fail with it.
 */
export function PlainRecord({ id, onStruck }: { id: string; onStruck?: () => void }) {
  const { who } = useBench();
  const { events } = useJob(id);
  if (events.length === 0) return null;
  const struck = new Set(
    events.flatMap(({ body }) => (body.type === 'strike' ? [body.event] : [])),
  );
  const open = events.filter((one) => !struck.has(one.id) && !kept.includes(one.body.type));
  const strike = (event: string): void => {
    record(id, who, [{ type: 'strike', event, reason: 'taken back' }]);
    onStruck?.();
  };
  // The first intake is the job itself.
  const last = open.filter((one) => one.id !== events[0]?.id).at(-1);
  return (
    <section className="card plain-record" aria-label="The record">
      <header>
        <h2>The record</h2>
        <Button disabled={!last} onClick={() => last && strike(last.id)}>
          Undo the last entry
        </Button>{' '}
        <Button href={api.jobFile(id)}>Save the job as a file</Button>
      </header>
      <table>
        <tbody>
          {open
            .slice(-mostShown)
            .toReversed()
            .map((one) => (
              <tr key={one.id}>
                <td className="quiet">{dateText(one.at, 'entry')}</td>
                <td>{one.body.type.replace('-', ' ')}</td>
                <td className="mono">{wordsOf(one)}</td>
                <td>
                  {one.id !== events[0]?.id && (
                    <Button type="text" size="small" onClick={() => strike(one.id)}>
                      Strike
                    </Button>
                  )}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
      {open.length > mostShown && (
        <p className="quiet">and {open.length - mostShown} earlier ones, in the file</p>
      )}
    </section>
  );
}

/** The values of an entry one after the other, cut off where they are long. */
function wordsOf({ body }: KeptEvent): string {
  if (body.type === 'reading') {
    const { at, mode, phase, value } = body.reading;
    return [at.net, at.part, at.pin, phase, mode, ...Object.values(value)]
      .filter((one) => one !== null)
      .join(' ');
  }
  const values = (one: unknown): string[] =>
    typeof one === 'object' && one !== null
      ? Object.values(one).flatMap(values)
      : one === null || one === ''
        ? []
        : [String(one)];
  return values(Object.entries(body).flatMap(([name, value]) => (name === 'type' ? [] : [value])))
    .join(', ')
    .slice(0, 160);
}
