import { findPart, type Board } from '../board/index.ts';
import type { ShelfItem } from '../record/index.ts';

export interface ShelfFit {
  /** Which item of the list. */
  index: number;
  /** The part on a donor board; null for a loose one. */
  ref: string | null;
  why: string;
  /** Best first: the same place on the same board, then by marking, then by kind and value. */
  rank: number;
}

/** Value and package are compared as written, without case, spaces or the sign of ohms. */
const plain = (text: string): string =>
  text.toLowerCase().replace(/[\sΩ]/g, '').replace(/µ|μ/g, 'u');

/**
 * What on the shelf could stand in for a part: the same part of the same board, the same marking anywhere,
 * or the same kind and value. `sheets` are those of the donor boards, by id.
 */
export function fitsFromShelf(
  board: Board,
  ref: string,
  items: readonly ShelfItem[],
  sheets: ReadonlyMap<string, Board>,
): ShelfFit[] {
  const wanted = partOf(board, ref);
  if (!wanted) return [];
  return items
    .flatMap((item, index): ShelfFit[] => {
      if (item.count < 1) return [];
      if (item.kind === 'part') {
        const why = likeness(wanted, {
          marking: item.marking,
          value: item.value,
          package: item.package,
          kind: item.what,
        });
        return why ? [{ index, ref: null, ...why }] : [];
      }
      if (item.board === board.id && !item.gone.includes(ref))
        return [{ index, ref, why: `${ref} of the same board`, rank: 0 }];
      const donor = item.board === null ? undefined : sheets.get(item.board);
      if (!donor) return [];
      const found = [...donor.parts, ...donor.chips]
        .filter((one) => one.fitted && !item.gone.includes(one.ref))
        .flatMap((one) => {
          // A converter known only by its stage is no part one could take.
          const has = partOf(donor, one.ref);
          const why = has && likeness(wanted, has);
          return why ? [{ index, ref: one.ref as string, ...why }] : [];
        })
        .sort((a, b) => a.rank - b.rank);
      return found.slice(0, 1);
    })
    .sort((a, b) => a.rank - b.rank);
}

interface Described {
  marking: string;
  value: string;
  package: string;
  kind: string;
}

function partOf(board: Board, ref: string): Described | null {
  const part = findPart(board, ref);
  if (part)
    return {
      marking: part.marking,
      value: part.valueText,
      package: part.package,
      kind: part.kind,
    };
  const chip = board.chips.find((one) => one.ref === ref && !one.virtual);
  return chip ? { marking: chip.marking, value: '', package: '', kind: chip.kind } : null;
}

function likeness(wanted: Described, has: Described): { why: string; rank: number } | null {
  if (wanted.marking && plain(wanted.marking) === plain(has.marking))
    return { why: `marked ${wanted.marking}`, rank: 1 };
  const sameKind = plain(has.kind).includes(plain(wanted.kind));
  if (!sameKind || !wanted.value || plain(wanted.value) !== plain(has.value)) return null;
  if (wanted.package && has.package && plain(wanted.package) !== plain(has.package)) return null;
  return {
    why: `${wanted.kind} ${wanted.value}${wanted.package && has.package ? `, ${wanted.package}` : ': compare size and volts'}`,
    rank: wanted.package && has.package ? 2 : 3,
  };
}
