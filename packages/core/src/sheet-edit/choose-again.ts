import { isMap, parseDocument, type Document } from 'yaml';
import { fail, ok, type Result } from '../base/index.ts';
import { loadSheet, sheetIssueText, type Board } from '../board/index.ts';
import { choicesSchema, composeSheet, type Choices } from '../first-sheet/index.ts';
import type { EditedSheet } from './edit-sheet.ts';

type Plain = Record<string, unknown>;

/** The choices a sheet was made from; null for a sheet written otherwise. */
export function choicesOf(board: Board): Choices | null {
  const read = choicesSchema.safeParse(board.choices ?? undefined);
  return read.success ? read.data : null;
}

/**
 * The same sheet with other choices: what the choices made is made anew, what was put in or changed
 * since stays. Where the two meet, what was changed by hand stays as it is.
 */
export function chooseAgain(text: string, choices: Choices): Result<EditedSheet, string[]> {
  const before = loadSheet(text);
  if (!before.ok) return fail(before.error.map(sheetIssueText));
  const board = before.value;
  const old = choicesOf(board);
  if (!old) return fail(['This sheet was not made by choices: change it in Edit.']);
  const as = (one: Choices): Plain =>
    composeSheet({ title: board.title, marking: '', choices: one }, board.id);
  const document = parseDocument(text);
  const [was, is] = [as(old), as(choices)];
  const names = new Map(
    board.nets.flatMap((net) => net.aliases.map((alias) => [alias, net.id as string] as const)),
  );
  for (const key of new Set([...Object.keys(was), ...Object.keys(is)])) {
    if (key === 'revision') continue;
    merge(document, [key], was[key], is[key], names);
  }
  const after = document.toString({ lineWidth: 0, flowCollectionPadding: true });
  const loaded = loadSheet(after);
  if (!loaded.ok)
    return fail([
      'What was put in since does not fit these choices:',
      ...loaded.error.map(sheetIssueText),
    ]);
  return ok({ text: after, board: loaded.value, id: board.id, words: 'other choices' });
}

function merge(
  document: Document,
  path: string[],
  was: unknown,
  is: unknown,
  names: ReadonlyMap<string, string>,
): void {
  if (same(was, is)) return;
  const here =
    path.length === 2 && path[0] === 'nets' ? [path[0], names.get(path[1]!) ?? path[1]!] : path;
  const node = document.getIn(here);
  if (isPlain(was) && isPlain(is) && isMap(node) && path[0] !== 'choices') {
    for (const key of new Set([...Object.keys(was), ...Object.keys(is)]))
      merge(document, [...here, key], was[key], is[key], names);
    return;
  }
  const now = plain(document, here);
  // Changed by hand since: it stays.
  if (!same(now, was) && now !== undefined && path.length > 1 && path[0] !== 'choices') return;
  if (is === undefined) document.deleteIn(here);
  else
    document.setIn(here, document.createNode(is, { flow: here.length > 1 && !hasBehaviours(is) }));
}

const hasBehaviours = (one: unknown): boolean => isPlain(one) && 'does' in one;
const isPlain = (one: unknown): one is Plain =>
  typeof one === 'object' && one !== null && !Array.isArray(one);

function plain(document: Document, path: string[]): unknown {
  const node: unknown = document.getIn(path, true);
  if (node === undefined || node === null) return undefined;
  return (node as { toJS(document: Document): unknown }).toJS(document);
}

/** Alike in content, whatever the order of keys. */
function same(a: unknown, b: unknown): boolean {
  if (isPlain(a) && isPlain(b)) {
    const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
    return [...keys].every((key) => same(a[key], b[key]));
  }
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((one, at) => same(one, b[at]));
  return a === b;
}
