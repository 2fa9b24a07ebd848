/** A list or a word of an s-expression, with the line it begins on. */
export type Node = { line: number } & ({ word: string } | { list: Node[] });

export type Parsed = { ok: true; root: Node } | { ok: false; line: number; why: string };

/** Deeper than any netlist; what is deeper is meant to hurt. */
const deepest = 64;

/**
 * Reads one s-expression: lists in round brackets, words, strings in quotes with backslashes. Read
 * without recursion, so that deep nesting is refused and not run into.
 */
export function parseSExpression(text: string): Parsed {
  const pattern = /\s+|[()]|"((?:[^"\\]|\\.)*)"|[^\s()"]+/gsy;
  const open: { line: number; list: Node[] }[] = [];
  let line = 1;
  let root: Node | null = null;
  for (let at = 0; at < text.length; at = pattern.lastIndex) {
    pattern.lastIndex = at;
    const found = pattern.exec(text);
    if (!found) return { ok: false, line, why: 'a quotation mark is not closed' };
    const [token, quoted] = found;
    const here = line;
    line += token.match(/\n/g)?.length ?? 0;
    if (/^\s/.test(token)) continue;
    if (root) return { ok: false, line: here, why: 'something stands behind the last bracket' };
    if (token === '(') {
      if (open.length >= deepest)
        return { ok: false, line: here, why: `brackets are more than ${deepest} deep` };
      open.push({ line: here, list: [] });
      continue;
    }
    let node: Node;
    if (token === ')') {
      const closed = open.pop();
      if (!closed) return { ok: false, line: here, why: 'a bracket is closed that was not opened' };
      node = closed;
    } else
      node = { line: here, word: quoted === undefined ? token : quoted.replace(/\\(.)/gs, '$1') };
    const above = open.at(-1);
    if (above) above.list.push(node);
    else root = node;
  }
  if (open.length > 0)
    return { ok: false, line, why: `the file ends with ${open.length} brackets open` };
  return root ? { ok: true, root } : { ok: false, line: 1, why: 'the file is empty' };
}

/** The lists of a list that begin with a word. */
export const listsOf = (node: Node, head: string): (Node & { list: Node[] })[] =>
  'list' in node
    ? node.list.filter(
        (one): one is Node & { list: Node[] } =>
          'list' in one &&
          one.list[0] !== undefined &&
          'word' in one.list[0] &&
          one.list[0].word === head,
      )
    : [];

/** The word behind the head of the first such list: `(ref R1)` gives R1. */
export function wordOf(node: Node, head: string): string | null {
  const second = listsOf(node, head)[0]?.list[1];
  return second && 'word' in second ? second.word : null;
}

/** A word as it has to be written. */
export const quoted = (word: string): string => `"${word.replace(/[\\"]/g, '\\$&')}"`;
