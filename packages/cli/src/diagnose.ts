import type { Writable } from 'node:stream';
import { fail, type Result } from '@jiko/core/base';
import { sheetLine, type Board, type GoalId } from '@jiko/core/board';
import {
  actionsNow,
  benchOfReading,
  evidenceOf,
  makeDiagnoser,
  nextStep,
  speaksOf,
  whyTheyDiffer,
  type BenchOf,
  type Diagnosis,
  type Evidence,
  type NextStep,
  type Proposal,
} from '@jiko/core/diagnosis';
import { jobNow, traceJob } from '@jiko/core/trace';
import {
  parseFindingsYaml,
  parseReadingsCsv,
  parseSignsYaml,
  type FileTrouble,
  type SignsFile,
} from '@jiko/core/formats';
import { attachedIn, benchSetup, usualSetup } from '@jiko/core/play';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { wholeDictionary } from '@jiko/core/dictionary';
import { valueText, type Reading, whyText } from '@jiko/core/readings';
import { cautionText } from '@jiko/core/safety';
import { deriveJob, eventBodySchema, type EventInput, type KeptEvent } from '@jiko/core/record';
import { fileText, playableBoardOf, print, read, rounded, type Say } from './words.ts';

/** `jiko diagnose`: everything the app would say of these readings, as JSON. */
export function diagnose(words: string[], out: Writable, say: Say): number {
  const asked = read(
    words,
    { readings: { type: 'string' }, signs: { type: 'string' }, findings: { type: 'string' } },
    say,
  );
  if (!asked) return 2;
  const files = asked.values as { readings?: string; signs?: string; findings?: string };
  if (files.readings === undefined) {
    say('Name the readings: --readings FILE.csv.');
    return 2;
  }
  const board = playableBoardOf(asked.sheet, say);
  if (!board) return 1;
  const signs = files.signs
    ? readFile(files.signs, say, (file) => parseSignsYaml(board, file))
    : null;
  const attached = signs?.attached ?? attachedIn(board, usualSetup(board, signs?.source));
  const readings = readFile(files.readings, say, (file) => parseReadingsCsv(board, file, attached));
  const findings = files.findings
    ? readFile(files.findings, say, (file) => parseFindingsYaml(board, file))
    : null;
  if (!readings || (files.signs && !signs) || (files.findings && !findings)) return 1;
  print(out, answer(board, readings, signs, findings ?? [], attached));
  return 0;
}

function readFile<T>(
  path: string,
  say: Say,
  parse: (text: string) => Result<T, FileTrouble[]>,
): T | null {
  const text = fileText(path, say);
  const parsed = text === null ? fail<FileTrouble[]>([]) : parse(text);
  if (parsed.ok) return parsed.value;
  for (const trouble of parsed.error) say(`${path}, line ${trouble.line}: ${trouble.text}`);
  return null;
}

/** All readings come at once here: several faults are grown as far as an evening's readings would. */
const roundsOfSeveral = 6;

function answer(
  board: Board,
  readings: readonly Reading[],
  file: SignsFile | null,
  findings: Evidence['findings'],
  attached: readonly string[],
): unknown {
  const setup = benchSetup(board, { source: file?.source, attached });
  const healthy = studyHealthyBoard(board, setup);
  const goal = file?.goal ?? board.goals[0]?.id ?? ('' as GoalId);
  const job = jobNow(healthy, deriveJob(recordOf(readings, file, findings)));
  const trace = traceJob(healthy, job, goal);
  const diagnoser = makeDiagnoser(board, healthy.stages, wholeDictionary(board, setup), setup);
  // Readings taken otherwise want plays of their own.
  const here: BenchOf = { source: setup.source, attached, lifted: [] };
  const others: BenchOf[] = [];
  for (const taken of readings.map((one) => benchOfReading(board, setup.source, one)))
    if (![here, ...others].some((bench) => speaksOf(bench, taken))) {
      const source = taken.source ?? setup.source;
      const bench = { ...taken, source };
      others.push(bench);
      diagnoser.alsoKnow(bench, wholeDictionary(board, benchSetup(board, bench)));
    }
  const phase = readings.at(-1)?.phase ?? 'standby';
  const diagnosis = diagnoser.diagnose(
    // Nobody's complaint is no evidence.
    { ...evidenceOf(job, [], [], trace.goalAsPlayed), goal: file?.goal ?? null },
    { phase, side: '' },
    roundsOfSeveral,
  );
  const nameOf = (id: string | null): string =>
    id === null ? '' : (readings[Number(id)]?.at.net ?? '');
  return {
    sheet: { id: board.id, hash: board.hash },
    verdicts: trace.readings.map(({ reading, expectation, verdict }) => ({
      net: reading.at.net,
      point: reading.at.part ? `${reading.at.part}.${reading.at.pin ?? ''}` : null,
      mode: reading.mode,
      phase: reading.phase,
      reading: valueText(reading.value, reading.mode),
      expected: expectation.kind === 'value' ? rounded(expectation.value) : null,
      tolerance:
        expectation.kind === 'value' ? [rounded(expectation.low), rounded(expectation.high)] : null,
      origin: expectation.kind === 'value' ? expectation.origin : null,
      kind: verdict.kind,
      why: whyText(verdict),
    })),
    firstMissing: trace.firstMissing && {
      stage: trace.firstMissing.stage,
      title: trace.firstMissing.title,
      net: trace.firstMissing.net,
      certain: trace.firstMissing.certain,
      why: trace.firstMissing.why,
    },
    regions: diagnosis.regions.map(({ stage, probability }) => ({
      stage,
      probability: rounded(probability, 4),
    })),
    suspects: diagnosis.suspects.map((one) => ({
      title: one.title,
      probability: rounded(one.probability, 5),
      depth: one.depth,
      faults: one.faults.map(({ fault, also, name, probability }) => ({
        ...fault,
        ...(also.length > 0 ? { also } : {}),
        name,
        probability: rounded(probability, 5),
      })),
      firstMissing: one.firstMissing,
      missing: one.missingNets,
      separate: one.separate,
      for: one.speaksFor.map((voice) => ({
        ...voice,
        net: nameOf(voice.id),
        bits: rounded(voice.bits, 2),
      })),
      against: one.speaksAgainst.map((voice) => ({
        ...voice,
        net: nameOf(voice.id),
        bits: rounded(voice.bits, 2),
      })),
    })),
    noneOfThese: rounded(diagnosis.none, 5),
    nothingWrong: rounded(diagnosis.healthy, 5),
    next: diagnosis.next.slice(0, 10).map((one) => proposal(one, diagnosis.classTitles)),
    actions: actionsNow(board, trace, diagnosis).map((one) => ({
      ...one,
      gainBits: rounded(one.gainBits, 2),
    })),
    unused: diagnosis.unused.map(({ id, why }) => ({ net: nameOf(id), why })),
    elsewhere: diagnosis.elsewhere.map(({ net, share }) => ({ net, share: rounded(share, 4) })),
    sheetDoubts: diagnosis.sheet.map((one) => ({
      ...one,
      line: sheetLine(board, one.path),
      probability: rounded(one.probability, 4),
    })),
    fets: trace.fets.map(({ part, judgement }) => ({ part: part.ref, ...judgement })),
    nextStep: Object.fromEntries(
      (['walk', 'shortest', 'looks'] as const).map((school) => [
        school,
        stepText(nextStep(board, trace, diagnosis, school, findings), diagnosis),
      ]),
    ),
    differs: whyTheyDiffer(board, trace, diagnosis),
    caution: cautionText(phase, { isBatteryIn: attached.includes('battery') }),
  };
}

/** What the files say as entries of a job: the app and this command answer from the same record. */
function recordOf(
  readings: readonly Reading[],
  file: SignsFile | null,
  findings: Evidence['findings'],
): KeptEvent[] {
  const bodies: EventInput[] = [
    ...readings.map((reading): EventInput => ({ type: 'reading', reading, supersedes: [] })),
    ...findings.map(({ kind, part }): EventInput => ({ type: 'finding', kind, part, text: '' })),
    ...(file?.tried ?? []).map((tried): EventInput => ({ type: 'tried', ...tried })),
    ...(file ? signsOf(file) : []),
    // What was off at the last reading is off now.
    ...(readings.at(-1)?.lifted ?? []).map((part): EventInput => ({
      type: 'repair',
      action: 'removed',
      parts: [part],
      text: '',
    })),
  ];
  return bodies.map((body, index) => ({
    id: String(index),
    who: '',
    at: '2000-01-01T00:00:00Z',
    body: eventBodySchema.parse(body),
  }));
}

function signsOf({ signs, beeps }: SignsFile): EventInput[] {
  const { draw, ...rest } = signs;
  // Beeps are handed on as they were written.
  const seen = Object.fromEntries(
    Object.entries(rest).filter(([key, value]) => key !== 'speaks' && value !== null),
  );
  return [
    ...draw.map(({ phase, amps, shape }): EventInput => ({
      type: 'sign',
      phase,
      drawAmps: amps,
      drawShape: shape,
      text: '',
    })),
    {
      type: 'sign',
      phase: 'pressed',
      drawAmps: null,
      drawShape: null,
      seen: { ...seen, ...(beeps === undefined ? {} : { beeps }) },
      text: '',
    },
  ];
}

/** What the middle of the page would say, as data. */
function stepText(step: NextStep, diagnosis: Diagnosis): unknown {
  switch (step.kind) {
    case 'in-order': {
      const { net, mode, phase, place, why } = step.probe;
      return { kind: step.kind, net, point: place.text, mode, phase, why };
    }
    case 'telling':
      return {
        kind: step.kind,
        finding: step.finding,
        ...(proposal(step.proposal, diagnosis.classTitles) as object),
      };
    case 'test':
      return { kind: step.kind, suspect: step.suspect.title, ...step.suspect.separate };
    case 'check':
      return { kind: step.kind, ...step.check };
    default:
      return { kind: step.kind };
  }
}

const limit = (value: number): number | 'OL' => (value === Infinity ? 'OL' : rounded(value));

const proposal = (one: Proposal, titles: readonly string[]): unknown => ({
  point: one.across ? `${one.across}, from end to end` : one.place.text,
  net: one.net,
  reference: one.reference,
  mode: one.mode,
  phase: one.phase,
  gainBits: rounded(one.gainBits, 3),
  seconds: one.seconds,
  outcomes: one.outcomes.map((outcome) => ({
    reads: [limit(outcome.low), limit(outcome.high)],
    probability: rounded(outcome.probability, 4),
    asHealthy: outcome.isHealthy,
    then: outcome.classes.slice(0, 4).map((at) => titles[at]),
  })),
});
