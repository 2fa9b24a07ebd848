import { draw, seeded } from '@jiko/core/base';
import type { Choices } from '@jiko/core/first-sheet';

// Boards nobody chose: drawn by chance, chip by chip, in orders, volts and with rails and switches that
// the choices of a first sheet lack. Nothing here knows how a first sheet is made; `sees` says where a
// technician would put the probe for what a first sheet asks for.

export type StrangerNeed = 'feed' | 'enable' | 'chip' | 'output' | 'power-good';

export interface StrangerFault {
  /** The rail whose converter is at fault, by the board's own name. */
  rail: string;
  need: StrangerNeed;
  fault: string;
}

export interface Stranger {
  text: string;
  choices: Partial<Choices>;
  /** Names of a first sheet, and the net of this board a technician would read for them. */
  sees: Map<string, string>;
  faults: StrangerFault[];
}

type Plain = Record<string, unknown>;

/** A board drawn by chance; the same one for the same seed. */
export function strangerBoard(seed: number): Stranger {
  const chance = seeded(seed * 7919 + 13);
  const some = (part: number): boolean => chance() < part;
  const of = <T>(...list: T[]): T => draw(list, chance);
  const nets: Record<string, Plain> = { GND: { kind: 'ground' } };
  const parts: Record<string, Plain> = {};
  const chips: Record<string, Plain> = {};
  const stages: Record<string, Plain> = {};
  const sources: Record<string, Plain> = {};
  const sees = new Map<string, string>();
  const faults: StrangerFault[] = [];
  let count = 100;
  const ref = (letter: string): string => `${letter}${(count += 1 + Math.floor(chance() * 3))}`;
  const rail = (name: string, volts: number, load = 0): string => {
    nets[name] = { kind: 'rail', volts, ...(load > 0 ? { load: load * (0.5 + chance()) } : {}) };
    return name;
  };
  const line = (name: string, pull?: string): string => {
    nets[name] = { kind: 'signal' };
    if (pull)
      parts[ref('R')] = { kind: 'resistor', pins: [pull, name], value: of('10k', '47k', '100k') };
    return name;
  };
  const stage = (id: string, gives: string[], by: string[]): void => {
    stages[id] = { title: id, gives, by };
  };

  /** A converter with its own way in, enable pin, coil and capacitor; every need of it can fail. */
  const converter = (
    asked: string,
    out: string,
    volts: number,
    {
      feed,
      enable,
      good,
      kind = 'buck',
      limit = 6,
      load = 0.05,
      askedGood,
    }: {
      feed: string;
      enable: string | null;
      good?: string;
      kind?: string;
      limit?: number;
      load?: number;
      askedGood?: string;
    },
  ): void => {
    const chip = ref('U');
    rail(out, volts, load);
    const way = rail(`${chip}_VIN`, nets[feed]?.volts as number);
    const fuse = ref('F');
    parts[fuse] = { kind: of('fuse', 'ferrite', 'jumper'), pins: [feed, way] };
    const pins: Record<string, string> = { VIN: way, GND: 'GND' };
    faults.push({ rail: out, need: 'feed', fault: `${fuse}:open` });
    sees.set(`${asked}_IN`, way);
    if (enable !== null) {
      const pin = line(`${chip}_EN`);
      const link = ref('R');
      parts[link] = {
        kind: 'resistor',
        pins: [enable, pin],
        value: of('0', '1k', '4k7') === '0' ? '1' : '1k',
      };
      parts[ref('R')] = { kind: 'resistor', pins: [pin, 'GND'], value: '470k' };
      pins.EN = pin;
      faults.push({ rail: out, need: 'enable', fault: `${link}:open` });
      sees.set(`${asked}_EN`, pin);
    }
    if (good) {
      pins.PG = good;
      faults.push({ rail: out, need: 'power-good', fault: `${chip}.PG:stuck-low` });
      if (askedGood) sees.set(askedGood, good);
    }
    if (kind === 'buck' && some(0.7)) {
      const node = `${chip}_SW`;
      nets[node] = { kind: 'switch' };
      parts[ref('L')] = { kind: 'coil', pins: [node, out], value: of('1u', '2u2', '4u7') };
      Object.assign(pins, { SW: node, SENSE: out });
    } else pins.OUT = out;
    chips[chip] = { kind, volts, limit, pins, ...(some(0.3) ? { delay: of(0.001, 0.003) } : {}) };
    const cap = ref('C');
    parts[cap] = { kind: 'capacitor', pins: [out, 'GND'], value: '22u' };
    for (let more = Math.floor(chance() * 3); more > 0; more--)
      parts[ref('C')] = { kind: 'capacitor', pins: [out, 'GND'], value: of('100n', '10u') };
    faults.push({ rail: out, need: 'chip', fault: `${chip}:dead` });
    faults.push({ rail: out, need: 'output', fault: `${cap}:short` });
    stage(out.toLowerCase(), [out], [chip]);
  };

  // The way in.
  const input = of(
    'barrel-pfet',
    'barrel-nfet',
    'usb-c',
    'both',
    'bus-charger',
    'desktop-standby',
    'single',
  ) as NonNullable<Choices['input']>;
  const sys = of('VSYS', '+VBATA', 'PWR_SRC', 'DCBATOUT_A');
  let mainVolts: number = of(18.5, 19, 19.5, 20);
  let inVolts = mainVolts;
  const adapter = (net: string, volts: number): void => {
    sources.adapter = { kind: 'adapter', title: 'adapter', net, volts, limit: 5 };
    sees.set('DC_IN', net);
  };
  const fetPair = (kind: 'pfet' | 'nfet', from: string, to: string, needs: string[]): void => {
    const mid = rail(`${from}_M`, inVolts);
    const gate = `${from}_G`;
    nets[gate] = { kind: 'analog' };
    const [q1, q2, u] = [ref('Q'), ref('Q'), ref('U')];
    parts[q1] = { kind, pins: [gate, from, mid] };
    parts[q2] = { kind, pins: [gate, to, mid] };
    parts[ref('R')] = { kind: 'resistor', pins: [gate, mid], value: of('470k', '1M') };
    chips[u] = {
      kind: 'generic',
      pins: { VCC: from, GATE: gate, MID: mid, GND: 'GND' },
      draws: { VCC: 0.002 },
      does: [
        {
          do: 'follower',
          out: 'GATE',
          ...(kind === 'pfet'
            ? { active: 'low' }
            : { drive: 'push-pull', high: 'MID', lift: of(5, 6, 7) }),
          supply: ['VCC > 4'],
          needs,
          onDelay: 0.08,
        },
      ],
    };
    sees.set(from === 'VBUS' ? 'VBUS_MID' : 'DC_MID', mid);
    sees.set(from === 'VBUS' ? 'VBUS_GATE' : 'IN_GATE', gate);
    stage(`${from.toLowerCase()}-fets`, [mid, to], [q1, q2]);
  };
  switch (input) {
    case 'barrel-pfet':
    case 'barrel-nfet':
    case 'both': {
      const jack = rail('J_IN', inVolts);
      const fused = rail('J_FUSED', inVolts);
      parts[ref('F')] = { kind: 'fuse', pins: [jack, fused] };
      adapter(jack, inVolts);
      rail(sys, mainVolts);
      fetPair(input === 'barrel-nfet' ? 'nfet' : 'pfet', fused, sys, [`VCC > ${inVolts * 0.8}`]);
      break;
    }
    case 'usb-c': {
      inVolts = mainVolts = 20;
      rail('VBUS', 20);
      rail('PD_3V3', 3.3);
      rail(sys, 20);
      chips[ref('U')] = {
        kind: 'pd',
        pins: { VBUS: 'VBUS', LDO: 'PD_3V3', GND: 'GND' },
        draws: { VBUS: 0.003 },
      };
      sources['usb-c'] = {
        kind: 'usb-c',
        title: 'USB-C',
        net: 'VBUS',
        volts: 20,
        limit: 3.25,
        offers: [5, 9, 15, 20],
      };
      fetPair('nfet', 'VBUS', sys, ['VCC > 18']);
      sees.set('VBUS', 'VBUS').set('PD_LDO', 'PD_3V3');
      break;
    }
    case 'bus-charger': {
      const jack = rail('ADP', inVolts);
      adapter(jack, inVolts);
      mainVolts = of(8.4, 11.4, 12.6);
      converter('standby', 'STBY_3V42', 3.42, {
        feed: jack,
        enable: null,
        kind: 'ldo',
        limit: 0.3,
        load: 0,
      });
      line('ADP_PRES');
      chips[ref('U')] = {
        kind: 'detector',
        threshold: inVolts * 0.7,
        pins: { VCC: 'STBY_3V42', SENSE: jack, OUT: 'ADP_PRES', GND: 'GND' },
      };
      parts[ref('R')] = { kind: 'resistor', pins: ['STBY_3V42', 'ADP_PRES'], value: '47k' };
      converter('main', sys, mainVolts, { feed: jack, enable: 'ADP_PRES', limit: 8, load: 0 });
      sees.set('3V4_STBY', 'STBY_3V42').set('ADP_OK', 'ADP_PRES');
      break;
    }
    case 'desktop-standby':
      inVolts = mainVolts = 12;
      adapter(rail(sys, 12), 12);
      break;
    case 'single': {
      inVolts = mainVolts = of(9, 12);
      const jack = rail('PWR_IN', inVolts);
      rail(sys, inVolts);
      parts[ref('F')] = { kind: 'fuse', pins: [jack, sys] };
      adapter(jack, inVolts);
      break;
    }
  }
  sees.set('VMAIN', sys);

  // Always on: one lets the other on as often as not, and a switch may stand before both.
  const scheme = of('dual', 'separate', 'separate', 'ldo-only') as NonNullable<Choices['alwaysOn']>;
  const [five, three] = [of('+5VALW', 'P5V_A', '5V_PRIM'), of('+3VALW', 'P3V3_A', '3V3_PRIM')];
  let feed = sys;
  if (some(0.3) && input !== 'desktop-standby') {
    feed = rail(`${sys}_S`, mainVolts);
    parts[ref('R')] = { kind: 'resistor', pins: [sys, feed], value: '0R01' };
  }
  const alwaysGood = line('ALW_OK');
  let awake = three;
  const isLate = scheme === 'ldo-only';
  if (scheme !== 'separate') {
    awake = rail('LDO_3V3', 3.3, 0.003);
    chips[ref('U')] = {
      kind: 'ldo',
      volts: 3.3,
      limit: 0.2,
      pins: { VIN: feed, OUT: awake, GND: 'GND' },
    };
    sees.set('3V3_LDO', awake);
    if (scheme === 'dual') {
      rail('LDO_5V', 5, 0.003);
      chips[ref('U')] = {
        kind: 'ldo',
        volts: 5,
        limit: 0.2,
        pins: { VIN: feed, OUT: 'LDO_5V', GND: 'GND' },
      };
      sees.set('5V_LDO', 'LDO_5V');
      stage('small-5', ['LDO_5V'], []);
    }
    stage('small-3', [awake], []);
  }
  parts[ref('R')] = { kind: 'resistor', pins: [awake, alwaysGood], value: '100k' };
  const late = isLate ? line('ALW_ON') : null;
  const first = of('five', 'three');
  const lets = late ?? (scheme === 'dual' ? 'LDO_3V3' : null);
  const fiveOk = some(0.4) && first === 'five' ? line('P5_OK', five) : null;
  converter('5V_ALW', five, 5, { feed, enable: lets, ...(fiveOk ? { good: fiveOk } : {}) });
  if (fiveOk)
    faults.splice(
      faults.findIndex((one) => one.rail === five && one.need === 'power-good'),
      1,
    );
  converter('3V3_ALW', three, 3.3, {
    feed,
    enable: fiveOk ?? lets,
    good: alwaysGood,
    askedGood: 'ALW_PG',
  });
  sees.set('5V_ALW', five).set('3V3_ALW', three).set('5V_SB', five).set('3V3_SB', three);
  if (late) sees.set('ALW_EN', late);

  // Who sees the button.
  const kind = of('one', 'one', 'two') as NonNullable<Choices['controller']>;
  const handshake = of('chipset', 'soc', 'plain') as NonNullable<Choices['handshake']>;
  const button = line(of('PWR_SW#', 'ON_BTN#'), awake);
  parts.SW9 = { kind: 'button', pins: [button, 'GND'] };
  const ecSupply = kind === 'two' ? three : awake;
  const reset = line('KBC_RST#', kind === 'two' ? undefined : ecSupply);
  let seen = button;
  if (kind === 'two') {
    seen = line('BTN2#', three);
    chips[ref('U')] = {
      kind: 'generic',
      pins: {
        V: awake,
        B: button,
        R: reset,
        O: seen,
        P: alwaysGood,
        ...(late ? { E: late } : {}),
        GND: 'GND',
      },
      does: [
        {
          do: 'sequence',
          supply: ['V > 2.7'],
          high: 'V',
          idle: { R: 'low', O: 'release', ...(late ? { E: 'low' } : {}) },
          steps: [
            ...(late ? [{ wait: ['B < 0.8'] }, { drive: { E: 'high' } }] : []),
            { wait: ['P > 2'] },
            { pause: 0.03 },
            { drive: { R: 'high' } },
            ...(late ? [{ pause: 0.1 }] : [{ wait: ['B < 0.8'] }]),
            { pulse: 'O', to: 'low', for: 0.15 },
          ],
        },
      ],
    };
    sees.set('EC_BTN#', seen);
  } else
    chips[ref('U')] = {
      kind: 'supervisor',
      threshold: 2.7,
      pins: { VCC: ecSupply, 'RESET#': reset, GND: 'GND' },
    };
  sees.set('EC_RST#', reset).set('BTN#', button);
  stage('kbc-reset', [reset], []);
  stage('button', [button], []);

  // Suspend rails, memory, run rails, core, each let on by the controller or by who comes before.
  const [memOk, vrOk] = [line('DDR_OK', three), line('VR_OK', three)];
  const runEn = line('EN_S0');
  // A plain chain: one line lets the first on, its power-good the next ones.
  const [memEn, vrEn] = handshake === 'plain' ? [runEn, memOk] : [line('EN_DDR'), line('EN_VR')];
  const [ok, plt] = [line('SYS_OK'), line('PLT_RST#')];
  const memory = of('ddr3', 'ddr3l', 'ddr4', 'lpddr4x', 'lpddr5') as NonNullable<Choices['memory']>;
  const memoryVolts = { ddr3: 1.5, ddr3l: 1.35, ddr4: 1.2, lpddr4x: 1.1, lpddr5: 1.05, ddr5: 5 }[
    memory
  ];
  const ec: Record<string, string> = { VCC: ecSupply, RST: reset, SW: seen, GND: 'GND' };
  if (!isLate) ec.PG5 = alwaysGood;
  const isPlain = handshake === 'plain';
  if (!isPlain) {
    const s5 = isLate && kind !== 'two' ? alwaysGood : line('EN_S5');
    const s5Ok = line('S5_OK', three);
    const one = handshake === 'soc' ? of(0.75, 0.85, 0.95) : of(1.0, 1.05);
    converter('1V8_S5', 'P1V8_S5', 1.8, { feed: of(five, sys), enable: s5, limit: 3 });
    if (some(0.4))
      converter('extra', 'P2V5_S5', 2.5, { feed: five, enable: s5, limit: 1, kind: 'ldo' });
    const second = handshake === 'soc' ? 'VSOC_S5' : '1V05_S5';
    converter(second, 'PVNN_S5', one, {
      feed: of(five, sys),
      enable: some(0.5) ? s5 : 'P1V8_S5',
      good: s5Ok,
      askedGood: 'S5_PG',
    });
    line('RSM_RST#');
    line('S3#');
    const isChipset = handshake === 'chipset';
    if (isChipset) {
      line('S4#');
      line('PB_OUT#', three);
    }
    chips[ref('U')] = {
      kind: 'chipset',
      pins: {
        VCC: three,
        V18: 'P1V8_S5',
        RSMRST: 'RSM_RST#',
        S3: 'S3#',
        PWROK: ok,
        PLTRST: plt,
        GND: 'GND',
        ...(isChipset ? { PBTN: 'PB_OUT#', S4: 'S4#' } : {}),
      },
    };
    Object.assign(ec, {
      ...(isLate && kind !== 'two' ? { S5EN: late, S5PG: s5Ok } : { S5EN: s5, S5PG: s5Ok }),
      RSMRST: 'RSM_RST#',
      S3: 'S3#',
      SUSEN: memEn,
      MEMPG: memOk,
      RUNEN: runEn,
      VRON: vrEn,
      VRRDY: vrOk,
      PWROK: ok,
      ...(isChipset ? { PBTN: 'PB_OUT#', S4: 'S4#' } : {}),
    });
    sees
      .set('1V8_S5', 'P1V8_S5')
      .set(second, 'PVNN_S5')
      .set('S5_EN', s5)
      .set('RSMRST#', 'RSM_RST#')
      .set('SLP_S3#', 'S3#');
    if (isChipset) sees.set('SLP_S4#', 'S4#').set('PWRBTN#', 'PB_OUT#');
    stage('rsm', ['RSM_RST#'], []);
    stage('s3', ['S3#'], []);
  } else
    Object.assign(ec, {
      ...(isLate && kind !== 'two' ? { S5EN: late, S5PG: alwaysGood } : {}),
      RUNEN: runEn,
      VRRDY: vrOk,
      PWROK: ok,
      SYSOK: plt,
    });
  const mem = `P${String(memoryVolts).replace('.', 'V')}_DDR`;
  converter('memory', mem, memoryVolts, {
    feed: of(sys, five),
    enable: memEn,
    good: memOk,
    askedGood: 'MEM_PG',
    load: 0.4,
  });
  if (some(0.5))
    converter('extra2', 'VTT_DDR', memoryVolts / 2, {
      feed: mem,
      enable: memEn,
      kind: 'ldo',
      limit: 2,
      load: 0.02,
    });
  converter('5V_RUN', 'P5V_S0', 5, { feed: five, enable: runEn, kind: 'loadswitch', load: 0.2 });
  converter('3V3_RUN', 'P3V3_S0', 3.3, {
    feed: three,
    enable: runEn,
    kind: 'loadswitch',
    load: 0.2,
  });
  if (some(0.5))
    converter('extra3', 'P1V8_S0', 1.8, { feed: 'P3V3_S0', enable: runEn, kind: 'ldo', limit: 1 });
  converter('core', 'VCC_CORE', of(0.75, 0.9, 1.05, 1.2), {
    feed: sys,
    enable: vrEn,
    kind: 'cpu-regulator',
    good: vrOk,
    askedGood: 'VR_PG',
    limit: 40,
    load: 3,
  });
  sees.set('VMEM', mem).set('5V_RUN', 'P5V_S0').set('3V3_RUN', 'P3V3_S0').set('VCORE', 'VCC_CORE');
  for (const name of ['1V5_MEM', '1V35_MEM', '1V2_MEM', '1V1_MEM', '1V05_MEM', '5V_MEM'])
    sees.set(name, mem);
  sees
    .set('MEM_EN', memEn)
    .set('RUN_EN', runEn)
    .set('VR_EN', vrEn)
    .set('PWROK', ok)
    .set('PLTRST#', plt);
  chips[ref('U')] = { kind: 'controller', pins: ec, draws: { VCC: 0.01 } };
  stage('ok', [ok], []);
  stage('reset', [plt], []);
  const text = JSON.stringify({
    format: 'jiko-board/1',
    id: `stranger-${seed}`,
    title: `Stranger ${seed}`,
    depth: 'chips',
    nets,
    parts,
    chips,
    stages,
    sources,
    button: { net: button, hold: 0.5 },
    goals: { boots: { title: 'boots', reached: [`${plt} > 1.5`] } },
  });
  const tell = <T>(value: T): T | null => (some(0.15) ? null : value);
  return {
    text,
    choices: {
      input,
      alwaysOn: tell(scheme),
      controller: kind,
      handshake,
      memory: tell(memory),
      phases: null,
      branches: [],
      inputVolts: input === 'usb-c' ? null : inVolts,
    },
    sees,
    faults,
  };
}
