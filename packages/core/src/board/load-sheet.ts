import { LineCounter, isNode, isScalar, parseDocument, visit, type Document } from 'yaml';
import type { z } from 'zod';
import { contentHash, fail, ok, type Result } from '../base/index.ts';
import { sheetSchema, type Sheet } from './sheet-schema.ts';
import type { Board } from './board.ts';
import { buildBoard, type PathedIssue } from './build-board.ts';
import type { SheetIssue } from './sheet-issue.ts';

/**
 * Reads a sheet written in YAML or JSON (a subset of YAML). Every issue names its line, or the path
 * where there is no line. Nothing is returned unless the whole sheet can be used.
 */
export function loadSheet(text: string): Result<Board, SheetIssue[]> {
  const lines = new LineCounter();
  // The library's own check compares every key with every other.
  const document = parseDocument(text, { lineCounter: lines, uniqueKeys: false });
  if (document.errors.length > 0) {
    return fail(
      document.errors.slice(0, 20).map((error) => ({
        code: 'not-yaml' as const,
        path: '',
        line: error.linePos?.[0].line ?? 0,
        text: error.message.split('\n')[0] ?? '',
      })),
    );
  }
  const twice = repeatedKeys(document, lines);
  if (twice.length > 0) return fail(twice);
  keepSigns(document);
  let written: unknown;
  try {
    written = document.toJS({ maxAliasCount: 100 });
  } catch (error) {
    return fail([{ code: 'not-yaml', path: '', line: 0, text: (error as Error).message }]);
  }
  if (!isSheetLike(written)) return fail([{ code: 'not-a-sheet', path: '', line: 1 }]);

  const lineOf = lineFinder(document, lines);
  const parsed = sheetSchema.safeParse(written);
  if (!parsed.success) {
    return fail(
      parsed.error.issues.slice(0, 50).map((issue) => ({
        code: 'wrong-value' as const,
        path: pathText(issue.path),
        line: lineOf(issue.path),
        text: plainMessage(issue),
      })),
    );
  }
  return finish(parsed.data, text, lineOf);
}

function finish(
  sheet: Sheet,
  text: string,
  lineOf: (path: readonly PropertyKey[]) => number,
): Result<Board, SheetIssue[]> {
  const built = buildBoard(sheet, contentHash(text));
  if (built.ok) {
    linesOf.set(built.value, lineOf);
    return ok(built.value);
  }
  // Finding a line takes as long as the sheet is: nobody reads more than these at once.
  return fail(built.error.slice(0, mostIssues).map((issue) => withPlace(issue, lineOf)));
}

const mostIssues = 100;

const linesOf = new WeakMap<Board, (path: readonly PropertyKey[]) => number>();

/** The line of the sheet a board was read from that an entry stands on; null for a board changed since. */
export const sheetLine = (board: Board, path: readonly PropertyKey[]): number | null =>
  linesOf.get(board)?.(path) ?? null;

/** Turns a path in the sheet into the line it stands on. */
export function withPlace(
  { at, ...issue }: PathedIssue,
  lineOf: (path: readonly PropertyKey[]) => number,
): SheetIssue {
  return { ...issue, path: pathText(at), line: lineOf(at) } as SheetIssue;
}

export function lineFinder(
  document: Document,
  lines: LineCounter,
): (path: readonly PropertyKey[]) => number {
  return (path) => {
    // The nearest written ancestor, where the value itself is missing.
    for (let length = path.length; length > 0; length--) {
      const node: unknown = document.getIn(path.slice(0, length) as string[], true);
      if (isNode(node) && node.range) return lines.linePos(node.range[0]).line;
    }
    return 1;
  };
}

/** Keys written twice in one map: only the last would count. */
function repeatedKeys(document: Document, lines: LineCounter): SheetIssue[] {
  const found: SheetIssue[] = [];
  visit(document, {
    Map(_, { items }) {
      const seen = new Set<unknown>();
      for (const { key } of items) {
        if (!isScalar(key)) continue;
        if (seen.has(key.value) && found.length < 20)
          found.push({
            code: 'not-yaml',
            path: '',
            line: key.range ? lines.linePos(key.range[0]).line : 0,
            text: `Map keys must be unique: ${String(key.value)} is written twice`,
          });
        seen.add(key.value);
      }
    },
  });
  return found;
}

/** For lint, which works on a sheet already known to load. */
export function sheetLines(text: string): (path: readonly PropertyKey[]) => number {
  const lines = new LineCounter();
  return lineFinder(parseDocument(text, { lineCounter: lines }), lines);
}

function isSheetLike(written: unknown): boolean {
  return (
    typeof written === 'object' &&
    written !== null &&
    (written as { format?: unknown }).format === 'jiko-board/1'
  );
}

/** A net called +5 keeps its sign: YAML would read a name that looks like a number as that number. */
const keepSigns = (document: Document): void =>
  visit(document, {
    Pair(_, { key }) {
      if (isScalar(key) && typeof key.value === 'number' && key.source?.startsWith('+'))
        key.value = key.source;
    },
  });

const pathText = (path: readonly PropertyKey[]): string => path.map(String).join(' › ');

function plainMessage(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'unrecognized_keys':
      return `unknown word ${issue.keys.map((key) => `"${key}"`).join(', ')}`;
    case 'invalid_type':
      if (issue.message.includes('undefined')) return `is missing (${issue.expected} wanted)`;
      return issue.expected === 'string' && /received (number|boolean)/.test(issue.message)
        ? 'must be text: a name that looks like a number, as +5 or +3.3, goes in quotes ("+5")'
        : `must be ${issue.expected}`;
    case 'invalid_value':
      return `must be one of: ${issue.values.map(String).join(', ')}`;
    case 'invalid_union': {
      const first = issue.errors.flat()[0];
      return first ? plainMessage(first) : issue.message;
    }
    default:
      return issue.message;
  }
}
