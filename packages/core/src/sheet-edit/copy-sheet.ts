import { parseDocument } from 'yaml';

/** The same sheet as another board: another id and title, everything else and the comments as they are. */
export function copySheet(text: string, id: string, title: string): string {
  const document = parseDocument(text);
  document.set('id', id);
  document.set('title', title.slice(0, 80));
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });
}
