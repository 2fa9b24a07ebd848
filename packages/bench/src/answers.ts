// npm run answers -- keep [FILE] | compare [FILE]: 500 answers (diagnosis, trace, next steps) as hashes, to be held
// against those of another version after code was only moved. On hidden boards of the sheets that are
// worked on; their readings are drawn, not proposed, so that another proposal changes no later answer.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { draw, seeded } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { evidenceOf, nextStep } from '@jiko/core/diagnosis';
import { plainEvents, plainIntake, plainReading, sharedDictionary } from '@jiko/testing';
import { stepLine } from '@jiko/bench';
import { usualSetup } from '@jiko/core/play';
import { deriveJob } from '@jiko/core/record';
import { jobNow, traceJob } from '@jiko/core/trace';
import { makeBench } from './hidden-faults.ts';

const sheets = new URL('../../../sheets/', import.meta.url);
const perSheet = 23;
/** Entries after which the job is diagnosed: what little is known, and what much is. */
const lengths = [4, 12];
const schools = ['walk', 'shortest', 'looks'] as const;

/** As text, in which the order that something was written in says nothing. */
const textOf = (value: unknown): string =>
  JSON.stringify(value, (_, field: unknown) => {
    if (field instanceof Float32Array || field instanceof Float64Array) return [...field];
    if (field instanceof Map || field instanceof Set) return [...(field as Iterable<unknown>)];
    if (Object.is(field, -0)) return '-0';
    if (field === Infinity) return 'infinite';
    if (typeof field !== 'object' || field === null || Array.isArray(field)) return field;
    return Object.fromEntries(Object.entries(field).sort(([a], [b]) => (a < b ? -1 : 1)));
  });

const hashOf = (value: unknown): string =>
  createHash('sha256').update(textOf(value)).digest('hex').slice(0, 16);

function* answersOf(sheet: string): Generator<string> {
  const loaded = loadSheet(readFileSync(new URL(sheet, sheets), 'utf8'));
  if (!loaded.ok) throw new Error(`${sheet} does not load`);
  const board = loaded.value;
  const setup = usualSetup(board);
  const bench = makeBench(board, sharedDictionary(board, setup));
  const chance = seeded(sheet.length * 1000 + board.nets.length);
  const nets = board.nets.filter((net) => net.id !== board.ground && !net.isUnnamed);
  const on = { id: setup.source, volts: null, limitAmps: null };
  for (let count = 0; count < perSheet; count++) {
    const { fault, goal, hidden } = bench.hideBlocker();
    const events: unknown[] = [
      plainIntake({ board: board.id, source: setup.source, goal }),
      ...(['standby', 'trying'] as const).map((phase) => {
        const { amps, shape } = hidden.draw(phase);
        return { type: 'sign', phase, drawAmps: amps, drawShape: shape, text: '' };
      }),
    ];
    if (count % 5 === 1) events.push({ type: 'tried', thing: 'memory', result: 'no-change' });
    const part = draw(board.parts, chance).ref;
    if (count % 5 === 2) events.push({ type: 'finding', kind: 'corrosion', part, text: 'wet' });
    for (const length of lengths) {
      while (events.length < length) {
        const { id: net } = draw(nets, chance);
        const mode = draw(['volts', 'volts', 'ohms', 'diode'] as const, chance);
        const phase = mode === 'volts' ? draw(['standby', 'run'] as const, chance) : 'cold';
        const value = hidden.read(net, mode, phase);
        events.push({
          type: 'reading',
          reading: {
            ...plainReading(net, mode, phase, value, { attached: hidden.attached }),
            source: phase === 'cold' ? null : on,
          },
          supersedes: [],
        });
      }
      if (count % 5 === 3 && length === lengths[1])
        events.push({ type: 'repair', action: 'replaced', parts: [part], text: '' });
      const job = jobNow(bench.healthy, deriveJob(plainEvents(...events)));
      const trace = traceJob(bench.healthy, job, goal);
      const diagnosis = bench.diagnoser.diagnose(
        evidenceOf(job, [], [], trace.goalAsPlayed),
        { phase: job.readings.at(-1)?.reading.phase ?? 'standby', side: '' },
        3,
      );
      const steps = schools.map((school) => nextStep(board, trace, diagnosis, school, []));
      const { stages, firstMissing, fets, goalReached, lacking } = trace;
      yield [
        `${sheet} ${count} ${JSON.stringify(fault)} after ${length}`,
        hashOf(diagnosis),
        hashOf([stages, firstMissing, fets, goalReached, lacking !== null]),
        hashOf(steps),
        `${diagnosis.suspects[0]?.title ?? '-'} ${(diagnosis.suspects[0]?.probability ?? 0).toFixed(6)}`,
        ...steps.map(stepLine),
      ].join('\t');
    }
  }
}

const [command, file = new URL('./answers.tsv', import.meta.url)] = process.argv.slice(2);
if (command !== 'keep' && command !== 'compare')
  throw new Error('npm run answers -- keep [FILE], or compare [FILE]');
const answers = readdirSync(sheets)
  .filter((name) => name.endsWith('.yaml'))
  .sort()
  .flatMap((sheet) => [...answersOf(sheet)]);
if (command === 'keep') writeFileSync(file, `${answers.join('\n')}\n`);
else {
  const before = readFileSync(file, 'utf8').trimEnd().split('\n');
  const other = answers.filter((line, at) => line !== before[at]);
  const shown = other.slice(0, 10).map((line) => `now: ${line}\n`);
  process.stdout.write(
    `${shown.join('')}${answers.length} answers, ${other.length} other than before\n`,
  );
  if (other.length > 0 || before.length !== answers.length) process.exitCode = 1;
}
