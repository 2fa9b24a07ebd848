import { readFileSync } from 'node:fs';
import { seeded, type Chance } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { wayOf } from '@jiko/core/diagnosis';
import { faultPart } from '@jiko/core/faults';
import { usualSetup } from '@jiko/core/play';
import { wholeDictionary } from '@jiko/core/dictionary';
import { hideFaults } from '@jiko/bench';
import { usualMeter } from '@jiko/core/readings';
import type { Habit } from '@jiko/core/record';
import { drawOf, follow } from './closed-loop.ts';
import { share, writeBlock } from './figures-block.ts';
import { makeBench, type Blocker } from './hidden-faults.ts';

// npm run learning: hidden faults drawn from a skewed habit, followed with and without what 200 closed jobs
// of the same habit teach. Writes its block of docs/figures.md.

const closedJobs = 200;
const habitual = 12;
const runs = 60;
const boards = ['fell-13', 'cairn-14'];

/** The first is twice as usual as the second, three times as the third. */
function zipf<T>(list: readonly T[], chance: Chance): T {
  const sum = list.reduce((total, _, index) => total + 1 / (index + 1), 0);
  let at = chance() * sum;
  return list.find((_, index) => (at -= 1 / (index + 1)) < 0) ?? list[0]!;
}

const rows = boards.map((id) => {
  const loaded = loadSheet(readFileSync(`sheets/${id}.yaml`, 'utf8'));
  if (!loaded.ok) throw new Error(`${id} does not load`);
  const board = loaded.value;
  const bench = makeBench(board, wholeDictionary(board, usualSetup(board)));
  const usual: Blocker[] = [];
  while (usual.length < habitual) {
    const one = bench.drawBlocker();
    const part = faultPart(one.fault);
    // Each habit is of a part of its own.
    if (part !== null && usual.every(({ fault }) => faultPart(fault) !== part)) usual.push(one);
  }
  const chance = seeded(4712);
  const taught = new Map<Blocker, number>();
  for (let job = 0; job < closedJobs; job++) {
    const one = zipf(usual, chance);
    taught.set(one, (taught.get(one) ?? 0) + 1);
  }
  // As closings say it: the part, and how it had failed.
  const habits: Habit[] = [...taught].map(([{ fault }, times]) => ({
    part: faultPart(fault)!,
    times,
    how: wayOf(fault) ?? undefined,
  }));
  const found = { without: [] as number[], with: [] as number[], first: 0, firstWith: 0, wrong: 0 };
  for (let run = 0; run < runs; run++) {
    const { fault, goal } = zipf(usual, chance);
    const one = (known: readonly Habit[]) => {
      // The same board and the same slips of the probe both times.
      const hidden = hideFaults(board, bench.setup, [fault], seeded(39_000 + run), {
        badContact: 0.02,
        meter: usualMeter,
      });
      return follow(bench.diagnoser, hidden, [fault], goal, () => undefined, {
        signs: drawOf(hidden),
        findings: [],
        readings: [],
        habits: known,
      });
    };
    const [plain, better] = [one([]), one(habits)];
    found.without.push(plain.probes);
    found.with.push(better.probes);
    found.first += Number(plain.rightPart);
    found.firstWith += Number(better.rightPart);
    found.wrong += Number(better.sure > 0.95 && !better.right);
  }
  // What no job ever ended at: learning must not hide it.
  const strange = { count: 0, lost: 0, lostWith: 0 };
  while (strange.count < runs / 2) {
    const { fault, goal } = bench.drawBlocker();
    if (usual.some((one) => faultPart(one.fault) === faultPart(fault))) continue;
    strange.count++;
    const isLost = (known: readonly Habit[]): number => {
      const hidden = hideFaults(board, bench.setup, [fault], seeded(37_000 + strange.count), {
        badContact: 0.02,
        meter: usualMeter,
      });
      const run = follow(bench.diagnoser, hidden, [fault], goal, () => undefined, {
        signs: drawOf(hidden),
        findings: [],
        readings: [],
        habits: known,
      });
      return Number(run.sure > 0.95 && !run.right);
    };
    strange.lost += isLost([]);
    strange.lostWith += isLost(habits);
  }
  const mean = (list: readonly number[]): number =>
    list.reduce((sum, one) => sum + one, 0) / list.length;
  const [plain, better] = [mean(found.without), mean(found.with)];
  return `| ${board.title} | ${plain.toFixed(2)} | ${better.toFixed(2)} | ${share(plain - better, plain)} | ${share(found.first, runs)} | ${share(found.firstWith, runs)} | ${share(found.wrong, runs)} | ${share(strange.lost, strange.count)} | ${share(strange.lostWith, strange.count)} |`;
});

writeBlock('learning', [
  '## What closed jobs teach',
  '',
  `Measured by \`npm run learning\`: ${habitual} faults by seed, the first twice as usual as the second and so on; ${closedJobs} closed jobs drawn from them, then ${runs} hidden boards of the same habit followed with and without what those jobs teach, meter noise and 2 % bad contacts. How much a lesson weighs was chosen on other hidden boards of these two, but of the same twelve faults each: it is no figure of an unseen habit. The last two columns: hidden faults at parts no job ever ended at, confidently called something else, without and with the lessons.`,
  '',
  '| board | readings without | with | fewer (aim 25 %) | part first, without | with | confidently wrong | strange faults, without | with |',
  '|---|---|---|---|---|---|---|---|---|',
  ...rows,
]);
