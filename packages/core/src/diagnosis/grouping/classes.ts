import { findChip, joinedNets, netById, type Board, type NetId } from '../../board/index.ts';
import { faultName, flashOwner, groundedNet, type Fault } from '../../faults/index.ts';
import { formatOhms } from '../../units/index.ts';
import type { Dictionary } from '../../dictionary/index.ts';

/** Two pins of one net that read differently. */
export interface BrokenBetween {
  net: string;
  /** The pin that has its volts, and the one that has not, as `F1.2`. */
  there: string;
  missing: string;
}

/**
 * What a technician would name: the same fault in its severities, and what is one to the circuit, is
 * one class. Which capacitor of a rail is shorted no meter on the net can tell.
 */
export interface FaultClass {
  /** Rows of the dictionary. */
  rows: number[];
  faults: Fault[];
  /** Net pulled down, where that is what it is. */
  shortedNet: NetId | null;
  /** Two pins of one net that read differently: broken between them, wherever that is. */
  between?: BrokenBetween;
  /** It went with what was unplugged or lifted. */
  isGone?: boolean;
  /** Classes that are there at once; missing for single faults. */
  together?: readonly FaultClass[];
}

export function makeClasses(board: Board, dictionary: Dictionary): FaultClass[] {
  const parent = Int32Array.from({ length: dictionary.rows }, (_, row) => row);
  const root = (row: number): number => {
    let at = row;
    while (parent[at] !== at) at = parent[at]!;
    return at;
  };
  const firstRowOf = new Map<string, number>();
  const groups = joinedNets(board);
  const isRail = (net: NetId): boolean => netById(board, net)?.kind === 'rail';
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    // Gone with what is off the board: one class, whatever it is.
    if (row === dictionary.goneRow) return;
    const key = classKey(board, fault, groups);
    const known = firstRowOf.get(key);
    if (known === undefined) firstRowOf.set(key, row);
    else parent[root(row)] = root(known);
  });
  const classes = new Map<number, FaultClass>();
  for (let row = 1; row < dictionary.rows; row++) {
    const at = root(row);
    const one = classes.get(at) ?? { rows: [], faults: [], shortedNet: null };
    one.rows.push(row);
    classes.set(at, one);
  }
  dictionary.faults.forEach((fault, index) => {
    const one = classes.get(root(dictionary.rowOf[index]!));
    if (!one) return;
    one.faults.push(fault);
    if (one.rows.includes(dictionary.goneRow)) one.isGone = true;
    else {
      // A coil joins a rail with its switch node: it is called by the rail.
      const net = groundedNet(board, fault);
      if (net !== null && (one.shortedNet === null || (isRail(net) && !isRail(one.shortedNet))))
        one.shortedNet = net;
    }
  });
  return [...classes.values()];
}

function classKey(board: Board, fault: Fault, groups: ReadonlyMap<NetId, NetId>): string {
  const net = groundedNet(board, fault);
  if (net !== null) return `low ${groups.get(net) ?? net}`;
  const isPart = 'part' in fault && board.parts.some((one) => one.ref === fault.part);
  switch (fault.kind) {
    case 'pins-short':
      return isPart
        ? `${fault.part} ${fault.pins.join()} short`
        : `${fault.part} ${fault.pins.join()} through`;
    case 'drift':
    case 'open':
    case 'high':
      // Open, high or drifted, the remedy and the check are the same.
      return `${fault.part} value`;
    case 'trace-open':
      return isPart ? `${fault.part} value` : `${fault.part} ${fault.pin} open`;
    case 'dead':
      return `${fault.part} dead`;
    case 'output-dead':
    case 'weak':
    case 'off-value':
      // A chip with one output is as dead as its output.
      return outputsOf(board, fault.part) > 1
        ? `${fault.part} ${fault.pin} makes`
        : `${fault.part} dead`;
    case 'corrupt':
    case 'stops':
      return `${fault.part} runs`;
    case 'blank':
      return `${flashOwner(board, fault.part)?.ref ?? fault.part} runs`;
    case 'source':
      return `source ${fault.source}`;
    case 'nets-joined':
      return `joined ${fault.nets.join()}`;
    case 'break':
      return `break ${fault.net}`;
    default:
      return faultName(fault);
  }
}

const outputsOf = (board: Board, ref: string): number =>
  findChip(board, ref)?.behaviours.filter((behaviour) => behaviour.do === 'regulator').length ?? 0;

/** How a class is called. */
export function classTitle(one: FaultClass): string {
  if (one.isGone) return goneTitle(one);
  if (one.between)
    return `${one.between.net} is broken between ${one.between.there} and ${one.between.missing}`;
  if (one.together) return one.together.map(classTitle).join(' and ');
  if (one.shortedNet !== null) return `Low resistance on ${one.shortedNet}`;
  const [first] = one.faults;
  if (!first) return '';
  if (first.kind === 'source') return `${first.source}: what feeds the board`;
  if (first.kind === 'nets-joined') return `${first.nets.join(' and ')} joined`;
  if (first.kind === 'warm') return 'Goes off when it is warm';
  if (first.kind === 'break') return `${first.net} broken`;
  const same = one.faults.every(
    (fault) => 'part' in fault && 'part' in first && fault.part === first.part,
  );
  if (one.faults.some((fault) => fault.kind === 'corrupt')) {
    const runs = one.faults.find((fault) => fault.kind === 'corrupt');
    return `${runs && 'part' in runs ? runs.part : ''} does not run, or not to its end`;
  }
  if (!same || one.faults.length === 1) return faultName(first);
  const output = one.faults.find((fault) => fault.kind === 'weak');
  if (output?.kind === 'weak' && one.faults.every(isOfOutput)) {
    const isWhole = one.faults.some((fault) => fault.kind === 'dead');
    return `${output.part}${isWhole ? '' : ` output ${output.pin}`} dead, weak or off its volts`;
  }
  const isWhole = one.faults.every(({ kind }) => kind === 'dead');
  if (isWhole && 'part' in first) return `${first.part} dead`;
  const isCut = one.faults.filter(({ kind }) => kind === 'trace-open').length > 1;
  const words = new Set(
    one.faults.map((fault) =>
      isCut && fault.kind === 'trace-open' ? 'with a pin cut off' : modeWord(fault),
    ),
  );
  return `${'part' in first ? first.part : ''} ${[...words].join(' or ')}`;
}

/** More parts than this are not named one by one. */
const mostNamed = 3;

function goneTitle({ faults }: FaultClass): string {
  const parts = [...new Set(faults.flatMap((fault) => ('part' in fault ? [fault.part] : [])))];
  if (parts.length === 0 || parts.length > mostNamed) return 'In a part that is off the board';
  return `In ${parts.join(' or ')}, which ${parts.length > 1 ? 'are' : 'is'} off the board`;
}

const isOfOutput = ({ kind }: Fault): boolean =>
  kind === 'dead' || kind === 'output-dead' || kind === 'weak' || kind === 'off-value';

function modeWord(fault: Fault): string {
  switch (fault.kind) {
    case 'open':
      return 'open';
    case 'drift':
    case 'high':
      return 'off its value';
    case 'trace-open':
      return `with pin ${fault.pin} cut off`;
    case 'pins-short':
      return `short from ${fault.pins.join(' to ')}`;
    case 'pin-short':
      return `pin ${fault.pin} short inside (${formatOhms(fault.ohms)})`;
    default:
      return faultName(fault);
  }
}
