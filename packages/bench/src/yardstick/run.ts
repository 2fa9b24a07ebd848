// npm run yardstick: how well the judgement does where the world errs otherwise than it believes. Every run
// opens what was kept unseen, so each is written into openings.md, with its reason (WHY="...").
// RUNS=70 hidden boards a sheet: over 400 a row.
import { execFileSync } from 'node:child_process';
import { appendFileSync } from 'node:fs';
import { writeBlock } from '../figures-block.ts';
import { handledRuns, newWayRuns, rowOf, saidOf } from './hidden-runs.ts';
import { rateText, wilson } from './rates.ts';
import { scoreRepair, toldRepairs, unseenSheets } from './repairs.ts';

const why = process.env['WHY'];
if (!why) throw new Error('WHY="..." npm run yardstick: each opening is logged with its reason');
const commit = execFileSync('git', ['rev-parse', '--short', 'HEAD'], { encoding: 'utf8' }).trim();
appendFileSync(
  new URL('./openings.md', import.meta.url),
  `- ${new Date().toISOString().slice(0, 16)} at ${commit}: ${why}\n`,
);

const perSheet = Number(process.env['RUNS'] ?? 70);
const handled = unseenSheets.flatMap((sheet) => handledRuns(sheet, perSheet, 20261202));
const ways = unseenSheets.flatMap((sheet) => newWayRuns(sheet, 9));
const told = toldRepairs().map(scoreRepair);
const of = (score: string): string =>
  rateText(wilson(told.filter((repair) => repair.score === score).length, told.length));

writeBlock('yardstick', [
  '## Yardstick',
  '',
  `By \`npm run yardstick\` at ${commit}, on six sheets and forty repairs that nobody developed on (\`bench/yardstick\`), read by a hand that errs otherwise than the diagnosis believes.`,
  '',
  '| what | measured |',
  '| --- | --- |',
  `| hidden faults of the list | ${rowOf(
    handled.map(saidOf),
    handled.map(({ run }) => run.end === 'sure'),
  )} |`,
  `| twelve ways of failing that nobody listed | ${rowOf(
    ways.map(({ said }) => said),
    ways.map(({ isSure }) => isSure),
  )} |`,
  `| forty repairs in words | right ${of('right')}; half ${of('half')}; wrong ${of('wrong')} |`,
  '',
  ...told.flatMap(({ told: { name }, score, first, steps, forbidden }) =>
    score === 'right'
      ? []
      : [
          `- ${score}: ${name}: first "${first}", next "${steps[0]}"${forbidden.length > 0 ? `, forbidden "${forbidden[0]}"` : ''}`,
        ],
  ),
]);
