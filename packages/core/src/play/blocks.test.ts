import { describe, expect, it } from 'vitest';
import { loadSheet, sheetIssueText, type Board, type NetId } from '../board/index.ts';
import { playBoard, usualSetup, type Play } from './index.ts';

/** A small board: 12 V in, whatever chips and parts the case needs. */
function board(nets: string, chips: string, parts = '', extra = ''): Board {
  const indent = (text: string): string =>
    text
      .trim()
      .split('\n')
      .map((line) => `  ${line}`)
      .join('\n');
  const text = `format: jiko-board/1
id: small
title: Small
depth: chips
nets:
  GND: { kind: ground }
  VIN: { kind: rail, volts: 12 }
${indent(nets)}
${parts ? `parts:\n${indent(parts)}` : ''}
chips:
${indent(chips)}
stages:
  in: { title: Input, gives: [VIN] }
sources:
  adapter: { kind: adapter, title: Adapter, net: VIN, volts: 12, limit: 5 }
goals: {}
${extra}`;
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(loaded.error.map(sheetIssueText).join('\n'));
  return loaded.value;
}
const play = (one: Board): Play => playBoard(one, usualSetup(one));
const volts = (
  one: Play,
  net: string,
  phase: 'standby' | 'pressed' | 'trying' | 'run' = 'standby',
) => one.phases.get(phase)?.volts.get(net as NetId) ?? NaN;
const at = (one: Play, what: string): number =>
  one.events.find((event) => event.what.includes(what))?.atSeconds ?? NaN;
const times = (one: Play, what: string): number =>
  one.events.filter((event) => event.what.includes(what)).length;

describe('regulators', () => {
  it('wait for their enable, ramp up, and say power good after their delay', () => {
    const one = play(
      board(
        'A: { kind: rail, volts: 5 }\nB: { kind: rail, volts: 3.3 }\nA_PG: {}',
        `U1: { kind: buck, pins: { VIN: VIN, OUT: A, PG: A_PG, GND: GND }, delay: 0.002, softStart: 0.003 }
U2: { kind: ldo, pins: { VIN: A, EN: A_PG, OUT: B, GND: GND } }`,
        'R1: { kind: resistor, pins: [A, A_PG], value: 10k }',
      ),
    );
    expect(at(one, 'is on')).toBeCloseTo(0.005, 6);
    expect(at(one, 'says power good')).toBeCloseTo(0.006, 5);
    // U2 comes after U1's power-good, with its own delay and ramp.
    expect(one.settledAt.get('B' as NetId)).toBeCloseTo(0.0071, 4);
    expect(volts(one, 'B')).toBeCloseTo(3.3, 2);
  });

  it.each([
    ['hiccup', true],
    ['latch', false],
  ])('overloaded, with %s', (overload, retries) => {
    const one = play(
      board(
        'A: { kind: rail, volts: 5 }',
        `U1: { kind: buck, pins: { VIN: VIN, OUT: A, GND: GND }, limit: 2, overload: ${overload} }`,
        'R1: { kind: resistor, pins: [A, GND], value: 0R5 }',
      ),
    );
    expect(one.status).toBe('settled');
    expect(times(one, 'overloaded') > 1).toBe(retries);
    const swing = one.phases.get('standby')?.swinging.get('A' as NetId);
    if (retries) {
      // 2 A into half an ohm while it tries, nothing between the tries.
      expect(swing?.high).toBeCloseTo(1, 1);
      expect(swing?.low).toBeCloseTo(0, 2);
      expect(volts(one, 'A')).toBeLessThan(0.1);
    } else {
      expect(swing).toBeUndefined();
      expect(volts(one, 'A')).toBeCloseTo(0, 3);
    }
  });

  it('let go of their input only past the hysteresis', () => {
    // The load takes VIN from 12 V to 10.9 V: above 11 - 0.5, so what started stays on.
    const one = play(withSeries(0.55));
    expect(volts(one, 'VIN')).toBeLessThan(11);
    expect(volts(one, 'A')).toBeCloseTo(5, 1);
    const weak = play(withSeries(1));
    expect(times(weak, 'is off')).toBeGreaterThan(1);
  });
});

/** A linear 5 V at 2 A behind a source of the given resistance, needing 11 V with 0.5 V hysteresis. */
function withSeries(ohms: number): Board {
  const one = board(
    'A: { kind: rail, volts: 5, load: 2 }',
    `U1:
  kind: generic
  pins: { VIN: VIN, OUT: A, GND: GND }
  does:
    - { do: regulator, in: VIN, out: OUT, volts: 5, pass: linear, needs: [{ at: VIN, above: 11, hysteresis: 0.5 }] }`,
  );
  return { ...one, sources: one.sources.map((source) => ({ ...source, seriesOhms: ohms })) };
}

describe('sequences', () => {
  const sequence = (steps: string, more = ''): Board =>
    board(
      'V3: { kind: rail, volts: 3.3 }\nEN: {}\nPG: {}\nBTN: {}',
      `U1: { kind: ldo, pins: { VIN: VIN, OUT: V3, GND: GND }, volts: 3.3 }
U2:
  kind: controller
  pins: { VCC: V3, EN: EN, PG: PG, SW: BTN, GND: GND }
  does:
    - do: sequence
      supply: [VCC > 2.8]
      high: VCC
      idle: { EN: low }
      ${more}
      steps:
${steps
  .split('\n')
  .map((line) => `        ${line}`)
  .join('\n')}`,
      'R1: { kind: resistor, pins: [V3, BTN], value: 10k }\nR2: { kind: resistor, pins: [PG, GND], value: 10k }',
      'button: { net: BTN, hold: 0.2 }',
    );

  it('wait for the button, drive, and keep what they drive', () => {
    const one = play(sequence('- wait: [SW < 0.8]\n- drive: { EN: high }'));
    expect(volts(one, 'EN', 'standby')).toBeCloseTo(0, 2);
    expect(volts(one, 'EN', 'run')).toBeCloseTo(3.3, 2);
    expect(volts(one, 'BTN', 'pressed')).toBeLessThan(0.1);
    expect(volts(one, 'BTN', 'run')).toBeGreaterThan(3.2);
  });

  it('give up when a wait runs out, and what was there is kept as the moment of trying', () => {
    const one = play(
      sequence('- wait: [SW < 0.8]\n- drive: { EN: high }\n- wait: [PG > 2]\n  within: 0.05'),
    );
    expect(volts(one, 'EN', 'trying')).toBeCloseTo(3.3, 2);
    expect(volts(one, 'EN', 'run')).toBeCloseTo(0, 2);
    expect(times(one, 'gives up: waited for PG')).toBe(1);
    expect(at(one, 'gives up') - at(one, 'drives EN')).toBeCloseTo(0.05, 3);
  });

  it('try again as often as they may, and no more', () => {
    const one = play(
      sequence('- drive: { EN: high }\n- wait: [PG > 2]\n  within: 0.05', 'retries: 2'),
    );
    expect(times(one, 'gives up')).toBe(3);
    expect(one.status).toBe('settled');
  });

  it('pulse a pin for the time given and let go of it', () => {
    const one = play(
      sequence('- { pulse: EN, to: high, for: 0.02 }\n- pause: 0.03\n- mark: after the pulse'),
    );
    expect(at(one, 'after the pulse') - at(one, 'pulses EN')).toBeCloseTo(0.05, 3);
    expect(volts(one, 'EN', 'standby')).toBeCloseTo(0, 2);
  });

  it('fall asleep without supply', () => {
    const one = play(
      board(
        'V3: { kind: rail, volts: 3.3 }\nEN: {}',
        `U2:
  kind: controller
  pins: { VCC: V3, EN: EN, GND: GND }
  does:
    - { do: sequence, supply: [VCC > 2.8], high: VCC, steps: [{ drive: { EN: high } }] }`,
      ),
    );
    expect(times(one, 'wakes')).toBe(0);
    expect(volts(one, 'EN')).toBeCloseTo(0, 6);
  });
});

describe('followers', () => {
  it('pull low until their needs are met, then release to the pull-up after their delay', () => {
    const one = play(
      board(
        'V3: { kind: rail, volts: 3.3 }\nRST: {}',
        `U1: { kind: ldo, pins: { VIN: VIN, OUT: V3, GND: GND }, volts: 3.3 }
U2: { kind: supervisor, pins: { VCC: V3, RESET#: RST, GND: GND }, threshold: 2.9, delay: 0.05 }`,
        'R1: { kind: resistor, pins: [V3, RST], value: 10k }',
      ),
    );
    expect(at(one, 'is given') - at(one, 'is on')).toBeCloseTo(0.05, 4);
    expect(volts(one, 'RST')).toBeCloseTo(3.3, 2);
  });

  it('two that undo each other are reported as swinging or never at rest, not as a number', () => {
    // U1 releases OSC when it is low, and pulls it low when it is high.
    const one = play(
      board(
        'OSC: {}',
        `U1:
  kind: generic
  pins: { VCC: VIN, OUT: OSC, GND: GND }
  does:
    - { do: follower, out: OUT, supply: [VCC > 5], needs: [OUT < 2], onDelay: 0.01, offDelay: 0.01 }`,
        'R1: { kind: resistor, pins: [VIN, OSC], value: 10k }',
      ),
    );
    const swing = one.phases.get('standby')?.swinging.get('OSC' as NetId);
    expect(
      one.status === 'invalid' || (swing !== undefined && swing.high > 11 && swing.low < 0.1),
    ).toBe(true);
    expect(one.events.length).toBeLessThan(500);
  });
});

describe('overload and limits', () => {
  const railWith = (regulator: string, load: string): Play =>
    play(
      board(
        'A: { kind: rail, volts: 5 }',
        `U1: { kind: buck, pins: { VIN: VIN, OUT: A, GND: GND }, limit: 2, ${regulator} }`,
        load,
      ),
    );

  it('a regulator that folds back gives a quarter of its limit into the short', () => {
    const one = railWith(
      'overload: foldback',
      'R1: { kind: resistor, pins: [A, GND], value: 0R1 }',
    );
    expect(at(one, 'folds back')).toBeGreaterThan(0);
    expect(volts(one, 'A')).toBeCloseTo(0.5 * 0.1, 3);
  });

  it('one with constant current holds its limit', () => {
    const one = railWith(
      'overload: constant-current',
      'R1: { kind: resistor, pins: [A, GND], value: 1 }',
    );
    expect(volts(one, 'A')).toBeCloseTo(2, 2);
    expect(times(one, 'overloaded')).toBe(0);
  });

  it('a bench supply set to a small limit goes into constant current', () => {
    const one = board(
      'A: { kind: rail, volts: 12 }',
      'U1: { kind: generic, pins: { VIN: VIN, GND: GND } }',
      'R1: { kind: resistor, pins: [VIN, A], value: 1 }\nR2: { kind: resistor, pins: [A, GND], value: 3 }',
    );
    const limited = playBoard(one, {
      ...usualSetup(one),
      supply: { volts: 12, limitAmps: 0.5 },
    });
    expect(volts(limited, 'A')).toBeCloseTo(1.5, 3);
    expect(limited.phases.get('standby')?.sourceAmps).toBeCloseTo(0.5, 4);
    // Half an amp squared times three ohms.
    expect(limited.phases.get('standby')?.watts.get('R2')).toBeCloseTo(0.75, 3);
  });
});

describe('sources', () => {
  it('an adapter that idles low gives its volts once it is loaded', () => {
    const one = board(
      'A: { kind: rail, volts: 12 }',
      'U1: { kind: generic, pins: { VIN: VIN, GND: GND } }',
      'R1: { kind: resistor, pins: [VIN, A], value: 10 }\nR2: { kind: resistor, pins: [A, GND], value: 1k }',
    );
    const idling = (wakesAtAmps: number): Play =>
      play({
        ...one,
        sources: one.sources.map((source) => ({ ...source, idleVolts: 6, wakesAtAmps })),
      });
    expect(volts(idling(0.002), 'VIN')).toBeCloseTo(12, 1);
    expect(at(idling(0.002), 'sees a load')).toBeCloseTo(0.02, 3);
    // 6 mA is less than it takes this one for a load.
    expect(volts(idling(0.05), 'VIN')).toBeCloseTo(6, 1);
  });
});

describe('drivers of input FETs', () => {
  /** Two resistors stand for FETs and sense resistor: what counts is when the driver lets go. */
  const driven = (load: string): Play =>
    play(
      board(
        'SNS: { kind: rail }\nOUT: { kind: rail }\nDRV#: {}\nG: { kind: analog }',
        `U1:
  kind: generic
  pins: { VCC: VIN, DRV: DRV#, P: SNS, N: OUT, GND: GND }
  does:
    - { do: follower, name: drive, out: DRV, active: low, supply: [VCC > 4], needs: [VCC > 10], trips: [{ at: P, than: N, below: 0.03, hysteresis: 0 }], startNeeds: [{ at: P, than: VCC, below: -2 }], onDelay: 0.1, retry: 0.5 }`,
        `Q1: { kind: pfet, pins: [G, SNS, VIN] }
R1: { kind: resistor, pins: [VIN, G], value: 100k }
R2: { kind: resistor, pins: [G, DRV#], value: 10k }
R3: { kind: resistor, pins: [SNS, OUT], value: 0R01 }
${load}`,
      ),
    );

  it('drive a board that draws what it may', () => {
    const one = driven('R4: { kind: resistor, pins: [OUT, GND], value: 12 }');
    expect(volts(one, 'OUT')).toBeGreaterThan(11.5);
    expect(times(one, 'lets go')).toBe(0);
  });
  it('try an overload three times, half a second apart, and then stay off', () => {
    const one = driven('R4: { kind: resistor, pins: [OUT, GND], value: 0R5 }');
    expect(times(one, 'drive is given') + times(one, 'is given')).toBe(3);
    expect(times(one, 'sees an overload again and stays off')).toBe(1);
    expect(volts(one, 'OUT')).toBeLessThan(0.01);
  });
  it('refuse when the far side is fed already', () => {
    const one = driven(
      'R4: { kind: resistor, pins: [OUT, GND], value: 1k }\nR5: { kind: resistor, pins: [VIN, SNS], value: 1 }',
    );
    expect(times(one, 'refuses: P is there already')).toBe(1);
    expect(times(one, 'is given')).toBe(0);
  });
});

describe('controllers', () => {
  const controller = (reset: string): Play =>
    play(
      board(
        'V3: { kind: rail, volts: 3.3 }\nRST: {}\nEN: {}\nLIVE: {}\nX1: { kind: analog }\nX2: { kind: analog }',
        `U1: { kind: ldo, pins: { VIN: VIN, OUT: V3, GND: GND }, volts: 3.3 }
${reset}
U2:
  kind: controller
  crystal: Y1
  pins: { VCC: V3, RST: RST, EN: EN, LIVE: LIVE, X1: X1, X2: X2, GND: GND }
  does:
    - { do: follower, name: alive, out: LIVE, drive: push-pull, high: VCC, supply: [VCC > 2.8], needs: [RST > 2] }
    - { do: sequence, supply: [VCC > 2.8], needs: [RST > 2], high: VCC, settle: 0.005, idle: { EN: low }, steps: [{ drive: { EN: high } }] }`,
        'R1: { kind: resistor, pins: [V3, RST], value: 10k }\nY1: { kind: crystal, pins: [X1, X2] }',
      ),
    );
  const supervised =
    'U3: { kind: supervisor, pins: { VCC: V3, RESET#: RST, GND: GND }, delay: 0.02 }';

  it('released by a supervisor run', () => {
    expect(volts(controller(supervised), 'EN')).toBeGreaterThan(3);
    expect(volts(controller(supervised), 'LIVE')).toBeGreaterThan(3);
  });
  it('released with their supply hang, and give nothing else either', () => {
    const one = controller('');
    expect(times(one, 'released from reset too early')).toBe(1);
    expect(volts(one, 'EN')).toBeLessThan(0.1);
    expect(volts(one, 'LIVE')).toBeLessThan(0.1);
  });
});
