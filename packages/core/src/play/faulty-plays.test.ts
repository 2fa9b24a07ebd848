import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../sheets/fell-13.yaml?raw';
import otter from '../../../../sheets/otter-14.yaml?raw';
import { draw, seeded } from '../base/index.ts';
import { loadSheet, type Board, type NetId, type PartRef } from '../board/index.ts';
import { faultName, listFaults, parseFault, withFaults, type Fault } from '../faults/index.ts';
import {
  benchSetup,
  comparePlays,
  playBoard,
  usualSetup,
  type BenchSetup,
  type Play,
} from './index.ts';

const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return loaded.value;
};
const board = load(cairn);
const healthy = playBoard(board, usualSetup(board));

const faultsOf = (texts: readonly string[]): Fault[] =>
  texts.map((text) => {
    const parsed = parseFault(board, text);
    if (!parsed.ok) throw new Error(JSON.stringify(parsed.error));
    return parsed.value;
  });
const playOn = (bench: BenchSetup, ...texts: string[]): Play =>
  playBoard(withFaults(board, faultsOf(texts)), benchSetup(board, bench));
const playWith = (...texts: string[]): Play =>
  playBoard(withFaults(board, faultsOf(texts)), usualSetup(board));
const all = ['battery', 'panel', 'memory', 'storage', 'fan'];

type PoweredPhase = 'standby' | 'trying' | 'run';
const volts = (play: Play, net: string, phase: PoweredPhase): number =>
  play.phases.get(phase)?.volts.get(net as NetId) ?? NaN;
const happened = (play: Play, what: string): boolean =>
  play.events.some((event) => `${event.by} ${event.what}`.includes(what));
const boots = (play: Play): boolean => volts(play, 'PLTRST#', 'run') > 2;

// What a technician would meet, written down before the code was run (common practice, no source).
describe('plays with a fault, as a technician would meet them', () => {
  it('the press is an event, by the name of the button', () => {
    const { title } = board.button!;
    expect(happened(healthy, `${title} is pressed`)).toBe(true);
    const pressed = healthy.events.findIndex((one) => one.what === 'is pressed');
    expect(healthy.events[pressed]!.by).toBe(title);
    expect(healthy.events[pressed]!.atSeconds).toBeCloseTo(healthy.pressedAtSeconds, 6);
  });
  it('a chip that is drawn and not fitted gives nothing, and draws nothing', () => {
    const bare = {
      ...board,
      chips: board.chips.map((one) => (one.ref === 'PU4' ? { ...one, fitted: false } : one)),
    };
    const play = playBoard(bare, usualSetup(bare));
    expect(volts(play, '1V8_S5', 'run')).toBeLessThan(0.1);
    expect(volts(playWith('PU4:dead'), '1V8_S5', 'run')).toBeLessThan(0.1);
    expect(boots(play)).toBe(false);
  });
  it('open fuse: the jack has its volts, nothing behind it has', () => {
    const play = playWith('F1:open');
    expect(volts(play, 'VIN_JACK', 'standby')).toBeCloseTo(19.5, 1);
    expect(volts(play, 'VIN', 'standby')).toBeLessThan(0.1);
    expect(play.phases.get('standby')?.sourceAmps).toBeLessThan(0.0001);
  });
  it('a short after the press: the controller gives up, and the event says by its kind that the board goes off', () => {
    const play = playWith('1V2_MEM:short=0.05');
    const off = play.events.filter((one) => one.kind === 'gives-up');
    expect(off).toHaveLength(1);
    expect(off[0]!.what).toMatch(/^gives up: \S/);
    expect(off[0]!.atSeconds).toBeGreaterThan(play.pressedAtSeconds);
    expect(healthy.events.some((one) => one.kind === 'gives-up')).toBe(false);
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
  it('second input FET shorted: its driver finds the board side fed already and refuses, and all runs through a body diode', () => {
    const play = playWith('PQ2.D-S:short');
    expect(happened(play, 'PU1 input FET drive refuses')).toBe(true);
    const drop = volts(play, 'VIN', 'standby') - volts(play, 'VMAIN', 'standby');
    expect(drop).toBeGreaterThan(0.3);
    expect(drop).toBeLessThan(0.9);
    expect(boots(play)).toBe(true);
    // The diode carries the whole board: that FET gets hot.
    expect(play.phases.get('run')?.watts.get('PQ1')).toBeGreaterThan(0.2);
  });
  it('main rail shorted hard: the driver tries three times and then stays off', () => {
    const play = playWith('C6:short');
    expect(happened(play, 'sees an overload again and stays off')).toBe(true);
    expect(volts(play, 'VMAIN', 'standby')).toBeLessThan(0.01);
    expect(volts(play, 'VIN', 'standby')).toBeGreaterThan(19.4);
    expect(play.phases.get('standby')?.sourceAmps).toBeLessThan(0.01);
  });
  it('enable divider of the LDOs drifted high: the main rail stands, no LDO comes', () => {
    const play = playWith('R10:drift=10');
    expect(volts(play, 'ALW_EN', 'standby')).toBeLessThan(1.5);
    expect(volts(play, 'VMAIN', 'standby')).toBeGreaterThan(18.5);
    expect(volts(play, '5V_LDO', 'standby')).toBeLessThan(0.1);
    expect(volts(play, '3V3_LDO', 'standby')).toBeLessThan(0.1);
  });
  it('always-on regulator shorted inside at its 5 V LDO: neither of its bucks starts', () => {
    const play = playWith('PU2.LDO5:short');
    expect(volts(play, '5V_LDO', 'standby')).toBeLessThan(0.1);
    expect(volts(play, '3V3_LDO', 'standby')).toBeCloseTo(3.3, 1);
    expect(volts(play, '3V3_ALW', 'standby')).toBeLessThan(0.1);
  });
  it("reset supervisor cut off: the controller's reset comes with its supply, too early, and it hangs", () => {
    const play = playWith('U21.RESET#:trace-open');
    expect(happened(play, 'U20 power sequence was released from reset too early')).toBe(true);
    expect(volts(play, 'EC_RST#', 'standby')).toBeGreaterThan(3);
    expect(volts(play, '5V_ALW', 'standby')).toBeLessThan(0.1);
    expect(volts(play, 'S5_EN', 'run')).toBeLessThan(0.3);
  });
  it("controller's crystal dead: supply and reset are right, and nothing is asked for", () => {
    const play = playWith('Y2:open');
    expect(volts(play, '3V3_EC', 'standby')).toBeCloseTo(3.3, 1);
    expect(volts(play, 'EC_RST#', 'standby')).toBeGreaterThan(3);
    expect(volts(play, 'EN_5V_EC', 'standby')).toBeLessThan(0.3);
  });
  it("controller's supply ferrite open: its supply is a few tenths at most, fed through its pins", () => {
    const play = playWith('FB20:open');
    expect(volts(play, '3V3_ALW', 'standby')).toBeCloseTo(3.3, 1);
    expect(volts(play, '3V3_EC', 'standby')).toBeLessThan(1);
    expect(volts(play, 'EC_RST#', 'standby')).toBeLessThan(1);
    expect(play.phases.get('standby')?.phantom).toContain('U20');
  });
  it('power-good that cannot pull low: the next rail is enabled before the button is pressed', () => {
    const play = playWith('PU4.PG:stuck-released');
    expect(volts(play, '1V8_S5', 'standby')).toBeLessThan(0.1);
    expect(volts(play, '1V8_PG', 'standby')).toBeGreaterThan(3);
    expect(volts(play, '1V05_S5', 'standby')).toBeCloseTo(1.05, 1);
  });
  it('output coil of 1V05_S5 open: its regulator tries, the rail never comes, the board gives up', () => {
    const play = playWith('PL6:open');
    expect(volts(play, '1V8_S5', 'trying')).toBeCloseTo(1.8, 1);
    expect(volts(play, '1V05_S5', 'trying')).toBeLessThan(0.1);
    expect(happened(play, 'PU5 SW is overloaded')).toBe(true);
    expect(happened(play, 'gives up: waited for S5PG')).toBe(true);
  });
  it('chipset that does not see RSMRST#: the net reads right and the chipset stays silent', () => {
    const play = playWith('U40.RSMRST:trace-open');
    expect(volts(play, 'RSMRST#', 'trying')).toBeGreaterThan(3);
    expect(volts(play, 'SLP_S4#', 'trying')).toBeLessThan(0.3);
    expect(happened(play, 'gives up: waited for S4 and S3')).toBe(true);
  });
  it('pull-up of the all-good line open: every run rail is there while it tries, RUN_PG is not', () => {
    const play = playWith('R62:open');
    for (const [net, wanted] of [
      ['5V_RUN', 5],
      ['3V3_RUN', 3.3],
      ['0V95_IO', 0.95],
    ] as const)
      expect(volts(play, net, 'trying')).toBeCloseTo(wanted, 1);
    expect(volts(play, 'RUN_PG', 'trying')).toBeLessThan(0.5);
    expect(volts(play, 'VR_ON', 'trying')).toBeLessThan(0.3);
  });
  it("core regulator's supply pin cut off: enabled and fed, and no core rail", () => {
    const play = playWith('PU9.VCC:trace-open');
    expect(volts(play, 'VR_ON', 'trying')).toBeGreaterThan(3);
    expect(volts(play, '5V_RUN', 'trying')).toBeCloseTo(5, 1);
    expect(volts(play, 'VCORE', 'trying')).toBeLessThan(0.1);
  });
  it('reset buffer dead: the platform reset is released, the storage and the radio stay in reset', () => {
    const play = playWith('U41:dead');
    expect(boots(play)).toBe(true);
    expect(volts(play, 'BUF_PLTRST#', 'run')).toBeLessThan(0.5);
  });
  it('coin cell diode shorted: the clock domain reads like the LDO, and all else is well', () => {
    const play = playWith('D31.A-K:short');
    expect(volts(play, 'VRTC', 'standby')).toBeCloseTo(volts(play, '3V3_LDO', 'standby'), 2);
    expect(boots(play)).toBe(true);
  });

  // Branches.
  it('charging, healthy: a small current first, then the full one, and the light comes on', () => {
    const play = playOn({ attached: all });
    expect(happened(play, 'PU1 charging pre-charges')).toBe(true);
    expect(happened(play, 'PU1 charging charges in full')).toBe(true);
    // 2 A into 11.4 V behind 80 milliohms.
    expect(volts(play, 'VBAT', 'standby')).toBeCloseTo(11.56, 2);
    // About 2 A x 11.6 V / 0.9 / 19.5 V and the board's own.
    expect(play.phases.get('standby')?.sourceAmps).toBeGreaterThan(1.2);
    expect(play.phases.get('standby')?.lit).toContain('LED2');
  });
  it('charge sense resistor open: the charger is enabled and gives its volts, nothing reaches the battery', () => {
    const play = playOn({ attached: all }, 'PR2:open');
    expect(volts(play, 'CHG_EN', 'standby')).toBeGreaterThan(3);
    expect(volts(play, 'VCHG', 'standby')).toBeCloseTo(12.6, 1);
    expect(volts(play, 'VBAT', 'standby')).toBeCloseTo(11.4, 2);
    expect(play.phases.get('standby')?.sourceAmps).toBeLessThan(0.1);
  });
  it("battery's thermistor line open: the board runs, the charger is never enabled", () => {
    const play = playOn({ attached: all }, 'RT5:open');
    expect(volts(play, 'BAT_DET#', 'standby')).toBeGreaterThan(3);
    expect(volts(play, 'CHG_EN', 'standby')).toBeLessThan(0.3);
    expect(boots(play)).toBe(true);
  });
  it('battery FET shorted from gate to source: on battery the main rail sits a diode below it', () => {
    const play = playOn({ source: 'battery', attached: all }, 'PQ3.G-S:short');
    const drop = volts(play, 'VBAT', 'standby') - volts(play, 'VMAIN', 'standby');
    expect(drop).toBeGreaterThan(0.3);
    expect(drop).toBeLessThan(0.9);
  });
  it('backlight coil open: the screen stays dark, its feed is there, the board boots', () => {
    const play = playWith('PL10:open');
    expect(volts(play, 'BL_VIN', 'run')).toBeGreaterThan(19);
    expect(volts(play, 'BL_OUT', 'run')).toBeLessThan(0.5);
    expect(boots(play)).toBe(true);
  });
  it('backlight not enabled: the output stays a diode below its feed', () => {
    const play = playWith('R82:open');
    const drop = volts(play, 'BL_VIN', 'run') - volts(play, 'BL_OUT', 'run');
    expect(volts(play, 'BL_EN', 'run')).toBeGreaterThan(3);
    expect(drop).toBeGreaterThan(0);
    expect(drop).toBeLessThan(0.5);
  });
  it('storage enable resistor open: the board boots and does not find its storage', () => {
    const play = playWith('R80:open');
    expect(volts(play, 'RUN_EN', 'run')).toBeGreaterThan(3);
    expect(volts(play, '3V3_SSD', 'run')).toBeLessThan(0.1);
    expect(boots(play)).toBe(true);
  });
  it('USB port shorted: its switch folds back and the board does not notice', () => {
    const play = playWith('C85:short');
    expect(happened(play, 'U54 OUT is overloaded and folds back')).toBe(true);
    expect(volts(play, '5V_USB', 'run')).toBeLessThan(0.1);
    expect(volts(play, '5V_ALW', 'run')).toBeCloseTo(5, 1);
    expect(boots(play)).toBe(true);
  });
  it("fan's transistor with its gate cut off: asked to turn, it does not", () => {
    const play = playWith('Q50.G:trace-open');
    expect(volts(play, 'FAN_EN', 'run')).toBeGreaterThan(3);
    expect(play.phases.get('run')?.turning).toEqual([]);
    expect(healthy.phases.get('run')?.turning).toEqual(['FAN1']);
  });
  it('storage shorted inside: unplugged, its rail comes back', () => {
    const fault = 'SSD1.V:short';
    expect(volts(playOn({ attached: all }, fault), '3V3_SSD', 'run')).toBeLessThan(0.6);
    expect(volts(playOn({ attached: ['panel'] }, fault), '3V3_SSD', 'run')).toBeCloseTo(3.3, 1);
  });

  it('an earlier fault masks a later one: two together read like the first alone', () => {
    expect(comparePlays(playWith('PR1:open'), playWith('PR1:open', 'PL7:open')).size).toBe(0);
  });
  it.each([
    ['adapter weak under load', 'adapter:weak'],
    ['adapter that trips early', 'adapter:limited'],
    ['fuse gone to 20 ohms', 'F1:high=20'],
  ])('%s: standby is right, the board starts, collapses and is dark again', (_name, text) => {
    const play = playWith(text);
    expect(play.status).toBe('settled');
    expect(volts(play, 'VMAIN', 'standby')).toBeGreaterThan(18.5);
    expect(happened(play, 'PU6 SW is on')).toBe(true);
    expect(volts(play, 'VCORE', 'run')).toBeLessThan(0.1);
    const off = play.events.filter((one) => one.kind === 'gives-up');
    expect(off.map((one) => one.what)).toEqual(['goes off']);
    const seconds = off[0]!.atSeconds - play.pressedAtSeconds;
    expect(seconds).toBeGreaterThan(0.2);
    expect(seconds).toBeLessThan(2);
  });
  it('input coil gone to kilohms: the board comes and goes on and on, which is not going off', () => {
    const whole = load(otter);
    const high = withFaults(whole, [{ kind: 'high', part: 'L1' as PartRef, ohms: 3000 }]);
    const play = playBoard(high, usualSetup(whole));
    expect(play.phases.get('run')?.swinging.size).toBeGreaterThan(2);
    expect(play.events.filter((one) => one.kind === 'gives-up')).toEqual([]);
  });
  it('first input FET open before a driver with a pump: its gate is lifted, the bus behind has what leaks', () => {
    const whole = load(otter);
    const open = withFaults(whole, [{ kind: 'open', part: 'Q1' as PartRef }]);
    const play = playBoard(open, usualSetup(whole));
    expect(play.status).toBe('settled');
    // 6 V of pump across 20 k and the gate's 1 M are 5.88 microamps, and what is off leaks by 1 M.
    expect(volts(play, 'AMID', 'standby')).toBeCloseTo((6 / 1.02e6) * 1e6, 1);
    expect(volts(play, 'AGATE', 'standby') - volts(play, 'AMID', 'standby')).toBeCloseTo(
      (6 / 1.02e6) * 1e6,
      1,
    );
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
