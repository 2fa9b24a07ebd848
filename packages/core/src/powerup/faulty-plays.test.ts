import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../sheets/fell-13.yaml?raw';
import { draw, seeded } from '../base/index.ts';
import { loadSheet, type Board, type NetId } from '../board/index.ts';
import { faultName, listFaults, parseFault, withFaults } from '../faults/index.ts';
import { comparePlays, playBoard, usualSetup, type Play } from './index.ts';

const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return loaded.value;
};
const board = load(cairn);
const healthy = playBoard(board, usualSetup(board));

const playWith = (...texts: string[]): Play => {
  const faults = texts.map((text) => {
    const parsed = parseFault(board, text);
    if (!parsed.ok) throw new Error(JSON.stringify(parsed.error));
    return parsed.value;
  });
  return playBoard(withFaults(board, faults), usualSetup(board));
};
const volts = (play: Play, net: string, phase: 'standby' | 'trying' | 'run'): number =>
  play.phases.get(phase)?.volts.get(net as NetId) ?? NaN;

// What a technician would meet, written down before the code was run (common practice, no source).
describe('plays with a fault, as a technician would meet them', () => {
  it('open fuse: the jack has its volts, nothing behind it has', () => {
    const play = playWith('F1:open');
    expect(volts(play, 'VIN_JACK', 'standby')).toBeCloseTo(19.5, 1);
    expect(volts(play, 'VIN', 'standby')).toBeLessThan(0.1);
    expect(play.phases.get('standby')?.sourceAmps).toBeLessThan(0.0001);
  });
  it('open gate resistor of the first input FET: the middle sits a diode drop below the source', () => {
    const play = playWith('R2:open');
    const drop = volts(play, 'VIN', 'standby') - volts(play, 'VA_MID', 'standby');
    expect(drop).toBeGreaterThan(0.4);
    expect(drop).toBeLessThan(0.9);
  });
  it('detect divider drifted: the charger takes the source for a wrong one and keeps the FETs off', () => {
    const play = playWith('R6:drift=2');
    expect(volts(play, 'ACDET', 'standby')).toBeLessThan(2.4);
    expect(volts(play, 'VMAIN', 'standby')).toBeLessThan(1);
    expect(volts(play, 'CHG_VCC', 'standby')).toBeGreaterThan(18);
  });
  it('gate clamp shorted: its FET stays off', () => {
    const play = playWith('D2.A-K:short');
    expect(volts(play, 'PQ1_G', 'standby')).toBeCloseTo(volts(play, 'VA_MID', 'standby'), 1);
    expect(volts(play, 'VMAIN', 'standby')).toBeLessThan(volts(play, 'VIN', 'standby') - 0.4);
  });
  it('main rail shorted: the input tries, collapses and tries again, and VMAIN never stands', () => {
    const play = playWith('VMAIN:short');
    expect(volts(play, 'VMAIN', 'standby')).toBeLessThan(1);
    expect(volts(play, '3V3_ALW', 'standby')).toBeLessThan(0.5);
    expect(
      play.events.filter((event) => event.what === 'has lost its supply').length,
    ).toBeGreaterThan(0);
  });
  it('always-on 3.3 V shorted: its regulator hiccups, the LDOs stay', () => {
    const play = playWith('3V3_ALW:short');
    expect(volts(play, '3V3_ALW', 'standby')).toBeLessThan(0.6);
    expect(volts(play, '5V_LDO', 'standby')).toBeCloseTo(5, 1);
    expect(play.events.some((event) => event.what.includes('overloaded'))).toBe(true);
  });
  it('enable cut off at the pin: the rail is missing though its enable reads right', () => {
    const play = playWith('PU2.EN2:trace-open');
    expect(volts(play, 'EN_3V3', 'standby')).toBeGreaterThan(3);
    expect(volts(play, '3V3_ALW', 'standby')).toBeLessThan(0.1);
  });
  it('controller without its firmware: supplied and reset, but it asks for nothing', () => {
    const play = playWith('U20:corrupt');
    expect(volts(play, 'EC_RST#', 'standby')).toBeGreaterThan(3);
    expect(volts(play, 'EN_5V_EC', 'standby')).toBeLessThan(0.3);
    expect(volts(play, 'S5_EN', 'run')).toBeLessThan(0.3);
  });
  it('power-good stuck low: the rail stands, the board waits for it and gives up', () => {
    const play = playWith('PU6.PG:stuck-low');
    expect(volts(play, '1V2_MEM', 'trying')).toBeCloseTo(1.2, 1);
    expect(volts(play, 'MEM_PG', 'trying')).toBeLessThan(0.3);
    // After giving up the evidence is gone.
    expect(volts(play, '1V2_MEM', 'run')).toBeLessThan(0.3);
    expect(play.events.some((event) => event.what.startsWith('gives up: waited for MEMPG'))).toBe(
      true,
    );
  });
  it('memory rail shorted: everything up to it stands while the board tries', () => {
    const play = playWith('C50:short');
    expect(volts(play, '1V05_S5', 'trying')).toBeCloseTo(1.05, 1);
    expect(volts(play, 'SLP_S3#', 'trying')).toBeGreaterThan(3);
    expect(volts(play, '1V2_MEM', 'trying')).toBeLessThan(0.6);
    expect(volts(play, '3V3_RUN', 'trying')).toBeLessThan(0.3);
  });
  it('storage rail shorted: the board still boots, the storage has nothing', () => {
    const play = playWith('U50:dead');
    expect(volts(play, 'PLTRST#', 'run')).toBeGreaterThan(3);
    expect(volts(play, '3V3_SSD', 'run')).toBeLessThan(0.3);
  });
  it('an earlier fault masks a later one: two together read like the first alone', () => {
    expect(comparePlays(playWith('PR1:open'), playWith('PR1:open', 'PL7:open')).size).toBe(0);
  });
  it('a leak no meter would notice changes nothing', () => {
    expect(comparePlays(healthy, playWith('C13:leak=100k')).size).toBe(0);
  });
});

describe('every play ends', () => {
  it.each([
    ['Cairn 14', board, 60],
    ['Fell 13', load(fell), 40],
  ])(
    '%s: single faults drawn at random settle, or say that they did not',
    (_name, sheet, count) => {
      const chance = seeded(41);
      const faults = listFaults(sheet);
      const invalid: string[] = [];
      for (let i = 0; i < count; i++) {
        const fault = draw(faults, chance);
        const play = playBoard(withFaults(sheet, [fault]), usualSetup(sheet));
        expect(play.events.length).toBeLessThan(3000);
        if (play.status === 'invalid') invalid.push(faultName(fault));
      }
      // Flagged plays are honest, and rare.
      expect(invalid.length, invalid.join(', ')).toBeLessThanOrEqual(count * 0.02);
    },
  );
});
