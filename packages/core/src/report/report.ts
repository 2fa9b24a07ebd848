import { goalTitle, type Board, type GoalId } from '../board/index.ts';
import { benchOfJob, jobNow, traceJob, type Trace } from '../trace/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { expectationText, isGood, readingText, valueText, whyText } from '../readings/index.ts';
import {
  gradeProof,
  openEnds,
  retestOf,
  timelineOf,
  isSaidToWork,
  proofBeside,
  verifyList,
  withoutEffect,
  type Grade,
} from '../repair/index.ts';
import { dayText } from './day-text.ts';
import { formatAmps, formatChance, formatOhms, formatVolts } from '../units/index.ts';
import {
  deriveJob,
  failureTexts,
  besideText,
  isChange,
  seenTexts,
  triedTexts,
  triedWord,
  type Job,
  type KeptEvent,
  type Outcome,
} from '../record/index.ts';

/** What the write-up says, as data; the page and the Markdown show the same. */
export interface Report {
  title: string;
  facts: { name: string; value: string }[];
  missing: { title: string; why: string; certain: boolean } | null;
  /** What was missing when each repair began, oldest first. */
  before: { title: string; why: string; repair: string }[];
  /** One sentence on how far the board got; never more than the readings show. */
  reached: string;
  readings: ReportRow[];
  stages: { title: string; state: string }[];
  done: { at: string; who: string; text: string }[];
  /** What was tried, seen and decided before the trace, in the order of the work; empty ones left out. */
  sections: { title: string; lines: string[] }[];
  notes: { at: string; who: string; text: string }[];
  close: {
    outcome: Outcome;
    cause: string;
    proof: string;
    reason: string;
    /** Parts it was, and how they had failed where that is known. */
    parts: string;
  } | null;
  /** How well the record proves the cause, whatever was said of it. */
  proof: Grade;
  withoutEffect: string[];
  /** What was measured and is not it, and by which reading. */
  excluded: string[];
  /** Suspects that stood when the job was given up. */
  left: string[];
  /** Point, before, after, what became of it. */
  retest: string[][];
  verified: string[];
  openEnds: string[];
  pictures: { attachment: string; caption: string }[];
  /** Parts that the sheet only guesses, and what each stands for: nobody finds their names on the board. */
  standIns: { ref: string; title: string }[];
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
  /** Why it no longer tells of the board as it is; empty when it does. */
  aside: string;
  /** Struck out or measured again: no longer to be believed. */
  isVoid: boolean;
}

const stateText = {
  up: 'up',
  down: 'missing or wrong',
  undecided: 'read, not decided',
  enough: 'not read; enough for a later stage',
  unread: 'not read',
} as const;

/**
 * Builds the write-up from a job's events, held against the healthy board as the bench last stood:
 * the same as Trace says.
 */
export function buildReport(studied: HealthyBoard, events: readonly KeptEvent[]): Report {
  const { board } = studied;
  const job = jobNow(studied, deriveJob(events));
  const healthy = studied.onBench(benchOfJob(board, job));
  const { intake } = job;
  const trace = traceJob(healthy, job, (intake?.goal ?? '') as GoalId);
  const path = trace.stages.filter((one) => one.onPath);
  const up = path.filter((one) => one.state === 'up');
  const facts = [
    { name: 'Board', value: `${board.title}, revision ${board.revision} (sheet ${board.hash})` },
    { name: 'Complaint', value: intake?.complaint ?? '' },
    { name: 'Happened', value: (intake?.happened ?? []).map(plain).join(', ') },
    { name: 'History', value: intake?.history ?? '' },
    { name: 'Earlier repair', value: intake?.earlierRepair ?? '' },
    { name: 'Came with', value: intake?.cameWith ?? '' },
    { name: 'Not with it', value: intake?.lacking ?? '' },
    { name: 'To be kept', value: intake?.keep ?? '' },
    { name: 'Goal', value: intake?.goal ? `the board ${goalTitle(board, intake.goal)}` : '' },
    { name: 'Source', value: board.sources.find((one) => one.id === intake?.source)?.title ?? '' },
    { name: 'Promised for', value: intake?.promised ? dayText(intake.promised) : '' },
  ].filter((fact) => fact.value !== '');
  const cause = job.close?.body;
  const timeline = timelineOf(studied, events, () => 0);
  const retest = retestOf(timeline);
  return {
    proof: proofBeside(gradeProof(timeline), job.close),
    withoutEffect: withoutEffect(timeline).map(
      ({ part, action }) => `${part} ${action}: read again, and nothing became right`,
    ),
    excluded: excludedBy(trace),
    left: (cause?.left ?? []).map(
      (one) => `${one.title}, ${formatChance(one.probability)}: ${one.separate}`,
    ),
    retest: retest.points
      .filter((one) => one.after !== null)
      .map((one) => [
        pointText(one.before.reading.at, one.before.reading.reference),
        valueText(one.before.reading.value, one.before.reading.mode),
        valueText(one.after!.reading.value, one.after!.reading.mode),
        (one.verdict ?? '').replace('-', ' '),
      ]),
    verified: verifyList(healthy, job)
      .filter((one) => one.state !== 'open' || isSaidToWork(job))
      .map(
        (one) =>
          `${one.title}: ${one.state === 'open' ? 'not checked' : one.state.replace('-', ' ')}${one.text ? `, ${one.text}` : ''}`,
      ),
    openEnds: openEnds(board, job, retest).map((one) => one.text),
    standIns: board.parts.flatMap(({ ref, title, isGuess }) =>
      isGuess && title ? [{ ref: ref as string, title }] : [],
    ),
    pictures: job.pictures
      .filter((one) => one.struck === null)
      .map(({ body: { attachment, caption } }) => ({ attachment, caption })),
    title: intake?.device ?? 'Job',
    facts,
    missing: trace.firstMissing
      ? {
          title: trace.firstMissing.title,
          why: trace.firstMissing.why,
          certain: trace.firstMissing.certain,
        }
      : null,
    before: foundBeforeRepairs(studied, events),
    reached: trace.goalReached
      ? 'The goal was read as reached.'
      : `${up.length} of ${path.length} stages on the way to the goal were read as up.`,
    readings: trace.readings.map((one) => ({
      at: one.at,
      who: one.who,
      phase: one.reading.phase,
      point: pointText(one.reading.at, one.reading.reference),
      reading: `${readingText(one.reading)}${one.reading.mode === 'diode' ? ' diode' : ''}`,
      expected: expectationText(one.expectation),
      verdict: one.verdict.kind,
      why: whyText(one.verdict),
      aside: [asideText(one.standing), one.isOfOtherSheet && 'sheet changed since']
        .filter(Boolean)
        .join(', '),
      isVoid: ['struck', 'superseded', 'other-board'].includes(one.standing.kind),
    })),
    stages: path.map((one) => ({ title: one.stage.title, state: stateText[one.state] })),
    done: [
      ...job.repairs.map((one) => ({ ...one, text: repairText(one.body) })),
      ...job.firmware.map((one) => ({ ...one, text: firmwareText(one.body) })),
    ]
      .filter((one) => one.struck === null)
      .map(({ at, who, text }) => ({ at, who, text })),
    sections: sectionsOf(board, job),
    notes: job.notes
      .filter((one) => one.struck === null)
      .map(({ at, who, body }) => ({ at, who, text: body.text })),
    close: cause
      ? {
          outcome: cause.outcome,
          cause: cause.cause,
          proof: cause.proof,
          reason: cause.reason,
          parts: [(cause.parts ?? []).join(', '), cause.how ? failureTexts[cause.how] : '']
            .filter(Boolean)
            .join(': '),
        }
      : null,
  };
}

/** Parts that were measured and are whole, and stages that were read as up. */
function excludedBy(trace: Trace): string[] {
  const stands = trace.readings.filter(
    (one) => one.standing.kind === 'stands' && isGood(one.verdict),
  );
  return [
    ...stands
      .filter(({ reading }) => reading.reference !== null && reading.at.part !== null)
      .map(
        ({ reading, verdict }) =>
          `${reading.at.part}: ${valueText(reading.value, reading.mode)} across it. ${whyText(verdict)}`,
      ),
    ...trace.stages
      .filter((one) => one.state === 'up')
      .map((one) => {
        const by = one.nets.map(({ net, status }) =>
          status.kind === 'unread'
            ? net
            : `${net} ${valueText(status.reading.reading.value, status.reading.reading.mode)}`,
        );
        return `${one.stage.title} is up: ${by.join(', ')}`;
      }),
  ];
}

/** Titled lists; struck entries are left out. */
function sectionsOf(board: Board, job: Job): Report['sections'] {
  const standing = <T extends { struck: string | null }>(list: readonly T[]): T[] =>
    list.filter((one) => one.struck === null);
  const said = (...words: (string | null)[]): string => words.filter(Boolean).join(', ');
  return [
    { title: 'Tried', lines: job.tried.map(({ body }) => triedText(body)) },
    { title: 'First signs', lines: standing(job.signs).map(({ body }) => signText(board, body)) },
    {
      title: 'Seen on the board',
      lines: standing(job.findings).map(({ body, net, harmless }) =>
        said(
          `${body.part ?? (net ? `a spot on ${net}` : 'a spot')} ${plain(body.kind)}`,
          body.text,
          harmless && `harmless: ${harmless}`,
        ),
      ),
    },
    {
      title: 'Closed and opened again',
      lines: standing(job.reopened).map(({ body, who }) => said(`by ${who}`, body.reason)),
    },
    {
      title: 'Kept by another version',
      lines: job.strange.map(
        ({ was, who }) => `an entry this version cannot read (${was}), by ${who}`,
      ),
    },
    {
      title: 'Powered',
      lines: standing(job.powered).map(({ body, who }) =>
        said(
          `${board.sources.find((one) => one.id === body.source)?.title ?? body.source} by ${who}`,
          body.limitAmps === null ? '' : `limit ${formatAmps(body.limitAmps)}`,
          body.despite.length > 0 ? `knowing: ${body.despite.join(' ')}` : '',
        ),
      ),
    },
  ].filter((one) => one.lines.length > 0);
}

const plain = (word: string): string => word.replace('-', ' ');

function triedText({ thing, result, ohms, text }: Job['tried'][number]['body']): string {
  const { title } = triedTexts[thing];
  const answer = ohms === null ? triedWord(thing, result) : formatOhms(ohms);
  return [`${title}: ${answer}`, text].filter(Boolean).join(', ');
}

function firmwareText({
  part,
  volts,
  saved,
  attachment,
  verified,
}: Job['firmware'][number]['body']): string {
  const kept = saved
    ? `old contents ${attachment === null ? 'noted' : 'kept'} (${saved.name}, ${saved.bytes} bytes, SHA-256 ${saved.sha256})`
    : 'its old contents not saved';
  return `${part} programmed at ${formatVolts(volts)}: ${kept}; ${verified ? 'read back and compared' : 'not read back'}`;
}

function repairText(body: Job['repairs'][number]['body']): string {
  const fitted = [
    body.marking && `marked ${body.marking}`,
    body.from && `from: ${plain(body.from)}`,
    body.measured && 'measured before',
  ].filter(Boolean);
  if (body.action === 'beside')
    return `${besideText[body.beside ?? 'else']}, not on the board${body.text ? `: ${body.text}` : ''}`;
  return `${body.parts.join(', ')} ${body.action}${body.text ? `: ${body.text}` : ''}${fitted.length > 0 ? ` (${fitted.join(', ')})` : ''}`.trim();
}

function foundBeforeRepairs(studied: HealthyBoard, events: readonly KeptEvent[]): Report['before'] {
  const struck = new Set(
    events.flatMap(({ body }) => (body.type === 'strike' ? [body.event] : [])),
  );
  return events.flatMap(({ id, body }, index) => {
    if (body.type !== 'repair' || struck.has(id)) return [];
    // Lifting a part to see, and putting it back, ends nothing.
    if (!isChange(body.action)) return [];
    // Strikes made later hold for what was read earlier.
    const strikes = events.slice(index).filter((event) => event.body.type === 'strike');
    const then = jobNow(studied, deriveJob([...events.slice(0, index), ...strikes]));
    const healthy = studied.onBench(benchOfJob(studied.board, then));
    const { firstMissing } = traceJob(healthy, then, (then.intake?.goal ?? '') as GoalId);
    return firstMissing
      ? [{ title: firstMissing.title, why: firstMissing.why, repair: repairText(body) }]
      : [];
  });
}

function signText(board: Board, body: Job['signs'][number]['body']): string {
  const { phase, drawAmps, drawShape, seen, source, lastedSeconds, text } = body;
  const draw = drawAmps === null ? '' : `draw ${drawAmps} A ${drawShape ?? ''}`.trim();
  const title = board.sources.find((one) => one.id === source?.id)?.title ?? source?.id;
  const limit = source?.limitAmps ?? null;
  return [
    phase,
    draw,
    ...seenTexts(seen),
    title && `on ${title}`,
    limit === null ? '' : `limit ${formatAmps(limit)}`,
    lastedSeconds === null ? '' : `for ${lastedSeconds} s`,
    text,
  ]
    .filter(Boolean)
    .join(', ');
}

function asideText(standing: Trace['readings'][number]['standing']): string {
  switch (standing.kind) {
    case 'stands':
      return standing.wasBefore ? 'before the repair, which it does not hang on' : '';
    case 'struck':
      return `struck out: ${standing.reason}`;
    case 'superseded':
      return 'superseded by a re-measure';
    case 'before-repair':
      return 'before the repair';
    case 'other-board':
      return `taken on the sheet of ${standing.board}`;
  }
}

type Place = Trace['readings'][number]['reading']['at'];

const pointText = (at: Place, reference: Place | null): string =>
  [
    at.net,
    at.part ? ` at ${at.part}${at.pin ? ` pin ${at.pin}` : ''}` : '',
    reference ? ` against ${reference.net}` : '',
  ].join('');
