import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../sheets/fell-13.yaml?raw';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import otter from '../../../../sheets/otter-14.yaml?raw';
import { loadSheet, type Board, type NetId } from '../board/index.ts';
import { loadingText } from '../readings/index.ts';
import { checkHealthyPlay, studyHealthyBoard, type HealthyBoard } from './index.ts';

const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return loaded.value;
};
const cairnBoard = studyHealthyBoard(load(cairn));
const fellBoard = studyHealthyBoard(load(fell));
const beckBoard = studyHealthyBoard(load(beck));
const expected = (healthy: HealthyBoard, net: string, phase: 'standby' | 'run' = 'run') => {
  const found = healthy.expect(net as NetId, 'volts', phase);
  if (found.kind === 'unknown') throw new Error(found.because);
  return found;
};
const ratio = (healthy: HealthyBoard, net: string): number => {
  const { value, high } = expected(healthy, net);
  return (high - value) / value;
};

describe('healthy plays', () => {
  it.each([
    ['Cairn 14', cairnBoard, cairn],
    ['Fell 13', fellBoard, fell],
    ['Beck mini', beckBoard, beck],
  ])('%s wakes every stage and reaches its goals', (_name, healthy, text) => {
    expect(healthy.play.status).toBe('settled');
    expect(checkHealthyPlay(healthy.board, text)).toEqual([]);
  });

  it('computes the order of waking of Cairn 14 from what chips need and give', () => {
    const order = cairnBoard.path('boots' as never).map((one) => one.stage.id as string);
    const wanted = [
      'jack',
      'fuse',
      'input-fets',
      'main',
      'ldo',
      'alw3',
      'ec-supply',
      'ec-reset',
      'alw5',
      's5',
      'rsmrst',
      'sleep',
      'memory',
      'run',
      'all-good',
      'core',
      'pwrok',
      'reset',
    ];
    expect(order.filter((id) => wanted.includes(id))).toEqual(wanted);
    expect(cairnBoard.stages.length).toBeGreaterThanOrEqual(14);
    // Branches are not on the way to booting.
    expect(order).not.toContain('backlight');
    expect(cairnBoard.path('screen' as never).map((one) => one.stage.id as string)).toContain(
      'backlight',
    );
  });

  it('names what stops a stage that never comes up', () => {
    const text = cairn.replace('value: 71k5', 'value: 7k15');
    const found = checkHealthyPlay(load(text), text);
    const main = found.find((one) => one.code === 'stage-never-up' && one.stage === 'Main rail');
    expect(JSON.stringify(main)).toContain('ACDET');
  });
});

describe('against published values', () => {
  it("rails: 5 % each way, the ATX power supply design guide's tolerance of its positive rails (from memory)", () => {
    for (const net of ['5V_RUN', '3V3_RUN']) expect(ratio(beckBoard, net)).toBeCloseTo(0.05, 6);
    // PWR_OK comes 100 to 500 ms after the rails (same guide, desktop board only, from memory).
    const { play } = beckBoard;
    const delay =
      (play.settledAt.get('PWR_OK' as NetId) ?? 0) - (play.settledAt.get('5V_RUN' as NetId) ?? 0);
    expect(delay).toBeGreaterThan(0.1);
    expect(delay).toBeLessThan(0.5);
  });

  it('memory rails: JEDEC DDR4 1.2 V with VPP 2.5 V and VTT half of VDDQ, DDR5 1.1 V (from memory)', () => {
    expect(expected(cairnBoard, '1V2_MEM').value).toBeCloseTo(1.2, 3);
    expect(expected(cairnBoard, '2V5_VPP').value).toBeCloseTo(2.5, 3);
    expect(expected(cairnBoard, '0V6_VTT').value).toBeCloseTo(
      expected(cairnBoard, '1V2_MEM').value / 2,
      3,
    );
    expect(expected(fellBoard, '1V1_MEM').value).toBeCloseTo(1.1, 3);
  });

  it('USB-C: starts at 5 V, the contract is one of the fixed supplies 5, 9, 15, 20 V (USB Power Delivery, from memory)', () => {
    const source = fellBoard.board.sources[0];
    expect(source?.offersVolts).toEqual([5, 9, 15, 20]);
    const asks = fellBoard.play.events.filter((event) => event.what.startsWith('asks for'));
    expect(asks).toHaveLength(1);
    const before = fellBoard.play.events.slice(0, fellBoard.play.events.indexOf(asks[0] as never));
    // Nothing but the controller itself runs from the first 5 V.
    expect(before.every((event) => event.by.startsWith('U1') || event.by === 'USB-C supply')).toBe(
      true,
    );
    expect(expected(fellBoard, 'VBUS', 'standby').value).toBe(20);
  });

  it('ACPI: suspend rails and SLP signals are low in standby (S5) and high in run (S0); S4 rises before S3 (from memory)', () => {
    for (const net of ['SLP_S4#', 'SLP_S3#']) {
      expect(expected(cairnBoard, net, 'standby').off).toBe(true);
      expect(expected(cairnBoard, net, 'run').value).toBeGreaterThan(3);
    }
    const at = (net: string): number => cairnBoard.play.settledAt.get(net as NetId) ?? NaN;
    expect(at('SLP_S4#')).toBeLessThan(at('SLP_S3#'));
  });
});

describe('what the meter itself takes', () => {
  // 3.3 V through R11 and a pull-up: with 10 megohms there, a meter of 10 megohms shows half (divider by hand).
  const otterBoard = load(otter);
  const weak = {
    ...otterBoard,
    parts: otterBoard.parts.map((part) => (part.ref === 'R11' ? { ...part, value: 10e6 } : part)),
  };

  it('is in what a point is expected to read, and said', () => {
    const found = expected(studyHealthyBoard(weak), 'KEY_SW', 'standby');
    expect(found.value).toBeCloseTo(1.65, 1);
    expect(found.unloadedVolts).toBeCloseTo(3.3, 1);
    expect(loadingText(found)).toBe('3.3 V without the meter: its own 10 MΩ pull it down');
  });

  it('is not spoken of where it is next to nothing', () => {
    const found = expected(studyHealthyBoard(otterBoard), 'KEY_SW', 'standby');
    expect(found.value).toBeCloseTo(3.3, 1);
    expect(loadingText(found)).toBeNull();
  });
});
