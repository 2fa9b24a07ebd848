import { useEffect, useMemo, useReducer, useState } from 'react';
import { flushSync } from 'react-dom';
import { useNavigate, useSearchParams } from 'react-router';
import { findNet, goalTitle, netOf, type NetId } from '@jiko/core/board';
import { nextStep, type BenchAction } from '@jiko/core/diagnosis';
import type { HealthyBoard } from '@jiko/core/expectations';
import { neighbourhoodOf, probePlace } from '@jiko/core/trace';
import {
  askOnce,
  makeReading,
  modes,
  oddReading,
  otherMoment,
  phases,
  readingText,
} from '@jiko/core/readings';
import { liftedParts, type EventInput } from '@jiko/core/record';

import { useBench } from '../../data/bench.ts';
import { BenchStrip } from '../../widgets/bench-strip.tsx';
import { withJob, type JobViewProps } from '../../widgets/with-job.tsx';
import { useSheetEditing } from '../../data/sheet-edit.ts';
import { useJobDiagnosis } from '../../data/job-diagnosis.ts';
import { setSounds, useSounds } from '../../data/sounds.ts';
import { takenBack } from '../../data/taken-back.ts';
import { record } from '../../offline/outbox.ts';
import { BesideBar, BesidePages } from './beside.tsx';
import { useHeard } from './heard.ts';
import { Jot, type JotKind } from './jot/jot.tsx';
import { Done } from './done-card.tsx';
import type { Command } from './keys.ts';
import { KeysHelp } from './keys-help.tsx';
import { Ladder } from './ladder.tsx';
import { MissingPanel } from './missing-panel.tsx';
import { ShortGone } from './short-gone.tsx';
import { NamingPanel } from './naming-panel.tsx';
import { NarrowPanel } from './narrow-panel.tsx';
import { NewerSheet } from './newer-sheet.tsx';
import { drawNeighbourhood, netBeside } from './neighbourhood-layout.ts';
import { NeighbourhoodView } from './neighbourhood.tsx';
import { ProbeCard, type ProbeView } from './probe-card.tsx';
import { keepDraft, keptDraft, ownNow, pageState, pointNow, type Own } from './page-state.ts';
import { echoOf, viewMeanwhile, viewOf, viewOfProposal } from './probe-view.ts';
import { ReadingsTable } from './readings-table.tsx';
import { schools, useSchool } from './school.ts';
import { useShownBeside } from './shown-beside.ts';
import { SuspectsPanel } from './suspects-panel.tsx';
import '../../widgets/probe.css';
import '../../widgets/readings.css';
import './trace.css';
import './beside.css';

export const TracePage = withJob(TraceView);

function TraceView(view: JobViewProps) {
  const { id, job, healthy, trace, bench, onBench } = view;
  const { board } = healthy;
  const { who } = useBench();
  const navigate = useNavigate();
  // Another page may have sent a point of one's own along.
  const [sent, setSent] = useSearchParams();
  const [state, act] = useReducer(pageState, null, () => ({
    ...keptDraft(id, ({ net }) => board.nets.some((one) => one.id === net)),
    coming: sent.get('point'),
  }));
  const { text, said } = state;
  // What was sent along is taken once: sent again, while this page is open, it is taken again.
  const point = sent.get('point');
  useEffect(() => {
    if (point === null) return;
    if (state.coming !== point) act({ do: 'await', point });
    setSent({}, { replace: true });
  }, [point, state.coming, setSent]);
  // The sheet may have grown since they were chosen.
  const isCold = bench.phase === 'cold';
  const own = useMemo(() => ownNow(board, state, isCold), [board, state, isCold]);
  // What is typed belongs to the point it was begun at, and a search for another one ends where it began.
  const begun = useMemo(
    () => pointNow(board, state.begun ?? state.held),
    [board, state.begun, state.held],
  );
  const isComing = state.coming !== null && own === null;
  const typedFor = state.begun ?? (state.coming === null ? null : own);
  useEffect(() => keepDraft(id, { text, begun: typedFor }), [id, text, typedFor]);
  const choose = (next: Own | null): void => act({ do: 'choose', own: next, anchor });
  const keep = (body: EventInput): void => {
    record(id, who, [body]);
  };
  const pick = (
    net: NetId,
    {
      mode = isCold ? 'ohms' : 'volts',
      supersedes = [],
      reference = null,
      pin = null,
    }: Partial<Omit<Own, 'net'>> = {},
  ): void => choose({ net, pin, reference, mode, supersedes });

  const editing = useSheetEditing(job, (hash) => keep({ type: 'sheet', hash }));
  const isUnnamed = (net: NetId): boolean => netOf(board, net).isUnnamed;
  const newPoint = async (title: string): Promise<void> => {
    const made = await editing.edit({ do: 'add-point', title, net: null });
    if (made === null)
      act({
        do: 'say',
        said: { kind: 'trouble', text: 'The point could not be made: see Sheet.' },
      });
    else act({ do: 'await', point: made });
  };
  const [school, setSchool] = useSchool();
  const { making, note, also, diagnosis, before, isWeighing, evidence } = useJobDiagnosis(view);
  // In order, what tells most is asked only once every fault was played: there is no hurry then.
  const isBegun = school === 'walk' && making.state === 'working';
  const step = nextStep(board, trace, diagnosis, school, evidence.findings, isBegun);
  const isWorking = isWeighing || making.state === 'working';
  const asked = own
    ? viewOf(healthy, trace, own, bench.phase)
    : step.kind === 'telling' && diagnosis
      ? viewOfProposal(healthy, step.proposal, diagnosis, step.finding)
      : step.kind === 'in-order'
        ? viewOf(healthy, trace, null, bench.phase)
        : step.kind === 'nothing' && isWorking
          ? viewMeanwhile(healthy, trace, bench.phase)
          : null;
  // Whatever is proposed meanwhile.
  const isAsked =
    begun !== null &&
    asked !== null &&
    begun.net === asked.net &&
    begun.mode === asked.mode &&
    begun.reference === asked.reference;
  const probe =
    begun && !isAsked
      ? viewOf(healthy, trace, { ...begun, supersedes: own?.supersedes ?? [] }, bench.phase)
      : asked;
  const setText = (next: string): void => act({ do: 'type', text: next, asked: probe });
  useHeard(trace, probe, isWeighing);
  const sounds = useSounds();
  const typed = echoOf(text, probe, bench.phase);
  const [jot, setJot] = useState<{ kind: JotKind; by: 'key' | 'pointer'; parts?: string[] }>({
    kind: 'note',
    by: 'pointer',
  });
  const [keysShown, showKeys] = useState(false);
  useEffect(() => {
    // Before the page around asks for its own list.
    const ask = (event: KeyboardEvent): void => {
      if (event.key !== 'F1') return;
      event.preventDefault();
      showKeys(true);
    };
    window.addEventListener('keydown', ask, true);
    return () => window.removeEventListener('keydown', ask, true);
  }, []);
  const [besideIs, showBeside] = useShownBeside();

  // The drawing stays while one's own choice moves about in it, and follows the proposal else.
  const around = state.anchor === null ? null : (findNet(board, state.anchor)?.id ?? null);
  const kept = useMemo(() => drawnAround(healthy, around), [healthy, around]);
  const isKept = own !== null && kept?.nets.some((one) => one.net === own.net);
  const anchor = probe && isKept ? around : (probe?.net ?? null);
  const drawing = useMemo(
    () => (anchor === around ? kept : drawnAround(healthy, anchor)),
    [healthy, anchor, around, kept],
  );

  // After a record, what must happen on the bench before the next one is said along with it.
  const echo =
    said?.kind === 'recorded' && typed.kind === 'trouble'
      ? { kind: 'trouble' as const, text: `${said.text} ${typed.text}` }
      : (said ?? typed);

  const enter = (): void => {
    if (!probe || text.trim() === '') return;
    if (isComing)
      return act({ do: 'refuse', text: 'The new point is still on its way; Esc lets go of it.' });
    const other = otherMoment(probe, bench.phase);
    const phase = other?.phase ?? bench.phase;
    const { part, pin } = probe.pin ?? probePlace(board, probe.net);
    const made = makeReading(
      board,
      {
        at: { net: probe.net, part, pin },
        reference: probe.reference ? { net: probe.reference, part: null, pin: null } : null,
        mode: probe.mode,
        text,
      },
      {
        phase,
        source: bench.source,
        attached: bench.attached,
        lifted: liftedParts(job),
      },
    );
    if (!made.ok) return act({ do: 'refuse', text: made.error.join(' ') });
    const odd = oddReading(board, made.value);
    const moment = JSON.stringify([
      probe.net,
      probe.reference,
      probe.mode,
      bench.phase,
      odd === null ? '' : text,
    ]);
    if ((other || odd !== null) && state.asked !== moment)
      return act({ do: 'ask', of: moment, text: askOnce(other, odd) });
    if (other) onBench({ phase });
    const supersedes = own ? own.supersedes : step.kind === 'in-order' ? step.probe.decides : [];
    keep({ type: 'reading', reading: made.value, supersedes });
    act({
      do: 'record',
      text: `Recorded ${probe.net}${probe.reference ? ` against ${probe.reference}` : ''}: ${readingText(made.value)} in ${phase}.`,
    });
  };

  const goAlong = (by: 1 | -1): void => {
    const nets = trace.stages.flatMap((one) => one.stage.gives);
    const at = probe ? nets.indexOf(probe.net) : -1;
    const next = nets[(at + by + nets.length) % nets.length];
    if (next) pick(next);
  };
  const undo = (): void => {
    const last = trace.readings.findLast((one) => one.standing.kind === 'stands');
    if (!last) return;
    keep({ type: 'strike', event: last.id, reason: 'taken back' });
    act({ do: 'say', said: { kind: 'recorded', text: `Struck out ${last.reading.at.net}.` } });
  };

  /** Something proposed was done: it is in the record, the strip says so, and what to read is asked. */
  const didIt = ({ kind, what, then }: BenchAction): void => {
    if (kind === 'feed' || then === null) {
      void navigate(`/jobs/${id}/stage?net=${encodeURIComponent(what)}&show=short`);
      return;
    }
    if (kind === 'lift')
      keep({ type: 'repair', action: 'removed', parts: [what], text: 'taken off to see' });
    onBench(
      kind === 'lift'
        ? { phase: 'cold' }
        : { attached: bench.attached.filter((one) => one !== what) },
    );
    pick(then.net, { mode: then.mode });
  };
  const tellMost = (): void => {
    const best = diagnosis?.next ?? [];
    const at = own
      ? best.findIndex(
          (one) => one.net === own.net && one.mode === own.mode && one.reference === own.reference,
        )
      : -1;
    const next = best[(at + 1) % Math.min(best.length, 3)];
    if (next) pick(next.net, { mode: next.mode, reference: next.reference });
  };
  const focus = (selector: string): void =>
    document.querySelector<HTMLElement>(`.strip ${selector}`)?.focus();
  const beside = (direction: 'left' | 'right' | 'up' | 'down'): void => {
    const next = drawing && probe && netBeside(drawing, probe.net, direction);
    if (next) pick(next);
  };
  const writeDown = (kind: JotKind): void => setJot({ kind, by: 'key' });
  const nextOf = <T,>(all: readonly T[], one: T): T => all[(all.indexOf(one) + 1) % all.length]!;
  const toggleSounds = (): void => {
    const on = !(sounds.tone || sounds.words);
    setSounds({ tone: on, words: on });
    const heard = on ? 'Tone and words are on.' : 'Tone and words are off.';
    act({ do: 'say', said: { kind: 'recorded', text: heard } });
  };
  const commands: Record<Command, () => void> = {
    record: enter,
    back: () => (text === '' ? choose(null) : setText('')),
    mode: () =>
      probe && choose({ ...ownOf(probe, own), mode: nextOf(modes.slice(0, 5), probe.mode) }),
    undo,
    'stage-before': () => goAlong(-1),
    'stage-after': () => goAlong(1),
    left: () => beside('left'),
    right: () => beside('right'),
    up: () => beside('up'),
    down: () => beside('down'),
    // These two the card of a point does itself; where there is none, one is shown first.
    'any-point': () => {
      flushSync(() => goAlong(1));
      document.querySelector<HTMLElement>('.probe .points input')?.focus();
    },
    'black-lead': () => undefined,
    'tells-most': tellMost,
    schematic: () => showBeside(besideIs === 'ladder' ? 'schematic' : 'ladder'),
    school: () => setSchool(nextOf(schools, school)),
    phase: () => onBench({ phase: nextOf(phases, bench.phase) }),
    source: () => focus('.ant-select input'),
    attached: () => focus('input[type=checkbox]'),
    sounds: toggleSounds,
    note: () => writeDown('note'),
    done: () => writeDown('done'),
    seen: () => writeDown('seen'),
    found: () => writeDown('found'),
    picture: () => writeDown('picture'),
    sheet: () => writeDown('sheet'),
    list: () => {
      if (text === '?') setText('');
      showKeys(true);
    },
  };

  return (
    <div className={`trace is-${besideIs}`}>
      {besideIs === 'ladder' ? (
        <Ladder trace={trace} here={probe?.net ?? null} onPick={(net) => pick(net)} />
      ) : (
        <BesidePages
          healthy={healthy}
          trace={trace}
          phase={bench.phase}
          here={probe?.net ?? null}
          onPick={(net, pin) => pick(net, { pin })}
        />
      )}
      <section className="bench" aria-label="Probe">
        {/* The step itself says it as soon as the suspects are weighed. */}
        {!(step.kind === 'test' && step.because === 'went') && <ShortGone gone={trace.shortGone} />}
        {probe ? (
          <ProbeCard
            board={board}
            probe={probe}
            step={step.kind}
            text={text}
            echo={echo}
            isWeighing={isWeighing && step.kind === 'telling' && !own}
            onText={setText}
            onSearch={(is) => act({ do: 'hold', point: is ? probe : null })}
            onPick={(net, pin) => pick(net, { pin })}
            onNewPoint={(title) => void newPoint(title)}
            onMode={(mode) => choose({ ...ownOf(probe, own), mode })}
            onReference={(reference) => choose({ ...ownOf(probe, own), reference })}
            onCommand={(command) => commands[command]()}
          />
        ) : (
          <Done
            board={board}
            step={step}
            goal={goalTitle(board, job.intake?.goal ?? '')}
            isChecked={job.verified.some(
              ({ body, beforeRepair }) =>
                !beforeRepair && body.item === 'goal' && body.result === 'passed',
            )}
            isWeighing={
              isWeighing ||
              making.state === 'working' ||
              // Not asked yet: what is kept is being looked for.
              (diagnosis === null && making.state !== 'failed')
            }
            onPick={() => goAlong(1)}
            onDone={(parts) => setJot({ kind: 'done', by: 'key', parts })}
            onRecord={keep}
            onTakeBack={(thing) => record(id, who, takenBack(view.events, thing))}
            onCommand={(command) => commands[command]()}
          />
        )}
        {probe && isUnnamed(probe.net) && (
          <NamingPanel
            healthy={healthy}
            job={job}
            net={probe.net}
            editing={editing}
            onAsk={({ mode, phase, against }) => {
              if (phase !== bench.phase) onBench({ phase });
              pick(probe.net, {
                mode,
                reference: against,
                pin: { part: probe.net, pin: null },
              });
            }}
          />
        )}
        <BesideBar
          job={id}
          board={board}
          here={probe?.net ?? null}
          shown={besideIs}
          onShown={showBeside}
          onPick={(net, pin) => pick(net, { pin })}
        />
        {drawing && (
          <NeighbourhoodView
            drawing={drawing}
            healthy={healthy}
            trace={trace}
            phase={bench.phase}
            here={probe?.net ?? null}
            onPick={(net) => pick(net)}
          />
        )}
        <ReadingsTable
          readings={trace.readings}
          onStrike={(event, reason) => {
            keep({ type: 'strike', event, reason });
            // What had the keys goes with the line.
            document.querySelector<HTMLElement>('.probe .entry input')?.focus();
          }}
          onAgain={({ id: old, reading: { at, mode, reference } }) =>
            pick(at.net as NetId, {
              mode,
              supersedes: [old],
              reference: (reference?.net ?? null) as NetId | null,
              pin: at.part !== null ? { part: at.part, pin: at.pin } : null,
            })
          }
        />
      </section>
      <section className="side" aria-label="What is missing">
        {/* Past the rails no suspect is worth more than what is tried there. */}
        {trace.lacking && <MissingPanel trace={trace} onPick={(net) => pick(net)} />}
        <SuspectsPanel
          board={board}
          making={making}
          note={note}
          also={also}
          diagnosis={diagnosis}
          isWeighing={isWeighing}
          before={before}
          trace={trace}
          school={school}
          onSchool={setSchool}
          onPick={({ net, mode, reference }) => pick(net, { mode, reference })}
          onDone={didIt}
        />
        {!trace.lacking && <MissingPanel trace={trace} onPick={(net) => pick(net)} />}
        <NewerSheet
          healthy={healthy}
          job={job}
          trace={trace}
          onMove={(hash) => keep({ type: 'sheet', hash })}
        />
        <NarrowPanel board={board} job={job} editing={editing} />
        <Jot
          kind={jot}
          onKind={(kind) => setJot({ kind, by: 'pointer' })}
          job={id}
          board={board}
          phase={bench.phase}
          editing={editing}
          onRecord={keep}
        />
      </section>
      <BenchStrip
        board={board}
        state={bench}
        onChange={onBench}
        onNote={(text) => keep({ type: 'note', text })}
        onKeys={() => showKeys(true)}
      />
      <KeysHelp isOpen={keysShown} onClose={() => showKeys(false)} />
    </div>
  );
}

/** The point on the card as a choice of one's own. */
const ownOf = ({ net, pin, reference, mode }: ProbeView, own: Own | null): Own => ({
  net,
  pin,
  reference,
  mode,
  supersedes: own?.supersedes ?? [],
});

const drawnAround = (healthy: HealthyBoard, net: NetId | null) =>
  net === null ? null : drawNeighbourhood(neighbourhoodOf(healthy, net));
