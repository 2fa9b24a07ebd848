import { findChip, findPart, findPartOrChip } from './find.ts';
import type { Board } from './board.ts';

/** What it takes to take a part off to see; `seconds` null where that is no way, with why. */
export interface TakeOff {
  seconds: number | null;
  why: string;
}

// Seconds by common practice, no source.
const takeOffSeconds = { small: 240, large: 420, gullwing: 1200, quad: 1500 };

/** Packages with their joints below them in a grid: not for hot air and a look. */
const ballGrid = /BGA|CSP|LGA|FCBGA/i;
const quad = /QFN|DFN|SON/i;
/** Kinds that come in grids; so do processors, which a sheet draws as what hangs on a core rail. */
const gridKinds: readonly string[] = ['chipset', 'memory'];

/** The attachment a part sits on, by its title in small letters; null where it sits on the board. */
export function attachmentOf(board: Board, ref: string): string | null {
  const on = findPartOrChip(board, ref)?.on ?? null;
  if (on === null) return null;
  return (board.attachments.find((attachment) => attachment.id === on)?.title ?? on).toLowerCase();
}

/** How a part comes off the board: by its size and its joints. */
export function takeOff(board: Board, ref: string): TakeOff {
  const attachment = attachmentOf(board, ref);
  if (attachment !== null)
    return { seconds: null, why: `it is in the ${attachment}: unplug that, and change it whole` };
  const chip = findChip(board, ref);
  if (!chip) {
    const part = findPart(board, ref);
    if (!part) return { seconds: null, why: 'nothing that could be taken off' };
    const isLarge =
      ['coil', 'connector', 'pfet', 'nfet'].includes(part.kind) || (part.value ?? 0) >= 47e-6;
    return { seconds: isLarge ? takeOffSeconds.large : takeOffSeconds.small, why: '' };
  }
  if (chip.virtual) return { seconds: null, why: 'the sheet does not draw it' };
  const words = `${chip.title} ${chip.marking}`;
  const isProcessor = [...chip.pins.values()].some(
    (net) =>
      board.nets.some((one) => one.id === net && one.rangeVolts !== null) &&
      chip.kind === 'generic',
  );
  if (ballGrid.test(words) || gridKinds.includes(chip.kind) || isProcessor)
    return { seconds: null, why: 'its joints are a grid below it: not to be taken off to see' };
  return {
    seconds:
      quad.test(words) || chip.pins.size > 20 ? takeOffSeconds.quad : takeOffSeconds.gullwing,
    why: '',
  };
}
