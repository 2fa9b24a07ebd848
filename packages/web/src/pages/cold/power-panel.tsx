import { Button, InputNumber } from 'antd';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import {
  judgeDraw,
  judgeIdleSource,
  type NamedShort,
  type PlanStep,
  type PowerPlan,
} from '@jiko/core/prepare';
import type { Board } from '@jiko/core/board';
import type { HealthyBoard } from '@jiko/core/expectations';
import { judgeCharge, makeReading, type Verdict, whyText } from '@jiko/core/readings';
import { liftedParts, type EventInput, type Job } from '@jiko/core/record';
import { cautionText } from '@jiko/core/safety';
import { formatAmps, formatVolts } from '@jiko/core/units';
import type { BenchState } from '../../data/bench-state.ts';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';

const adviceText: Record<PowerPlan['advice'], { word: string; tone: string }> = {
  'not-yet': { word: 'Do not power it yet: what was read stands in the way', tone: 'bad' },
  again: { word: 'Something on the way in reads wrong: measure it again', tone: 'bad' },
  stalls: { word: 'It will stop at a short further on', tone: 'warn' },
  blind: { word: 'Not all of the way in was measured', tone: 'warn' },
  go: { word: 'No short found where power goes first', tone: 'good' },
};

/** Shorts by name, what was and was not checked, and how to power the board; Jiko never says safe. */
export function PowerPanel({
  id,
  job,
  healthy,
  attached,
  plan,
  onBench,
  onRecord,
}: {
  id: string;
  job: Job;
  healthy: HealthyBoard;
  attached: readonly string[];
  plan: PowerPlan;
  onBench: (change: Partial<BenchState>) => void;
  onRecord: (...bodies: EventInput[]) => void;
}) {
  const navigate = useNavigate();
  const { word, tone } = plan.enoughFor
    ? {
        word: `Enough for a supply limited to ${formatAmps(plan.enoughFor.limitAmps)}, not for its adapter`,
        tone: 'good',
      }
    : adviceText[plan.advice];
  const { source, steps, before } = plan;
  const last = job.powered.findLast((one) => one.struck === null);
  const power = (): void => {
    const despite = [
      ...(plan.advice === 'go' ? [] : [adviceText[plan.advice].word]),
      ...plan.against,
    ].map((one) => one.slice(0, 300));
    onRecord({
      type: 'power',
      source: source.id,
      volts: source.volts,
      limitAmps: steps[0]?.limitAmps ?? null,
      despite,
    });
    onBench({ phase: 'standby', source: source.id });
    void navigate(`/jobs/${id}/trace`);
  };
  return (
    <section className="power" aria-label="Power-up plan">
      <div className={`advice tone-edge-${tone}`}>
        <h2 className={`tone-${tone}`}>{word}</h2>
        <Says plan={plan} />
      </div>
      {plan.shorts.map((one) => (
        <Short key={one.net} job={id} short={one} />
      ))}
      <h3>Power-up plan</h3>
      <p>
        <strong>{source.title}</strong>, {formatVolts(source.volts)}. {plan.why} {plan.where}
      </p>
      {before.map((one) => (
        <div key={one.title} className="plan-step">
          <strong>{one.title}</strong>
          <div className="quiet">{one.text}</div>
        </div>
      ))}
      <IdleSource source={plan.own} onRecord={onRecord} />
      {steps.map((step) => (
        <Step key={step.phase} step={step} plan={plan} onRecord={onRecord} />
      ))}
      <BatteryIn
        job={job}
        board={healthy.board}
        plan={plan}
        attached={attached}
        onRecord={onRecord}
      />
      {plan.openSafety.length > 0 && (
        <p className="quiet">
          Not noted on the door page:{' '}
          {plan.openSafety.map((one) => one.split(/[,:]/)[0]).join('; ')}.
        </p>
      )}
      <Button block type={plan.advice === 'go' ? 'primary' : 'default'} onClick={power}>
        {plan.advice === 'not-yet' || plan.advice === 'again'
          ? 'I power it all the same, by this plan'
          : plan.advice !== 'go'
            ? 'I power it, knowing what stands above'
            : 'I power it by this plan'}
      </Button>
      {last && (
        <p className="quiet">
          Powered before by {last.who}
          {last.body.despite.length > 0 ? `, knowing: ${last.body.despite.join(' ')}` : ''}
        </p>
      )}
    </section>
  );
}

function Says({ plan }: { plan: PowerPlan }) {
  const { clear, unmeasured, bridges, wrong } = plan;
  return (
    <ul className="says">
      {clear.length > 0 && (
        <li>
          No short found at{' '}
          <span className="mono">{clear.map((one) => `${one.net} ${one.read}`).join(', ')}</span>
        </li>
      )}
      {unmeasured.length > 0 && (
        <li className="tone-warn">
          Not measured: <span className="mono">{unmeasured.join(', ')}</span>
        </li>
      )}
      {wrong
        .filter((one) => !plan.shorts.some((short) => short.nets.some((net) => net === one.net)))
        .map((one) => (
          <li key={one.net}>
            <span className="mono">
              {one.net} {one.read}
            </span>
            : {one.why}
          </li>
        ))}
      {bridges.map((one) => (
        <li key={one.part}>
          {one.part}, {one.read}: {one.why}
        </li>
      ))}
    </ul>
  );
}

function Short({ job, short }: { job: string; short: NamedShort }) {
  return (
    <div className="short">
      <h3>
        Short on <span className="mono">{short.nets.join(', ')}</span>: {short.read}
      </h3>
      <p>{short.why}</p>
      {short.fedBy && (
        <p>
          Fed by <strong>{short.fedBy}</strong>.
        </p>
      )}
      {short.hangs.length > 0 && (
        <p className="quiet">
          Between it and ground: {short.hangs.slice(0, 12).join(', ')}
          {short.hangs.length > 12 ? ` and ${short.hangs.length - 12} more` : ''}.
        </p>
      )}
      <p>
        {short.how}{' '}
        <Link to={`/jobs/${job}/stage?net=${encodeURIComponent(short.net)}&show=short`}>
          Hunt it
        </Link>
      </p>
    </div>
  );
}

function IdleSource({
  source,
  onRecord,
}: {
  source: PowerPlan['own'];
  onRecord: (...bodies: EventInput[]) => void;
}) {
  const [verdict, setVerdict] = useState<Verdict | null>(null);
  if (source.kind !== 'adapter' && source.kind !== 'usb-c') return null;
  return (
    <Asked
      label={`${source.title} unplugged reads`}
      suffix="V"
      verdict={verdict}
      onValue={(volts) => {
        const next = judgeIdleSource(source, volts);
        setVerdict(next);
        onRecord({ type: 'note', text: `${source.title}: ${whyText(next)} (${next.kind})` });
      }}
    />
  );
}

/** Supply and battery together: the one current that must never surprise, and what the source has to give. */
function BatteryIn({
  job,
  board,
  plan: { withBattery, source, cannotShow },
  attached,
  onRecord,
}: {
  job: Job;
  board: Board;
  plan: PowerPlan;
  attached: readonly string[];
  onRecord: (...bodies: EventInput[]) => void;
}) {
  const [verdict, setVerdict] = useState<Verdict | null>(null);
  if (!withBattery) return null;
  const { charge, net, drawAmps, leastLimitAmps, isGuess, formula } = withBattery;
  const battery = board.sources.find((one) => one.kind === 'battery');
  const plugged = [...new Set([...attached, battery?.on ?? 'battery'])];
  const about = (amps: number): string => formatAmps(Number(amps.toPrecision(2)));
  const keep = (amps: number): void => {
    const next = judgeCharge(amps, charge);
    setVerdict(next);
    const made =
      net &&
      makeReading(
        board,
        { at: { net, part: null, pin: null }, mode: 'amps', text: String(amps) },
        {
          phase: 'standby',
          source: source.id,
          attached: plugged,
          lifted: liftedParts(job),
          supply: { volts: source.volts, limitAmps: null },
        },
      );
    onRecord(
      made && made.ok
        ? { type: 'reading', supersedes: [], reading: made.value }
        : { type: 'note', text: `Into the battery: ${whyText(next)}` },
    );
  };
  return (
    <div className="plan-step">
      <strong>
        Battery in beside the source: at most {formatAmps(charge.amps)}
        {charge.isGuess ? ' (a guess)' : ''}
      </strong>{' '}
      {source.kind === 'bench' && (
        <span className="limit">
          limit <b>{formatAmps(leastLimitAmps)}</b> or more
        </span>
      )}
      <div className="quiet">
        {charge.prechargeAmps === null
          ? 'A little first, then the full current.'
          : `About ${about(charge.prechargeAmps)} first, then up to it.`}{' '}
        Running, the source gives about {about(drawAmps.precharge)}, later {about(drawAmps.full)}
        {isGuess ? ' (guesses)' : ''}: {formula}. A supply set to less sags, and that looks like a
        fault.
      </div>
      <div className="caution-line" role="note">
        <strong>Caution. </strong>
        {cautionText('charge', { chargeLimit: formatAmps(charge.amps) })}
      </div>
      <Asked label="Into the battery flow" suffix="A" verdict={verdict} onValue={keep} />
      {cannotShow.length > 0 && (
        <details>
          <summary>What this supply cannot show, and is no fault of the board</summary>
          <ul>
            {cannotShow.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function Step({
  step,
  plan,
  onRecord,
}: {
  step: PlanStep;
  plan: PowerPlan;
  onRecord: (...bodies: EventInput[]) => void;
}) {
  const [verdict, setVerdict] = useState<Verdict | null>(null);
  const about = formatAmps(Number(step.amps.toPrecision(2)));
  return (
    <div className="plan-step">
      <strong>
        {step.title}
        {step.isGuess ? `: ${about} by a guess` : `: about ${about}`}
      </strong>{' '}
      {plan.source.kind === 'bench' && (
        <span className="limit">
          limit <b>{formatAmps(step.limitAmps)}</b>
        </span>
      )}
      <div className="quiet">
        <em>More:</em> {step.more}
      </div>
      <div className="quiet">
        <em>Less:</em> {step.less}
      </div>
      <Asked
        label={`${step.title}: it draws`}
        suffix="A"
        verdict={verdict}
        onValue={(amps) => {
          setVerdict(judgeDraw(step, amps));
          onRecord({
            type: 'sign',
            phase: step.phase,
            drawAmps: amps,
            drawShape: 'steady',
            source: {
              id: plan.source.id,
              volts: step.volts,
              limitAmps: plan.source.kind === 'bench' ? step.limitAmps : null,
            },
            text: '',
          });
        }}
      />
    </div>
  );
}

function Asked({
  label,
  suffix,
  verdict,
  onValue,
}: {
  label: string;
  suffix: string;
  verdict: Verdict | null;
  onValue: (value: number) => void;
}) {
  const [value, setValue] = useState<number | null>(null);
  const take = (): void => {
    if (value === null) return;
    onValue(value);
    setValue(null);
  };
  return (
    <div className="asked">
      <InputNumber
        aria-label={label}
        min={0}
        value={value}
        onChange={setValue}
        onPressEnter={take}
        suffix={suffix}
        placeholder="read"
        style={{ width: 120 }}
      />
      <Button size="small" onClick={take}>
        Keep
      </Button>
      {verdict && (
        <div>
          <VerdictMark kind={verdict.kind} /> {whyText(verdict)}
        </div>
      )}
    </div>
  );
}
