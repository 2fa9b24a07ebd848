import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import type { Board, NetId, PartRef } from '../../board/index.ts';
import type { Fault } from '../../faults/index.ts';
import { plainBoard } from '@jiko/testing';
import { proposeActions } from './actions.ts';
import { separatingTest } from '../grouping/separate.ts';

// A gauge inside the battery, on the bus of the battery's plug: it is never taken off, its pins are never
// touched up, and the pack is never opened.
const board: Board = plainBoard(
  cairn.replace(
    /^chips:$/m,
    'chips:\n  UB1: { kind: generic, title: "gauge in the battery", "on": battery, pins: { VCC: VBAT, SCL: SMB_CLK, SDA: SMB_DAT, GND: GND } }',
  ),
);
const short = (part: string, pin: string): Fault => ({
  kind: 'pin-short',
  part: part as PartRef,
  pin,
  ohms: 10,
});
const pinOf = (ref: string, net: string): string =>
  [...board.chips.find((chip) => chip.ref === ref)!.pins].find(([, on]) => on === net)![0];
const weighed = (part: string, pin: string, probability: number) => ({
  fault: short(part, pin),
  probability,
  missing: ['SMB_CLK' as NetId],
});
const actions = (...faults: ReturnType<typeof weighed>[]) =>
  proposeActions(board, faults, { attached: ['battery'], lifted: [], gone: [] }, () => false);

describe('a part of an attachment', () => {
  it('is unplugged with it, not taken off', () => {
    const found = actions(weighed('UB1', 'SCL', 0.6), weighed('U24', 'SCL', 0.4));
    expect(found.filter((one) => one.kind === 'lift').map((one) => one.what)).toEqual(['U24']);
    expect(found.find((one) => one.kind === 'unplug')?.what).toBe('battery');
  });

  it('is tested by its plug, and changed whole', () => {
    const said = separatingTest(board, [short('UB1', 'SCL')], null);
    expect(said.text).toBe(
      'UB1 is in the battery: unplug the battery and read the same points again. Where they come then, try another battery; it is changed whole.',
    );
    expect(said.caution).toMatch(/a battery pack is never opened, heated or soldered/);
  });

  it('on a leaking signal comes first as a plug, and what has its joints below not at all', () => {
    const said = separatingTest(board, [short('U24', 'SCL')], 'SMB_CLK' as NetId);
    expect(said.text).toMatch(
      /then unplug the battery and read again; then take what hangs on it off/,
    );
    expect(said.text).not.toMatch(/first: [^.]*UB1/);
  });
});

describe('what has its joints below', () => {
  it('is no way to find a leak: a small part is taken off, a chipset is not', () => {
    const found = actions(weighed('U40', pinOf('U40', 'PLTRST#'), 0.5), weighed('U24', 'SCL', 0.5));
    expect(found.filter((one) => one.kind === 'lift').map((one) => one.what)).toEqual(['U24']);
    const said = separatingTest(board, [short('U40', pinOf('U40', 'PLTRST#'))], 'PLTRST#' as NetId);
    expect(said.text).toMatch(/U40[^.]* stays? on, for its joints are below it/);
    expect(said.text).not.toMatch(/first: [^;]*U40/);
  });
});
