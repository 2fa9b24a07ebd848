import { isNode, LineCounter, parseDocument } from 'yaml';

/** Line of what stands at a path of a YAML text, or of the nearest thing above it; from 1. */
export function positionOf(text: string, path: readonly PropertyKey[]): number {
  const lines = new LineCounter();
  const document = parseDocument(text, { lineCounter: lines });
  for (let length = path.length; length > 0; length--) {
    const node = document.getIn(path.slice(0, length), true);
    if (isNode(node) && node.range) return lines.linePos(node.range[0]).line;
  }
  return 1;
}
