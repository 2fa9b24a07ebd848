import type { AlwaysOn } from './always-on.ts';
import type { Choices } from './choices.ts';
import type { Draft, Plain } from './draft.ts';
import type { Entry } from './input.ts';

/** Who lets on what after the button; null: nobody waits for it. */
export interface Wake {
  memoryEnable: string;
  runEnable: string;
  coreEnable: string;
}

/** Button, controllers, suspend rails and the handshake up to reset. */
export function drawWake(
  draft: Draft,
  choices: Choices,
  entry: Entry,
  always: AlwaysOn,
  hasLight: boolean,
  hasBacklight: boolean,
): Wake {
  const isPlain = choices.handshake === 'plain';
  draft.signal('BTN#', 'button line, pulled low by the button', always.controller);
  draft.parts.SW1 = { kind: 'button', pins: ['BTN#', 'GND'], title: 'power button' };
  const rails = isPlain ? [] : drawSuspendRails(draft, choices, entry, always);
  const wake: Wake = isPlain
    ? { memoryEnable: 'RUN_EN', runEnable: 'RUN_EN', coreEnable: 'MEM_PG' }
    : { memoryEnable: 'MEM_EN', runEnable: 'RUN_EN', coreEnable: 'VR_EN' };
  draft.signal('MEM_PG', 'memory rail good', always.three);
  draft.signal('VR_PG', 'core rail good', always.three);
  draft.signal('PWROK', 'all rails good');
  draft.signal('PLTRST#', 'platform reset, high when released');

  if (choices.controller === 'none') drawWithoutController(draft, choices, always, rails, wake);
  else drawController(draft, choices, always, wake, hasLight, hasBacklight);

  if (!isPlain) {
    const isSoc = choices.handshake === 'soc';
    const own = choices.controller === 'none' && always.enable === null;
    draft.chips.CHIPSET = {
      kind: 'chipset',
      title: isSoc ? 'system on a chip' : 'chipset',
      pins: {
        VCC: always.three,
        ...Object.fromEntries(
          rails.map((net, at) => [at === 0 ? 'V18' : isSoc ? 'VSOC' : 'V105', net]),
        ),
        RSMRST: 'RSMRST#',
        ...(own
          ? { PBTN: 'BTN#' }
          : isSoc || choices.controller === 'none'
            ? {}
            : { PBTN: 'PWRBTN#' }),
        ...('SLP_S4#' in draft.nets ? { S4: 'SLP_S4#' } : {}),
        S3: 'SLP_S3#',
        PWROK: 'PWROK',
        PLTRST: 'PLTRST#',
        GND: 'GND',
      },
    };
  }
  return wake;
}

/** After the handshake: what says that all is good, and reset. */
export function drawReset(draft: Draft, choices: Choices): void {
  const isPlain = choices.handshake === 'plain';
  const by = choices.controller === 'none' ? ['POWER'] : ['EC'];
  draft.stage('pwrok', 'Power OK', ['PWROK'], { by });
  draft.stage('reset', 'Reset released', ['PLTRST#'], { by: isPlain ? by : ['CHIPSET'] });
  draft.goals.boots = { title: 'boots', reached: ['PLTRST# > 1.5'], phase: 'run' };
}

function drawSuspendRails(
  draft: Draft,
  { handshake, controller }: Choices,
  entry: Entry,
  always: AlwaysOn,
): string[] {
  const isSoc = handshake === 'soc';
  draft.rail('1V8_S5', 1.8, '1.8 V suspend rail', { load: 0.05 });
  const second = isSoc ? 'VSOC_S5' : '1V05_S5';
  // Chipsets of different years want 0.95 to 1.1 V, systems on a chip 0.65 to 1 V.
  draft.rail(
    second,
    isSoc ? [0.65, 1.1] : [0.95, 1.1],
    isSoc ? 'rail of the system on a chip' : 'about 1 V, suspend rail',
    {
      load: 0.2,
      aliases: [isSoc ? '1V05_S5' : 'VSOC_S5'],
    },
  );
  draft.signal('S5_PG', 'suspend rails good', always.three);
  draft.signal('RSMRST#', 'suspend rails good, said to the chipset');
  // With a controller and coils that run, it lets them on; else they follow the always-on rails.
  const isLetOn = controller !== 'none' && always.enable === null;
  if (isLetOn) draft.signal('S5_EN', 'lets the suspend rails on');
  const enable = isLetOn
    ? { enable: 'S5_EN > 1.5' }
    : always.powerGood !== null
      ? { enable: `${always.powerGood} > 1.5` }
      : {};
  draft.converter('1V8_S5', '1.8 V suspend rail', '1V8_S5', {
    feed: always.five,
    ...enable,
    limit: 2,
  });
  draft.converter(second, isSoc ? 'Rail of the system on a chip' : '1 V suspend rail', second, {
    feed: entry.main,
    ...enable,
    after: ['1V8_S5 > 1.5'],
    powerGood: 'S5_PG',
    limit: 2.5,
  });
  return ['1V8_S5', second];
}

function drawController(
  draft: Draft,
  choices: Choices,
  always: AlwaysOn,
  wake: Wake,
  hasLight: boolean,
  hasBacklight: boolean,
): void {
  const isPlain = choices.handshake === 'plain';
  const isTwo = choices.controller === 'two';
  const supply = isTwo ? always.three : always.controller;
  draft.signal('EC_RST#', 'reset of the controller', isTwo ? null : supply);
  draft.signal('RUN_EN', 'lets the run rails on');
  if (isTwo) drawFirstController(draft, always);
  else
    draft.chips.ECRESET = {
      kind: 'supervisor',
      title: 'holds the controller until its supply is there',
      threshold: 2.8,
      pins: { VCC: supply, 'RESET#': 'EC_RST#', GND: 'GND' },
    };
  const isLate = always.enable !== null && !isTwo;
  const pins: Plain = {
    VCC: supply,
    RST: 'EC_RST#',
    ...(!isLate && always.powerGood ? { PG5: always.powerGood } : {}),
    SW: isTwo ? 'EC_BTN#' : 'BTN#',
  };
  if (isLate)
    Object.assign(pins, { S5EN: always.enable, S5PG: isPlain ? always.powerGood : 'S5_PG' });
  else if (!isPlain && 'S5_EN' in draft.nets) Object.assign(pins, { S5EN: 'S5_EN', S5PG: 'S5_PG' });
  else if (!isPlain) Object.assign(pins, { S5PG: 'S5_PG' });
  if (!isPlain) {
    draft.signal('SLP_S3#', 'high when the board runs');
    draft.signal('MEM_EN', 'lets the memory rail on');
    draft.signal('VR_EN', 'lets the core rail on');
    if (choices.handshake !== 'soc') {
      draft.signal('SLP_S4#', 'high when memory is to have its rail');
      draft.signal('PWRBTN#', 'press passed on to the chipset', always.three);
    }
    Object.assign(pins, {
      RSMRST: 'RSMRST#',
      ...('PWRBTN#' in draft.nets ? { PBTN: 'PWRBTN#' } : {}),
      ...('SLP_S4#' in draft.nets ? { S4: 'SLP_S4#' } : {}),
      S3: 'SLP_S3#',
      SUSEN: wake.memoryEnable,
      MEMPG: 'MEM_PG',
      RUNEN: wake.runEnable,
      RUNPG: '3V3_RUN',
      VRON: wake.coreEnable,
      VRRDY: 'VR_PG',
      PWROK: 'PWROK',
    });
  } else {
    Object.assign(pins, { RUNEN: 'RUN_EN', VRRDY: 'VR_PG', PWROK: 'PWROK', SYSOK: 'PLTRST#' });
  }
  if (hasLight) pins.LED = 'PWR_LED#';
  if (hasBacklight) pins.BLEN = 'BL_EN';
  draft.chips.EC = {
    kind: 'controller',
    title: 'embedded controller',
    pins: { ...pins, GND: 'GND' },
    draws: { VCC: 0.01 },
  };
}

/** A small controller that sees the button and wakes the larger one. */
function drawFirstController(draft: Draft, always: AlwaysOn): void {
  draft.signal('EC_BTN#', 'button passed on to the larger controller', always.three);
  const late = always.enable;
  draft.chips.EC2 = {
    kind: 'generic',
    title: 'small power controller',
    pins: {
      VCC: always.controller,
      SW: 'BTN#',
      RST: 'EC_RST#',
      BTN: 'EC_BTN#',
      ...(always.powerGood ? { PG: always.powerGood } : {}),
      ...(late ? { EN: late } : {}),
      GND: 'GND',
    },
    does: [
      {
        do: 'sequence',
        name: 'power sequence',
        supply: ['VCC > 2.8'],
        high: 'VCC',
        idle: { RST: 'low', BTN: 'release', ...(late ? { EN: 'low' } : {}) },
        steps: late
          ? [
              { wait: ['SW < 0.8'] },
              { drive: { EN: 'high' } },
              { wait: ['PG > 2'] },
              { pause: 0.02 },
              { drive: { RST: 'high' } },
              { pause: 0.1 },
              { pulse: 'BTN', to: 'low', for: 0.2 },
            ]
          : [
              ...(always.powerGood ? [{ wait: ['PG > 2'] }] : []),
              { pause: 0.02 },
              { drive: { RST: 'high' } },
              { wait: ['SW < 0.8'] },
              { pulse: 'BTN', to: 'low', for: 0.2 },
            ],
      },
    ],
  };
}

/** The chipset sees the button itself, or a power chip does. */
function drawWithoutController(
  draft: Draft,
  { handshake }: Choices,
  always: AlwaysOn,
  rails: readonly string[],
  wake: Wake,
): void {
  const late = always.enable;
  if (handshake === 'plain') {
    draft.signal('RUN_EN', 'lets the run rails on');
    draft.chips.POWER = powerChip(
      always,
      [
        { wait: ['SW < 0.8'] },
        { pause: 0.02 },
        ...(late ? [{ drive: { EN: 'high' } }, { wait: ['PG > 2'] }] : []),
        { drive: { ON: 'high' } },
        { wait: ['VRPG > 2'], within: 1 },
        { pause: 0.1 },
        { drive: { OK: 'high' } },
        { pause: 0.01 },
        { drive: { RST: 'high' } },
      ],
      {
        ON: 'RUN_EN',
        VRPG: 'VR_PG',
        OK: 'PWROK',
        RST: 'PLTRST#',
      },
    );
    return;
  }
  draft.signal('SLP_S3#', 'high when the board runs');
  wake.memoryEnable = wake.runEnable = 'SLP_S3#';
  wake.coreEnable = 'MEM_PG';
  if (handshake !== 'soc') {
    draft.signal('SLP_S4#', 'high when memory is to have its rail');
    wake.memoryEnable = 'SLP_S4#';
  }
  const follow = (name: string, out: string, need: string, onDelay: number): Plain => ({
    do: 'follower',
    name,
    out,
    drive: 'push-pull',
    high: 'VCC',
    supply: ['VCC > 2.8'],
    needs: [need],
    onDelay,
  });
  draft.chips.POWER = {
    kind: 'generic',
    title: 'power logic',
    pins: {
      VCC: always.controller,
      S5PG: 'S5_PG',
      RSM: 'RSMRST#',
      VRPG: 'VR_PG',
      OK: 'PWROK',
      ...(late ? { SW: 'BTN#', EN: late } : {}),
      GND: 'GND',
    },
    does: [
      follow('suspend rails good', 'RSM', 'S5PG > 2', 0.01),
      follow('all good', 'OK', 'VRPG > 2', 0.1),
      ...(late
        ? [
            {
              do: 'sequence',
              name: 'wakes the coils',
              supply: ['VCC > 2.8'],
              high: 'VCC',
              idle: { EN: 'low' },
              steps: [{ wait: ['SW < 0.8'] }, { pause: 0.02 }, { drive: { EN: 'high' } }],
            },
          ]
        : []),
    ],
  };
  if (rails.length === 0) throw new Error('a handshake without suspend rails');
}

function powerChip(always: AlwaysOn, steps: Plain[], more: Record<string, string>): Plain {
  const late = always.enable;
  return {
    kind: 'generic',
    title: 'power chip',
    pins: {
      VCC: always.controller,
      SW: 'BTN#',
      ...(late ? { EN: late, PG: always.powerGood as string } : {}),
      ...more,
      GND: 'GND',
    },
    does: [
      {
        do: 'sequence',
        name: 'power sequence',
        supply: ['VCC > 2.8'],
        high: 'VCC',
        idle: { ...(late ? { EN: 'low' } : {}), ON: 'low', OK: 'low', RST: 'low' },
        steps,
      },
    ],
  };
}

/** Stages of the controller and the handshake, in the order of waking. */
export function drawWakeStages(draft: Draft, choices: Choices): void {
  if (choices.controller !== 'none')
    draft.stage('ec-reset', 'Reset of the controller', ['EC_RST#'], {
      by: choices.controller === 'two' ? ['EC2'] : ['ECRESET'],
    });
  draft.stage('button', 'Button line at rest', ['BTN#'], { by: ['SW1'] });
}

export function drawHandshakeStages(draft: Draft, choices: Choices): void {
  const by = choices.controller === 'none' ? ['POWER'] : ['EC'];
  if ('RSMRST#' in draft.nets) draft.stage('rsmrst', 'Suspend rails good', ['RSMRST#'], { by });
  if ('SLP_S3#' in draft.nets)
    draft.stage(
      'sleep',
      'Chipset asks to run',
      ['SLP_S4#', 'SLP_S3#'].filter((net) => net in draft.nets),
      {
        by: ['CHIPSET'],
      },
    );
}
