import type { Board } from './board.ts';
import type { NetId } from './ids.ts';

// A sheet made by choices, or at rails depth, has parts that nobody finds on the board: they stand for what is
// not known yet. In the record they keep their names; a technician is told what they stand for.

/** What each stand-in of a sheet stands for, by its name. */
export function standIns(board: Board): ReadonlyMap<string, string> {
  const words = new Map<string, string>();
  const regulates = new Map<NetId, string>();
  for (const { ref, pins, behaviours } of board.chips) {
    const outs = behaviours.flatMap((does) =>
      does.do === 'regulator' ? [pins.get(does.out)] : [],
    );
    const made = [...new Set(outs.filter((net) => net !== undefined))];
    // As `stageChip` names them: no chip on a board is called so.
    if (made.length === 0 || !ref.endsWith('-regulator')) continue;
    const regulator = `the regulator of ${made.join(' and ')}`;
    words.set(ref, regulator);
    for (const net of pins.values()) regulates.set(net, regulates.get(net) ?? made.join(' and '));
  }
  for (const { ref, isGuess, pins } of board.parts) {
    if (!isGuess) continue;
    const behind = pins.map(({ net }) => regulates.get(net)).findLast((net) => net !== undefined);
    if (behind === undefined) continue;
    if (ref.startsWith('ON_')) words.set(ref, `what switches ${behind} on (not known yet)`);
    if (ref.startsWith('WAY_')) words.set(ref, `the way to the regulator of ${behind}`);
  }
  return words;
}

const known = new WeakMap<Board, { words: ReadonlyMap<string, string>; names: RegExp | null }>();

/** A sentence with what stand-ins stand for in place of their names; begins with a capital where it changes. */
export function withoutStandIns(board: Board, text: string): string {
  let found = known.get(board);
  if (!found) {
    const words = standIns(board);
    const names = [...words.keys()]
      .sort((a, b) => b.length - a.length)
      .map((name) => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
    found = {
      words,
      names: names.length > 0 ? new RegExp(`(?<![\\w-])(${names.join('|')})(?![\\w-])`, 'g') : null,
    };
    known.set(board, found);
  }
  const { words, names } = found;
  if (!names) return text;
  const plain = text.replace(names, (name) => words.get(name) ?? name);
  return plain === text ? text : plain.charAt(0).toUpperCase() + plain.slice(1);
}
