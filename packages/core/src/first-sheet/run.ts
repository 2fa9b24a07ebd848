import { guessedChargeAmps } from '../safety/index.ts';
import type { AlwaysOn } from './always-on.ts';
import type { BranchId, Choices } from './choices.ts';
import type { Draft } from './draft.ts';
import type { Entry } from './input.ts';
import type { Wake } from './wake.ts';

/** Memory rails: JEDEC nominal volts, from memory (DDR3 1.5, DDR3L 1.35, DDR4 1.2 with VPP 2.5, LPDDR4X 1.1 and 0.6, LPDDR5 1.05 and 0.5). */
const memoryRails = {
  ddr3: { main: ['1V5_MEM', 1.5], second: ['0V75_VTT', 0.75] },
  ddr3l: { main: ['1V35_MEM', 1.35], second: ['0V675_VTT', 0.675] },
  ddr4: { main: ['1V2_MEM', 1.2], second: ['2V5_VPP', 2.5] },
  ddr5: { main: ['5V_MEM', 5], second: null },
  lpddr4x: { main: ['1V1_MEM', 1.1], second: ['0V6_VDDQ', 0.6] },
  lpddr5: { main: ['1V05_MEM', 1.05], second: ['0V5_VDDQ', 0.5] },
} as const;

/** Memory, run rails and core. */
export function drawRun(
  draft: Draft,
  { memory, phases }: Choices,
  entry: Entry,
  always: AlwaysOn,
  wake: Wake,
): void {
  const known = memory === null ? null : memoryRails[memory];
  const [net, volts] = known?.main ?? (['VMEM', [1, 1.6]] as const);
  const aliases = net === 'VMEM' ? [] : ['VMEM'];
  draft.rail(net, typeof volts === 'number' ? volts : [...volts], 'memory rail', {
    load: 0.3,
    aliases,
  });
  const enable = `${wake.memoryEnable} > 1.5`;
  const isModule = memory === 'ddr5';
  draft.converter('memory', isModule ? 'Memory modules get their 5 V' : 'Memory rail', net, {
    feed: isModule ? always.five : entry.main,
    ...(isModule ? { pass: 'switch' } : {}),
    enable,
    powerGood: 'MEM_PG',
    limit: 3,
  });
  if (known?.second) {
    const [second, secondVolts] = known.second;
    const isPump = typeof volts === 'number' && secondVolts > volts;
    draft.rail(second, secondVolts, isPump ? "memory's 2.5 V" : 'second memory rail', {
      load: 0.05,
    });
    draft.stage('memory-2', isPump ? "Memory's 2.5 V" : 'Second memory rail', [second], {
      feed: isPump ? always.three : net,
      pass: 'linear',
      enable,
      limit: 2,
      delay: 0.003,
    });
  }
  draft.rail('5V_RUN', 5, '5 V while it runs', { load: 0.2 });
  draft.rail('3V3_RUN', 3.3, '3.3 V while it runs', { load: 0.2 });
  const run = `${wake.runEnable} > 1.5`;
  draft.converter('5V_RUN', '5 V run rail', '5V_RUN', {
    feed: always.five,
    pass: 'switch',
    enable: run,
    limit: 4,
  });
  draft.converter('3V3_RUN', '3.3 V run rail', '3V3_RUN', {
    feed: always.three,
    pass: 'switch',
    enable: run,
    limit: 4,
  });
  draft.rail('VCORE', [0.5, 1.4], 'core rail, set by the processor', { load: 3 });
  draft.converter('core', 'Core rail', 'VCORE', {
    feed: entry.main,
    enable: `${wake.coreEnable} > 1.5`,
    after: ['5V_RUN > 4.4'],
    powerGood: 'VR_PG',
    limit: 40,
  });
  for (let coil = 1; coil <= Number(phases ?? 0); coil++)
    draft.points[`core-coil-${coil}`] = {
      net: 'VCORE',
      title: `core coil ${coil}, the end away from the FETs`,
    };
}

/** Cells in a row by the volts of the main rail, about 3.8 V each (common practice, no source). */
const cellsFor = (mainVolts: number): number => (mainVolts >= 15 ? 3 : mainVolts >= 8.5 ? 2 : 1);
const cellVolts = 3.8;

/** The battery, its limit a guess, and what lets it feed the board: nobody knows how. */
function drawBattery(draft: Draft, { main, mainVolts }: Entry): void {
  const volts = cellsFor(mainVolts) * cellVolts;
  draft.attachments.battery = { title: 'Battery' };
  draft.rail('VBAT', [0.7 * volts, 1.4 * volts], 'battery plug', { origin: 'guess' });
  draft.parts.BAT_FET = {
    kind: 'schottky',
    guess: true,
    title: 'stands for the battery FET, which lets the battery feed the main rail',
    pins: ['VBAT', main],
  };
  draft.sources.battery = {
    kind: 'battery',
    title: 'Battery',
    net: 'VBAT',
    volts,
    limit: 6,
    chargeLimit: guessedChargeAmps,
    seriesOhms: 0.1,
    on: 'battery',
  };
}

/** What hangs beside the way to boot. */
export function drawBranches(
  draft: Draft,
  chosen: readonly BranchId[],
  entry: Entry,
  always: AlwaysOn,
): void {
  for (const branch of chosen) {
    switch (branch) {
      case 'charging':
        drawBattery(draft, entry);
        draft.rail('VCHG', [8, 13.2], 'charging rail, before the battery FET', {
          origin: 'guess',
        });
        draft.stage('charging', 'Charging', ['VCHG'], {
          feed: entry.main,
          limit: guessedChargeAmps,
          with: ['battery'],
        });
        draft.goals.charges = { title: 'charges', reached: ['VCHG > 7'], with: ['battery'] };
        break;
      case 'backlight':
        draft.attachments.panel = { title: 'Panel' };
        draft.rail('3V3_LCD', 3.3, 'panel supply', { load: 0.2 });
        draft.rail('VLED', [15, 40], 'backlight, boosted', { load: 0.05, origin: 'guess' });
        draft.stage('panel', 'Panel supply', ['3V3_LCD'], {
          feed: always.three,
          pass: 'switch',
          after: ['PLTRST# > 1.5'],
          limit: 2,
          with: ['panel'],
        });
        draft.chips.BACKLIGHT = {
          kind: 'boost',
          title: 'backlight boost',
          volts: 27,
          pins: { VIN: entry.main, EN: 'PLTRST#', OUT: 'VLED', GND: 'GND' },
        };
        draft.stage('backlight', 'Backlight', ['VLED'], { by: ['BACKLIGHT'], with: ['panel'] });
        draft.goals.screen = {
          title: 'lights its screen',
          reached: ['PLTRST# > 1.5', '3V3_LCD > 3', 'VLED > 12'],
          with: ['panel'],
          shows: 'picture',
        };
        // Where every rail is there and nothing is seen, it is what hangs on the plug.
        draft.chips['Panel-or-cable'] = {
          kind: 'panel',
          title: 'panel, its cable or its plug',
          on: 'panel',
          pins: { VLOGIC: '3V3_LCD', VBL: 'VLED', GND: 'GND' },
        };
        break;
      case 'storage':
        draft.attachments.storage = { title: 'Storage' };
        draft.rail('3V3_SSD', 3.3, 'storage supply', { load: 0.2 });
        draft.stage('storage', 'Storage supply', ['3V3_SSD'], {
          feed: '3V3_RUN',
          pass: 'switch',
          limit: 3,
          with: ['storage'],
        });
        draft.goals.storage = {
          title: 'finds its storage',
          reached: ['PLTRST# > 1.5', '3V3_SSD > 3'],
          with: ['storage'],
        };
        break;
      case 'fan':
        draft.attachments.fan = { title: 'Fan' };
        draft.rail('5V_FAN', 5, 'fan supply');
        draft.stage('fan', 'Fan supply', ['5V_FAN'], {
          feed: '5V_RUN',
          pass: 'switch',
          limit: 1,
          with: ['fan'],
        });
        // Some 150 mA at 5 V: what turns on a laptop board (common practice, no source).
        draft.parts['FAN'] = {
          kind: 'fan',
          title: 'fan',
          pins: ['5V_FAN', 'GND'],
          value: 33,
          guess: true,
          on: 'fan',
        };
        break;
      case 'lights':
        // The controller pulls it low when it has seen the button: drawn with the controller.
        break;
    }
  }
}
