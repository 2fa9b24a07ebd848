import { netById, type Board, type NetId, type PartRef } from '../board/index.ts';
import { foldName } from './names.ts';

/** Something of the sheet that a page may speak of. */
export type Named = { kind: 'net'; net: NetId } | { kind: 'part'; ref: PartRef };

/** What words on a page mean on this board. */
export interface BoardNames {
  /** As it is written, else in another spelling where only one thing of the board can be meant. */
  meant(text: string): Named | null;
  /** Every name it has: the net with its aliases, the part by its reference. */
  namesOf(named: Named): string[];
}

export function boardNames(board: Board): BoardNames {
  const exact = new Map<string, Named>();
  const folded = new Map<string, Named | null>();
  const add = (name: string, named: Named): void => {
    exact.set(name, named);
    const key = foldName(name);
    // `B+` is a rail; the B in a page's frame is not.
    if (key.length < 2) return;
    const other = folded.get(key);
    folded.set(key, other === undefined || isSame(other, named) ? named : null);
  };
  for (const { id, aliases, isUnnamed } of board.nets)
    if (!isUnnamed) for (const name of [id, ...aliases]) add(name, { kind: 'net', net: id });
  for (const { ref } of [...board.parts, ...board.chips.filter((one) => !one.virtual)])
    add(ref, { kind: 'part', ref });
  return {
    meant: (text) => exact.get(text) ?? folded.get(foldName(text)) ?? null,
    namesOf: (named) =>
      named.kind === 'part'
        ? [named.ref]
        : [named.net, ...(netById(board, named.net)?.aliases ?? [])],
  };
}

export const isSame = (a: Named | null, b: Named | null): boolean =>
  a !== null &&
  b !== null &&
  (a.kind === 'net' ? b.kind === 'net' && a.net === b.net : b.kind === 'part' && a.ref === b.ref);
