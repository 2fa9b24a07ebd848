import type { Behaviour, Board, Chip, Net, NetId, Part, PartRef } from '../board/index.ts';
import { formatOhms } from '../units/index.ts';

/**
 * What can go wrong, each as a change to the board: a fault edits parts, pins and behaviour, it
 * never writes a reading.
 */
export type Fault =
  /** A part that no longer conducts; a chip that does nothing and draws nothing. */
  | { kind: 'open'; part: PartRef }
  | { kind: 'dead'; part: PartRef }
  /** Supplied and drawing, but it never does anything: bad firmware, no clock. */
  | { kind: 'corrupt'; part: PartRef }
  /** Two pins of a part joined by `ohms`: a shorted capacitor, a FET from drain to source. */
  | { kind: 'pins-short'; part: PartRef; pins: readonly [string, string]; ohms: number }
  /** A chip's pin joined to ground inside by `ohms`. */
  | { kind: 'pin-short'; part: PartRef; pin: string; ohms: number }
  /** A resistor at `factor` times its value. */
  | { kind: 'drift'; part: PartRef; factor: number }
  /** An output that can no longer go to the other level. */
  | { kind: 'stuck'; part: PartRef; pin: string; level: 'low' | 'released' }
  /** The pin is there, its trace or joint is not. */
  | { kind: 'trace-open'; part: PartRef; pin: string }
  /** A net pulled to ground by nobody knows what. */
  | { kind: 'short'; net: NetId; ohms: number };

/** Readable: `C412 short`, `R88 open`, `U7 pin EN: trace open`. */
export function faultName(fault: Fault): string {
  switch (fault.kind) {
    case 'open':
      return `${fault.part} open`;
    case 'dead':
      return `${fault.part} dead`;
    case 'corrupt':
      return `${fault.part} does not run`;
    case 'pins-short': {
      const where =
        fault.pins.join() === '1,2' || fault.pins.join() === 'A,K'
          ? ''
          : ` ${fault.pins.join(' to ')}`;
      return `${fault.part}${where} ${shortWord(fault.ohms)}`;
    }
    case 'pin-short':
      return `${fault.part} pin ${fault.pin}: ${shortWord(fault.ohms)} to ground`;
    case 'drift':
      return `${fault.part} drifted to ${fault.factor} times its value`;
    case 'stuck':
      return `${fault.part} pin ${fault.pin}: stuck ${fault.level}`;
    case 'trace-open':
      return `${fault.part} pin ${fault.pin}: trace open`;
    case 'short':
      return `${fault.net} ${shortWord(fault.ohms)} to ground`;
  }
}

const shortWord = (ohms: number): string =>
  ohms < 0.5 ? 'short' : ohms < 50 ? `short of ${formatOhms(ohms)}` : `leak of ${formatOhms(ohms)}`;

/** A fault's identity, equal for equal faults. */
export const faultKey = (fault: Fault): string => JSON.stringify(fault);

/** The board with one fault in it. Naming a part, pin or net that is not there is a bug of the caller. */
export function withFault(board: Board, fault: Fault): Board {
  switch (fault.kind) {
    case 'open':
      return changePart(board, fault.part, (part) => ({ ...part, fitted: false }));
    case 'drift':
      return changePart(board, fault.part, (part) => ({
        ...part,
        value: (part.value ?? 0) * fault.factor,
      }));
    case 'dead':
      return changeChip(board, fault.part, (chip) => ({ ...chip, behaviours: [], draws: [] }));
    case 'corrupt':
      return changeChip(board, fault.part, (chip) => ({ ...chip, behaviours: [] }));
    case 'pins-short': {
      const part = partOf(board, fault.part);
      const [a, b] = fault.pins.map((pin) => part.pins.find((one) => one.name === pin)?.net);
      if (!a || !b) throw new Error(`${fault.part} has no pins ${fault.pins.join(' and ')}`);
      return withBridge(board, faultName(fault), part.on, a, b, fault.ohms);
    }
    case 'pin-short':
      return withBridge(
        board,
        faultName(fault),
        attachmentOf(board, fault.part),
        pinNet(board, fault.part, fault.pin),
        board.ground,
        fault.ohms,
      );
    case 'short':
      if (!board.nets.some((net) => net.id === fault.net)) throw new Error(`no net ${fault.net}`);
      return withBridge(board, faultName(fault), null, fault.net, board.ground, fault.ohms);
    case 'stuck':
      return fault.level === 'low'
        ? withBridge(
            board,
            faultName(fault),
            attachmentOf(board, fault.part),
            pinNet(board, fault.part, fault.pin),
            board.ground,
            15,
          )
        : releasePin(board, fault.part, fault.pin);
    case 'trace-open':
      return openTrace(board, fault.part, fault.pin);
  }
}

/** Several faults at once. */
export const withFaults = (board: Board, faults: readonly Fault[]): Board =>
  faults.reduce(withFault, board);

function partOf(board: Board, ref: PartRef): Part {
  const part = board.parts.find((one) => one.ref === ref);
  if (!part) throw new Error(`no part ${ref}`);
  return part;
}

function changePart(board: Board, ref: PartRef, change: (part: Part) => Part): Board {
  const part = partOf(board, ref);
  return { ...board, parts: board.parts.map((one) => (one === part ? change(part) : one)) };
}

function changeChip(board: Board, ref: PartRef, change: (chip: Chip) => Chip): Board {
  const chip = board.chips.find((one) => one.ref === ref);
  if (!chip) throw new Error(`no chip ${ref}`);
  return { ...board, chips: board.chips.map((one) => (one === chip ? change(chip) : one)) };
}

function pinNet(board: Board, ref: PartRef, pin: string): NetId {
  const net =
    board.chips.find((one) => one.ref === ref)?.pins.get(pin) ??
    board.parts.find((one) => one.ref === ref)?.pins.find((one) => one.name === pin)?.net;
  if (!net) throw new Error(`no pin ${pin} on ${ref}`);
  return net;
}

/** What a part or chip goes with when it is unplugged. */
const attachmentOf = (board: Board, ref: PartRef): string | null =>
  [...board.parts, ...board.chips].find((one) => one.ref === ref)?.on ?? null;

/** Its name begins with the part that is at fault: the heat is there. */
function withBridge(
  board: Board,
  name: string,
  on: string | null,
  a: NetId,
  b: NetId,
  ohms: number,
): Board {
  const bridge: Part = {
    ref: name as PartRef,
    kind: 'resistor',
    title: '',
    pins: [
      { name: '1', net: a },
      { name: '2', net: b },
    ],
    value: ohms,
    valueText: String(ohms),
    fitted: true,
    marking: '',
    package: '',
    on,
    side: null,
    x: null,
    y: null,
  };
  return { ...board, parts: [...board.parts, bridge] };
}

/** The chip no longer drives the pin: whatever hangs on it decides. */
function releasePin(board: Board, ref: PartRef, pin: string): Board {
  return changeChip(board, ref, (chip) => ({
    ...chip,
    behaviours: chip.behaviours.flatMap((one): Behaviour[] => {
      switch (one.do) {
        case 'regulator':
          return [one.powerGood === pin ? { ...one, powerGood: null } : one];
        case 'follower':
          return one.out === pin ? [] : [one];
        case 'sequence': {
          const levels = <T extends { pin: string }>(list: readonly T[]): T[] =>
            list.filter((level) => level.pin !== pin);
          return [
            {
              ...one,
              idle: levels(one.idle),
              steps: one.steps.map((step) => {
                if (step.kind === 'drive') return { ...step, levels: levels(step.levels) };
                return step.kind === 'pulse' && step.pin === pin
                  ? { kind: 'pause' as const, seconds: step.seconds }
                  : step;
              }),
            },
          ];
        }
      }
    }),
  }));
}

/** The pin stands on a net of its own from now on. */
function openTrace(board: Board, ref: PartRef, pin: string): Board {
  const from = board.nets.find((net) => net.id === pinNet(board, ref, pin));
  const island: Net = {
    ...(from as Net),
    id: `${ref} ${pin} (open)` as NetId,
    aliases: [],
    kind: 'signal',
    volts: null,
    rangeVolts: null,
    loadAmps: 0,
    coldOhms: null,
    coldDiodeVolts: null,
  };
  const cut = { ...board, nets: [...board.nets, island] };
  if (board.chips.some((one) => one.ref === ref)) {
    return changeChip(cut, ref, (chip) => ({
      ...chip,
      pins: new Map([...chip.pins].map(([name, net]) => [name, name === pin ? island.id : net])),
    }));
  }
  return changePart(cut, ref, (part) => ({
    ...part,
    pins: part.pins.map((one) => (one.name === pin ? { ...one, net: island.id } : one)),
  }));
}
