import { readFileSync } from 'node:fs';
import { loadSheet, type Board, type NetId, type PartRef, netById } from '@jiko/core/board';
import { withFaults, type Fault } from '@jiko/core/faults';
import { playBoard, usualSetup } from '@jiko/core/play';
import { readCold } from '@jiko/core/cold';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { makeSweep } from '@jiko/core/prepare';
import { usualMeter } from '@jiko/core/readings';

/** A board on the simulated bench, with a fault nobody told the interface about. */
export interface HiddenBoard {
  volts(net: string, phase: 'standby' | 'trying'): number;
  ohms(net: string): number;
}

export function sheetText(id: string): string {
  return readFileSync(new URL(`../sheets/${id}.yaml`, import.meta.url), 'utf8');
}

export function hide(id: string, ...faults: Fault[]): HiddenBoard {
  const loaded = loadSheet(sheetText(id));
  if (!loaded.ok) throw new Error(`the sheet ${id} does not load`);
  const board: Board = loaded.value;
  const play = playBoard(withFaults(board, faults), usualSetup(board));
  const shortOn = (net: string): Extract<Fault, { kind: 'short' }> | undefined =>
    faults.find((one) => one.kind === 'short' && one.net === net) as never;
  return {
    volts: (net, phase) => play.phases.get(phase)?.volts.get(net as NetId) ?? 0,
    ohms: (net) => shortOn(net)?.ohms ?? netById(board, net)?.coldOhms ?? 5000,
  };
}

const part = (ref: string): PartRef => ref as PartRef;

/** Missing stages of Cairn 14 and the stage a technician would name (common practice, no source). */
export const hiddenStages: { fault: Fault; stage: string }[] = [
  { fault: { kind: 'open', part: part('F1') }, stage: 'Input fuse and filter' },
  { fault: { kind: 'open', part: part('R4') }, stage: 'Input FETs' },
  // An open sense resistor looks like an overload to the driver of the FETs.
  { fault: { kind: 'open', part: part('PR1') }, stage: 'Input FETs' },
  { fault: { kind: 'open', part: part('R10') }, stage: 'Always-on LDOs' },
  { fault: { kind: 'open', part: part('PL1') }, stage: '3.3 V always on' },
  { fault: { kind: 'open', part: part('R20') }, stage: 'Reset of the controller' },
  { fault: { kind: 'short', net: '5V_ALW' as NetId, ohms: 0.1 }, stage: '5 V always on' },
  { fault: { kind: 'dead', part: part('PU5') }, stage: 'Suspend rails' },
  { fault: { kind: 'dead', part: part('U40') }, stage: 'Chipset asks to run' },
  { fault: { kind: 'open', part: part('PL7') }, stage: 'Memory rails' },
  { fault: { kind: 'dead', part: part('U33') }, stage: 'Run rails' },
  { fault: { kind: 'dead', part: part('PU9') }, stage: 'Core rail' },
];

/** The sweep of a board with a fault in it, as a technician would type it, in its order. */
export function sweepOf(
  id: string,
  fault: Fault,
): { net: string; reference: string | null; mode: string; text: string }[] {
  const loaded = loadSheet(sheetText(id));
  if (!loaded.ok) throw new Error(`the sheet ${id} does not load`);
  const board = loaded.value;
  const cold = readCold(board, {}, [fault], usualMeter);
  const nets = board.nets.filter((net) => net.id !== board.ground).map((net) => net.id);
  return makeSweep(studyHealthyBoard(board)).map(({ net, reference, mode }) => {
    const value =
      reference === null
        ? cold[mode][nets.indexOf(net)]!
        : mode === 'ohms'
          ? cold.across(net, reference, 'ohms')
          : cold.across(reference, net, 'diode');
    const text = value < (mode === 'ohms' ? 40e6 : 2) ? String(Number(value.toPrecision(3))) : 'OL';
    return { net, reference, mode, text };
  });
}
