import { findChip, findPart, netById } from './find.ts';
import type { Board, Net } from './board.ts';
import { readNetName } from './net-name.ts';

/** Chips that decide how a board wakes. */
const deciding = ['charger', 'pd', 'controller', 'chipset', 'cpu-regulator', 'supervisor'];
/** Rails from here on are what comes in and what hangs on it; below are those made from it. */
const mainVolts = 6;
/** A chip that makes a dozen rails is told apart by the first of them. */
const mostCharacters = 120;

/** How a board is fed and woken, in words that are the same for boards built alike. */
export function schemeOf(board: Board): string {
  const chips = board.chips.map((one) => one.kind as string);
  const inputs = new Set(board.sources.map((one) => one.net));
  const fets = board.parts.filter(
    (one) =>
      (one.kind === 'pfet' || one.kind === 'nfet') &&
      one.pins.some((pin) => pin.name !== 'G' && inputs.has(pin.net)),
  );
  return [
    board.sources.map((one) => one.kind as string),
    fets.map((one) => one.kind as string),
    deciding.filter((kind) => chips.includes(kind)),
  ]
    .map((words) => [...new Set(words)].sort().join('+') || 'none')
    .join(' / ');
}

/** What closing a job at these parts says to other boards of the scheme. */
export const placeInScheme = (
  board: Board,
  parts: readonly string[],
): { scheme: string; roles: string[] } => ({
  scheme: schemeOf(board),
  roles: [...new Set(parts.flatMap((ref) => roleOf(board, ref) ?? []))],
});

/**
 * What a part is on a board of its scheme, whatever it is called there: its kind and the rails it stands at.
 * null where it stands at signals only, or is not on the sheet: that says nothing of another board.
 */
export function roleOf(board: Board, ref: string): string | null {
  const chip = findChip(board, ref);
  const part = findPart(board, ref);
  const owner = chip ?? part;
  if (!owner) return null;
  const made = chip?.behaviours.flatMap((one) => (one.do === 'regulator' ? [one.out] : [])) ?? [];
  const nets = chip
    ? [...chip.pins]
        .filter(([pin]) => made.length === 0 || made.includes(pin))
        .map(([, net]) => net)
    : part!.pins.map((pin) => pin.net);
  // A switching stage's own node is no rail: its coil leads on to one.
  const rails = nets
    .flatMap((id) => {
      const net = netById(board, id);
      if (net?.kind !== 'switch') return net ? [net] : [];
      const coil = board.parts.find(
        (one) => one.kind === 'coil' && one.pins.some((pin) => pin.net === id),
      );
      return board.nets.filter((one) => coil?.pins.some((pin) => pin.net === one.id));
    })
    .flatMap((net) => railClass(board, net) ?? []);
  return rails.length === 0
    ? null
    : `${owner.kind} at ${[...new Set(rails)].sort().join(', ')}`.slice(0, mostCharacters);
}

function railClass(board: Board, net: Net): string | null {
  const source = board.sources.find((one) => one.net === net.id);
  if (source) return source.kind;
  if (net.kind !== 'rail') return null;
  if (net.rangeVolts) return 'core';
  const named = readNetName(net.id);
  const volts = net.volts ?? named.volts;
  if (volts === null) return null;
  return volts >= mainVolts ? 'main' : `${volts} V${named.domain ? ` ${named.domain}` : ''}`;
}
