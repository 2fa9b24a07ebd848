import { fail, ok, type Result } from '../base/index.ts';
import {
  findNet,
  isSeriesPart,
  type Board,
  type Chip,
  type Part,
  findChip,
  findPart,
} from '../board/index.ts';
import { parseQuantity } from '../units/index.ts';
import type { Fault, SourceTrouble } from './fault.ts';
import { flashOwner } from './flash-owner.ts';

export type FaultTrouble =
  | { code: 'not-a-fault'; text: string }
  | { code: 'no-such-part'; text: string; part: string }
  | { code: 'no-such-pin'; text: string; part: string; pin: string; pins: string[] }
  | { code: 'mode-does-not-fit'; text: string; part: string; mode: string; modes: string[] };

/** Milliohms of a hard short: a failed ceramic capacitor, a solder bridge. */
const hardShortOhms = 0.05;
/** A leak where nobody says how much. */
const leakOhms = 200;

/**
 * Reads a fault as typed on the command line, as docs/cli.md lists them: `C12:short`, `C12:short=2`,
 * `F1:high=200`, `R10:drift=2`, `U7:dead`, `U7:dead-let-go`, `PU2.SW1:output-dead`,
 * `PU6.SW:weak=0.1`, `PU6.SW:off-value=0.7`, `U20:stops=3`, `U22:blank`, `PU9.VIN-SW:short`,
 * `U7.EN:trace-open`, `U7.PG:stuck-low`, `D1:reversed`, `PQ1:all-short`, `adapter:weak`,
 * `3V3_ALW:break=0`, `VMAIN:short=0.5`, `NET1+NET2:joined=1k`, `board:warm`.
 */
export function parseFault(board: Board, text: string): Result<Fault, FaultTrouble> {
  const match = /^([^:]+?):([a-z-]+)(?:=(\S+))?$/.exec(text.trim());
  if (!match) return fail({ code: 'not-a-fault', text });
  const [, subject = '', mode = '', valueText] = match;
  const number = valueText === undefined ? null : parseQuantity(valueText, 'ohms');
  if (number && (!number.ok || number.value < 0)) return fail({ code: 'not-a-fault', text });
  const value = number?.ok ? number.value : null;
  const asked: Asked = { board, text, mode, value };

  if (subject === 'board' && mode === 'warm') return ok({ kind: 'warm' });
  if (subject.includes('+') && mode === 'joined') return joined(asked, subject);
  const whole = findOwner(board, subject);
  // A reference may hold a dot, a pin never does.
  const dot = subject.lastIndexOf('.');
  const [ref, pinText] =
    whole || dot < 0 ? [subject, undefined] : [subject.slice(0, dot), subject.slice(dot + 1)];
  const { part, chip } = findOwner(board, ref) ?? {};
  if (part) return partFault(asked, part, pinText);
  if (chip) return chipFault(asked, chip, pinText);
  const source = board.sources.find((one) => one.id === ref);
  if (source && (sourceWays as readonly string[]).includes(mode))
    return ok({ kind: 'source', source: source.id, how: mode as SourceTrouble });
  if (board.button?.part === ref && mode === 'open')
    return ok({ kind: 'open', part: board.button.part });
  const net = findNet(board, ref);
  if (!net) return fail({ code: 'no-such-part', text, part: ref });
  if (mode === 'break' && value !== null && value < net.along.length - 1)
    return ok({ kind: 'break', net: net.id, after: value });
  return isLow(mode)
    ? ok({ kind: 'short', net: net.id, ohms: ohmsOf(asked) })
    : doesNotFit(asked, ref, ['short', 'leak', ...(net.along.length > 1 ? ['break=PLACE'] : [])]);
}

interface Asked {
  board: Board;
  text: string;
  mode: string;
  value: number | null;
}

const sourceWays = [
  'dead',
  'weak',
  'weaker',
  'limited',
  'low',
  'high',
] as const satisfies SourceTrouble[];
const isLow = (mode: string): boolean => mode === 'short' || mode === 'leak';
const ohmsOf = ({ mode, value }: Asked): number =>
  value !== null && value > 0 ? value : mode === 'leak' ? leakOhms : hardShortOhms;

function findOwner(board: Board, ref: string): { part?: Part; chip?: Chip } | null {
  const part = findPart(board, ref);
  if (part) return { part };
  const chip = findChip(board, ref);
  return chip ? { chip } : null;
}

const doesNotFit = (
  { text, mode }: Asked,
  part: string,
  modes: string[],
): Result<Fault, FaultTrouble> => fail({ code: 'mode-does-not-fit', text, part, mode, modes });

function joined({ board, text, value }: Asked, subject: string): Result<Fault, FaultTrouble> {
  const names = subject.split('+');
  const nets = names.map((name) => findNet(board, name));
  const unknown = names.find((_, index) => !nets[index]);
  const [a, b] = nets;
  if (unknown !== undefined || !a || !b || nets.length !== 2 || a === b)
    return fail({ code: 'no-such-part', text, part: unknown ?? subject });
  return ok({ kind: 'nets-joined', nets: [a.id, b.id], ohms: value || 1 });
}

function partFault(
  asked: Asked,
  part: Part,
  pinText: string | undefined,
): Result<Fault, FaultTrouble> {
  const { text, mode, value } = asked;
  const { ref, kind } = part;
  const names = part.pins.map((pin) => pin.name);
  const pins = pinText?.split('-') ?? names.slice(0, 2);
  const unknown = pins.find((pin) => !names.includes(pin));
  if (unknown) return fail({ code: 'no-such-pin', text, part: ref, pin: unknown, pins: names });
  const [a, b] = pins;
  const isFet = kind === 'pfet' || kind === 'nfet';
  const drifts = kind === 'resistor' || kind === 'tvs' || kind === 'zener';
  const isWire = isSeriesPart(part);
  if (isLow(mode) && a && b)
    return ok({ kind: 'pins-short', part: ref, pins: [a, b], ohms: ohmsOf(asked) });
  if (mode === 'open' && !pinText) return ok({ kind: 'open', part: ref });
  if (mode === 'trace-open' && pinText && a && !b)
    return ok({ kind: 'trace-open', part: ref, pin: a });
  if (mode === 'drift' && drifts && value) return ok({ kind: 'drift', part: ref, factor: value });
  if (mode === 'high' && isWire && value) return ok({ kind: 'high', part: ref, ohms: value });
  if (mode === 'all-short' && isFet)
    return ok({ kind: 'all-short', part: ref, ohms: value || hardShortOhms });
  if (mode === 'reversed' && !pinText) return ok({ kind: 'reversed', part: ref });
  return doesNotFit(asked, ref, [
    'open',
    'short',
    'leak',
    'trace-open',
    'reversed',
    ...(drifts ? ['drift=FACTOR'] : []),
    ...(isWire ? ['high=OHMS'] : []),
    ...(isFet ? ['all-short'] : []),
  ]);
}

function chipFault(
  asked: Asked,
  chip: Chip,
  pinText: string | undefined,
): Result<Fault, FaultTrouble> {
  const { board, text, mode, value } = asked;
  const { ref } = chip;
  const sequence = chip.behaviours.find((one) => one.do === 'sequence');
  if (pinText === undefined) {
    if (mode === 'dead' || mode === 'corrupt') return ok({ kind: mode, part: ref });
    if (mode === 'dead-let-go') return ok({ kind: 'dead', part: ref, letsGo: true });
    if (mode === 'blank' && flashOwner(board, ref)) return ok({ kind: 'blank', part: ref });
    if (mode === 'stops' && sequence && value !== null && value <= sequence.steps.length)
      return ok({ kind: 'stops', part: ref, step: Math.max(0, value - 1) });
    return doesNotFit(asked, ref, [
      'dead',
      'dead-let-go',
      'corrupt',
      ...(sequence ? ['stops=STEP'] : []),
      ...(chip.kind === 'flash' ? ['blank'] : []),
    ]);
  }
  const pins = chip.pins.has(pinText) ? [pinText] : pinText.split('-');
  const unknown = pins.find((pin) => !chip.pins.has(pin));
  if (unknown)
    return fail({
      code: 'no-such-pin',
      text,
      part: ref,
      pin: unknown,
      pins: [...chip.pins.keys()],
    });
  const [pin = '', other] = pins;
  if (isLow(mode)) {
    const ohms = ohmsOf(asked);
    return ok(
      other === undefined
        ? { kind: 'pin-short', part: ref, pin, ohms }
        : { kind: 'pins-short', part: ref, pins: [pin, other], ohms },
    );
  }
  if (other === undefined) {
    const makes = chip.behaviours.some((one) => one.do === 'regulator' && one.out === pin);
    if (mode === 'trace-open') return ok({ kind: 'trace-open', part: ref, pin });
    if (mode === 'stuck-low') return ok({ kind: 'stuck', part: ref, pin, level: 'low' });
    if (mode === 'stuck-released') return ok({ kind: 'stuck', part: ref, pin, level: 'released' });
    if (mode === 'output-dead' && makes) return ok({ kind: 'output-dead', part: ref, pin });
    if ((mode === 'weak' || mode === 'off-value') && makes && value)
      return ok({ kind: mode, part: ref, pin, factor: value });
  }
  return doesNotFit(asked, ref, [
    'short',
    'leak',
    'trace-open',
    'stuck-low',
    'stuck-released',
    'output-dead',
    'weak=FACTOR',
    'off-value=FACTOR',
  ]);
}

export function faultTroubleText(trouble: FaultTrouble): string {
  switch (trouble.code) {
    case 'not-a-fault':
      return `"${trouble.text}" is not a fault: write PART:mode, PART.PIN:mode or NET:short, such as C12:short or U7.EN:trace-open.`;
    case 'no-such-part':
      return `"${trouble.text}": there is no part, chip or net ${trouble.part} on this board.`;
    case 'no-such-pin':
      return `"${trouble.text}": ${trouble.part} has no pin ${trouble.pin}; its pins are ${trouble.pins.join(', ')}.`;
    case 'mode-does-not-fit':
      return `"${trouble.text}": ${trouble.part} cannot be ${trouble.mode}; it can be ${trouble.modes.join(', ')}.`;
  }
}
