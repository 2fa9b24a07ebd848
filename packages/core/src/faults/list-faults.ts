import { outputPins, type Board, type Chip, type Part } from '../board/index.ts';
import type { Fault } from './fault.ts';

/** Shorts, leaks and drifts in three severities: a single value would be confidently wrong. */
const shortOhms = [0.05, 1, 10] as const;
const leakOhms = 200;
const driftFactors = [0.5, 2, 10] as const;

/**
 * Every single fault of a board, in the order of its parts and chips: for each part what its kind
 * can do, for each chip its death, its pins' traces, its outputs stuck and its supplies and outputs
 * shorted inside. Parts drawn but not fitted have none.
 */
export function listFaults(board: Board): Fault[] {
  return [
    ...board.parts.filter((part) => part.fitted).flatMap(partFaults),
    ...board.chips.filter((chip) => chip.fitted).flatMap((chip) => chipFaults(board, chip)),
  ];
}

function partFaults(part: Part): Fault[] {
  const { ref } = part;
  const open: Fault = { kind: 'open', part: ref };
  const shorts = (a: string, b: string): Fault[] =>
    shortOhms.map((ohms) => ({ kind: 'pins-short', part: ref, pins: [a, b], ohms }));
  switch (part.kind) {
    case 'resistor':
      return (part.value ?? 0) <= 1
        ? [open]
        : [open, ...driftFactors.map((factor): Fault => ({ kind: 'drift', part: ref, factor }))];
    case 'capacitor':
      // An open capacitor cannot be seen at DC; it is left to where it can.
      return [
        ...shorts('1', '2'),
        { kind: 'pins-short', part: ref, pins: ['1', '2'], ohms: leakOhms },
      ];
    case 'coil':
    case 'ferrite':
    case 'fuse':
    case 'jumper':
      return [open];
    case 'diode':
    case 'schottky':
    case 'led':
    case 'zener':
    case 'tvs':
      return [open, ...shorts('A', 'K')];
    case 'pfet':
    case 'nfet':
      return [
        open,
        { kind: 'trace-open', part: ref, pin: 'G' },
        ...shorts('D', 'S'),
        ...shorts('G', 'S'),
      ];
    case 'npn':
    case 'pnp':
      return [open, ...shorts('C', 'E'), ...shorts('B', 'E')];
    case 'button':
      // A button that does not close leaves every reading at rest as it is.
      return shorts('1', '2');
    case 'crystal':
    case 'fan':
      return [open];
    case 'connector':
      return [];
  }
}

function chipFaults(board: Board, chip: Chip): Fault[] {
  const { ref } = chip;
  const faults: Fault[] = [{ kind: 'dead', part: ref }];
  if (chip.behaviours.some((one) => one.do === 'sequence'))
    faults.push({ kind: 'corrupt', part: ref });
  const signals = new Set<string>();
  const rails = new Set<string>();
  for (const behaviour of chip.behaviours) {
    for (const pin of outputPins(behaviour)) {
      if (behaviour.do === 'regulator' && pin === behaviour.out) rails.add(pin);
      else signals.add(pin);
    }
    if (behaviour.do === 'regulator') rails.add(behaviour.in);
  }
  for (const pin of signals) {
    faults.push({ kind: 'stuck', part: ref, pin, level: 'low' });
    faults.push({ kind: 'stuck', part: ref, pin, level: 'released' });
  }
  for (const pin of [...rails, ...chip.draws.map((draw) => draw.pin)]) {
    if (chip.pins.get(pin) === board.ground) continue;
    for (const ohms of shortOhms) {
      const fault: Fault = { kind: 'pin-short', part: ref, pin, ohms };
      if (!faults.some((one) => one.kind === 'pin-short' && one.pin === pin && one.ohms === ohms))
        faults.push(fault);
    }
  }
  if (!chip.virtual) {
    for (const [pin, net] of chip.pins) {
      if (net !== board.ground) faults.push({ kind: 'trace-open', part: ref, pin });
    }
  }
  return faults;
}
