import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { makeSolver, type Device, type JunctionModel } from '@jiko/core/circuit';
import { loadSheet, type NetId } from '@jiko/core/board';
import { parseFault, withFaults } from '@jiko/core/faults';
import { spiceNetlist } from '@jiko/core/formats';
import { buildCircuit, playInFull, usualSetup } from '@jiko/core/play';
import { diesOf, makeColdBench } from '@jiko/core/cold';
import { usualMeter } from '@jiko/core/readings';

// Held against ngspice (Debian's package), a general-purpose circuit simulator: the same netlist,
// each limited source frozen in the mode our solver found. Which mode it is is checked by hand-made
// cases beside the solver.

/** Node volts by ngspice's operating point. */
function ngspice(netlist: string): Map<number, number> {
  const file = join(mkdtempSync(join(tmpdir(), 'jiko-spice-')), 'circuit.cir');
  const nodes = [...netlist.matchAll(/^Rg(\d+) /gm)].map((match) => `print v(${match[1]})`);
  const control = ['.control', 'op', ...nodes, '.endc'].join('\n');
  writeFileSync(file, netlist.replace(/\.end\n$/, `${control}\n.end\n`));
  const done = spawnSync('ngspice', ['-b', file], { encoding: 'utf8' });
  const found = new Map<number, number>();
  for (const [, node, value] of done.stdout.matchAll(/^v\((\d+)\) = (\S+)$/gm))
    found.set(Number(node), Number(value));
  if (found.size === 0)
    throw new Error(`ngspice gave no operating point:\n${done.stdout}\n${done.stderr}`);
  return found;
}

function compare(nodes: number, devices: Device[], name: string): Float64Array {
  const point = makeSolver({ nodes, devices }).solve();
  if (point.status !== 'settled') throw new Error(`${name}: ${JSON.stringify(point)}`);
  const theirs = ngspice(spiceNetlist({ nodes, devices }, point.volts, name));
  for (let node = 1; node < nodes; node++) {
    const ours = point.volts[node] as number;
    const other = theirs.get(node) ?? NaN;
    expect(Math.abs(ours - other), `${name}, node ${node}: ${ours} against ${other}`).toBeLessThan(
      Math.max(0.001, Math.abs(other) * 0.001),
    );
  }
  return point.volts;
}

const r = (a: number, b: number, ohms: number): Device => ({
  kind: 'resistor',
  name: `R${a}-${b}`,
  a,
  b,
  siemens: 1 / ohms,
});
const source = (node: number, volts: number, maxAmps = 10, ohms = 0.05): Device => ({
  kind: 'source',
  name: `V${node}`,
  node,
  base: 0,
  volts,
  ohms,
  maxAmps,
  minAmps: -maxAmps,
  on: true,
});
const body: JunctionModel = { saturationAmps: 1e-11, emission: 1.05, seriesOhms: 0.01 };
const silicon: JunctionModel = { saturationAmps: 2e-9, emission: 1.8, seriesOhms: 0.2 };
const diode = (
  anode: number,
  cathode: number,
  model = silicon,
  breakdownVolts: number | null = null,
): Device => ({
  kind: 'diode',
  name: `D${anode}-${cathode}`,
  anode,
  cathode,
  model,
  breakdownVolts,
});
const fet = (
  polarity: 'n' | 'p',
  gate: number,
  drain: number,
  s: number,
  thresholdVolts = 1.8,
  beta = 20,
): Device[] => [
  { kind: 'fet', name: 'Q', polarity, gate, drain, source: s, thresholdVolts, beta },
  polarity === 'n' ? diode(s, drain, body) : diode(drain, s, body),
];

describe('against ngspice', () => {
  it('divider, and the same divider loaded', () => {
    compare(3, [source(1, 19.5), r(1, 2, 432e3), r(2, 0, 71.5e3)], 'divider');
    compare(
      3,
      [source(1, 19.5), r(1, 2, 432e3), r(2, 0, 71.5e3), r(2, 0, 100e3)],
      'loaded divider',
    );
  });
  it.each([0.5, 1, 2])('N-channel follower with its gate divider at %f of its value', (drift) => {
    compare(
      5,
      [
        source(1, 20),
        source(4, 28),
        r(4, 3, 1e6 * drift),
        r(3, 0, 3e6),
        ...fet('n', 3, 1, 2),
        r(2, 0, 50),
      ],
      'n follower',
    );
  });
  it.each([
    ['on', 47e3],
    ['half on', 1.05e6],
    ['off', 1e9],
  ])('P-channel switch %s', (_state, pull) => {
    compare(
      4,
      [source(1, 19.5), r(1, 3, 100e3), r(3, 0, pull), ...fet('p', 3, 2, 1), r(2, 0, 200)],
      'p switch',
    );
  });
  it.each(['none', 'first', 'second'])(
    'two P-channel FETs back to back, shorted: %s',
    (shorted) => {
      const devices = [
        source(1, 19.5),
        ...fet('p', 4, 1, 2),
        ...fet('p', 4, 3, 2),
        r(2, 4, 100e3),
        r(3, 0, 500),
      ];
      if (shorted === 'first') devices.push(r(1, 2, 0.05));
      if (shorted === 'second') devices.push(r(2, 3, 0.05));
      compare(5, devices, `pair, ${shorted} shorted`);
    },
  );
  it('a pump that lifts a gate above a node, free and shorted', () => {
    const pump: Device = {
      kind: 'source',
      name: 'pump',
      node: 2,
      base: 1,
      ownFeed: true,
      volts: 6,
      ohms: 20_000,
      maxAmps: 0.0002,
      minAmps: 0,
      on: true,
    };
    const hung = [r(2, 1, 1e6), r(1, 0, 1e6)];
    compare(3, [pump, ...hung], 'free');
    compare(3, [pump, ...hung, r(2, 0, 1000)], 'shorted');
  });

  it('diode-mode through body and protection diodes, both polarities', () => {
    const junctions = [diode(0, 1, body), diode(1, 2), r(2, 0, 1e6)];
    // The usual habit: red on ground, black on the point, a milliamp out of the point.
    const usual = compare(
      3,
      [
        ...junctions,
        {
          kind: 'source',
          name: 'meter',
          node: 0,
          base: 1,
          volts: 2.5,
          ohms: 1,
          maxAmps: 0.001,
          minAmps: 0,
          on: true,
        },
      ],
      'red on ground',
    );
    expect(-(usual[1] as number)).toBeGreaterThan(0.4);
    expect(-(usual[1] as number)).toBeLessThan(0.6);
    compare(
      3,
      [
        ...junctions,
        {
          kind: 'source',
          name: 'meter',
          node: 1,
          base: 0,
          volts: 2.5,
          ohms: 1,
          maxAmps: 0.001,
          minAmps: 0,
          on: true,
        },
      ],
      'red on point',
    );
  });
  it('zener clamp, conducting and not', () => {
    compare(3, [source(1, 24), r(1, 2, 1000), diode(0, 2, silicon, 15)], 'zener conducting');
    compare(3, [source(1, 12), r(1, 2, 1000), diode(0, 2, silicon, 15)], 'zener waiting');
  });
  it.each([1e6, 100, 20, 4.2, 1, 0.05, 0.001])('limited supply into %f ohm', (ohms) => {
    compare(2, [source(1, 19.5, 4.6), r(1, 0, ohms)], 'limited supply');
  });
  it('sense-resistor and copper drops under load', () => {
    compare(
      5,
      [
        source(1, 19.5),
        r(1, 2, 0.01),
        r(2, 3, 0.0015),
        r(3, 4, 0.0022),
        { kind: 'load', name: 'load', node: 4, amps: 3.2, letGoVolts: 6 },
      ],
      'drops',
    );
  });
  it('filter resistor feeding a leaking pin', () => {
    compare(
      4,
      [
        source(1, 3.3),
        r(1, 2, 1000),
        r(2, 0, 220),
        diode(0, 2, body),
        r(2, 3, 100e3),
        r(3, 0, 1e6),
      ],
      'leaking pin',
    );
  });
  it.each([0, 0.65, 3.3])('bipolar switch with %f V at its base resistor', (drive) => {
    compare(
      5,
      [
        source(1, 5),
        source(4, drive),
        r(4, 3, 10e3),
        r(1, 2, 1000),
        {
          kind: 'bipolar',
          name: 'Q',
          polarity: 'npn',
          base: 3,
          collector: 2,
          emitter: 0,
          saturationAmps: 1e-14,
          forwardBeta: 150,
          reverseBeta: 4,
        },
      ],
      'bipolar',
    );
  });
  it('charge-pump gate standing on the rail it switches', () => {
    compare(
      4,
      [
        source(1, 20),
        ...fet('n', 3, 1, 2),
        r(2, 0, 40),
        r(3, 2, 1e6),
        {
          kind: 'source',
          name: 'pump',
          node: 3,
          base: 2,
          volts: 8,
          ohms: 20e3,
          maxAmps: 0.0002,
          minAmps: 0,
          on: true,
        },
      ],
      'charge pump',
    );
  });
  it.each([
    ['linear, holding', 'linear', 5, 33],
    ['linear, dropped out', 'linear', 3.2, 33],
    ['linear, limited', 'linear', 5, 1],
    ['switching, holding', 'switching', 19.5, 2],
    ['switching, limited', 'switching', 19.5, 0.2],
  ] as const)('regulator %s', (_name, pass, input, ohms) => {
    compare(
      3,
      [
        source(1, input),
        {
          kind: 'regulator',
          name: 'U',
          in: 1,
          out: 2,
          sense: 2,
          volts: 3.3,
          ohms: 0.005,
          limitAmps: pass === 'linear' ? 0.3 : 8,
          pass,
          efficiency: 0.9,
          dropoutVolts: 0.15,
          on: true,
        },
        r(2, 0, ohms),
      ],
      'regulator',
    );
  });
});

describe('whole Cairn 14 against ngspice', () => {
  const loaded = loadSheet(
    readFileSync(new URL('../../../sheets/cairn-14.yaml', import.meta.url), 'utf8'),
  );
  if (!loaded.ok) throw new Error('the demo sheet does not load');
  const board = loaded.value;

  it.each([
    ['nothing switched on yet', []],
    ['input FETs off and a gate clamp shorted', ['D2.A-K:short']],
    ['main rail at 1 ohm', ['VMAIN:short=1']],
  ])('source connected, %s', (name, faults) => {
    const chosen = faults.map((text) => {
      const parsed = parseFault(board, text);
      if (!parsed.ok) throw new Error(text);
      return parsed.value;
    });
    const { circuit, sources } = buildCircuit(withFaults(board, chosen));
    for (const id of ['adapter', 'coin-cell']) {
      sources.get(id)?.on.set(1);
    }
    const volts = compare(circuit.nodes, circuit.devices, name);
    expect(volts.length).toBe(board.nets.length);
  });

  it.each([
    ['3V3_ALW', []],
    ['VMAIN', []],
    ['PLTRST#', []],
    ['EC_RST#', []],
    ['VIN_JACK', ['D1.A-K:short=1']],
    ['3V3_RUN', ['C61:short=2']],
    ['VBAT', ['PQ3.D-S:short=10']],
  ])('cold, meter at %s, faults %j: diode-mode within 2 mV', (net, texts) => {
    const faults = texts.map((text) => {
      const parsed = parseFault(board, text);
      if (!parsed.ok) throw new Error(text);
      return parsed.value;
    });
    const bench = makeColdBench(
      withFaults(board, faults),
      diesOf(board, usualMeter),
      new Map(),
      usualMeter.mostDiodeVolts,
    );
    const nodes = board.nets.length;
    for (const lead of ['black', 'red', 'high range'] as const) {
      bench.withLead(net as NetId, lead, (solved) => {
        if (typeof solved === 'string') throw new Error(solved);
        const devices = [...bench.devices];
        const theirs = ngspice(
          spiceNetlist({ nodes, devices }, solved.volts, `cold ${net} ${lead}`),
        );
        const node = bench.nodeOf(net as NetId);
        const ours = solved.volts[node] as number;
        const other = theirs.get(node) ?? NaN;
        expect(Math.abs(ours - other), `${lead}: ${ours} against ${other}`).toBeLessThan(0.002);
      });
    }
  });
});

describe('boards that run, exported as SPICE', () => {
  it.each(['cairn-14', 'fell-13', 'beck-mini'])('%s reads in ngspice as in the play', (id) => {
    const loaded = loadSheet(
      readFileSync(new URL(`../../../sheets/${id}.yaml`, import.meta.url), 'utf8'),
    );
    if (!loaded.ok) throw new Error('the demo sheet does not load');
    const board = loaded.value;
    const { play, circuit, volts } = playInFull(board, usualSetup(board));
    const theirs = ngspice(spiceNetlist(circuit, volts, `${board.title} running`));
    const nets = board.nets.filter((net) => net.id !== board.ground);
    nets.forEach((net, index) => {
      const ours = play.phases.get('run')?.volts.get(net.id as NetId) ?? NaN;
      const other = theirs.get(index + 1) ?? NaN;
      expect(Math.abs(ours - other), `${net.id}: ${ours} against ${other}`).toBeLessThan(
        Math.max(0.001, Math.abs(other) * 0.001),
      );
    });
  });
});
