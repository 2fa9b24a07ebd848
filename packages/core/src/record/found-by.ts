// Words by which a job is found again: of whoever brought the board, of the bench, and names on the board.

/** Of an entry: names of its own kind, of other entries and of files are no words of anybody. */
const notWords: ReadonlySet<string> = new Set([
  'type',
  'mode',
  'phase',
  'polarity',
  'id',
  'event',
  'supersedes',
  'sheet',
  'hash',
  'sha256',
  'picture',
  'pictures',
  'meter',
  'source',
  'attached',
  'lifted',
  'promised',
]);
const isName = /^([0-9a-f]{16}|[0-9a-f-]{36}|[0-9a-f]{64})$/;
const longestWord = 60;
/** More words than these of one job are no help. */
export const mostWords = 4000;

/** Plain letters, small: `Pünktchen` is found by `punkt`. */
const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** Whole words of a text, without the marks around them: `PLTRST#` keeps its own. */
export const wordsOf = (text: string): string[] =>
  plain(text)
    .split(/[\s,;:()"'`<>[\]{}|=]+/u)
    .map((word) => word.replace(/^[^\p{L}\p{N}+]+|[.!?]+$/gu, '').slice(0, longestWord))
    .filter((word) => word !== '');

/** Words of all entries of a job, each once; of a net's or part's name its pieces as well (`3V3_ALW`: `alw`). */
export function foundBy(entries: readonly { who: string; body: object }[]): string[] {
  const found = new Set<string>();
  const add = (text: string): void => {
    if (text === '(erased)' || isName.test(text)) return;
    for (const word of wordsOf(text)) {
      if (found.size >= mostWords) return;
      found.add(word);
      for (const piece of word.split(/[^\p{L}\p{N}]+/u)) if (piece.length > 1) found.add(piece);
    }
  };
  const look = (value: unknown, key = ''): void => {
    if (notWords.has(key)) return;
    if (typeof value === 'string') add(value);
    else if (Array.isArray(value)) for (const item of value) look(item, key);
    else if (typeof value === 'object' && value !== null)
      for (const [name, item] of Object.entries(value)) look(item, name);
  };
  for (const { who, body } of entries) {
    add(who);
    look(body);
  }
  return [...found];
}
