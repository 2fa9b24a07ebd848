import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../../sheets/fell-13.yaml?raw';
import { netById, type Board, type NetId } from '../../board/index.ts';
import { faultName, listFaults, parseFault, type Fault, groundedNet } from '../../faults/index.ts';
import { plainBoard } from '@jiko/testing';
import { cautionText } from '../../safety/index.ts';
import { separatingTest, type Handled } from './separate.ts';

// What is said before somebody injects, heats, lifts or powers is held word for word; tests are common
// practice, no source.

const sheets = import.meta.glob<string>('../../../../../sheets/*.yaml', {
  query: '?raw',
  import: 'default',
  eager: true,
});
const large = plainBoard(cairn);
const small = plainBoard(fell);
const faultsOf = (board: Board, texts: readonly string[]): Fault[] =>
  texts.map((text) => {
    const parsed = parseFault(board, text);
    if (!parsed.ok) throw new Error(`${text}: ${JSON.stringify(parsed.error)}`);
    return parsed.value;
  });
const said = (
  texts: readonly string[],
  { board = large, net, ...handled }: Handled & { board?: Board; net?: string } = {},
) => separatingTest(board, faultsOf(board, texts), (net ?? null) as NetId | null, handled);

const [heatCaution, injectionCaution] = [cautionText('lift'), cautionText('inject')];

describe('a part that stands out on a shorted rail', () => {
  it('is taken off before anything is injected', () => {
    const { text, caution } = said(['C50:short', '3V3_ALW:short'], { net: '3V3_ALW', seen: 'C50' });
    expect(text).toBe(
      'C50 stands out by what was seen at it: source off, take it off and read ohms on 3V3_ALW again. The short is gone: it was C50, fit a new one. It stays: fit it again, and look for the part that gets warm.',
    );
    expect(caution).toBe(heatCaution);
  });

  it('stays on where its joints are below it', () => {
    expect(said(['3V3_ALW:short'], { net: '3V3_ALW', seen: 'U40' }).text).toContain('nject');
  });
});

describe('a rail that is shorted', () => {
  it.each([
    // Never above a volt, never above the rail's own, and what has no volts of its own says so.
    ['1V05_S5', 'Lift coil PL6: ', 'inject 1 V '],
    ['0V6_VTT', '', 'Inject 0.6 V '],
    ['0V95_IO', 'Lift coil PL8: ', 'inject 0.95 V '],
    ['VCORE', 'Lift coil PL9: ', 'inject its own volts or less '],
  ])('%s is injected low', (net, lift, inject) => {
    const found = said([`${net}:short`], { net });
    expect(found.text).toBe(
      `${lift && `${lift}is the short on the regulator's side or the load's? Then `}${inject}with a small current limit on ${net} and look for the part that gets warm, or follow the millivolt drop to where it is lowest.`,
    );
    expect(found.caution).toBe(injectionCaution);
  });

  it('a coil that is not on the board is not to be lifted', () => {
    const without = plainBoard(
      cairn.replace('PL6: { kind: coil,', 'PL6: { kind: coil, fitted: false,'),
    );
    expect(said(['C41:short'], { board: without, net: '1V05_S5' }).text).toMatch(/^Inject 1 V /);
  });

  it('a signal gets no current, whatever pulls it down, and what hangs on it is named', () => {
    const found = said(['MEM_EN:short'], { board: small, net: 'MEM_EN' });
    expect(found.text).toMatch(
      /^Ohms from MEM_EN to ground, unpowered\. Clean what is wet about it; then take what hangs on it off one at a time, the easiest first: \S+(, \S+)*\. No current is to be driven into a signal\.$/,
    );
    const named = /first: ([^.]*)\./.exec(found.text)![1]!.split(', ');
    expect(named).toContain('U5');
    expect(new Set(named).size).toBe(named.length);
    expect(found.caution).toBe(heatCaution);
  });

  it('nor does a line, gate or base where a part on it is the likeliest: on no sheet', () => {
    let lines = 0;
    for (const [path, text] of Object.entries(sheets)) {
      const board = plainBoard(text);
      for (const fault of listFaults(board)) {
        const net = groundedNet(board, fault);
        if (net === null || netById(board, net)?.kind === 'rail') continue;
        lines++;
        const found = separatingTest(board, [fault], net);
        expect([path, faultName(fault), found.text]).toEqual([
          path,
          faultName(fault),
          expect.not.stringMatching(/inject/i),
        ]);
      }
    }
    expect(lines).toBeGreaterThan(1000);
    expect(said(['C23:short'], { net: 'EC_RST#' }).text).toMatch(/No current is to be driven/);
  });
});

describe('a way of failing has a test of its own', () => {
  it.each([
    [
      ['adapter:weak'],
      'Measure the source by itself and while the board draws, at its plug and behind the jack; then try another one that works elsewhere, with its own lead.',
      null,
    ],
    [
      ['board:warm'],
      'Let it go off once more and note the seconds, cold and after a short rest: sooner when it is warm speaks for heat. Then the cooler: seated, its paste, its pads of the right thickness, its fan turning. Then what gets hotter than on a good board: cool one part at a time and see which makes it last.',
      'Never let a processor run without its cooler. Parts get hot enough to burn: a thermometer or a camera, not a finger.',
    ],
    [
      ['EC_X1+EC_X2:joined=1'],
      'Source off: ohms from EC_X1 to EC_X2. Look between their pads for dirt and solder, clean and dry them, and measure again.',
      null,
    ],
    [
      ['PWRBTN_SW:break=1'],
      'No connection between D20.K and R22.1: ohms between the two, then a jumper.',
      null,
    ],
    [
      ['PU9.VIN-SW:short'],
      'Source off and battery unplugged: ohms from VIN to SW of PU9, at its own pins. Near nothing is its upper switch gone short: change it, then read what hangs on its output for shorts before any source is connected.',
      'Do not power the board before this is measured: the volts of the feed stand on the output and destroy what hangs there.',
    ],
    [
      ['SW1:open'],
      'Join its two pads with tweezers for a moment: the board answers. Then ohms across them while it is pressed.',
      null,
    ],
    [
      ['U20:corrupt'],
      'No voltage shows firmware. Supply and reset of U20 at its own pins first, then its crystal Y2; then read its flash out, keep the copy, and compare or write a known-good one. Last the chip itself. A reset let go before its rail stands hangs U20 just so, and no hand meter sees milliseconds: hold EC_RST# to ground through 1 kΩ before the source is connected, and let go a second after. If it runs then, look at what times that reset.',
      'The programmer gives the volts of the flash, with the source off and the battery unplugged. A wire to a reset is put on with everything off.',
    ],
    [
      ['U22:blank'],
      'No voltage shows firmware. Supply and reset of U20 at its own pins first, then its crystal Y2; then read its flash out, keep the copy, and compare or write a known-good one. Last the chip itself.',
      'The programmer gives the volts of the flash, with the source off and the battery unplugged. A wire to a reset is put on with everything off.',
    ],
  ])('%o', (faults, text, caution) => {
    expect(said(faults)).toEqual({ text, caution });
  });

  it.each([
    [['U20:stops=3'], ['U20:corrupt']],
    // Whether a chip is dead or its code does not run is one test, whichever comes first.
    [['U20:dead', 'U20:corrupt'], ['U20:corrupt']],
    [['U20:dead', 'U20:stops=3'], ['U20:corrupt']],
    [['U20:dead', 'U22:blank'], ['U22:blank']],
  ])('%j is told apart as %j is', (faults, alike) => {
    expect(said(faults)).toEqual(said(alike));
  });

  it('where a chip has no crystal and no reset of its own, nothing is said of them', () => {
    const mini = plainBoard(sheets['../../../../../sheets/beck-mini.yaml']!);
    expect(said(['U1:corrupt'], { board: mini }).text).toBe(
      'No voltage shows firmware. Supply and reset of U1 at its own pins first; then read its flash out, keep the copy, and compare or write a known-good one. Last the chip itself.',
    );
  });

  it('pins of a FET gone short are no switching stage', () => {
    expect(said(['PQ1.D-S:short']).text).not.toContain('upper switch');
  });
});

describe('parts that no reading on the nets tells apart', () => {
  it.each([
    [
      ['F1:open', 'PU5:dead'],
      [],
      'Measure F1 from end to end, unpowered: below an ohm it is whole. If it is, touch the pins of the chips beside it themselves: a cut trace or joint reads right on the pad and wrong on the pin.',
      null,
    ],
    [
      ['R10:open', 'R12:drift=10', 'PU5:dead'],
      [],
      'Measure R10, R12 unpowered against 210k, 10k; lift one end where something beside it reads along.',
      heatCaution,
    ],
    [
      ['PQ1:open', 'PQ2:open'],
      [],
      'Measure PQ1, PQ2 from end to end, unpowered, both ways round, and hold it against the same part of a good board; lift one end where something beside it reads along.',
      heatCaution,
    ],
    [
      ['PU5:dead'],
      [],
      'Go round PU5 pin by pin with the probe on the pins themselves: where pad and pin differ the joint is open; where all are right the chip is bad. Touch up its pins before changing it. First check the parts around it: its bootstrap capacitor and diode, and put a good capacitor across its output, for worn ones stop it without a short.',
      heatCaution,
    ],
    [
      ['PU5:dead', 'U40:dead'],
      [],
      'Compare the pins of PU5, U40 themselves with their nets; then take them out of the line one at a time, the easiest first.',
      heatCaution,
    ],
    [
      ['F1:open', 'PU5:dead'],
      ['F1'],
      'F1 is not on the board: look whether its pads are whole, fit one and read the same points again.',
      heatCaution,
    ],
    [
      ['PQ1:open', 'PQ2:open'],
      ['PQ1', 'PQ2', 'C41'],
      'PQ1, PQ2 are not on the board: look whether their pads are whole, fit them and read the same points again.',
      heatCaution,
    ],
  ])('%o with %o off the board', (faults, gone, text, caution) => {
    expect(said(faults, { gone })).toEqual({ text, caution });
  });

  it('a chip that is dead or does not run is told by what its code needs', () => {
    for (const lead of ['U20:dead', 'U21:dead'])
      expect(said([lead, 'U20:corrupt', 'U22:blank', 'Y2:open'])).toEqual(said(['U20:corrupt']));
    // A regulator has no code.
    expect(said(['PU6:dead', 'PU6.EN:trace-open']).text).toMatch(/^Go round PU6/);
  });

  it.each([
    [
      ['PL1:high=3k', 'PL1:open'],
      ['PL1'],
      'PL1 was measured in its place: touch up its joints and measure it once more, one end lifted where something beside it reads along. Where it reads wrong still, change it.',
    ],
    // Measured, and another is likelier: it was good.
    [['PU5:dead', 'PL6:open'], ['PL6'], 'Go round PU5 pin by pin'],
    [['PU5:dead', 'R10:open', 'R12:open'], ['R10'], 'Measure R12 unpowered against 10k;'],
    [['PQ1:open', 'PQ2:open'], ['PQ2'], 'Measure PQ1 from end to end'],
  ])('%o once %o was measured', (faults, measured, text) => {
    expect(said(faults, { measured }).text.slice(0, text.length)).toBe(text);
  });

  it('what is off the board and not first in line is not looked for', () => {
    expect(said(['PU5:dead', 'F1:open'], { gone: ['F1'] }).text).toMatch(/^Measure F1/);
  });

  it('without any part there is no advice that cannot be meant', () => {
    expect(separatingTest(large, [], null)).toEqual({
      text: 'No part stands alone here: read both ends of what leads to it once more, and look at its joints under the microscope.',
      caution: null,
    });
  });
});
