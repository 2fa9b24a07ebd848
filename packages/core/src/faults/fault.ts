import type { NetId, PartRef, SourceId } from '../board/index.ts';
import { formatOhms } from '../units/index.ts';

/**
 * What can go wrong, each as a change to the board: a fault edits parts, pins, sources and
 * behaviour, it never writes a reading.
 */
export type Fault =
  /** A part that no longer conducts; a button that does not close. */
  | { kind: 'open'; part: PartRef }
  /** A chip that gives nothing and draws nothing: its power-goods held low, or let go. */
  | { kind: 'dead'; part: PartRef; letsGo?: true }
  /** One of several outputs of a chip gives nothing: named by the regulator's output pin. */
  | { kind: 'output-dead'; part: PartRef; pin: string }
  /** An output that gives only `factor` of the current it should: driver, bootstrap, a dry capacitor. */
  | { kind: 'weak'; part: PartRef; pin: string; factor: number }
  /** An output regulated to `factor` of its volts, and taken for good. */
  | { kind: 'off-value'; part: PartRef; pin: string; factor: number }
  /** Supplied and drawing, but it never does anything: bad firmware, no clock. */
  | { kind: 'corrupt'; part: PartRef }
  /** Runs its sequence as far as before this step, and stops there. */
  | { kind: 'stops'; part: PartRef; step: number }
  /** A flash that is blank or dead: what runs from it does not run. */
  | { kind: 'blank'; part: PartRef }
  /** Two pins of a part or chip joined by `ohms`: a shorted capacitor, a switching stage from feed to output. */
  | { kind: 'pins-short'; part: PartRef; pins: readonly [string, string]; ohms: number }
  /** All pins of a FET joined. */
  | { kind: 'all-short'; part: PartRef; ohms: number }
  /** A chip's pin joined to ground inside by `ohms`. */
  | { kind: 'pin-short'; part: PartRef; pin: string; ohms: number }
  /** A resistor, or the breakdown volts of a clamp, at `factor` times its value. */
  | { kind: 'drift'; part: PartRef; factor: number }
  /** A fuse, ferrite, coil, link or sense resistor that still conducts, through `ohms`. */
  | { kind: 'high'; part: PartRef; ohms: number }
  /** Soldered in the other way round by an earlier repair. */
  | { kind: 'reversed'; part: PartRef }
  /** An output that can no longer go to the other level while the chip is powered. */
  | { kind: 'stuck'; part: PartRef; pin: string; level: 'low' | 'released' }
  /** The pin is there, its trace or joint is not. */
  | { kind: 'trace-open'; part: PartRef; pin: string }
  /** The copper of a net is broken behind the place of this number in its `along`. */
  | { kind: 'break'; net: NetId; after: number }
  /** A net pulled to ground by nobody knows what. */
  | { kind: 'short'; net: NetId; ohms: number }
  /** Two nets joined by corrosion or solder. */
  | { kind: 'nets-joined'; nets: readonly [NetId, NetId]; ohms: number }
  /** What feeds the board: dead or its lead open, weak under load, too low or too high. */
  | { kind: 'source'; source: SourceId; how: SourceTrouble }
  /** Runs until it is warm: cooling missing, loose or of the wrong kind, or a part that leaks as it warms. */
  | { kind: 'warm' };

export type SourceTrouble = 'dead' | 'weak' | 'weaker' | 'limited' | 'low' | 'high';

/** Readable: `C412 short`, `R88 open`, `U7 pin EN: trace open`. */
export function faultName(fault: Fault): string {
  switch (fault.kind) {
    case 'open':
      return `${fault.part} open`;
    case 'dead':
      return fault.letsGo ? `${fault.part} dead, its power-good let go` : `${fault.part} dead`;
    case 'output-dead':
      return `${fault.part} output ${fault.pin} dead`;
    case 'weak':
      return `${fault.part} output ${fault.pin} weak (${percent(fault.factor)} of its current)`;
    case 'off-value':
      return `${fault.part} output ${fault.pin} at ${percent(fault.factor)} of its volts`;
    case 'corrupt':
      return `${fault.part} does not run`;
    case 'stops':
      return `${fault.part} stops at step ${fault.step + 1}`;
    case 'blank':
      return `${fault.part} blank or dead`;
    case 'pins-short': {
      const where =
        fault.pins.join() === '1,2' || fault.pins.join() === 'A,K'
          ? ''
          : ` ${fault.pins.join(' to ')}`;
      return `${fault.part}${where} ${shortWord(fault.ohms)}`;
    }
    case 'all-short':
      return `${fault.part} short between all its pins`;
    case 'pin-short':
      return `${fault.part} pin ${fault.pin}: ${shortWord(fault.ohms)} to ground`;
    case 'drift':
      return `${fault.part} drifted to ${fault.factor} times its value`;
    case 'high':
      return `${fault.part} gone to ${formatOhms(fault.ohms)}`;
    case 'reversed':
      return `${fault.part} turned round`;
    case 'stuck':
      return `${fault.part} pin ${fault.pin}: stuck ${fault.level}`;
    case 'trace-open':
      return `${fault.part} pin ${fault.pin}: trace open`;
    case 'break':
      return `${fault.net} broken behind place ${fault.after + 1}`;
    case 'short':
      return `${fault.net} ${shortWord(fault.ohms)} to ground`;
    case 'nets-joined':
      return `${fault.nets.join(' and ')} joined (${formatOhms(fault.ohms)})`;
    case 'source':
      return `${fault.source} ${sourceWords[fault.how]}`;
    case 'warm':
      return 'goes off when it is warm';
  }
}

const percent = (part: number): string => `${Number((part * 100).toPrecision(3))} %`;

const sourceWords: Record<SourceTrouble, string> = {
  dead: 'gives nothing, or its lead is open',
  weak: 'weak under load',
  weaker: 'very weak under load',
  limited: 'gives too few amps',
  low: 'gives too little volts',
  high: 'gives too many volts',
};

const shortWord = (ohms: number): string =>
  ohms < 0.5 ? 'short' : ohms < 50 ? `short of ${formatOhms(ohms)}` : `leak of ${formatOhms(ohms)}`;

/** A fault's identity, equal for equal faults. */
export const faultKey = (fault: Fault): string => JSON.stringify(fault);

/** The part or chip at fault; null where it is a net, its copper or the source. */
export const faultPart = (fault: Fault): PartRef | null => ('part' in fault ? fault.part : null);

/** What a technician would point at: a part, a net, two nets, a source. */
export function faultPlace(fault: Fault): string {
  if ('part' in fault) return fault.part;
  switch (fault.kind) {
    case 'nets-joined':
      return fault.nets.join(' and ');
    case 'source':
      return fault.source;
    case 'warm':
      return 'cooling';
    default:
      return fault.net;
  }
}
