import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import { pinsOnNet, type NetId } from '../board/index.ts';
import { faultKey, parseFault } from '../faults/index.ts';
import { playBoard, usualSetup, type PlaySetup } from '../play/index.ts';
import { plainBoard, sharedDictionary } from '@jiko/testing';
import fell from '../../../../sheets/fell-13.yaml?raw';
import { heatPhases, outlineDictionary, wattsIn } from './dictionary.ts';

// Which faults share a row: those that are one to the circuit, and no others.

const board = plainBoard(cairn);
const outline = (setup: PlaySetup = usualSetup(board)) =>
  outlineDictionary(board, setup).dictionary;
const usual = outline();
const rowOf = (text: string, dictionary = usual): number => {
  const parsed = parseFault(board, text);
  if (!parsed.ok) throw new Error(`${text}: ${JSON.stringify(parsed.error)}`);
  const key = faultKey(parsed.value);
  const index = dictionary.faults.findIndex((fault) => faultKey(fault) === key);
  if (index < 0) throw new Error(`${text} is not in the list`);
  return dictionary.rowOf[index]!;
};

describe('a line that a chip holds low', () => {
  /** Chips' pins of which the list has "stuck low", by net. */
  const stuck = new Map<NetId, string[]>();
  for (const fault of usual.faults)
    if (fault.kind === 'stuck' && fault.level === 'low') {
      const place = `${fault.part}.${fault.pin}`;
      const { id } = board.nets.find((net) =>
        pinsOnNet(board, net.id).some(({ ref, pin }) => `${ref}.${pin}` === place),
      )!;
      stuck.set(id, [...(stuck.get(id) ?? []), place]);
    }
  it('is one row, whichever of its chips does it; let go, each is its own', () => {
    // Two power-goods on one line.
    const wired = plainBoard(
      fell.replace('OUT: 1V8_PRIM, GND: GND', 'OUT: 1V8_PRIM, PG: PRIM_PG, GND: GND'),
    );
    const { dictionary } = outlineDictionary(wired, usualSetup(wired));
    const rows = (level: string): number[] =>
      dictionary.faults.flatMap((fault, index) =>
        fault.kind === 'stuck' && fault.level === level && fault.pin === 'PG'
          ? ['U6', 'U7'].includes(fault.part)
            ? [dictionary.rowOf[index]!]
            : []
          : [],
      );
    expect(rows('low')).toHaveLength(2);
    expect(new Set(rows('low')).size).toBe(1);
    expect(new Set(rows('released')).size).toBe(2);
  });

  it('is another row for another line, and another one than a solder bridge to ground', () => {
    const all = [...stuck].map(([, places]) => rowOf(`${places[0]}:stuck-low`));
    expect(new Set(all).size).toBe(stuck.size);
    for (const [net, [place]] of stuck)
      expect(rowOf(`${place}:stuck-low`)).not.toBe(rowOf(`${net}:short`));
  });
});

describe('what is joined', () => {
  it('is one row by the nets and the ohms, whatever part it is in', () => {
    const short = rowOf('C50:short');
    const net = board.parts
      .find((part) => part.ref === 'C50')!
      .pins.find((pin) => pin.net !== board.ground)!.net;
    expect(rowOf(`${net}:short`)).toBe(short);
    expect(rowOf('C50:short=1')).not.toBe(short);
    expect(rowOf(`${net}:short=1`)).toBe(rowOf('C50:short=1'));
    expect(rowOf('C64:short')).not.toBe(short);
    const chip = pinsOnNet(board, net).find(({ ref }) =>
      board.chips.some((one) => one.ref === ref && !one.virtual),
    )!;
    expect(rowOf(`${chip.ref}.${chip.pin}:short`)).toBe(short);
  });
});

describe('what is not read at any net', () => {
  it('an empty flash of the controller is the controller whose code does not run', () => {
    const owner = board.chips.find((one) => one.kind === 'controller')!.ref;
    expect(rowOf('U22:blank')).toBe(rowOf(`${owner}:corrupt`));
    expect(usual.codeless).not.toContain(rowOf('U22:blank'));
  });

  it('a dead panel is dark, and no other chip', () => {
    expect(usual.dark).toEqual([rowOf('PANEL1:dead')]);
    expect(usual.dark).not.toContain(rowOf('U22:dead'));
  });
});

describe('what a row keeps of its play', () => {
  const small = plainBoard(fell);
  const setup = usualSetup(small);

  it('is the heat of each part in steps of a ninth, and nothing below a milliwatt', () => {
    const dictionary = sharedDictionary(small, setup);
    const play = playBoard(small, setup);
    let kept = 0;
    for (const phase of heatPhases)
      dictionary.heated.forEach((ref, part) => {
        const watts = play.phases.get(phase)?.watts.get(ref) ?? 0;
        const read = wattsIn(dictionary, 0, phase, part);
        if (watts < 0.001) expect(read).toBe(0);
        else {
          kept++;
          expect(Math.abs(20 * Math.log10(read / watts))).toBeLessThan(0.51);
        }
      });
    expect(kept).toBeGreaterThan(5);
  });

  it('is whether the board comes on before anybody presses its button', () => {
    const dictionary = sharedDictionary(small, setup);
    const startsWith = (holds: (fault: (typeof dictionary.faults)[number]) => boolean): number[] =>
      dictionary.faults.flatMap((fault, index) =>
        holds(fault) ? [dictionary.startsItself[dictionary.rowOf[index]!]!] : [],
      );
    expect(dictionary.startsItself[0]).toBe(0);
    const held = startsWith(
      (fault) => fault.kind === 'short' && fault.net === 'BTN#' && fault.ohms < 1,
    );
    expect(held).toEqual([1]);
    // A dead main rail brings nothing up, and so nothing early.
    expect(startsWith((fault) => fault.kind === 'dead' && fault.part === 'U3')).toContain(0);
    expect(startsWith((fault) => fault.kind === 'dead' && fault.part === 'U3')).not.toContain(1);
  });
});

describe('whether a fan turns', () => {
  it('is that of the healthy board, and of one whose fan has no feed', () => {
    const fanned = plainBoard(
      fell.replace(
        'SW1: { kind: button',
        'FAN1: { kind: fan, pins: [3V3_RUN, GND], value: 33 }\n  SW1: { kind: button',
      ),
    );
    const { faults, rowOf: rows, turning } = sharedDictionary(fanned);
    const turns = (part: string): number =>
      turning[rows[faults.findIndex((fault) => fault.kind === 'dead' && fault.part === part)]!]!;
    // The core regulator has nothing to do with the rail of the fan.
    expect([turning[0], turns('U11'), turns('U10')]).toEqual([1, 1, 0]);
  });
});

describe('what is off the board or feeds nothing', () => {
  it('is one row', () => {
    const setup = usualSetup(board);
    const feeding = [setup.source, ...setup.staying];
    usual.faults.forEach((fault, index) => {
      if (fault.kind === 'source')
        expect(usual.rowOf[index] === usual.goneRow).toBe(!feeding.includes(fault.source));
    });
    const lifted = outline({ ...setup, lifted: ['C64'] });
    expect(rowOf('C64:short', lifted)).toBe(lifted.goneRow);
    expect(rowOf('C50:short', lifted)).not.toBe(lifted.goneRow);
    expect(rowOf('C64:short')).not.toBe(usual.goneRow);
  });
});
