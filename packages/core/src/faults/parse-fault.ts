import { fail, ok, type Result } from '../base/index.ts';
import { findNet, type Board, type PartRef } from '../board/index.ts';
import { parseQuantity } from '../units/index.ts';
import type { Fault } from './fault.ts';

export type FaultTrouble =
  | { code: 'not-a-fault'; text: string }
  | { code: 'no-such-part'; text: string; part: string }
  | { code: 'no-such-pin'; text: string; part: string; pin: string; pins: string[] }
  | { code: 'mode-does-not-fit'; text: string; part: string; mode: string; modes: string[] };

/** Milliohms of a hard short: a failed ceramic capacitor, a solder bridge. */
const hardShortOhms = 0.05;

/**
 * Reads a fault as typed on the command line: `C12:short`, `C12:short=2`, `R88:open`, `R10:drift=2`,
 * `U7:dead`, `U20:corrupt`, `U7.EN:trace-open`, `U7.PG:stuck-low`, `U7.PG:stuck-released`,
 * `PQ1.D-S:short`, `PU2.LDO5:short`, or a net: `VMAIN:short=0.5`.
 */
export function parseFault(board: Board, text: string): Result<Fault, FaultTrouble> {
  const match = /^([^:]+?)(?:\.([^:.]+))?:([a-z-]+)(?:=(\S+))?$/.exec(text.trim());
  if (!match) return fail({ code: 'not-a-fault', text });
  const [, ref = '', pinText, mode = '', valueText] = match;
  const part = board.parts.find((one) => one.ref === ref);
  const chip = board.chips.find((one) => one.ref === ref);
  const net = findNet(board, ref);
  if (!part && !chip && !net) return fail({ code: 'no-such-part', text, part: ref });

  const value = valueText === undefined ? null : parseQuantity(valueText, 'ohms');
  if (value && (!value.ok || value.value <= 0)) return fail({ code: 'not-a-fault', text });
  const ohms = value?.ok ? value.value : mode === 'leak' ? 200 : hardShortOhms;
  const wrong = (...modes: string[]): Result<Fault, FaultTrouble> =>
    fail({ code: 'mode-does-not-fit', text, part: ref, mode, modes });
  const shorts = mode === 'short' || mode === 'leak';

  if (part) {
    const names = part.pins.map((pin) => pin.name);
    const pins = pinText?.split('-') ?? names.slice(0, 2);
    const unknown = pins.find((pin) => !names.includes(pin));
    if (unknown) return fail({ code: 'no-such-pin', text, part: ref, pin: unknown, pins: names });
    const [a, b] = pins;
    if (shorts && a && b) return ok({ kind: 'pins-short', part: part.ref, pins: [a, b], ohms });
    if (mode === 'open' && !pinText) return ok({ kind: 'open', part: part.ref });
    if (mode === 'trace-open' && pinText && a && !b)
      return ok({ kind: 'trace-open', part: part.ref, pin: a });
    if (mode === 'drift' && part.kind === 'resistor' && value?.ok) {
      return ok({ kind: 'drift', part: part.ref, factor: value.value });
    }
    return wrong('open', 'short', 'leak', part.kind === 'resistor' ? 'drift=FACTOR' : 'trace-open');
  }
  if (chip) {
    const whole: PartRef = chip.ref;
    if (pinText === undefined) {
      if (mode === 'dead' || mode === 'corrupt') return ok({ kind: mode, part: whole });
      return wrong('dead', 'corrupt');
    }
    if (!chip.pins.has(pinText)) {
      return fail({
        code: 'no-such-pin',
        text,
        part: ref,
        pin: pinText,
        pins: [...chip.pins.keys()],
      });
    }
    if (shorts) return ok({ kind: 'pin-short', part: whole, pin: pinText, ohms });
    if (mode === 'trace-open') return ok({ kind: 'trace-open', part: whole, pin: pinText });
    if (mode === 'stuck-low') return ok({ kind: 'stuck', part: whole, pin: pinText, level: 'low' });
    if (mode === 'stuck-released')
      return ok({ kind: 'stuck', part: whole, pin: pinText, level: 'released' });
    return wrong('short', 'leak', 'trace-open', 'stuck-low', 'stuck-released');
  }
  return shorts && net ? ok({ kind: 'short', net: net.id, ohms }) : wrong('short', 'leak');
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
