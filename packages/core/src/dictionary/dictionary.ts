import {
  isOff,
  type Board,
  type Chip,
  type GoalId,
  type NetId,
  type OffBoard,
  type Part,
  findChip,
  findPart,
} from '../board/index.ts';
import { faultKey, flashOwner, listFaults, type Fault } from '../faults/index.ts';
import {
  poweredPhases,
  usualMeter,
  type Meter,
  type PoweredPhase,
  somethingVolts,
} from '../readings/index.ts';
import { makeColdSweep, type ColdReadings } from '../cold/index.ts';
import { goalNets } from '../expectations/index.ts';
import { type Play, type PlaySetup, playFault, rehearse } from '../play/index.ts';
import { playedContent } from './played-content.ts';

/**
 * What every single fault of a board reads like, at every net, in every phase and cold. Faults that
 * are electrically one (capacitors side by side) share a row; row 0 is the healthy board. Plain data:
 * it may be kept, and sent from worker to page.
 */
export interface Dictionary {
  /** Which sheet, bench and rules of play it was made by. */
  key: string;
  nets: NetId[];
  /** What was off the board: a fault in it reads like none, all of them in one row. */
  off: OffBoard;
  /** The row of what went with it; -1 where nothing did. */
  goneRow: number;
  faults: Fault[];
  /** Row of each fault. */
  rowOf: Int32Array;
  rows: number;
  /** Volts a meter shows by row, powered phase and net, means where they swing. */
  volts: Float32Array;
  /** Lowest and highest by row, phase and net, where they swing: place in `volts` to the two. */
  swings: Map<number, readonly [number, number]>;
  /** Amps out of the source by row and phase. */
  amps: Float32Array;
  /** Lights of the board, and by row which of them are on in the last moment before giving up: a bit each. */
  lights: string[];
  lit: Uint32Array;
  /** By row: 1 where a fan turns then. */
  turning: Uint8Array;
  /** Parts and chips that can get warm; by row, phase of `heatPhases` and part how warm, see `heatCode`. */
  heated: string[];
  heat: Uint8Array;
  /** Seconds from the press until the board gives up; NaN where it does not. */
  offAfter: Float32Array;
  /** By row: 1 where it comes on before the button is pressed. */
  startsItself: Uint8Array;
  /** By row and net; Infinity above the meter's range, NaN where nothing settled. */
  ohms: Float32Array;
  diode: Float32Array;
  /**
   * Volts of the pins a cut trace leaves on their own, by row and phase: NaN for rows that cut nothing
   * off. Cold they are read on demand.
   */
  islandVolts: Float32Array;
  /** Rows in which no code runs though every net is right. */
  codeless: number[];
  /** Rows whose picture nobody sees, whatever the nets read: a panel or its cable that is dead. */
  dark: number[];
  /** By goal: nets that must be there for it. */
  goalNets: Record<GoalId, NetId[]>;
  /** Rows whose play may not be trusted, with why. */
  invalid: Map<number, string>;
}

/** To be raised when plays or cold readings come out differently: kept dictionaries are then made anew. */
const rulesOfPlay = 15;

/** When a part is felt for heat: before the press, and while the board runs or tries. */
export const heatPhases = ['standby', 'trying'] as const satisfies PoweredPhase[];

/** Watts as a byte: 0 below a milliwatt, else twenty steps a decade. */
const heatCode = (watts: number): number =>
  watts < 0.001 ? 0 : Math.min(255, Math.round(20 * Math.log10(watts * 1000)) + 1);

/** Watts turned to heat in a part under a row; those under a milliwatt are 0. */
export function wattsIn(
  { heat, heated }: Pick<Dictionary, 'heat' | 'heated'>,
  row: number,
  phase: (typeof heatPhases)[number],
  part: number,
): number {
  const code = heat[(row * heatPhases.length + heatPhases.indexOf(phase)) * heated.length + part]!;
  return code === 0 ? 0 : 10 ** ((code - 1) / 20) / 1000;
}

/** One effect for all that went with what is off the board. */
const gone = 'gone';

/** Names a dictionary by what it is made from: the same key, the same dictionary. */
export const dictionaryKey = (board: Board, setup: PlaySetup): string =>
  [rulesOfPlay, playedContent(board), JSON.stringify(setup)].join(' ');

export interface DictionaryProgress {
  done: number;
  total: number;
  /** The row just played. */
  row: number | null;
  /** As far as it is made. */
  dictionary: Dictionary;
}

/** Place in `volts`. */
export const voltsPlace = (
  { nets }: Pick<Dictionary, 'nets'>,
  row: number,
  phase: PoweredPhase,
  net: number,
): number => (row * poweredPhases.length + poweredPhases.indexOf(phase)) * nets.length + net;

/** Which rows are made, and in what order: all of them as they come where nothing is said. */
export interface Making {
  /** Every row once, row 0 first. */
  order?: ArrayLike<number>;
  /** Several makers share the rows between them: each makes every `of`th, and row 0. */
  share?: { index: number; of: number };
}

/** The dictionary with nothing played yet: every number is NaN. */
export function outlineDictionary(
  board: Board,
  setup: PlaySetup,
): { dictionary: Dictionary; byRow: (Fault | null)[] } {
  const nets = board.nets.filter((net) => net.id !== board.ground).map((net) => net.id);
  const faults = listFaults(board);
  const rowByEffect = new Map<string, number>();
  const byRow: (Fault | null)[] = [null];
  const isGone = goneIn(board, setup);
  const rowOf = Int32Array.from(faults, (fault) => {
    const effect = isGone(fault) ? gone : effectOf(board, fault);
    let row = rowByEffect.get(effect);
    if (row === undefined) {
      row = byRow.length;
      rowByEffect.set(effect, row);
      byRow.push(fault);
    }
    return row;
  });
  const rows = byRow.length;
  const unplayed = (length: number): Float32Array => new Float32Array(length).fill(NaN);
  const heated = [...board.parts, ...board.chips].filter(canWarm).map((one) => one.ref as string);
  const dictionary: Dictionary = {
    key: dictionaryKey(board, setup),
    nets,
    goneRow: rowByEffect.get(gone) ?? -1,
    off: { unplugged: setup.unplugged ?? [], lifted: setup.lifted ?? [] },
    faults,
    rowOf,
    rows,
    volts: unplayed(rows * poweredPhases.length * nets.length),
    swings: new Map(),
    amps: unplayed(rows * poweredPhases.length),
    lights: board.parts.filter((part) => part.kind === 'led').map((part) => part.ref),
    lit: new Uint32Array(rows),
    turning: new Uint8Array(rows),
    heated,
    heat: new Uint8Array(rows * heatPhases.length * heated.length),
    offAfter: unplayed(rows),
    startsItself: new Uint8Array(rows),
    ohms: unplayed(rows * nets.length),
    diode: unplayed(rows * nets.length),
    islandVolts: unplayed(rows * poweredPhases.length),
    codeless: [...rowByEffect].flatMap(([effect, row]) => (effect === silentEffect ? [row] : [])),
    dark: byRow.flatMap((fault, row) => (fault && isDark(board, fault) ? [row] : [])),
    goalNets: {},
    invalid: new Map(),
  };
  return { dictionary, byRow };
}

/** Nothing flows through these, or so little that it is not worth keeping. */
const canWarm = ({ kind, fitted }: Part | Chip): boolean =>
  fitted && !['crystal', 'connector', 'button', 'led'].includes(kind);

/** Whether a row has been played: until then it says nothing. */
export const isPlayed = ({ amps }: Pick<Dictionary, 'amps'>, row: number): boolean =>
  !Number.isNaN(amps[row * poweredPhases.length]!);

/**
 * Makes the dictionary, telling how far it is after each row. It can be left at any of these moments
 * and nothing remains of it; what is there by then can be used: rows not played say nothing.
 */
export function* makeDictionary(
  board: Board,
  setup: PlaySetup,
  meter: Meter = usualMeter,
  { order, share = { index: 0, of: 1 } }: Making = {},
): Generator<DictionaryProgress, Dictionary> {
  const { dictionary, byRow } = outlineDictionary(board, setup);
  const { rows } = dictionary;
  const mine = Array.from(order ?? byRow.keys()).filter(
    (row, place) => row === 0 || place % share.of === share.index,
  );
  yield { done: 0, total: mine.length, row: null, dictionary };
  const player = makeRowPlayer(board, setup, meter);
  dictionary.goalNets = goalNets(board, player.healthy);
  for (const [index, row] of mine.entries()) {
    if (row >= rows) continue;
    const fault = byRow[row] as Fault | null;
    player.write(dictionary, row, fault ? [fault] : []);
    yield { done: index + 1, total: mine.length, row, dictionary };
  }
  return dictionary;
}

/** The same in one go, for whoever need not say how far it is. */
export function wholeDictionary(
  board: Board,
  setup: PlaySetup,
  meter: Meter = usualMeter,
): Dictionary {
  const making = makeDictionary(board, setup, meter);
  for (;;) {
    const step = making.next();
    if (step.done) return step.value;
  }
}

/** Plays a board with any faults and writes down what it would read like. */
export interface RowPlayer {
  write(dictionary: Dictionary, row: number, faults: readonly Fault[]): void;
  /** The healthy play. */
  healthy: Play;
}

export function makeRowPlayer(
  board: Board,
  setup: PlaySetup,
  meter: Meter = usualMeter,
): RowPlayer {
  const rehearsal = rehearse(board, setup);
  const cold = makeColdSweep(board, meter, setup);
  const isGone = goneIn(board, setup);
  return {
    healthy: rehearsal.course.play,
    write(dictionary, row, all) {
      const faults = all.filter((fault) => !isGone(fault));
      const play = faults.length > 0 ? playFault(rehearsal, faults) : rehearsal.course.play;
      writePlay(dictionary, row, play);
      writeCold(dictionary, row, cold.under(faults));
    },
  };
}

/** A copy of the dictionary with room for `more` rows behind its own, to be written by a player. */
export function withRoom(dictionary: Dictionary, more: number): Dictionary {
  const longer = <T extends Float32Array | Uint32Array | Uint8Array>(list: T, fill = 0): T => {
    const length = (list.length / dictionary.rows) * (dictionary.rows + more);
    const copy = new (list.constructor as new (length: number) => T)(length);
    copy.fill(fill).set(list);
    return copy;
  };
  return {
    ...dictionary,
    volts: longer(dictionary.volts),
    swings: new Map(dictionary.swings),
    amps: longer(dictionary.amps),
    lit: longer(dictionary.lit),
    turning: longer(dictionary.turning),
    heat: longer(dictionary.heat),
    offAfter: longer(dictionary.offAfter, NaN),
    startsItself: longer(dictionary.startsItself),
    islandVolts: longer(dictionary.islandVolts, NaN),
    ohms: longer(dictionary.ohms),
    diode: longer(dictionary.diode),
    invalid: new Map(dictionary.invalid),
  };
}

function writePlay(dictionary: Dictionary, row: number, play: Play): void {
  const { nets, volts, amps, swings, invalid } = dictionary;
  invalid.delete(row);
  const isWritten = isPlayed(dictionary, row);
  poweredPhases.forEach((phase, index) => {
    const snapshot = play.phases.get(phase);
    if (!snapshot) return;
    dictionary.islandVolts[row * poweredPhases.length + index] =
      snapshot.nodeVolts.length > nets.length + 1 ? snapshot.nodeVolts[nets.length + 1]! : NaN;
    const first = voltsPlace(dictionary, row, phase, 0);
    // The row may have been another's before.
    if (isWritten) for (let net = 0; net < nets.length; net++) swings.delete(first + net);
    for (let net = 0; net < nets.length; net++) volts[first + net] = snapshot.nodeVolts[net + 1]!;
    for (const [net, shown] of snapshot.lowered) {
      const place = nets.indexOf(net);
      if (place >= 0) volts[first + place] = shown;
    }
    amps[row * poweredPhases.length + index] = snapshot.sourceAmps;
    for (const [net, { low, high }] of snapshot.swinging) {
      const place = nets.indexOf(net);
      // A cut trace's own end is no net of the board.
      if (place >= 0) swings.set(first + place, [low, high]);
    }
  });
  const trying = play.phases.get('trying');
  dictionary.lit[row] = 0;
  dictionary.lights.forEach((ref, bit) => {
    if (trying?.lit.includes(ref)) dictionary.lit[row]! += 2 ** bit;
  });
  dictionary.turning[row] = trying && trying.turning.length > 0 ? 1 : 0;
  heatPhases.forEach((phase, index) => {
    const watts = play.phases.get(phase)?.watts;
    const first = (row * heatPhases.length + index) * dictionary.heated.length;
    dictionary.heated.forEach(
      (ref, part) => (dictionary.heat[first + part] = heatCode(watts?.get(ref) ?? 0)),
    );
  });
  const gaveUp = play.events.find((event) => event.kind === 'gives-up');
  dictionary.offAfter[row] = gaveUp ? gaveUp.atSeconds - play.pressedAtSeconds : NaN;
  dictionary.startsItself[row] = startsItself(dictionary, row) ? 1 : 0;
  if (play.status === 'invalid') invalid.set(row, play.because);
}

/** Whether more than half of what a healthy board brings up after the press is up before it. */
function startsItself(dictionary: Dictionary, row: number): boolean {
  const { nets, volts } = dictionary;
  const running = voltsPlace(dictionary, 0, 'run', 0);
  const before = voltsPlace(dictionary, 0, 'standby', 0);
  const here = voltsPlace(dictionary, row, 'standby', 0);
  let later = 0;
  let early = 0;
  for (let net = 0; net < nets.length; net++) {
    const up = volts[running + net]!;
    if (up < somethingVolts || volts[before + net]! > up / 2) continue;
    later++;
    if (volts[here + net]! > up / 2) early++;
  }
  return later > 0 && early > later / 2;
}

function writeCold({ nets, ohms, diode }: Dictionary, row: number, readings: ColdReadings): void {
  ohms.set(readings.ohms, row * nets.length);
  diode.set(readings.diode, row * nets.length);
}

/** Whether a fault went with what is off the board, or is in a source that feeds nothing now. */
function goneIn(board: Board, setup: PlaySetup): (fault: Fault) => boolean {
  const gone = new Set<string>(
    [...board.parts, ...board.chips].filter((one) => isOff(setup, one)).map((one) => one.ref),
  );
  const feeding = [setup.source, ...setup.staying];
  return (fault) =>
    ('part' in fault && gone.has(fault.part)) ||
    (fault.kind === 'source' && !feeding.includes(fault.source));
}

/** The same for faults that no reading can tell apart because they are one to the circuit. */
function effectOf(board: Board, fault: Fault): string {
  const netAt = (pin: string): NetId | undefined =>
    'part' in fault
      ? (findChip(board, fault.part)?.pins.get(pin) ??
        findPart(board, fault.part)?.pins.find((one) => one.name === pin)?.net)
      : undefined;
  const bridge = (a: NetId | undefined, b: NetId | undefined, ohms: number): string =>
    `bridge ${[a, b].sort().join(' ')} ${ohms}`;
  switch (fault.kind) {
    case 'pins-short':
      return bridge(netAt(fault.pins[0]), netAt(fault.pins[1]), fault.ohms);
    case 'pin-short':
      return bridge(netAt(fault.pin), board.ground, fault.ohms);
    case 'short':
      return bridge(fault.net, board.ground, fault.ohms);
    case 'nets-joined':
      return bridge(...fault.nets, fault.ohms);
    case 'stuck':
      // Whoever holds a line low, it is low.
      return fault.level === 'low' ? `low ${netAt(fault.pin) ?? ''}` : faultKey(fault);
    case 'blank': {
      const owner = flashOwner(board, fault.part);
      return owner?.kind === 'controller'
        ? faultKey({ kind: 'corrupt', part: owner.ref })
        : silentEffect;
    }
    default:
      return faultKey(fault);
  }
}

/** Panel, cable and plug are one thing to play: the board does all it can. */
const isDark = (board: Board, fault: Fault): boolean =>
  fault.kind === 'dead' &&
  board.chips.some((one) => one.ref === fault.part && one.kind === 'panel');

/** No net shows it. */
const silentEffect = 'silent';
