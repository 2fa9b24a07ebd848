import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadSheet, type Board, type NetId, type PartRef } from '@jiko/core/board';
import { makeSolver } from '@jiko/core/circuit';
import { faultName, listFaults, withFault } from '@jiko/core/faults';
import { spiceNetlist } from '@jiko/core/formats';
import { playBoard, playInFull, usualSetup } from '@jiko/core/powerup';

// npm run bench: measures, prints and writes docs/figures.md. Ratios are taken within one run.

const root = new URL('../../../../', import.meta.url);
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

const play = milliseconds(5, () => void playBoard(cairn, usualSetup(cairn)));
const twice = doubled(cairn);
const playTwice = milliseconds(3, () => void playBoard(twice, usualSetup(twice)));

const sweeps = ['cairn-14', 'fell-13', 'beck-mini'].map((id) => {
  const board = load(id);
  const faults = listFaults(board);
  const start = performance.now();
  const invalid: string[] = [];
  let swinging = 0;
  for (const fault of faults) {
    const one = playBoard(withFault(board, fault), usualSetup(board));
    if (one.status === 'invalid') invalid.push(faultName(fault));
    if ([...one.phases.values()].some((snapshot) => snapshot.swinging.size > 0)) swinging++;
  }
  return {
    board,
    faults: faults.length,
    seconds: (performance.now() - start) / 1000,
    invalid,
    swinging,
  };
});

const rows: [string, string, string][] = [
  [
    'one DC operating point, Cairn 14 running, warm',
    '20 times faster than ngspice `.op` on the same netlist',
    `${(ours * 1000).toFixed(0)} µs against ${(theirs * 1000).toFixed(0)} µs: ${(theirs / ours).toFixed(1)} times`,
  ],
  ['one full play of Cairn 14, healthy, all phases', '-', `${play.toFixed(1)} ms`],
  ['growth: the board twice', 'at most 4 times', `${(playTwice / play).toFixed(1)} times`],
  ...sweeps.map(({ board, faults, seconds, invalid, swinging }): [string, string, string] => [
    `every single fault of ${board.title}, powered phases, one core`,
    board.id === 'cairn-14' ? '5 s (cold included), 0 flagged' : '0 flagged',
    `${faults} plays in ${seconds.toFixed(1)} s, ${swinging} swinging, ${invalid.length} flagged invalid`,
  ]),
];
const flagged = sweeps.flatMap(({ board, invalid }) =>
  invalid.map((name) => `- ${board.title}: ${name}`),
);
const text = [
  '# Figures',
  '',
  `Made by \`npm run bench\` on ${cpus().length} cores, Node.js ${process.versions.node}. Times differ from machine to machine; ratios were taken within one run.`,
  '',
  '| figure | aim | measured |',
  '| --- | --- | --- |',
  ...rows.map((row) => `| ${row.join(' | ')} |`),
  '',
  ...(flagged.length > 0
    ? ['Plays flagged invalid, whose numbers are not used:', '', ...flagged, '']
    : []),
].join('\n');
writeFileSync(new URL('docs/figures.md', root), text);
process.stdout.write(text);
