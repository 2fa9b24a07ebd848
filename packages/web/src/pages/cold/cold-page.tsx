import { Segmented } from 'antd';
import { useMemo, useState } from 'react';
import { z } from 'zod';
import type { JudgedReading, Trace } from '@jiko/core/trace';
import { lastCold, leadOhms, makeSweep, openSteps, powerPlan, shortList } from '@jiko/core/prepare';
import { makeReading, readingText } from '@jiko/core/readings';
import { cautionText } from '@jiko/core/safety';
import { goneParts, liftedParts, type EventInput } from '@jiko/core/record';
import { useBench } from '../../data/bench.ts';
import { keptText, useKept } from '../../data/kept.ts';
import { useSheetEditing } from '../../data/sheet-edit.ts';
import { record } from '../../offline/outbox.ts';
import { PlaysAhead } from '../../widgets/plays-ahead.tsx';
import { withJob, type JobViewProps } from '../../widgets/with-job.tsx';
import { PastePanel } from './paste-panel.tsx';
import { PowerPanel } from './power-panel.tsx';
import { SweepEntry } from './sweep-entry.tsx';
import { SweepList } from './sweep-list.tsx';
import '../../widgets/probe.css';
import './cold.css';

/** The sweep of the unpowered board, and whether and how to power it afterwards. */
export const ColdPage = withJob(ColdView);

/** The few points before a supply with a limit, or all of the sweep; each bench keeps its own habit. */
const listSchema = z.enum(['few', 'whole']);

/** The reading that stands at each point of the sweep. */
function readAt(trace: Trace): Map<string, JudgedReading> {
  return new Map(
    lastCold(trace.readings).map((one) => {
      const { at, reference, mode } = one.reading;
      return [`${at.net} ${reference?.net ?? ''} ${mode}`, one];
    }),
  );
}

function ColdView(view: JobViewProps) {
  const { id, job, healthy, trace, bench, onBench } = view;
  const { board } = healthy;
  const { who } = useBench();
  const whole = useMemo(() => makeSweep(healthy, goneParts(job)), [healthy, job]);
  const few = useMemo(() => shortList(healthy, whole), [healthy, whole]);
  const [asked, ask] = useKept('jiko-cold-list', listSchema, 'whole');
  const sweep = asked === 'few' && few.length > 0 ? few : whole;
  const read = useMemo(() => readAt(trace), [trace]);
  const plan = useMemo(
    () => powerPlan(healthy, whole, job, trace.readings),
    [healthy, whole, job, trace.readings],
  );
  const [chosen, setChosen] = useState<string | null>(null);
  const [pasted, setPasted] = useState<string | null>(null);
  const draftKey = `jiko-cold-${id}`;
  const [text, setDraft] = useKept(draftKey, keptText, '');
  const [said, setSaid] = useState<{ kind: 'trouble' | 'recorded'; text: string } | null>(null);
  const firstUnread = sweep.find((one) => !read.has(one.key));
  const point = sweep.find((one) => one.key === chosen) ?? firstUnread ?? sweep[0];
  const open = openSteps(board, job);
  const leads = leadOhms(job);

  const keep = (...bodies: EventInput[]): void => {
    record(id, who, bodies);
  };
  const setText = (next: string): void => {
    setDraft(next);
    setSaid(null);
  };
  const editing = useSheetEditing(job, (hash) => keep({ type: 'sheet', hash }));
  const newPoint = async (title: string): Promise<boolean> => {
    const made = await editing.edit({ do: 'add-point', title, net: null });
    if (made !== null) setChosen(`${made}  ohms`);
    return made !== null;
  };
  const step = (by: 1 | -1): void => {
    const at = sweep.findIndex((one) => one.key === point?.key);
    const next = sweep[at + by];
    if (next) setChosen(next.key);
    setSaid(null);
  };
  const supersedes = (key: string): string[] => {
    const old = read.get(key);
    return old ? [old.id] : [];
  };
  const enter = (): void => {
    if (!point) return;
    if (text.trim() === '') return step(1);
    const made = makeReading(
      board,
      {
        at: { net: point.net, part: point.place.part, pin: point.place.pin },
        reference: point.reference ? { net: point.reference, part: null, pin: null } : null,
        mode: point.mode,
        text,
        polarity: point.polarity,
      },
      { phase: 'cold', source: null, attached: bench.attached, lifted: liftedParts(job) },
    );
    if (!made.ok) {
      setSaid({ kind: 'trouble', text: `${made.error.join(' ')} Nothing was recorded.` });
      return;
    }
    keep({ type: 'reading', reading: made.value, supersedes: supersedes(point.key) });
    setText('');
    const at = sweep.indexOf(point);
    const next = [...sweep.slice(at + 1), ...sweep.slice(0, at)].find((one) => !read.has(one.key));
    const isLast = next === undefined ? ` All ${sweep.length} points are read.` : '';
    setSaid({
      kind: 'recorded',
      text: `Recorded ${point.net}: ${readingText(made.value)}.${isLast}`,
    });
    setChosen((next ?? sweep[at + 1] ?? point).key);
  };

  return (
    <div className="cold">
      <section className="cold-main" aria-label="Sweep">
        <div className="caution-line" role="note">
          <strong>Caution. </strong>
          {cautionText('cold', { isBatteryIn: bench.attached.includes('battery') })}
          {open.length > 0 && (
            <>
              {' '}
              <strong>Not noted: </strong>
              {open.map((one) => one.title.split(/[,:]/)[0]).join(', ')}.
            </>
          )}
        </div>
        {few.length > 0 && (
          <div className="cold-list">
            <Segmented<'few' | 'whole'>
              aria-label="Which points are asked"
              value={asked}
              onChange={(next) => {
                ask(next);
                setChosen(null);
                setSaid(null);
              }}
              options={[
                { value: 'few', label: `Short list, ${few.length}` },
                { value: 'whole', label: `All points, ${whole.length}` },
              ]}
            />
            <span className="quiet">
              {few.filter((one) => read.has(one.key)).length} of {few.length} before a supply with a
              current limit
            </span>
          </div>
        )}
        {firstUnread === undefined && sweep.length > 0 && (
          <p className="advice" role="status">
            <strong>All {sweep.length} points are read.</strong> How to power the board stands
            beside it; each point can be read again here.
          </p>
        )}
        {pasted !== null ? (
          <PastePanel
            board={board}
            text={pasted}
            mode={point?.mode ?? 'ohms'}
            attached={bench.attached}
            onCancel={() => setPasted(null)}
            onKeep={(readings) => {
              keep(
                ...readings.map((reading): EventInput => ({
                  type: 'reading',
                  reading: { ...reading, lifted: liftedParts(job) },
                  supersedes: supersedes(
                    `${reading.at.net} ${reading.reference?.net ?? ''} ${reading.mode}`,
                  ),
                })),
              );
              setPasted(null);
              setChosen(null);
              setSaid({ kind: 'recorded', text: `Recorded ${readings.length} readings.` });
            }}
          />
        ) : (
          point && (
            <SweepEntry
              board={board}
              point={point}
              place={sweep.indexOf(point) + 1}
              of={sweep.length}
              last={read.get(point.key) ?? null}
              leads={leads}
              text={text}
              said={editing.trouble ? { kind: 'trouble', text: editing.trouble } : said}
              attached={bench.attached}
              onAttached={(attached) => onBench({ attached })}
              onText={setText}
              onEnter={enter}
              onStep={step}
              onPaste={setPasted}
              onNewPoint={newPoint}
            />
          )
        )}
        <SweepList
          sweep={sweep}
          read={read}
          here={pasted === null ? (point?.key ?? null) : null}
          onPick={(key) => {
            setChosen(key);
            setSaid(null);
          }}
        />
      </section>
      <PlaysAhead view={view} />
      <PowerPanel
        id={id}
        job={job}
        healthy={healthy}
        attached={bench.attached}
        plan={plan}
        onBench={onBench}
        onRecord={keep}
      />
    </div>
  );
}
