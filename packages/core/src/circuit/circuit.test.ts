import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../base/index.ts';
import { junctionCurrent, makeSolver, thermalVolts, wrightOmega, type Device } from './index.ts';
import { makeSparseLu, orderPattern } from './sparse-lu.ts';

const resistor = (a: number, b: number, ohms: number): Device => ({
  kind: 'resistor',
  name: `R${a}-${b}`,
  a,
  b,
  siemens: 1 / ohms,
});
const supply = (node: number, volts: number, limit = 10, ohms = 0.01): Device => ({
  kind: 'source',
  name: 'supply',
  node,
  base: 0,
  volts,
  ohms,
  maxAmps: limit,
  minAmps: 0,
  on: true,
});
const switching = (from: number, out: number, volts: number): Device => ({
  kind: 'regulator',
  name: `${volts} V`,
  in: from,
  out,
  sense: out,
  volts,
  ohms: 0.005,
  limitAmps: 8,
  pass: 'switching',
  efficiency: 0.9,
  dropoutVolts: 0.1,
  on: true,
});
const solve = (nodes: number, devices: Device[]): Float64Array => {
  const point = makeSolver({ nodes, devices }).solve();
  if (point.status !== 'settled') throw new Error(JSON.stringify(point));
  return point.volts;
};

describe('a warm start', () => {
  it('may have a node less, or more, than the circuit: a fault cut a net in two', () => {
    const ladder = [supply(1, 5), resistor(1, 2, 1000), resistor(2, 0, 1000)];
    const cut = makeSolver({ nodes: 5, devices: [...ladder, resistor(3, 4, 10)] });
    const point = cut.solve(solve(3, ladder));
    // Warm, it is there at once: what floats was at nothing before.
    expect(point).toMatchObject({ status: 'settled', iterations: 1 });
    expect(
      makeSolver({ nodes: 3, devices: ladder }).solve(new Float64Array(5).fill(1)),
    ).toMatchObject({ status: 'settled', volts: solve(3, ladder) });
  });
});

describe('sparse LU', () => {
  it('agrees with dense elimination on random symmetric patterns', () => {
    const chance = seeded(11);
    for (let run = 0; run < 30; run++) {
      const size = 2 + Math.floor(chance() * 14);
      const dense = Array.from({ length: size }, () => new Array<number>(size).fill(0));
      const entries: [number, number][] = [];
      for (let i = 0; i < size; i++) {
        (dense[i] as number[])[i] = size + chance();
        for (let j = 0; j < i; j++) {
          if (chance() > 0.35) continue;
          entries.push([i, j]);
          (dense[i] as number[])[j] = chance() - 0.5;
          (dense[j] as number[])[i] = chance() - 0.5;
        }
      }
      const lu = makeSparseLu(orderPattern(size, entries));
      dense.forEach((row, i) =>
        row.forEach((value, j) => {
          if (value !== 0) lu.values[lu.slot(i, j)] = value;
        }),
      );
      const wanted = Float64Array.from({ length: size }, () => chance() * 10 - 5);
      const b = Float64Array.from(
        dense.map((row) => row.reduce((sum, a, j) => sum + a * (wanted[j] as number), 0)),
      );
      expect(lu.factor()).toBe(true);
      lu.solve(b);
      b.forEach((value, i) => expect(value).toBeCloseTo(wanted[i] as number, 9));
    }
  });
});

describe('junction', () => {
  it('is the Wright omega function: omega(1) = 1, omega(0) = 0.5671432904 (handbook constants)', () => {
    expect(wrightOmega(1)).toBeCloseTo(1, 14);
    expect(wrightOmega(0)).toBeCloseTo(0.5671432904097838, 14);
    for (const x of [-40, -10, -1, 0.5, 3, 50, 1e4]) {
      const w = wrightOmega(x);
      expect(Math.abs(w + Math.log(w) - x)).toBeLessThan(1e-12 * Math.max(1, Math.abs(x)));
    }
  });

  it('satisfies i = Is (exp((v - i R) / nVt) - 1)', () => {
    const model = { saturationAmps: 1e-12, emission: 1.1, seriesOhms: 0.5 };
    for (const v of [-0.5, 0.1, 0.4, 0.7, 1.5, 20]) {
      const { amps } = junctionCurrent(model, v);
      const plain =
        model.saturationAmps *
        (Math.exp((v - amps * model.seriesOhms) / (model.emission * thermalVolts)) - 1);
      expect(Math.abs(amps - plain)).toBeLessThan(1e-9 * Math.abs(amps) + 1e-15);
    }
  });
});

describe('operating point', () => {
  it('loaded divider: 12 V over 10 k and 10 k, 10 k load, gives 4 V (Ohm by hand)', () => {
    const volts = solve(3, [
      supply(1, 12),
      resistor(1, 2, 1e4),
      resistor(2, 0, 1e4),
      resistor(2, 0, 1e4),
    ]);
    expect(volts[2]).toBeCloseTo(4, 4);
  });

  it('a bench supply holds its volts up to its limit and its limit from there on', () => {
    for (const ohms of [1000, 10, 5.01, 4.9, 1, 0.001]) {
      const volts = solve(2, [supply(1, 5, 1, 0.001), resistor(1, 0, ohms)]);
      const expected = Math.min((5 * ohms) / (ohms + 0.001), ohms);
      expect(volts[1], `${ohms} ohm`).toBeCloseTo(expected, 6);
    }
  });

  it('level 1 N-channel follower: source settles a threshold and an overdrive below its gate', () => {
    // Vgs - Vth = sqrt(2 I / beta); I = Vs / R. R = 1 k, beta = 1e-2, Vth = 2, Vg = 10: solved by hand below.
    const volts = solve(4, [
      supply(1, 20),
      supply(3, 10),
      resistor(2, 0, 1000),
      {
        kind: 'fet',
        name: 'Q',
        polarity: 'n',
        gate: 3,
        drain: 1,
        source: 2,
        thresholdVolts: 2,
        beta: 1e-2,
      },
    ]);
    const source = volts[2] as number;
    expect((1e-2 / 2) * (10 - source - 2) ** 2).toBeCloseTo(source / 1000, 6);
  });

  it('a P-channel switch passes the whole supply when on, and only its body diode when off', () => {
    const board = (gateVolts: number): number =>
      solve(4, [
        supply(1, 19),
        {
          kind: 'fet',
          name: 'Q',
          polarity: 'p',
          gate: 3,
          drain: 1,
          source: 2,
          thresholdVolts: 2,
          beta: 20,
        },
        {
          kind: 'diode',
          name: 'body',
          anode: 1,
          cathode: 2,
          model: { saturationAmps: 1e-11, emission: 1, seriesOhms: 0.01 },
          breakdownVolts: null,
        },
        supply(3, gateVolts, 1, 100),
        resistor(2, 0, 190),
      ])[2] as number;
    expect(board(9)).toBeGreaterThan(18.98);
    expect(board(19)).toBeGreaterThan(18.2);
    expect(board(19)).toBeLessThan(18.6);
  });

  it('a regulator drops out when its input falls short and limits into a short', () => {
    const rail = (input: number, loadOhms: number): { out: number; amps: number } => {
      const devices: Device[] = [
        supply(1, input, 5, 0.01),
        {
          kind: 'regulator',
          name: 'U',
          in: 1,
          out: 2,
          sense: 2,
          volts: 3.3,
          ohms: 0.01,
          limitAmps: 2,
          pass: 'linear',
          efficiency: 0.9,
          dropoutVolts: 0.2,
          on: true,
        },
        resistor(2, 0, loadOhms),
      ];
      const solver = makeSolver({ nodes: 3, devices });
      const point = solver.solve();
      if (point.status !== 'settled') throw new Error(JSON.stringify(point));
      return { out: point.volts[2] as number, amps: solver.currents(point.volts)[0] as number };
    };
    expect(rail(5, 33).out).toBeCloseTo(3.299, 3);
    expect(rail(3, 33).out).toBeCloseTo(2.798, 2);
    const shorted = rail(5, 0.05);
    expect(shorted.out).toBeCloseTo(0.1, 3);
    expect(shorted.amps).toBeCloseTo(2, 3);
  });

  it('a switching regulator takes its output power over its efficiency', () => {
    const devices: Device[] = [
      supply(1, 20, 5, 0.01),
      switching(1, 2, 5),
      { kind: 'load', name: 'load', node: 2, amps: 2, letGoVolts: 2 },
    ];
    const solver = makeSolver({ nodes: 3, devices });
    const point = solver.solve();
    if (point.status !== 'settled') throw new Error(JSON.stringify(point));
    const watts = (point.volts[1] as number) * (solver.currents(point.volts)[0] as number);
    expect(watts).toBeCloseTo((2 * (point.volts[2] as number)) / 0.9, 2);
  });

  it("keeps Kirchhoff's current law at every node of random ladders, and is monotonic in the supply", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 100000 }), { minLength: 4, maxLength: 12 }),
        fc.double({ min: 1, max: 20, noNaN: true }),
        (values, volts) => {
          const ladder = (v: number): { volts: Float64Array; devices: Device[] } => {
            const devices: Device[] = [supply(1, v, 3)];
            values.forEach((ohms, i) => {
              const node = 1 + Math.floor(i / 2);
              devices.push(
                i % 2 === 0 ? resistor(node, node + 1, ohms) : resistor(node + 1, 0, ohms),
              );
            });
            return { volts: solve(2 + Math.ceil(values.length / 2), devices), devices };
          };
          const low = ladder(volts);
          const high = ladder(volts + 1);
          const sum = new Float64Array(low.volts.length);
          for (const device of low.devices) {
            if (device.kind !== 'resistor') continue;
            const amps =
              ((low.volts[device.a] as number) - (low.volts[device.b] as number)) * device.siemens;
            sum[device.a] = (sum[device.a] as number) - amps;
            sum[device.b] = (sum[device.b] as number) + amps;
          }
          for (let node = 2; node < sum.length; node++)
            expect(Math.abs(sum[node] as number)).toBeLessThan(2e-6);
          low.volts.forEach((v, node) => expect(high.volts[node]).toBeGreaterThanOrEqual(v - 1e-9));
        },
      ),
      { seed: 5, numRuns: 60 },
    );
  });

  it('a pump fed by its own supply lifts above a node and takes nothing out of it', () => {
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
    const hung = [resistor(2, 1, 1e6), resistor(1, 0, 1e6)];
    // 6 V over 20 kΩ and 1 MΩ: 5.882 µA, and the same through the megohm below.
    const held = solve(3, [pump, ...hung]);
    expect(held[1]).toBeCloseTo(5.882, 2);
    expect(held[2]! - held[1]!).toBeCloseTo(5.882, 2);
    // A gate shorted by a kilohm takes all it gives, 0.2 mA: nothing is drawn below ground.
    const shorted = solve(3, [pump, ...hung, resistor(2, 0, 1000)]);
    expect(shorted[2]).toBeCloseTo(0.2, 3);
    expect(shorted[1]).toBeCloseTo(0.1, 3);
    // A meter's lead does take out of its other end what it gives.
    const lead = solve(3, [{ ...pump, ownFeed: false }, ...hung, resistor(2, 0, 1000)]);
    expect(lead[1]).toBeLessThan(-1);
  });

  it('finds where a source ends that is too weak for the power asked of it, also where Newton does not', () => {
    const board = (sourceOhms: number): Device[] => [
      supply(1, 19, 10, sourceOhms),
      resistor(1, 4, 0.01),
      switching(4, 2, 5),
      { kind: 'load', name: 'five', node: 2, amps: 2, letGoVolts: 3 },
      switching(2, 3, 1),
      { kind: 'load', name: 'one', node: 3, amps: 2, letGoVolts: 0.6 },
    ];
    const strong = solve(5, board(0.05));
    for (const maxIterations of [4, 12, 150]) {
      const solver = makeSolver({ nodes: 5, devices: board(10) }, { maxIterations });
      const point = solver.solve(strong);
      if (point.status !== 'settled') throw new Error('stalled');
      const [, source = 0, five = 0, one = 0, bus = 0] = point.volts;
      // The first regulator gives 97 % of what it gets, less what its ohms drop, for both loads, and
      // takes ever less below its own volts; the second takes power.
      const second = (one * 2) / 0.9 / five;
      expect(five).toBeCloseTo(0.97 * bus - (2 + second) * 0.005, 3);
      const taken = (((2 + second) * five) / 0.9) * (bus / 25);
      expect((19 - source) / 10).toBeCloseTo(taken, 3);
      expect(bus).toBeLessThan(4);
    }
  });

  it('says which device did not settle instead of giving a wrong answer', () => {
    const devices: Device[] = [supply(1, 10, 1), resistor(1, 0, 5)];
    const point = makeSolver({ nodes: 2, devices }, { maxIterations: 1 }).solve();
    expect(point.status).toBe('stalled');
  });
});

describe('bipolar transistor', () => {
  const switchCircuit = (baseVolts: number, polarity: 'npn' | 'pnp'): Float64Array => {
    const npn = polarity === 'npn';
    // 5 V, 1 k at the collector, 10 k at the base; the PNP is the same circuit hung from 5 V.
    return solve(5, [
      supply(1, 5),
      { ...supply(4, baseVolts, 1), minAmps: -1 } as Device,
      resistor(4, 3, 10_000),
      resistor(npn ? 1 : 0, 2, 1000),
      {
        kind: 'bipolar',
        name: 'Q',
        polarity,
        base: 3,
        collector: 2,
        emitter: npn ? 0 : 1,
        saturationAmps: 1e-14,
        forwardBeta: 100,
        reverseBeta: 4,
      },
    ]);
  };
  it('blocks without base current, saturates with enough', () => {
    expect(switchCircuit(0, 'npn')[2]).toBeCloseTo(5, 3);
    expect(switchCircuit(5, 'npn')[2]).toBeLessThan(0.1);
    expect(switchCircuit(5, 'pnp')[2]).toBeLessThan(0.001);
    expect(switchCircuit(0, 'pnp')[2]).toBeGreaterThan(4.9);
  });
  it('in its active region the collector carries beta times the base current', () => {
    const volts = switchCircuit(0.9, 'npn');
    const baseAmps = (0.9 - (volts[3] as number)) / 10_000;
    const collectorAmps = (5 - (volts[2] as number)) / 1000;
    expect(volts[2]).toBeGreaterThan(1);
    expect(collectorAmps / baseAmps).toBeCloseTo(100, 1);
  });
});

describe('a meter of 10 megohms on the circuit', () => {
  const meter = 1e-7;
  const model = { saturationAmps: 1e-12, emission: 1.8, seriesOhms: 0.5 };

  it('halves what comes through 10 megohms, and takes nothing from a rail (divider by hand)', () => {
    const solver = makeSolver({
      nodes: 4,
      devices: [supply(1, 12), resistor(1, 2, 10e6), resistor(1, 3, 100e3), resistor(3, 0, 100e3)],
    });
    const point = solver.solve();
    if (point.status !== 'settled') throw new Error('stalled');
    expect(point.volts[2]).toBeCloseTo(12, 1);
    const shown = solver.underMeter(point.volts, meter, 0.01);
    expect([...shown.keys()]).toEqual([2]);
    expect(shown.get(2)).toBeCloseTo(6, 2);
    // Asked again, the same.
    expect(solver.underMeter(point.volts, meter, 0.01).get(2)).toBe(shown.get(2));
  });

  it('shows the feed less a junction at a third of a microamp behind a diode (Shockley by hand)', () => {
    const solver = makeSolver({
      nodes: 3,
      devices: [
        supply(1, 5),
        { kind: 'diode', name: 'D', anode: 1, cathode: 2, model, breakdownVolts: null },
      ],
    });
    const point = solver.solve();
    if (point.status !== 'settled') throw new Error('stalled');
    const shown = solver.underMeter(point.volts, meter, 0.01).get(2)!;
    const drop = model.emission * thermalVolts * Math.log1p((shown * meter) / model.saturationAmps);
    expect(5 - shown).toBeCloseTo(drop, 3);
  });
});

describe('worked examples of a textbook', () => {
  // A. S. Sedra and K. C. Smith, "Microelectronic Circuits", 5th edition; from memory.
  const minus = (node: number, volts: number): Device =>
    ({ ...supply(node, -volts, 10), minAmps: -10 }) as Device;

  it('example 4.2: an NMOS at 0.4 mA with 5 k at its drain and 3.25 k at its source', () => {
    const volts = solve(5, [
      supply(1, 2.5, 10, 1e-4),
      minus(2, 2.5),
      resistor(1, 3, 5000),
      resistor(4, 2, 3250),
      {
        kind: 'fet',
        name: 'Q1',
        polarity: 'n',
        gate: 0,
        drain: 3,
        source: 4,
        thresholdVolts: 0.7,
        // 100 uA/V2 x 32 um / 1 um
        beta: 3.2e-3,
      },
    ]);
    expect(volts[3]).toBeCloseTo(0.5, 3);
    expect(volts[4]).toBeCloseTo(-1.2, 3);
  });

  it('example 5.4: a bipolar stage with 4 V at its base, 3.3 k and 4.7 k, beta 100', () => {
    const volts = solve(5, [
      supply(1, 10, 10, 1e-4),
      supply(2, 4, 10, 1e-4),
      resistor(1, 3, 4700),
      resistor(4, 0, 3300),
      {
        kind: 'bipolar',
        name: 'Q1',
        polarity: 'npn',
        base: 2,
        collector: 3,
        emitter: 4,
        // 0.7 V at 1 mA, as the book assumes.
        saturationAmps: 1e-3 / Math.exp(0.7 / thermalVolts),
        forwardBeta: 100,
        reverseBeta: 1,
      },
    ]);
    expect(volts[4]).toBeCloseTo(3.3, 2);
    expect(volts[3]).toBeCloseTo(5.3, 1);
    expect((10 - (volts[3] as number)) / 4700).toBeCloseTo(0.99e-3, 5);
  });
});

describe('conservation', () => {
  /** Amps into every node, added up device by device from what the solver reports. */
  function surplus(nodes: number, devices: Device[], amps: Float64Array): Float64Array {
    const sum = new Float64Array(nodes);
    const move = (from: number, to: number, current: number): void => {
      sum[from]! -= current;
      sum[to]! += current;
    };
    devices.forEach((device, index) => {
      const through = amps[index]!;
      if (device.kind === 'resistor') move(device.a, device.b, through);
      if (device.kind === 'source') move(device.base, device.node, through);
      if (device.kind === 'load') move(device.node, 0, through);
      if (device.kind === 'diode') move(device.anode, device.cathode, through);
      if (device.kind === 'fet') move(device.drain, device.source, through);
    });
    return sum;
  }

  it("keeps Kirchhoff's current law in random nets of junctions, FETs, loads and limited sources", () => {
    let played = 0;
    let stalled = 0;
    const node = fc.integer({ min: 0, max: 7 });
    const model = { saturationAmps: 1e-11, emission: 1.1, seriesOhms: 0.05 };
    const device = fc.oneof(
      fc.record({
        kind: fc.constant('r'),
        a: node,
        b: node,
        c: node,
        x: fc.double({ min: 0, max: 5, noNaN: true }),
      }),
      fc.record({
        kind: fc.constantFrom('d', 'z', 'n', 'p', 'l'),
        a: node,
        b: node,
        c: node,
        x: fc.double({ min: 0, max: 1, noNaN: true }),
      }),
    );
    fc.assert(
      fc.property(fc.array(device, { minLength: 6, maxLength: 24 }), (drawn) => {
        const devices: Device[] = [supply(1, 19, 2, 0.05), resistor(7, 0, 1000)];
        for (let n = 2; n < 8; n++) devices.push(resistor(n - 1, n, 10 ** (n % 4)));
        for (const { kind, a, b, c, x } of drawn) {
          if (a === b) continue;
          if (kind === 'r') devices.push(resistor(a, b, 10 ** x));
          if (kind === 'd' || kind === 'z')
            devices.push({
              kind: 'diode',
              name: 'D',
              anode: a,
              cathode: b,
              model,
              breakdownVolts: kind === 'z' ? 3 + 10 * x : null,
            });
          if (kind === 'l' && a > 0)
            devices.push({ kind: 'load', name: 'L', node: a, amps: x, letGoVolts: 2 });
          if (kind === 'n' || kind === 'p')
            devices.push({
              kind: 'fet',
              name: 'Q',
              polarity: kind,
              gate: c,
              drain: a,
              source: b,
              thresholdVolts: 1.5,
              beta: 0.2,
            });
        }
        const solver = makeSolver({ nodes: 8, devices });
        const point = solver.solve();
        // Nothing is said of a net without an answer; such nets must be rare.
        played++;
        if (point.status === 'stalled') {
          stalled++;
          return;
        }
        const left = surplus(8, devices, solver.currents(point.volts));
        for (let n = 1; n < 8; n++) expect(Math.abs(left[n]!)).toBeLessThan(1e-3);
      }),
      { seed: 12, numRuns: 200 },
    );
    expect(stalled / played).toBeLessThan(0.02);
  });
});
