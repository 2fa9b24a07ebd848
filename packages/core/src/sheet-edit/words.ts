import type { SheetEdit } from './edits.ts';

/** A change in words, for the list of versions and for what is said after it. */
export function wordsOf(edit: SheetEdit, id: string): string {
  switch (edit.do) {
    case 'add-point':
      return `${id} is a point of its own: ${edit.title.trim()}${edit.net ? ` on ${edit.net}` : ''}`;
    case 'join':
      return `${edit.point} is ${edit.net}`;
    case 'split':
      return `${edit.point} is a net of its own`;
    case 'rename-net':
      return `${edit.net} is called ${edit.to}`;
    case 'alias':
      return `${edit.net} is also called ${edit.alias}`;
    case 'add-net':
      return `net ${id} added`;
    case 'set-net':
      return (
        [
          edit.volts && `${edit.net} is ${edit.volts} V`,
          edit.range && `${edit.net} is ${edit.range[0]} to ${edit.range[1]} V`,
          edit.title && `${edit.net}: ${edit.title}`,
        ]
          .filter(Boolean)
          .join(', ') || `${edit.net} changed`
      );
    case 'feed':
      return `${edit.net} is fed from ${edit.feed}${edit.enable ? `, let on by ${edit.enable}` : ''}${edit.powerGood ? `, says so on ${edit.powerGood}` : ''}`;
    case 'add-part':
      return `${edit.ref} (${edit.kind}) on ${edit.pins.join(' and ')}`;
    case 'add-chip':
      return `${edit.ref} (${edit.kind}) with ${edit.pins.length} pins`;
    case 'fitted':
      return edit.fitted ? `${edit.ref} is fitted` : `${edit.ref} is not fitted`;
  }
}
