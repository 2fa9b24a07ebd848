// npm run yardstick: how well the judgement does where the world errs otherwise than it believes. Every run
// opens what was kept unseen, so each is written into openings.md, with its reason (WHY="...").
// RUNS=70 hidden boards a sheet: over 400 a row. AGAINST=COMMIT: paired with the runs kept of that version.
import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { writeBlock } from '../figures-block.ts';
import { handledRuns, newWayRuns, pairedRow, rowOf, type Outcome } from './hidden-runs.ts';
import { mcnemar, rateText, wilson } from '../rates.ts';
import { scoreRepair, toldRepairs, unseenSheets } from './repairs.ts';

const why = process.env['WHY'];
if (!why) throw new Error('WHY="..." npm run yardstick: each opening is logged with its reason');
const commit = execFileSync('git', ['rev-parse', '--short', 'HEAD'], { encoding: 'utf8' }).trim();
appendFileSync(
  new URL('./openings.md', import.meta.url),
  `- ${new Date().toISOString().slice(0, 16)} at ${commit}: ${why}\n`,
);

const perSheet = Number(process.env['RUNS'] ?? 70);
const seed = 20261202;
const handled = unseenSheets
  .flatMap((sheet) => handledRuns(sheet, perSheet, seed))
  .map(({ outcome }) => outcome);
const ways = unseenSheets.flatMap((sheet) => newWayRuns(sheet, 9, seed));
const told = toldRepairs().map(scoreRepair);
const of = (score: string): string =>
  rateText(wilson(told.filter((repair) => repair.score === score).length, told.length));
const partFirst = wilson(handled.filter(({ isPartFirst }) => isPartFirst).length, handled.length);

/** How each run ended, so that another version can be held against it without opening anything. */
interface Kept {
  handled: Outcome[];
  ways: Outcome[];
  told: { name: string; score: string }[];
}
const place = (version: string): URL => new URL(`./outcomes/${version}.json`, import.meta.url);
const kept: Kept = {
  handled,
  ways,
  told: told.map(({ told: { name }, score }) => ({ name, score })),
};
mkdirSync(new URL('./outcomes/', import.meta.url), { recursive: true });
writeFileSync(place(commit), `${JSON.stringify(kept)}\n`);

const against = process.env['AGAINST'];
const paired = against ? pairedWith(JSON.parse(readFileSync(place(against), 'utf8')) as Kept) : [];

writeBlock('yardstick', [
  '## Yardstick',
  '',
  `By \`npm run yardstick\` at ${commit}, on six sheets and forty repairs that nobody developed on (\`bench/src/yardstick\`), read by a hand that errs otherwise than the diagnosis believes. Aim of confidently wrong: the upper end of its interval at 1 % or below for listed faults, 5 % for ways nobody listed.`,
  '',
  '| what | measured |',
  '| --- | --- |',
  `| hidden faults of the list, every one as often as any other | ${rowOf(handled)} |`,
  `| of these, the part put first is the one at fault | ${rateText(partFirst)} |`,
  `| twelve ways of failing that nobody listed | ${rowOf(ways)} |`,
  `| forty repairs in words | right ${of('right')}; half ${of('half')}; wrong ${of('wrong')} |`,
  ...paired,
  '',
  ...told.flatMap(({ told: { name }, score, first, steps, forbidden }) =>
    score === 'right'
      ? []
      : [
          `- ${score}: ${name}: first "${first}", next "${steps[0]}"${forbidden.length > 0 ? `, forbidden "${forbidden[0]}"` : ''}`,
        ],
  ),
]);

function pairedWith(before: Kept): string[] {
  const wasRight = new Map(before.told.map(({ name, score }) => [name, score === 'right']));
  const repairs = mcnemar(
    kept.told.map(({ name, score }) => [wasRight.get(name) === true, score === 'right'] as const),
  );
  return [
    `| listed, paired with ${against} | ${pairedRow(before.handled, handled)} |`,
    `| ways nobody listed, paired | ${pairedRow(before.ways, ways)} |`,
    `| repairs in words, paired | right: only before ${repairs.onlyFirst}, only now ${repairs.onlySecond}, p ${repairs.p.toPrecision(2)} |`,
  ];
}
