import { Document, isMap, isScalar } from 'yaml';
import type { Plain } from './draft.ts';

/** A sheet's content as YAML, one line for a net, part, stage or the like, as people write it. */
export function sheetText(content: Plain, comment: string): string {
  const document = new Document(content);
  document.commentBefore = comment
    .split('\n')
    .map((line) => ` ${line}`)
    .join('\n');
  if (isMap(document.contents)) {
    for (const { key, value } of document.contents.items) {
      if (!isMap(value)) continue;
      if (isScalar(key)) key.spaceBefore = true;
      for (const item of value.items) {
        const isLong = isMap(item.value) && item.value.has('does');
        if (isMap(item.value) && !isLong) item.value.flow = true;
      }
    }
  }
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });
}
