import { parse } from 'yaml';
import { byName } from '../board/index.ts';

/** What changed between two versions of a sheet, in words: one line for each thing. */
export function compareSheets(before: string, after: string): string[] {
  const [old, now] = [asObject(before), asObject(after)];
  const lines: string[] = [];
  for (const key of ['title', 'revision', 'depth', 'notes'])
    if (text(old[key]) !== text(now[key]))
      lines.push(`${key}: ${text(old[key]) || 'none'} -> ${text(now[key]) || 'none'}`);
  for (const [room, one] of rooms) {
    const [a, b] = [asMap(old[room]), asMap(now[room])];
    const ids = [...new Set([...Object.keys(a), ...Object.keys(b)])].sort(byName);
    for (const id of ids) {
      const name = `${one}${id}`;
      if (!(id in a)) lines.push(`${name} added${brief(b[id])}`);
      else if (!(id in b)) lines.push(`${name} taken out`);
      else lines.push(...differences(name, asMap(a[id]), asMap(b[id])));
    }
  }
  lines.push(...differences('button', asMap(old.button), asMap(now.button)));
  return lines;
}

/** Rooms of a sheet, and what stands before a name in it: a part and a net are known by their names alone. */
const rooms = [
  ['nets', ''],
  ['parts', ''],
  ['chips', ''],
  ['stages', 'stage '],
  ['points', 'point '],
  ['sources', 'source '],
  ['goals', 'goal '],
  ['attachments', 'attachment '],
] as const;

function differences(name: string, a: Plain, b: Plain): string[] {
  const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])];
  return keys.flatMap((key) => {
    const [x, y] = [a[key], b[key]];
    if (text(x) === text(y)) return [];
    if (key === 'value') return [`${name} ${text(x) || 'no value'} -> ${text(y) || 'no value'}`];
    if (key === 'fitted') return [`${name} is ${y === false ? 'not fitted' : 'fitted'}`];
    if (key === 'pins' && isPlain(x) && isPlain(y))
      return differences(`${name} pin`, x, y).map((line) =>
        line.replace(' pin ', '.').replace(':', ' on'),
      );
    if (key === 'numbers') {
      const [old, now] = [asMap(x), asMap(y)];
      return [...new Set([...Object.keys(old), ...Object.keys(now)])].flatMap((pin) =>
        text(old[pin]) === text(now[pin])
          ? []
          : [`${name}.${pin} ${text(now[pin]) ? `is pin ${text(now[pin])}` : 'has no number'}`],
      );
    }
    if (key === 'after' || key === 'aliases' || key === 'gives') return listWords(name, key, x, y);
    return [`${name} ${keyWords[key] ?? key}: ${text(x) || 'none'} -> ${text(y) || 'none'}`];
  });
}

const keyWords: Record<string, string> = {
  powerGood: 'power-good',
  feed: 'feed',
  enable: 'enable',
};

function listWords(name: string, key: string, x: unknown, y: unknown): string[] {
  const [a, b] = [x, y].map((one) => (Array.isArray(one) ? one.map(text) : []));
  const added = b!.filter((one) => !a!.includes(one));
  const gone = a!.filter((one) => !b!.includes(one));
  const [does, stops] =
    key === 'after'
      ? ['now waits for', 'waits no more for']
      : key === 'aliases'
        ? ['is also called', 'is no more called']
        : ['now gives', 'gives no more'];
  return [
    ...(added.length > 0 ? [`${name} ${does} ${added.join(', ')}`] : []),
    ...(gone.length > 0 ? [`${name} ${stops} ${gone.join(', ')}`] : []),
  ];
}

type Plain = Record<string, unknown>;
const isPlain = (one: unknown): one is Plain =>
  typeof one === 'object' && one !== null && !Array.isArray(one);
const asMap = (one: unknown): Plain => (isPlain(one) ? one : {});

function asObject(sheet: string): Plain {
  try {
    return asMap(parse(sheet));
  } catch {
    return {};
  }
}

function text(value: unknown): string {
  if (value === undefined || value === null) return '';
  if (typeof value === 'string') return value;
  if (Array.isArray(value)) return value.map(text).join(', ');
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

function brief(value: unknown): string {
  const { kind, pins, value: size, title } = asMap(value);
  const said = [kind, size, Array.isArray(pins) ? pins.join(' to ') : '', title]
    .map(text)
    .filter((one) => one !== '');
  return said.length > 0 ? ` (${said.join(', ')})` : '';
}
