import type { Board, Chip, Net, Part, Stage } from './board.ts';
import type { NetId, PartRef, StageId } from './ids.ts';

// Parts, chips and nets by their names. A board never changes: each list is indexed once.

/** The part with this reference, fitted or not; undefined where the board has none. */
export const findPart = ({ parts }: Pick<Board, 'parts'>, ref: string | null | undefined) =>
  indexed(parts, refOf).get(ref ?? '');

/** The chip with this reference, fitted or not; undefined where the board has none. */
export const findChip = ({ chips }: Pick<Board, 'chips'>, ref: string | null | undefined) =>
  indexed(chips, refOf).get(ref ?? '');

/** Whatever has this reference; undefined where the board has nothing of that name. */
export const findPartOrChip = (board: Pick<Board, 'parts' | 'chips'>, ref: string | null) =>
  findPart(board, ref) ?? findChip(board, ref);

/** The net with exactly this id; undefined where the board has none. */
export const netById = ({ nets }: Pick<Board, 'nets'>, id: string | null | undefined) =>
  indexed(nets, idOf).get(id ?? '');

const refOf = ({ ref }: Part | Chip): string => ref;
const idOf = ({ id }: Net): string => id;

const indexes = new WeakMap<readonly object[], Map<string, unknown>>();
function indexed<T extends object>(list: readonly T[], nameOf: (item: T) => string) {
  let index = indexes.get(list) as Map<string, T> | undefined;
  if (index?.size !== list.length) {
    index = new Map();
    // The first of a name counts, as in a search from the beginning.
    for (const item of list) if (!index.has(nameOf(item))) index.set(nameOf(item), item);
    indexes.set(list, index);
  }
  return index;
}

export function findNet(board: Board, name: string): Net | null {
  const wanted = name.toUpperCase();
  return (
    board.nets.find((net) => net.id.toUpperCase() === wanted) ??
    board.nets.find((net) => net.aliases.some((alias) => alias.toUpperCase() === wanted)) ??
    null
  );
}

/** The net by its own id, which is known to exist on the board. */
export function netOf(board: Board, id: NetId): Net {
  const net = netById(board, id);
  if (!net) throw new Error(`no net ${id} on ${board.id}`);
  return net;
}

export function stageOf(board: Board, id: StageId): Stage {
  const stage = board.stages.find((candidate) => candidate.id === id);
  if (!stage) throw new Error(`no stage ${id} on ${board.id}`);
  return stage;
}

/** A pin as it is found on the board: `5 (VIN)` where its number is known, else its name. */
export function pinText(board: Board, ref: string, pin: string): string {
  const number = findChip(board, ref)?.numbers.get(pin);
  return number === undefined || number === pin ? pin : `${number} (${pin})`;
}

/** Every pin of every fitted part and chip that sits on the net. */
export function pinsOnNet(board: Board, net: NetId): { ref: PartRef; pin: string }[] {
  const found: { ref: PartRef; pin: string }[] = [];
  for (const part of board.parts) {
    if (!part.fitted) continue;
    for (const pin of part.pins) if (pin.net === net) found.push({ ref: part.ref, pin: pin.name });
  }
  for (const chip of board.chips) {
    if (!chip.fitted) continue;
    for (const [pin, on] of chip.pins) if (on === net) found.push({ ref: chip.ref, pin });
  }
  return found;
}
