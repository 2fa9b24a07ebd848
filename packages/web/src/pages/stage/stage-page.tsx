import { useQuery } from '@tanstack/react-query';
import { Segmented, Select } from 'antd';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { findNet, netOf, type NetId } from '@jiko/core/board';
import type { HealthyBoard } from '@jiko/core/expectations';
import type { Mode, Phase } from '@jiko/core/readings';
import { goneParts, liftedParts, type EventInput } from '@jiko/core/record';
import { jobOfHunt, splitNets } from '@jiko/core/short-hunt';
import {
  checkPart,
  chipBehind,
  fourQuestions,
  lowNetAt,
  partsAround,
  pinTable,
  wayBack,
  type PinRow,
} from '@jiko/core/taking-apart';
import { phaseFor, statusOf, type Trace } from '@jiko/core/trace';
import { useBench } from '../../data/bench.ts';
import { huntQuery } from '../../data/plays.ts';
import { useHabits } from '../../data/habits.ts';
import { jobSheetQuery } from '../../data/queries.ts';
import { record } from '../../offline/outbox.ts';
import { BenchStrip } from '../../widgets/bench-strip.tsx';
import { withJob, type JobViewProps } from '../../widgets/with-job.tsx';
import { CheckPanel, TracePanel } from './check-panel.tsx';
import { PinsPanel } from './pins-panel.tsx';
import { LowNetPanel, QuestionsPanel, WayBack } from './questions-panel.tsx';
import { ReadCard } from '../../widgets/reading/read-card.tsx';
import { ShortPanel, type Setting } from './short-panel.tsx';
import {
  netTarget,
  pinTarget,
  readAt,
  stepTarget,
  type Target,
} from '../../widgets/reading/target.ts';
import { TherePanel } from './there-panel.tsx';
import './stage.css';

const views = ['pins', 'there', 'check', 'short'] as const;
type View = (typeof views)[number];
const viewText: Record<View, string> = {
  pins: 'Pins',
  there: 'What is there',
  check: 'Check a part',
  short: 'Short',
};

/** The missing stage taken apart: what it needs, its pins, its parts, and the short on its rail. */
export const StagePage = withJob(StageView);

/** The net that is asked about where nobody chose one: the one that is missing, else the next unread. */
function usualNet(trace: Trace): NetId | null {
  const missing = trace.firstMissing?.net;
  if (missing) return missing;
  const open = trace.stages.find((one) => one.state !== 'up' && one.state !== 'enough');
  return open?.nets[0]?.net ?? trace.stages[0]?.nets[0]?.net ?? null;
}

function StageView({ id, job, healthy, trace, bench, onBench }: JobViewProps) {
  const { board } = healthy;
  const { who } = useBench();
  const [params, setParams] = useSearchParams();
  const usual = usualNet(trace);
  const net = findNet(board, params.get('net') ?? '')?.id ?? usual;
  const from = findNet(board, params.get('from') ?? '')?.id ?? net;
  const shown = views.find((one) => one === params.get('show'));
  const [chosenChip, setChip] = useState<string | null>(null);
  const [part, setPart] = useState<string | null>(null);
  const [isCold, setCold] = useState(true);
  const [ends, setEnds] = useState<[string, string] | null>(null);
  const [picked, setPicked] = useState<Target | null>(null);
  const [seen, setSeen] = useState<string | null>(null);
  const [asked, setAsked] = useState<Setting | undefined>(undefined);
  const gone = useMemo(() => goneParts(job), [job]);
  const lifted = useMemo(() => liftedParts(job), [job]);
  const sheet = useQuery(jobSheetQuery(job));
  const habits = useHabits(board);

  const keep = (...bodies: EventInput[]): string[] => record(id, who, bodies);
  const show = (change: { [name: string]: string | null }): void => {
    const next = new URLSearchParams(params);
    for (const [name, value] of Object.entries(change))
      if (value === null) next.delete(name);
      else next.set(name, value);
    setParams(next, { replace: true });
  };

  const questions = useMemo(
    () => (net === null ? null : fourQuestions(healthy, trace.readings, net)),
    [healthy, trace.readings, net],
  );
  const isDown = questions?.questions.some((one) => one.kind === 'output' && one.answer === 'no');
  const low = useMemo(
    () => (net === null ? null : lowNetAt(healthy, trace.readings, net)),
    [healthy, trace.readings, net],
  );
  const view: View = shown ?? (isDown ? 'short' : low ? 'check' : 'pins');
  const back = useMemo(
    () => (from === null ? [] : wayBack(healthy, trace.readings, from)),
    [healthy, trace.readings, from],
  );

  const chips = board.chips.filter((one) => !one.virtual && one.fitted);
  const chip =
    chosenChip ?? (net === null ? null : chipBehind(healthy, net)) ?? chips[0]?.ref ?? null;
  const powered: Phase = bench.phase === 'cold' ? 'standby' : bench.phase;
  const [mode, phase] = isCold ? (['ohms', 'cold'] as const) : (['volts', powered] as const);
  const rows = usePins(healthy, trace, chip ?? '', mode, phase);
  const suspect = low?.explains.find((one) => one.ref !== null)?.ref ?? null;
  const checked = part ?? suspect;
  const check = checked === null ? null : checkPart(healthy, checked);
  const around = useMemo(
    () => (net === null ? [] : partsAround(healthy, job, net)),
    [healthy, job, net],
  );
  const status = net === null ? null : statusOf(trace.readings, net, phaseFor(healthy, net));
  const value = status === null || status.kind === 'unread' ? null : status.reading.reading.value;
  const read = value?.kind === 'number' ? value.value : null;
  const hunt = useQuery({
    ...huntQuery(
      sheet.data,
      { source: bench.source, attached: bench.attached },
      { job: jobOfHunt(job), net: net ?? board.ground, habits, asked, read },
    ),
    enabled: sheet.data !== undefined && view === 'short' && net !== null,
  });

  const targets: Target[] =
    net === null
      ? []
      : view === 'pins'
        ? rows.map((row) => pinTarget(board, chip!, row, mode, phase))
        : view === 'check'
          ? (check?.steps.map((step) => stepTarget(check.ref, step)) ?? [])
          : view === 'short'
            ? [net, ...splitNets(board, lifted, net)].map((one) =>
                netTarget(healthy, gone, { net: one, mode: 'ohms', phase: 'cold' }),
              )
            : [];
  const open = questions?.questions
    .flatMap((one) => one.nets)
    .find((one) => one.ask !== null && targets.length === 0)?.ask;
  const target =
    picked ??
    targets.find((one) => readAt(trace, one, lifted) === null) ??
    targets[0] ??
    (open ? netTarget(healthy, gone, open) : null);
  const step = (by: 1 | -1): void => {
    const at = targets.findIndex((one) => one.key === target?.key);
    // What was picked beside the list is done: back to it.
    setPicked(at < 0 ? null : (targets[(at + by + targets.length) % targets.length] ?? null));
  };

  if (net === null || questions === null)
    return <p className="column">The sheet of this board has no stages yet.</p>;
  return (
    <div className="stage">
      <section className="asked-about" aria-label="What is missing">
        <Select
          aria-label="Net to take apart"
          style={{ width: '100%' }}
          value={net as string}
          showSearch={{ optionFilterProp: 'label' }}
          onChange={(next: string) => {
            setPicked(null);
            setChip(null);
            setAsked(undefined);
            show({ net: next, from: null, show: null });
          }}
          options={board.nets
            .filter((one) => one.id !== board.ground)
            .map((one) => ({
              value: one.id as string,
              label: `${one.id}${one.title ? ` · ${one.title}` : ''}${one.id === usual && trace.firstMissing ? ' · missing' : ''}`,
            }))}
        />
        <h1>
          {net}
          <small className="quiet">
            {' '}
            {netOf(board, net).title || healthy.stageOfNet(net)?.title}
          </small>
        </h1>
        <p className="verdict-line" role="status">
          {questions.verdict}
        </p>
        <WayBack
          steps={back}
          here={net}
          onGo={(next) => {
            setPicked(null);
            setChip(null);
            show({ net: next, from });
          }}
        />
        {low && (
          <LowNetPanel
            low={low}
            onCheck={(ref) => {
              setPart(ref);
              setPicked(null);
              show({ show: 'check' });
            }}
          />
        )}
        <QuestionsPanel
          asked={questions}
          here={target?.at.net ?? null}
          onAsk={(need, kind) => {
            const known = questions.questions.find((one) => one.kind === kind);
            const answer = known?.nets.find((one) => one.net === need);
            // A need that is low is gone back to; another one is read.
            if (answer?.answer === 'no' && kind !== 'output') {
              setChip(null);
              show({ net: need, from, show: null });
              return;
            }
            setPicked(
              netTarget(healthy, gone, {
                net: need,
                mode: kind === 'output' ? 'ohms' : 'volts',
                phase: kind === 'output' ? 'cold' : phaseFor(healthy, need),
              }),
            );
          }}
          onHunt={() => show({ show: 'short' })}
        />
      </section>
      <section className="taken-apart" aria-label="Taken apart">
        {target && (
          <ReadCard
            board={board}
            job={job}
            trace={trace}
            bench={bench}
            target={target}
            place={targets.findIndex((one) => one.key === target.key) + 1}
            of={targets.length}
            onStep={step}
            onPhase={(next) => onBench({ phase: next })}
            onRecord={(body) => keep(body)}
          />
        )}
        <Segmented<View>
          aria-label="View of the stage"
          value={view}
          onChange={(next) => {
            setPicked(null);
            show({ show: next });
          }}
          options={views.map((one) => ({ value: one, label: viewText[one] }))}
        />
        <div className="panel">
          {view === 'pins' && (
            <PinsPanel
              healthy={healthy}
              gone={gone}
              chips={chips.map((one) => one.ref)}
              chip={chip}
              rows={rows}
              isCold={isCold}
              target={target}
              onChip={(ref) => {
                setChip(ref);
                setPicked(null);
              }}
              onCold={(next) => {
                setCold(next);
                setPicked(null);
              }}
              onPick={(row) => chip && setPicked(pinTarget(board, chip, row, mode, phase))}
              onPad={(on, ref, pin) =>
                setPicked({
                  ...netTarget(healthy, gone, { net: on, mode, phase }),
                  key: `${ref} ${pin} ${mode} ${phase}`,
                  at: { net: on, part: ref, pin },
                  where: `${ref} pin ${pin}`,
                })
              }
            />
          )}
          {view === 'there' && (
            <TherePanel
              parts={around}
              here={seen}
              onHere={setSeen}
              onRecord={(body) => keep(body)}
            />
          )}
          {view === 'check' && (
            <>
              <CheckPanel
                healthy={healthy}
                trace={trace}
                lifted={lifted}
                check={check}
                part={checked}
                target={target}
                onPart={(ref) => {
                  setPart(ref);
                  setPicked(null);
                }}
                onPick={setPicked}
              />
              <TracePanel
                healthy={healthy}
                net={net}
                ends={ends}
                onEnds={setEnds}
                target={target}
                trace={trace}
                lifted={lifted}
                onPick={setPicked}
              />
            </>
          )}
          {view === 'short' &&
            // While another rail is being played, the last one's answer is not this one's.
            (hunt.data?.hunt.net === net ? (
              <ShortPanel
                board={board}
                job={job}
                hunt={hunt.data.hunt}
                live={hunt.data.live}
                isWorking={hunt.isFetching}
                asked={asked}
                onAsked={setAsked}
                onRead={(on) => {
                  setPicked(netTarget(healthy, gone, { net: on, mode: 'ohms', phase: 'cold' }));
                  // The point may be the one that stands there already: the keys go to its line all the same.
                  document.querySelector<HTMLElement>('.probe.is-stage .entry input')?.focus();
                }}
                onRecord={keep}
              />
            ) : (
              <p className="quiet">
                {hunt.error
                  ? `It could not be played: ${hunt.error.message}`
                  : 'Playing what an injection would do…'}
              </p>
            ))}
        </div>
      </section>
      <BenchStrip
        board={board}
        state={bench}
        onChange={onBench}
        onNote={(text) => keep({ type: 'note', text })}
      />
    </div>
  );
}

/** Cold expectations are solved for each pin: not with every key typed. */
function usePins(
  healthy: HealthyBoard,
  { readings }: Trace,
  chip: string,
  mode: Mode,
  phase: Phase,
): PinRow[] {
  return useMemo(
    () => pinTable(healthy, readings, chip, mode, phase),
    [healthy, readings, chip, mode, phase],
  );
}
