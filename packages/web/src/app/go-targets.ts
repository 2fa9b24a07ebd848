import { foldName } from '@jiko/core/schematic';

/** Something Ctrl K goes to. */
export interface GoTarget {
  kind: 'page' | 'job' | 'board' | 'net' | 'part' | 'sum' | 'word';
  title: string;
  /** What it is, or where: in small letters beside the title. */
  beside: string;
  /** Other words it is found by. */
  also: readonly string[];
  to: string;
}

/** How many of a kind are shown at once. */
const mostShown = 6;

/** Where two are hit equally well, the first of these comes first. */
const kindTitles: readonly [GoTarget['kind'], string][] = [
  ['net', 'Nets of this board'],
  ['part', 'Parts of this board'],
  ['page', 'Pages'],
  ['job', 'Jobs'],
  ['board', 'Boards'],
  ['sum', 'Sums'],
  ['word', 'Words'],
];

/** Found by the server in what was written of a job, not in its name. */
const rankOfWords = 3;

/**
 * The targets a few letters mean, by kind, the kind with the best hit first: the whole name, its beginning, the
 * beginning of a word in it, then anywhere in it. A net is found however a schematic writes its name
 * (`pltrst_n` is `PLTRST#`). Every word that is typed must be there; `jobs` were searched already.
 */
export function groupsFor(
  typed: string,
  targets: readonly GoTarget[],
  jobs: readonly GoTarget[] = [],
): { title: string; targets: GoTarget[] }[] {
  const asked = typed.trim();
  if (asked === '')
    return [{ title: 'Pages', targets: targets.filter(({ kind }) => kind === 'page') }];
  const ranked = [
    ...targets.map((target) => ({ target, rank: rankOf(asked, target) })),
    ...jobs.map((target) => ({ target, rank: Math.min(rankOfWords, rankOf(asked, target)) })),
  ]
    .filter(({ rank }) => rank < Infinity)
    .sort((a, b) => a.rank - b.rank || a.target.title.length - b.target.title.length);
  return kindTitles
    .flatMap(([kind, title]) => {
      const hits = ranked.filter(({ target }) => target.kind === kind);
      const [best] = hits;
      return best
        ? [
            {
              title,
              best: best.rank,
              targets: hits.slice(0, mostShown).map(({ target }) => target),
            },
          ]
        : [];
    })
    .sort((a, b) => a.best - b.best);
}

function rankOf(asked: string, { kind, title, also }: GoTarget): number {
  const [own, ...others] = [title, ...also].map((name) => rankOfName(asked, name));
  // What it is called comes before what is said of it.
  const named = Math.min(own!, ...others.map((rank) => rank + 0.5));
  if (kind !== 'net') return named;
  const [folded, name] = [foldName(asked), foldName(title)];
  return Math.min(named, folded !== '' && folded === name ? 0 : Infinity);
}

function rankOfName(asked: string, name: string): number {
  const [text, wanted] = [name.toLowerCase(), asked.toLowerCase()];
  if (text === wanted) return 0;
  if (text.startsWith(wanted)) return 1;
  const words = wanted.split(/\s+/);
  const parts = text.split(/[\s_,:]+/);
  if (words.every((word) => parts.some((part) => part.startsWith(word)))) return 2;
  return words.every((word) => text.includes(word)) ? 3 : Infinity;
}
