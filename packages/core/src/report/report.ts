import type { Board } from '../board/index.ts';
import type { Trace } from '../diagnosis/index.ts';
import { expectationText, valueText } from '../readings/index.ts';
import type { Job } from '../record/index.ts';

/** What the write-up says, as data; the page and the Markdown show the same. */
export interface Report {
  title: string;
  facts: { name: string; value: string }[];
  missing: { title: string; why: string; certain: boolean } | null;
  /** One sentence on how far the board got; never more than the readings show. */
  reached: string;
  readings: ReportRow[];
  stages: { title: string; state: string }[];
  done: { at: string; who: string; text: string }[];
  signs: { at: string; text: string }[];
  notes: { at: string; who: string; text: string }[];
  close: { outcome: string; cause: string; proof: string } | null;
}

export interface ReportRow {
  at: string;
  who: string;
  phase: string;
  point: string;
  reading: string;
  expected: string;
  verdict: string;
  why: string;
  /** Why it no longer counts; empty when it stands. */
  aside: string;
}

const stateText = {
  up: 'up',
  down: 'missing or wrong',
  undecided: 'read, not decided',
  enough: 'not read; enough for a later stage',
  unread: 'not read',
} as const;

export function buildReport(board: Board, job: Job, trace: Trace): Report {
  const { intake } = job;
  const goal = board.goals.find((one) => one.id === intake?.goal);
  const path = trace.stages.filter((one) => one.onPath);
  const up = path.filter((one) => one.state === 'up');
  const facts = [
    { name: 'Board', value: `${board.title}, revision ${board.revision} (sheet ${board.hash})` },
    { name: 'Complaint', value: intake?.complaint ?? '' },
    { name: 'History', value: intake?.history ?? '' },
    { name: 'To be kept', value: intake?.keep ?? '' },
    { name: 'Goal', value: goal ? `the board ${goal.title}` : '' },
    { name: 'Source', value: board.sources.find((one) => one.id === intake?.source)?.title ?? '' },
    { name: 'Promised', value: intake?.promised ?? '' },
  ].filter((fact) => fact.value !== '');
  const cause = job.close?.body;
  return {
    title: intake?.device ?? 'Job',
    facts,
    missing: trace.firstMissing
      ? {
          title: trace.firstMissing.title,
          why: trace.firstMissing.why,
          certain: trace.firstMissing.certain,
        }
      : null,
    reached: trace.goalReached
      ? 'The goal was read as reached.'
      : `${up.length} of ${path.length} stages on the way to the goal were read as up.`,
    readings: trace.readings.map((one) => ({
      at: one.at,
      who: one.who,
      phase: one.reading.phase,
      point: pointText(one.reading.at),
      reading: `${valueText(one.reading.value, one.reading.mode)}${one.reading.mode === 'diode' ? ' diode' : ''}`,
      expected: expectationText(one.expectation),
      verdict: one.verdict.kind,
      why: one.verdict.why,
      aside: asideText(one.standing),
    })),
    stages: path.map((one) => ({ title: one.stage.title, state: stateText[one.state] })),
    done: job.repairs
      .filter((one) => one.struck === null)
      .map(({ at, who, body }) => ({
        at,
        who,
        text: `${body.parts.join(', ')} ${body.action}${body.text ? `: ${body.text}` : ''}`.trim(),
      })),
    signs: job.signs
      .filter((one) => one.struck === null)
      .map(({ at, body }) => ({ at, text: signText(body) })),
    notes: job.notes
      .filter((one) => one.struck === null)
      .map(({ at, who, body }) => ({ at, who, text: body.text })),
    close: cause ? { outcome: cause.outcome, cause: cause.cause, proof: cause.proof } : null,
  };
}

function signText(body: Job['signs'][number]['body']): string {
  const draw =
    body.drawAmps === null ? '' : `draw ${body.drawAmps} A ${body.drawShape ?? ''}`.trim();
  return [body.phase, draw, body.text].filter(Boolean).join(', ');
}

function asideText(standing: Trace['readings'][number]['standing']): string {
  switch (standing.kind) {
    case 'stands':
      return '';
    case 'struck':
      return `struck out: ${standing.reason}`;
    case 'superseded':
      return 'superseded by a re-measure';
    case 'before-repair':
      return 'before the repair';
  }
}

const pointText = (at: { net: string; part: string | null; pin: string | null }): string =>
  at.part ? `${at.net} at ${at.part}${at.pin ? ` ${at.pin}` : ''}` : at.net;
