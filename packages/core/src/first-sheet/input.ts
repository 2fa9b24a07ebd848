import type { Choices } from './choices.ts';
import type { Draft } from './draft.ts';

/** What the rest of the board is fed from. */
export interface Entry {
  /** The main rail. */
  main: string;
  mainVolts: number;
  /** There before the main rail, where a small supply stands at the input. */
  standby: string | null;
}

const usualBarrel = 19;

/** The way in: sources, input FETs and what drives them, the main rail. */
export function drawInput(draft: Draft, { input, inputVolts }: Choices): Entry {
  switch (input) {
    case 'barrel-pfet':
    case 'barrel-nfet':
      return barrel(draft, input === 'barrel-pfet' ? 'pfet' : 'nfet', inputVolts ?? usualBarrel);
    case 'usb-c':
      return usb(draft, 'VMAIN', true);
    case 'both': {
      const entry = barrel(draft, 'pfet', inputVolts ?? usualBarrel);
      usb(draft, entry.main, false);
      return entry;
    }
    case 'bus-charger':
      return busCharger(draft, inputVolts ?? 20);
    case 'desktop-standby': {
      const volts = inputVolts ?? 12;
      source(draft, 'DC_IN', volts, 'input');
      draft.stage('input', 'Input', ['DC_IN']);
      return { main: 'DC_IN', mainVolts: volts, standby: null };
    }
    case 'single': {
      const volts = inputVolts ?? 12;
      source(draft, 'DC_IN', inputVolts ?? [4.5, 13], 'input', volts);
      draft.rail('VMAIN', inputVolts ?? [4.4, 13], 'main rail, straight from the input', {
        origin: 'guess',
      });
      draft.parts.F1 = { kind: 'fuse', pins: ['DC_IN', 'VMAIN'], title: 'input fuse or ferrite' };
      draft.stage('input', 'Input', ['DC_IN']);
      draft.stage('main', 'Main rail', ['VMAIN'], { by: ['F1'] });
      return { main: 'VMAIN', mainVolts: volts, standby: null };
    }
    case null: {
      const volts = inputVolts ?? usualBarrel;
      source(draft, 'DC_IN', inputVolts ?? [4.5, 21.5], 'input', volts);
      draft.rail('VMAIN', inputVolts ?? [4.2, 21.5], 'main rail', { origin: 'guess' });
      draft.stage('input', 'Input', ['DC_IN']);
      draft.stage('main', 'Main rail', ['VMAIN'], { feed: 'DC_IN', pass: 'switch', limit: 10 });
      // The way from one to the other is not known: a switch that passes the input on.
      return { main: 'VMAIN', mainVolts: volts, standby: null };
    }
  }
}

function source(
  draft: Draft,
  net: string,
  stated: number | [number, number],
  title: string,
  volts = stated as number,
): void {
  draft.rail(net, stated, title, { origin: 'guess' });
  draft.sources.adapter = { kind: 'adapter', title: 'Its adapter', net, volts, limit: 4.5 };
  draft.sources.bench = { kind: 'bench', title: 'Bench supply', net, volts, limit: 3 };
}

function barrel(draft: Draft, kind: 'pfet' | 'nfet', volts: number): Entry {
  source(draft, 'DC_IN', volts, 'barrel input');
  draft.rail('DC_MID', volts, 'between the two input FETs', { origin: 'guess' });
  draft.rail('VMAIN', volts, 'main rail', { origin: 'guess' });
  draft.nets.IN_GATE = { kind: 'analog', title: 'gates of the input FETs', origin: 'guess' };
  draft.parts.Q1 = { kind, title: 'first input FET', pins: ['IN_GATE', 'DC_IN', 'DC_MID'] };
  draft.parts.Q2 = { kind, title: 'second input FET', pins: ['IN_GATE', 'VMAIN', 'DC_MID'] };
  draft.resistor('IN_GATE', 'DC_MID', '1M', 'gate to source');
  draft.chips.CHARGER = {
    kind: 'generic',
    title: 'charger or input driver',
    pins: { VCC: 'DC_IN', GATE: 'IN_GATE', MID: 'DC_MID', GND: 'GND' },
    does: [
      {
        do: 'follower',
        name: 'input FET drive',
        out: 'GATE',
        ...(kind === 'pfet' ? { active: 'low' } : { drive: 'push-pull', high: 'MID', lift: 6 }),
        supply: ['VCC > 4'],
        needs: [`VCC > ${Number((volts * 0.85).toFixed(2))}`],
        onDelay: 0.1,
      },
    ],
    draws: { VCC: 0.002 },
  };
  draft.stage('input', 'Input', ['DC_IN']);
  draft.stage('main', 'Input FETs and main rail', ['DC_MID', 'VMAIN'], { by: ['Q1', 'Q2'] });
  return { main: 'VMAIN', mainVolts: volts, standby: null };
}

function usb(draft: Draft, main: string, isAlone: boolean): Entry {
  draft.rail('VBUS', 20, 'USB-C bus', { origin: 'guess' });
  draft.rail('PD_LDO', 3.3, "USB-C controller's own 3.3 V");
  draft.rail('VBUS_MID', 20, 'between the two USB-C FETs', { origin: 'guess' });
  draft.nets.VBUS_GATE = { kind: 'analog', title: 'gates of the USB-C FETs', origin: 'guess' };
  if (isAlone) draft.rail(main, 20, 'main rail', { origin: 'guess' });
  draft.parts.Q11 = {
    kind: 'nfet',
    title: 'first USB-C FET',
    pins: ['VBUS_GATE', 'VBUS', 'VBUS_MID'],
  };
  draft.parts.Q12 = {
    kind: 'nfet',
    title: 'second USB-C FET',
    pins: ['VBUS_GATE', main, 'VBUS_MID'],
  };
  draft.resistor('VBUS_GATE', 'VBUS_MID', '1M', 'gate to source');
  draft.chips.PD = {
    kind: 'pd',
    title: 'USB-C controller',
    pins: { VBUS: 'VBUS', LDO: 'PD_LDO', MID: 'VBUS_MID', GATE: 'VBUS_GATE', GND: 'GND' },
    draws: { VBUS: 0.003 },
  };
  draft.sources['usb-c'] = {
    kind: 'usb-c',
    title: 'USB-C supply',
    net: 'VBUS',
    volts: 20,
    limit: 3.25,
    offers: [5, 9, 15, 20],
  };
  if (isAlone) {
    draft.stage('vbus', 'USB-C bus', ['VBUS']);
    draft.stage('pd', 'USB-C controller supply', ['PD_LDO'], { by: ['PD'] });
    draft.stage('main', 'USB-C FETs and main rail', ['VBUS_MID', main], { by: ['Q11', 'Q12'] });
  }
  return { main, mainVolts: 20, standby: null };
}

function busCharger(draft: Draft, volts: number): Entry {
  source(draft, 'DC_IN', volts, 'input');
  draft.rail('3V4_STBY', 3.4, 'small standby supply at the input', {
    load: 0.005,
    origin: 'guess',
  });
  draft.signal('ADP_OK', 'source accepted: lets the charger on', null);
  draft.rail('VMAIN', [8, 13.2], 'main rail, made by the charger at about battery volts', {
    origin: 'guess',
  });
  draft.chips.DETECT = {
    kind: 'generic',
    title: 'accepts the source',
    pins: { VCC: '3V4_STBY', IN: 'DC_IN', OK: 'ADP_OK', GND: 'GND' },
    does: [
      {
        do: 'follower',
        name: 'source accepted',
        out: 'OK',
        drive: 'push-pull',
        high: 'VCC',
        supply: ['VCC > 2.8'],
        needs: [`IN > ${Number((volts * 0.8).toFixed(2))}`],
        onDelay: 0.1,
      },
    ],
  };
  draft.stage('input', 'Input', ['DC_IN']);
  draft.stage('standby', 'Small standby supply', ['3V4_STBY'], { feed: 'DC_IN', limit: 0.5 });
  draft.stage('accept', 'Source accepted', ['ADP_OK'], { by: ['DETECT'] });
  draft.converter('main', 'Charger makes the main rail', 'VMAIN', {
    feed: 'DC_IN',
    enable: 'ADP_OK > 2',
    limit: 8,
  });
  return { main: 'VMAIN', mainVolts: 12.6, standby: '3V4_STBY' };
}
