import { Select } from 'antd';
import type { NetId } from '@jiko/core/board';
import type { HealthyBoard } from '@jiko/core/expectations';
import { valueText, whyText } from '@jiko/core/readings';
import { proposeJumper, type PartCheck } from '@jiko/core/taking-apart';
import type { Trace } from '@jiko/core/trace';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';
import { readAt, stepTarget, type Target } from '../../widgets/reading/target.ts';

/** A part checked where it stands, before it is heated. */
export function CheckPanel({
  healthy,
  trace,
  lifted,
  check,
  part,
  target,
  onPart,
  onPick,
}: {
  healthy: HealthyBoard;
  trace: Trace;
  lifted: readonly string[];
  check: PartCheck | null;
  part: string | null;
  target: Target | null;
  onPart: (ref: string) => void;
  onPick: (target: Target) => void;
}) {
  const { board } = healthy;
  const fet = trace.fets.find((one) => one.part.ref === part);
  return (
    <>
      <div className="panel-bar">
        <Select
          aria-label="Part to check"
          style={{ width: 320 }}
          placeholder="Part: F1, PQ2, R14"
          value={part}
          showSearch={{ optionFilterProp: 'label' }}
          onChange={onPart}
          options={board.parts
            .filter((one) => one.fitted && !one.isGuess)
            .map((one) => ({
              value: one.ref as string,
              label: `${one.ref} · ${one.title || one.kind} ${one.valueText}`,
            }))}
        />
      </div>
      {!check ? (
        <p className="quiet">
          Choose a part: how it is checked where it stands, what a good one reads there with all
          that lies beside it, and which end to lift where that hides it.
        </p>
      ) : (
        <div className="check">
          <h2>{check.title}</h2>
          <div className="caution-line" role="note">
            <strong>Caution. </strong>
            {check.caution}
          </div>
          <ul>
            {check.notes.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
          {fet && (
            <p>
              <strong>As read powered:</strong> {fet.judgement.why}
            </p>
          )}
          <table>
            <thead>
              <tr>
                <th>Leads</th>
                <th>A good one</th>
                <th>Read</th>
              </tr>
            </thead>
            <tbody>
              {check.steps.map((step) => {
                const own = stepTarget(check.ref, step);
                const read = readAt(trace, own, lifted);
                return (
                  <tr
                    key={own.key}
                    className={own.key === target?.key ? 'is-here' : ''}
                    onClick={() => onPick(own)}
                  >
                    <td>
                      <strong>{step.mode === 'ohms' ? 'Ω' : 'Diode'}</strong> {step.text}
                    </td>
                    <td className="quiet">{step.good}</td>
                    <td>
                      {read && (
                        <>
                          <span className="mono">{valueText(read.reading.value, step.mode)}</span>{' '}
                          <VerdictMark kind={read.verdict.kind} />
                          <div className="quiet">{whyText(read.verdict)}</div>
                        </>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}

/** Both ends of a trace, and the wire that would bridge it. */
export function TracePanel({
  healthy,
  net,
  ends,
  onEnds,
  target,
  trace,
  lifted,
  onPick,
}: {
  healthy: HealthyBoard;
  net: NetId;
  ends: readonly [string, string] | null;
  onEnds: (ends: [string, string]) => void;
  target: Target | null;
  trace: Trace;
  lifted: readonly string[];
  onPick: (target: Target) => void;
}) {
  const { board } = healthy;
  const pads = [
    ...board.parts
      .filter((one) => one.fitted)
      .map((one) => ({
        ref: one.ref as string,
        pin: one.pins.find((pin) => pin.net === net)?.name,
      })),
    ...board.chips
      .filter((one) => !one.virtual)
      .map((one) => ({
        ref: one.ref as string,
        pin: [...one.pins].find(([, on]) => on === net)?.[0],
      })),
  ].flatMap((one) => (one.pin === undefined ? [] : [{ ref: one.ref, pin: one.pin }]));
  if (pads.length < 2) return null;
  const [a, b] = ends ?? [pads[0]!.ref, pads.at(-1)!.ref];
  const pinOf = (ref: string): string => pads.find((one) => one.ref === ref)?.pin ?? '';
  const own = stepTarget(net, {
    text: `${a} to ${b}`,
    at: { net, part: a, pin: pinOf(a) },
    reference: { net, part: b, pin: pinOf(b) },
    mode: 'ohms',
    polarity: 'red-on-point',
    phase: 'cold',
    good: 'next to nothing: the leads',
  });
  const read = readAt(trace, own, lifted);
  const isBroken = read !== null && (read.verdict.kind === 'open' || read.verdict.kind === 'high');
  const options = pads.map((one) => ({ value: one.ref, label: `${one.ref}.${one.pin}` }));
  return (
    <div className="check">
      <h2>Both ends of the trace {net}</h2>
      <div className="panel-bar">
        <Select
          aria-label="One end"
          style={{ width: 150 }}
          value={a}
          options={options}
          onChange={(next: string) => onEnds([next, b])}
        />
        <span>to</span>
        <Select
          aria-label="Other end"
          style={{ width: 150 }}
          value={b}
          options={options}
          onChange={(next: string) => onEnds([a, next])}
        />
        <button
          type="button"
          className={own.key === target?.key ? 'is-here' : ''}
          onClick={() => onPick(own)}
        >
          Read it
        </button>
        {read && (
          <span>
            <span className="mono">{valueText(read.reading.value, 'ohms')}</span>{' '}
            <VerdictMark kind={read.verdict.kind} />
          </span>
        )}
      </div>
      {isBroken && <p className="tone-edge-bad">{proposeJumper(board, net, a, b).text}</p>}
    </div>
  );
}
