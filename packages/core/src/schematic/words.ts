import type { Box, PageRun, Turn } from './page.ts';

/** A word with its place: runs of a document put together where one name was split over several. */
export interface Word extends Box {
  text: string;
  turn: Turn;
}

/** Ends and height along the way a text runs, whatever that way is. */
interface Piece {
  text: string;
  turn: Turn;
  start: number;
  end: number;
  /** Where the line of text lies, across. */
  line: number;
  height: number;
}

/** Two pieces nearer than this, in heights of the text, are one name: a space is about twice as wide. */
const joinsWithin = 0.16;

/** The words of a page, in no particular order. */
export function wordsOf(runs: readonly PageRun[]): Word[] {
  const pieces = runs.flatMap(piecesOf);
  const words: Word[] = [];
  for (const turn of [0, 90, 180, 270] as const) {
    const lines = new Map<number, Piece[]>();
    for (const piece of pieces.filter((one) => one.turn === turn)) {
      const row = Math.round(piece.line / 2);
      for (const near of [row - 1, row, row + 1])
        lines.set(near, [...(lines.get(near) ?? []), piece]);
    }
    const taken = new Set<Piece>();
    const sorted = pieces
      .filter((one) => one.turn === turn)
      .sort((a, b) => a.start - b.start || a.line - b.line);
    for (const first of sorted) {
      if (taken.has(first)) continue;
      taken.add(first);
      const whole = { ...first };
      for (let next: Piece | undefined = first; next;) {
        next = (lines.get(Math.round(first.line / 2)) ?? []).find(
          (one) => !taken.has(one) && isNext(whole, one),
        );
        if (!next) break;
        taken.add(next);
        whole.text += next.text;
        whole.end = Math.max(whole.end, next.end);
      }
      words.push(wordFrom(whole));
    }
  }
  return joinBroken(words);
}

function piecesOf(run: PageRun): Piece[] {
  const isLevel = run.turn === 0 || run.turn === 180;
  const [from, to] = isLevel ? [run.x, run.x + run.w] : [run.y, run.y + run.h];
  const height = isLevel ? run.h : run.w;
  const line = isLevel ? run.y + run.h / 2 : run.x + run.w / 2;
  const each = (to - from) / Math.max(1, run.text.length);
  const isBack = run.turn === 180 || run.turn === 270;
  return [...run.text.matchAll(/\S+/g)].map((found) => {
    const [a, b] = [found.index * each, (found.index + found[0].length) * each];
    // Along the way it is read: text that runs back or up is counted from its far end.
    const [start, end] = isBack ? [-(to - a), -(to - b)] : [from + a, from + b];
    return { text: found[0], turn: run.turn, start, end, line, height };
  });
}

function isNext(whole: Piece, next: Piece): boolean {
  const height = Math.max(whole.height, next.height);
  const gap = next.start - whole.end;
  return (
    Math.abs(whole.line - next.line) < 0.25 * height &&
    Math.min(whole.height, next.height) > 0.7 * height &&
    gap > -0.3 * height &&
    gap < joinsWithin * height
  );
}

function wordFrom({ text, turn, start, end, line, height }: Piece): Word {
  const [from, to] = turn === 180 || turn === 270 ? [-end, -start] : [start, end];
  return turn === 0 || turn === 180
    ? { text, turn, x: from, y: line - height / 2, w: to - from, h: height }
    : { text, turn, x: line - height / 2, y: from, w: height, h: to - from };
}

/** A name that ends in an underscore goes on in the line beneath, where it begins below it. */
function joinBroken(words: Word[]): Word[] {
  const gone = new Set<Word>();
  for (const word of words) {
    if (word.turn !== 0 || !/^[A-Z0-9+].*_$/i.test(word.text)) continue;
    const next = words.find(
      (one) =>
        one !== word &&
        one.turn === 0 &&
        !gone.has(one) &&
        Math.abs(one.x - word.x) < word.h &&
        one.y - (word.y + word.h) > -0.3 * word.h &&
        one.y - (word.y + word.h) < 0.6 * word.h &&
        /^[A-Z0-9][A-Z0-9_#]*$/i.test(one.text),
    );
    if (!next) continue;
    gone.add(next);
    word.text += next.text;
    word.w = Math.max(word.w, next.x + next.w - word.x);
    word.h = next.y + next.h - word.y;
  }
  return words.filter((one) => !gone.has(one));
}
