import { foldName, kindOfWord, type WordKind } from './names.ts';
import { apart, type Box, type PageContent, type Turn } from './page.ts';
import { wordsOf, type Word } from './words.ts';

/** A word of a document with its page and what it may be. */
export interface Token extends Word {
  page: number;
  kind: WordKind;
  folded: string;
}

/** A place where a document speaks of something, with the words around it. */
export interface Hit {
  page: number;
  box: Box;
  turn: Turn;
  text: string;
  /** How it agrees with what was asked. */
  how: 'same' | 'spelt otherwise' | 'begins so' | 'contains it';
  /** Words near it on the page, nearest first. */
  readonly around: string[];
}

/** Words farther away than this, in points, tell nothing of a hit. */
const nearby = 60;

/** A document's words, ready to be searched. Made once, kept. */
export interface DocumentIndex {
  pages: readonly { page: number; width: number; height: number; hasText: boolean }[];
  tokens: readonly Token[];
  /** Every token whose folded name is one of these. */
  named(names: readonly string[]): Token[];
  /** Hits in order of how well they agree, then of pages; at most `most`. */
  search(asked: string, also?: readonly string[], most?: number): Hit[];
}

export function indexDocument(pages: readonly PageContent[]): DocumentIndex {
  const byPage = new Map<number, Token[]>();
  const byName = new Map<string, Token[]>();
  for (const content of pages) {
    const tokens = wordsOf(content.runs).map((word): Token => ({
      ...word,
      page: content.page,
      kind: kindOfWord(word.text),
      folded: foldName(word.text),
    }));
    byPage.set(content.page, tokens);
    for (const token of tokens) {
      if (token.folded === '') continue;
      const known = byName.get(token.folded);
      if (known) known.push(token);
      else byName.set(token.folded, [token]);
    }
  }
  const tokens = [...byPage.values()].flat();
  const around = (token: Token): string[] =>
    (byPage.get(token.page) ?? [])
      .filter(
        (one) =>
          Math.abs(one.y - token.y) < nearby &&
          Math.abs(one.x - token.x) < 4 * nearby &&
          one !== token &&
          one.text !== token.text &&
          /\p{L}/u.test(one.text),
      )
      .map((one) => ({ text: one.text, far: apart(token, one) }))
      .filter(({ far }) => far < nearby)
      .sort((a, b) => a.far - b.far)
      .slice(0, 6)
      .map(({ text }) => text);
  const hit = (token: Token, how: Hit['how']): Hit => {
    let words: string[] | null = null;
    return {
      page: token.page,
      box: { x: token.x, y: token.y, w: token.w, h: token.h },
      turn: token.turn,
      text: token.text,
      how,
      // Looked up when it is shown: a search gives more hits than anybody reads.
      get around() {
        return (words ??= around(token));
      },
    };
  };
  return {
    pages: pages.map(({ page, width, height, runs }) => ({
      page,
      width,
      height,
      hasText: runs.length > 0,
    })),
    tokens,
    named: (names) => [...new Set(names.map(foldName))].flatMap((name) => byName.get(name) ?? []),
    search(asked, also = [], most = 200) {
      const plain = asked.trim();
      const folded = foldName(plain);
      if (folded === '') return [];
      const names = [...new Set([folded, ...also.map(foldName)])];
      // A single letter that is left says nothing: frames are full of them.
      const exact = names.flatMap((name) =>
        (byName.get(name) ?? []).filter((one) => name.length > 1 || one.text === plain),
      );
      const found: [Token, Hit['how']][] = [
        ...exact.filter((one) => one.text === plain).map((one) => [one, 'same'] as [Token, 'same']),
        ...exact
          .filter((one) => one.text !== plain)
          .map((one) => [one, 'spelt otherwise'] as [Token, Hit['how']]),
      ];
      const rest = [...byName].filter(([name]) => !names.includes(name));
      if (folded.length >= 2)
        for (const how of ['begins so', 'contains it'] as const)
          for (const [name, tokens] of rest)
            if (how === 'begins so' ? name.startsWith(folded) : isInside(name, folded))
              found.push(...tokens.map((one) => [one, how] as [Token, Hit['how']]));
      return found.slice(0, most).map(([token, how]) => hit(token, how));
    },
  };
}

const isInside = (name: string, folded: string): boolean =>
  folded.length >= 3 && !name.startsWith(folded) && name.includes(folded);
