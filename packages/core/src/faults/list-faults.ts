import {
  drivenNets,
  isSeriesPart,
  outputPins,
  type Board,
  type Chip,
  type Net,
  type NetId,
  type Part,
  type Source,
  netById,
} from '../board/index.ts';
import type { Fault, SourceTrouble } from './fault.ts';
import { flashOwner } from './flash-owner.ts';
import { neighbouringNets } from './neighbouring-nets.ts';

// Every way of failing comes in several severities: a single value would be confidently wrong, and
// a way that is not in the list convicts somebody else.

/** From a solder bridge to a leak that only ohms show. */
const railOhms = [0.05, 1, 10, 100, 2000] as const;
/** A core regulator of tens of amps holds its volts across a solder bridge. */
const strongRailOhms = [0.005, 1, 10, 100, 2000] as const;
/** A signal is lost to far less: its pull-ups are kilohms. */
const signalOhms = [0.05, 500, 5000, 50_000] as const;
/** About what an output of its own ohms is pulled to a third by: its chip hardly sees it as high. */
const drivenOhms = [0.05, 20, 500, 5000, 50_000] as const;
const switchOhms = [0.05, 1] as const;
const bridgeOhms = [0.05, 1, 10] as const;
const driftFactors = [0.5, 2, 10, 40] as const;
/** What is nearly a wire, gone high: from a cracked joint to all but open. */
const highOhms = [2, 20, 200, 3000] as const;
/** Clamps that wear out conduct earlier. */
const clampFactors = [0.3, 0.65] as const;
const weakFactors = [0.3, 0.05, 0.004] as const;
const offFactors = [0.5, 0.7, 0.87, 1.15] as const;
const joinedOhms = [1, 1000] as const;

/**
 * Every single fault of a board: for each part what its kind can do, for each chip its death, its
 * outputs weak, off or stuck, its pins cut off or pulled down, how far its firmware gets; every net
 * pulled down by what is not drawn, broken along its copper, or joined to a neighbour; and what feeds
 * the board. Parts drawn but not fitted have none.
 */
export function listFaults(board: Board): Fault[] {
  const sizesOf = groundSizes(board);
  return [
    ...board.parts
      .filter((part) => part.fitted)
      .flatMap((part) => partFaults(board, part, sizesOf)),
    ...board.chips
      .filter((chip) => chip.fitted)
      .flatMap((chip) => chipFaults(board, chip, sizesOf)),
    ...board.nets.flatMap((net) => netFaults(net, sizesOf)),
    ...neighbouringNets(board).flatMap((nets) =>
      joinedOhms.map((ohms): Fault => ({ kind: 'nets-joined', nets, ohms })),
    ),
    ...board.sources.flatMap(sourceFaults),
    { kind: 'warm' },
    ...(board.button && !board.parts.some((part) => part.ref === board.button?.part)
      ? [{ kind: 'open', part: board.button.part } as const]
      : []),
  ];
}

/** Severities of a short or leak to ground, by what the net is and who makes it. */
type SizesOf = (net: Net) => readonly number[];

function groundSizes(board: Board): SizesOf {
  const driven = drivenNets(board);
  const strong = strongNets(board);
  return ({ id, kind }) => {
    switch (kind) {
      case 'ground':
        return [];
      case 'rail':
        return strong.has(id) ? strongRailOhms : railOhms;
      case 'switch':
        return switchOhms;
      case 'signal':
      case 'analog':
        return driven.has(id) ? drivenOhms : signalOhms;
    }
  };
}

/** Rails whose regulators give what a short of the usual size takes. */
function strongNets(board: Board): Set<NetId> {
  const nets = new Set<NetId>();
  for (const { fitted, behaviours, pins } of board.chips)
    for (const one of fitted ? behaviours : [])
      if (one.do === 'regulator' && one.limitAmps * railOhms[0] > one.volts)
        nets.add(pins.get(one.sense) as NetId);
  return nets;
}

/** A part between two pins gone low: to ground by the net's severities, else as a bridge. */
function lowBetween(board: Board, part: Part, a: string, b: string, sizesOf: SizesOf): Fault[] {
  const netOn = (name: string): NetId | undefined =>
    part.pins.find((pin) => pin.name === name)?.net;
  const [left, right] = [netOn(a), netOn(b)];
  const live = left === board.ground ? right : right === board.ground ? left : undefined;
  const net = live === undefined ? undefined : netById(board, live);
  return (net ? sizesOf(net) : bridgeOhms).map((ohms) => ({
    kind: 'pins-short',
    part: part.ref,
    pins: [a, b],
    ohms,
  }));
}

function partFaults(board: Board, part: Part, sizesOf: SizesOf): Fault[] {
  const { ref } = part;
  const open: Fault = { kind: 'open', part: ref };
  const low = (a: string, b: string): Fault[] => lowBetween(board, part, a, b, sizesOf);
  /** The joint or the copper at a pin: the pad reads otherwise than the net. */
  const cut = (...pins: string[]): Fault[] =>
    pins.map((pin) => ({ kind: 'trace-open', part: ref, pin }));
  const gone = (): Fault[] => [
    open,
    ...highOhms.map((ohms): Fault => ({ kind: 'high', part: ref, ohms })),
    ...cut(...part.pins.map((pin) => pin.name)),
  ];
  switch (part.kind) {
    case 'resistor':
      return isSeriesPart(part)
        ? gone()
        : [open, ...driftFactors.map((factor): Fault => ({ kind: 'drift', part: ref, factor }))];
    case 'capacitor':
      // An open capacitor cannot be seen at DC; it is left to where it can.
      return low('1', '2');
    case 'coil':
    case 'ferrite':
    case 'fuse':
    case 'jumper':
      return gone();
    case 'diode':
    case 'schottky':
    case 'led':
      return [open, ...low('A', 'K'), { kind: 'reversed', part: ref }];
    case 'zener':
    case 'tvs':
      return [
        open,
        ...low('A', 'K'),
        ...(part.value === null
          ? []
          : clampFactors.map((factor): Fault => ({ kind: 'drift', part: ref, factor }))),
        { kind: 'reversed', part: ref },
      ];
    case 'pfet':
    case 'nfet':
      return [
        open,
        ...cut('G', 'D', 'S'),
        ...low('D', 'S'),
        ...low('G', 'S'),
        { kind: 'pins-short', part: ref, pins: ['G', 'D'], ohms: bridgeOhms[0] },
        { kind: 'all-short', part: ref, ohms: bridgeOhms[0] },
        { kind: 'reversed', part: ref },
      ];
    case 'npn':
    case 'pnp':
      return [open, ...low('C', 'E'), ...low('B', 'E')];
    case 'button':
      return [...(board.button?.part === ref ? [open] : []), ...low('1', '2')];
    case 'crystal':
    case 'fan':
      return [open];
    case 'connector':
      return [];
  }
}

function chipFaults(board: Board, chip: Chip, sizesOf: SizesOf): Fault[] {
  const { ref } = chip;
  const faults: Fault[] = [{ kind: 'dead', part: ref }];
  const regulators = chip.behaviours.filter((one) => one.do === 'regulator');
  if (regulators.some((one) => one.powerGood !== null))
    faults.push({ kind: 'dead', part: ref, letsGo: true });
  if (chip.kind === 'flash' && flashOwner(board, ref)) faults.push({ kind: 'blank', part: ref });
  for (const behaviour of chip.behaviours) {
    if (behaviour.do !== 'sequence') continue;
    if (!faults.some((one) => one.kind === 'corrupt')) faults.push({ kind: 'corrupt', part: ref });
    behaviour.steps.forEach((step, index) => {
      if (step.kind === 'drive' || step.kind === 'pulse' || step.kind === 'ask')
        faults.push({ kind: 'stops', part: ref, step: index });
    });
  }
  const signals = new Set<string>();
  for (const behaviour of chip.behaviours)
    for (const pin of outputPins(behaviour))
      if (behaviour.do !== 'regulator' || pin !== behaviour.out) signals.add(pin);
  for (const one of regulators) {
    const { out, pass } = one;
    if (regulators.length > 1) faults.push({ kind: 'output-dead', part: ref, pin: out });
    for (const factor of weakFactors) faults.push({ kind: 'weak', part: ref, pin: out, factor });
    if (pass !== 'switch')
      for (const factor of offFactors)
        faults.push({ kind: 'off-value', part: ref, pin: out, factor });
    // The upper switch of a stage, or a pass element, gone short puts the feed's volts on the output.
    if (pass !== 'boost' && chip.pins.get(one.in) !== chip.pins.get(out))
      for (const ohms of switchOhms)
        faults.push({ kind: 'pins-short', part: ref, pins: [one.in, out], ohms });
  }
  for (const pin of signals) {
    faults.push({ kind: 'stuck', part: ref, pin, level: 'low' });
    faults.push({ kind: 'stuck', part: ref, pin, level: 'released' });
  }
  for (const [pin, on] of chip.pins) {
    if (on === board.ground) continue;
    const net = netById(board, on);
    for (const ohms of net ? sizesOf(net) : [])
      faults.push({ kind: 'pin-short', part: ref, pin, ohms });
    if (!chip.virtual) faults.push({ kind: 'trace-open', part: ref, pin });
  }
  return faults;
}

function netFaults(net: Net, sizesOf: SizesOf): Fault[] {
  return [
    ...(net.kind === 'switch'
      ? []
      : sizesOf(net).map((ohms): Fault => ({ kind: 'short', net: net.id, ohms }))),
    ...net.along.slice(0, -1).map((_, after): Fault => ({ kind: 'break', net: net.id, after })),
  ];
}

function sourceFaults({ id, kind }: Source): Fault[] {
  const ways: SourceTrouble[] =
    kind === 'coin-cell'
      ? ['dead', 'low']
      : kind === 'adapter'
        ? ['dead', 'weak', 'weaker', 'limited', 'low', 'high']
        : ['dead', 'weak', 'weaker', 'limited', 'low'];
  return ways.map((how) => ({ kind: 'source', source: id, how }));
}
