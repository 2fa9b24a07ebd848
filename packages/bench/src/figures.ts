import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadSheet, type Board, type NetId, type PartRef } from '@jiko/core/board';
import { makeSolver, type OrderCache } from '@jiko/core/circuit';
import {
  closedLoop,
  confidentlyWrong,
  loopRows,
  summaryRows,
  worstRuns,
} from './diagnosis-figures.ts';
import { makeBench, type Bench } from './hidden-faults.ts';
import { roughLoop, roughRow } from './rough-figures.ts';
import { unlistedRows, unlistedRuns } from './unlisted-figures.ts';
import { unseenFigures } from './unseen-figures.ts';
import { mistakeFigures } from './mistake-figures.ts';
import { pairFigures } from './pair-figures.ts';
import { preparedRows } from './prepared-figures.ts';
import { faultName } from '@jiko/core/faults';
import { spiceNetlist } from '@jiko/core/formats';
import { playBoard, playInFull, usualSetup } from '@jiko/core/play';
import { wholeDictionary, type Dictionary } from '@jiko/core/dictionary';

// npm run bench: measures, prints and writes docs/figures.md. Ratios are taken within one run.

const root = new URL('../../../', import.meta.url);
const load = (id: string): Board => {
  const loaded = loadSheet(readFileSync(new URL(`sheets/${id}.yaml`, root), 'utf8'));
  if (!loaded.ok) throw new Error(`${id} does not load`);
  return loaded.value;
};

/** Milliseconds per call: the best of five rounds, since all that disturbs only adds. */
function milliseconds(calls: number, action: () => void): number {
  let best = Infinity;
  for (let round = 0; round < 5; round++) {
    const start = performance.now();
    for (let call = 0; call < calls; call++) action();
    best = Math.min(best, (performance.now() - start) / calls);
  }
  return best;
}

/** Milliseconds of one `.op` inside ngspice: a run of many less a run of one. */
function ngspiceOp(netlist: string): number {
  const file = join(mkdtempSync(join(tmpdir(), 'jiko-bench-')), 'circuit.cir');
  const run = (times: number): number => {
    const control = `.control\nrepeat ${times}\nop\nend\n.endc\n`;
    writeFileSync(file, netlist.replace(/\.end\n$/, `${control}.end\n`));
    return milliseconds(1, () => {
      const done = spawnSync('ngspice', ['-b', file], { encoding: 'utf8' });
      if (done.error) throw done.error;
    });
  };
  return (run(201) - run(1)) / 200;
}

/** The board twice, side by side, each half fed on its own. */
function doubled(board: Board): Board {
  const net = (id: NetId): NetId => (id === board.ground ? id : (`${id}'` as NetId));
  const ref = (name: PartRef): PartRef => `${name}'` as PartRef;
  return {
    ...board,
    nets: [
      ...board.nets,
      ...board.nets
        .filter((one) => one.id !== board.ground)
        .map((one) => ({ ...one, id: net(one.id) })),
    ],
    parts: [
      ...board.parts,
      ...board.parts.map((part) => ({
        ...part,
        ref: ref(part.ref),
        pins: part.pins.map((pin) => ({ ...pin, net: net(pin.net) })),
      })),
    ],
    chips: [
      ...board.chips,
      ...board.chips.map((chip) => ({
        ...chip,
        ref: ref(chip.ref),
        pins: new Map([...chip.pins].map(([pin, on]) => [pin, net(on)])),
        crystal: chip.crystal && ref(chip.crystal),
        diode: chip.diode && ref(chip.diode),
      })),
    ],
    sources: [
      ...board.sources,
      ...board.sources.map((one) => ({
        ...one,
        id: `${one.id}'` as typeof one.id,
        net: net(one.net),
        stays: true,
      })),
    ],
  };
}

const cairn = load('cairn-14');
const { circuit, volts } = playInFull(cairn, usualSetup(cairn));
const solver = makeSolver(circuit);
const settled = solver.solve(volts);
if (settled.status !== 'settled') throw new Error('the running board does not settle');
const ours = milliseconds(300, () => void solver.solve(settled.volts));
const theirs = ngspiceOp(spiceNetlist(circuit, settled.volts, 'Cairn 14 running'));

const playOf = (board: Board): number => {
  const setup = usualSetup(board);
  const orders: OrderCache = new Map();
  return milliseconds(10, () => void playBoard(board, setup, { orders }));
};
const twice = doubled(cairn);
const fourTimes = doubled(twice);
const [play, playTwice, playFourTimes] = [playOf(cairn), playOf(twice), playOf(fourTimes)];

/** Seconds of the second making, the first being slower while the program is still being compiled. */
/** Sheets at hand while the weighing was worked on, and sheets that were only measured, at the end. */
const workedOn = ['cairn-14', 'fell-13', 'beck-mini', 'heron-15', 'otter-14', 'wren-5', 'old-fold'];
const onlyMeasured = ['lark-11', 'ridge-station', 'tarn-duo', 'scree-lp'];
const paired = ['cairn-14', 'fell-13'];

const dictionaries = [...workedOn, ...onlyMeasured].map((id) => {
  const board = load(id);
  const making = (): { seconds: number; dictionary: Dictionary } => {
    const start = performance.now();
    const dictionary = wholeDictionary(board, usualSetup(board));
    return { seconds: (performance.now() - start) / 1000, dictionary };
  };
  const first = making();
  const { seconds, dictionary } = making();
  const byFault = dictionary.faults.map((fault, index) => ({
    fault,
    row: dictionary.rowOf[index] as number,
  }));
  return {
    board,
    first: first.seconds,
    seconds,
    faults: dictionary.faults.length,
    rows: dictionary.rows - 1,
    invalid: byFault
      .filter(({ row }) => dictionary.invalid.has(row))
      .map(({ fault }) => faultName(fault)),
    dictionary,
    unsettled: [...dictionary.ohms, ...dictionary.diode].filter(Number.isNaN).length,
  };
});

const benches = dictionaries.map(({ board, dictionary }) => makeBench(board, dictionary));
const isMeasured = (bench: Bench): boolean => onlyMeasured.includes(bench.board.id);
const loops = benches.map((bench) => closedLoop(bench, isMeasured(bench) ? 80 : 50));
const often = benches.map((bench) =>
  closedLoop(bench, isMeasured(bench) ? 80 : 50, 'as they happen'),
);
const measured = <T>(all: readonly T[]): T[] =>
  all.filter((_, at) => isMeasured(benches[at] as Bench));
const worked = <T>(all: readonly T[]): T[] =>
  all.filter((_, at) => !isMeasured(benches[at] as Bench));
const unlisted = benches.flatMap((bench) =>
  isMeasured(bench) || bench.board.id === 'cairn-14'
    ? [{ bench, runs: unlistedRuns(bench, 3) }]
    : [],
);
const measuredRuns = unlisted.filter(({ bench }) => isMeasured(bench)).flatMap(({ runs }) => runs);
const rough = benches.filter(isMeasured).map((bench) => roughLoop(bench, 40));
const pairs = benches.flatMap((bench) =>
  paired.includes(bench.board.id) ? [pairFigures(bench, 40)] : [],
);
const prepared = benches.flatMap((bench) =>
  bench.board.id === 'cairn-14' ? preparedRows(bench, 40) : [],
);
const mistakes = benches.flatMap((bench) =>
  paired.includes(bench.board.id) ? mistakeFigures(bench, 40) : [],
);

const unseen = unseenFigures();

const times = (ratio: number): string => `${ratio.toFixed(1)} times`;
const rows: [string, string, string][] = [
  [
    `one DC operating point, Cairn 14 running (${circuit.nodes} nodes, ${circuit.devices.length} devices), warm`,
    '20 times faster than ngspice `.op` on the same netlist',
    `${(ours * 1000).toFixed(0)} µs against ${(theirs * 1000).toFixed(0)} µs: ${times(theirs / ours)}`,
  ],
  ['one full play of Cairn 14, healthy, all phases', '-', `${play.toFixed(1)} ms`],
  [
    'growth: a play of the board twice against once',
    'at most 4 times',
    `${twice.nets.length - 1} nets against ${cairn.nets.length - 1}: ${times(playTwice / play)}`,
  ],
  [
    'growth: a play of the board four times against twice',
    'at most 4 times',
    `${fourTimes.nets.length - 1} nets against ${twice.nets.length - 1}: ${times(playFourTimes / playTwice)}`,
  ],
  ...dictionaries.map(({ board, faults, rows, seconds, first }): [string, string, string] => [
    `fault dictionary of ${board.title}: every single fault in all its severities, all phases and cold, one core`,
    board.id === 'cairn-14' ? 'under 5 s' : '-',
    `${faults} faults, ${rows} different, in ${seconds.toFixed(1)} s: ${times((seconds * 1000) / rows / play)} a healthy play of Cairn 14 each (first making ${first.toFixed(1)} s)`,
  ]),
  ...dictionaries.map(({ board, faults, invalid, unsettled }): [string, string, string] => [
    `flagged: plays of ${board.title} that did not settle or end, cold readings without an answer`,
    '0',
    `${invalid.length} of ${faults} faults, ${unsettled} readings`,
  ]),
  ...summaryRows(measured(loops), 'evenly'),
  ...summaryRows(measured(often), 'as they happen'),
  ...unseen.rows,
  ...summaryRows(worked(loops), 'evenly', 'used while working'),
  ...summaryRows(worked(often), 'as they happen', 'used while working'),
  ...loops.flatMap(loopRows),
  ...rough.map(roughRow),
  ...unlistedRows('Lark 11, Ridge Station, Tarn Duo, Scree LP', measuredRuns),
  ...unlisted
    .filter(({ bench }) => !isMeasured(bench))
    .flatMap(({ bench, runs }) => unlistedRows(bench.board.title, runs)),
  ...prepared,
  ...pairs,
  ...mistakes,
];
const worst = [
  ...loops.flatMap((one) => worstRuns(one, one.title === 'Cairn 14' ? 8 : 4)),
  ...unseen.worst,
];
const worstOften = often.flatMap((one) => worstRuns(one, 3));
const worstUnlisted = measuredRuns
  .filter(({ run, right }) => run.end === 'sure' && !right)
  .map(
    ({ way, failing, run }) =>
      `- ${way}: ${failing.name} ended at "${run.answer}" at ${(run.sure * 100).toFixed(0)} %`,
  );
const flagged = dictionaries.flatMap(({ board, invalid }) =>
  invalid.map((name) => `- ${board.title}: ${name}`),
);
const text = [
  '# Figures',
  '',
  `Made by \`npm run bench\` on ${cpus().length} cores, Node.js ${process.versions.node}. Times differ from machine to machine; ratios were taken within one run.`,
  '',
  'Sheets used while working: Cairn 14, Fell 13, Beck mini, Heron 15, Otter 14, Wren 5, Old Fold, and boards 201 to 260 and 301 to 342 of those drawn by chance (`npm run strangers`). Sheets that were only measured, at the end, until 1 December 2026: Lark 11, Ridge Station, Tarn Duo, Scree LP; they were looked at then and count as worked on. The six sheets of the yardstick are the ones nobody looks at. Boards 941 to 980 drawn by chance are taken as sheets in full, and nobody looked at them before. Hidden faults are drawn evenly from the list, so that what is rare is met as often as what is common; or, where it says so, as they happen: by the guesses the diagnosis itself starts from, each way of failing and each part more or less often than guessed, by twice as much in a third of them. Known beforehand are the draw at the source and whether it goes off by itself. A run takes every reading that Trace asks for, until none tells a tenth of a bit any more; what then stands above 95 % is what it was sure of. Trace then still asks, in order, for what the missing stage needs, before anybody is sent to a part: for runs that ended sure of something else, what comes of that stands in brackets. (Until 27 November 2026 a run ended as soon as 95 % was passed: figures of before are not comparable one to one. Since then that a board stays on is known as well as that it goes off. Since the evening of that day a hidden board that reaches its goal with the fault in it, because the values it was drawn with do without what the fault takes, is drawn again: there is nothing to find. Such boards counted as wrong before, most of all weak shorts on driven lines.)',
  '',
  '| figure | aim | measured |',
  '| --- | --- | --- |',
  ...rows.map((row) => `| ${row.join(' | ')} |`),
  '',
  ...(flagged.length > 0
    ? ['Plays flagged invalid, whose numbers are not used:', '', ...flagged, '']
    : []),
  'The runs of hidden faults, drawn evenly, that ended wrong or took longest:',
  '',
  ...worst,
  '',
  'The same, drawn as they happen:',
  '',
  ...worstOften,
  '',
  'Readings 4 % off and bad contacts, on sheets that were only measured and on boards nobody looked at, which ended sure and wrong:',
  '',
  ...rough.flatMap(confidentlyWrong),
  ...unseen.worstRough,
  '',
  'Boards that fail in a way no list has, on sheets that were only measured, which ended sure and wrong:',
  '',
  ...worstUnlisted,
  '',
  ...keptRest(),
].join('\n');
writeFileSync(new URL('docs/figures.md', root), text);
process.stdout.write(text);

/** What the other runs wrote, and what was written by hand, stands behind this and stays. */
function keptRest(): string[] {
  const before = readFileSync(new URL('docs/figures.md', root), 'utf8');
  const start = before.search(/<!-- \w+ -->/);
  return start < 0 ? [] : [before.slice(start)];
}
