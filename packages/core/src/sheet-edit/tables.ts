import { isMap, isScalar, parseDocument, type Document } from 'yaml';
import { fail, ok, type Result } from '../base/index.ts';
import { loadSheet } from '../board/index.ts';
import { renameNet } from './rename-net.ts';

/** A row of a table: cells as text; `was` is the name it had in the sheet, null for a new one. */
export interface SheetRow {
  was: string | null;
  [cell: string]: string | null;
}

export type SheetTable = keyof typeof tables;

/** How a cell stands in the sheet. */
type CellKind = 'text' | 'number' | 'list' | 'pins' | 'range' | 'fitted' | 'name';
interface Cell {
  key: string;
  title: string;
  kind: CellKind;
  /** Part of the width. */
  wide?: number;
}

const name = (title: string): Cell => ({ key: 'name', title, kind: 'name', wide: 2 });
const cell = (key: string, title: string, kind: CellKind = 'text', wide = 1): Cell => ({
  key,
  title,
  kind,
  wide,
});
const place = [cell('side', 'Side'), cell('x', 'x', 'number', 0.8), cell('y', 'y', 'number', 0.8)];

/** Tables of a sheet with their cells, in the order they are shown. */
export const tables = {
  nets: [
    name('Net'),
    cell('kind', 'Kind', 'text', 1.4),
    cell('volts', 'Volts', 'range'),
    cell('load', 'Amps', 'number'),
    cell('origin', 'From'),
    cell('aliases', 'Also called', 'list', 1.5),
    cell('title', 'What it is', 'text', 3),
  ],
  parts: [
    name('Part'),
    cell('kind', 'Kind', 'text', 1.8),
    cell('pins', 'Pins on', 'pins', 3),
    cell('value', 'Value'),
    cell('fitted', 'Fitted', 'fitted'),
    ...place,
    cell('marking', 'Marking'),
    cell('title', 'What it is', 'text', 2),
  ],
  chips: [
    name('Chip'),
    cell('kind', 'Kind', 'text', 2.2),
    cell('volts', 'Volts', 'number'),
    cell('limit', 'Limit A', 'number'),
    cell('threshold', 'Threshold V', 'number'),
    cell('fitted', 'Fitted', 'fitted'),
    ...place,
    cell('title', 'What it is', 'text', 2),
  ],
  stages: [
    name('Stage'),
    cell('title', 'Title', 'text', 2),
    cell('gives', 'Gives', 'list', 2),
    cell('by', 'By', 'list'),
    cell('feed', 'Feed'),
    cell('enable', 'Enable'),
    cell('after', 'After', 'list', 2),
    cell('powerGood', 'Power-good'),
    cell('limit', 'Limit A', 'number'),
  ],
  points: [
    name('Point'),
    cell('net', 'Net'),
    cell('part', 'Part'),
    cell('pin', 'Pin'),
    ...place,
    cell('title', 'Where it is', 'text', 3),
  ],
  sources: [
    name('Source'),
    cell('kind', 'Kind', 'text', 1.5),
    cell('title', 'Title', 'text', 2),
    cell('net', 'Net'),
    cell('volts', 'Volts', 'number'),
    cell('limit', 'Limit A', 'number'),
  ],
  goals: [
    name('Goal'),
    cell('title', 'Title', 'text', 2),
    cell('reached', 'Reached when', 'list', 3),
    cell('phase', 'Phase'),
    cell('with', 'With', 'list'),
  ],
} satisfies Record<string, Cell[]>;

/** Pins of chips, one row each. */
export const pinCells: Cell[] = [
  cell('chip', 'Chip'),
  cell('number', 'Number'),
  cell('pin', 'Pin'),
  cell('net', 'Net', 'text', 2),
];

const shown = (value: unknown): string => {
  if (value === undefined || value === null) return '';
  if (Array.isArray(value)) return value.map(shown).join(', ');
  if (typeof value === 'object')
    return Object.entries(value as Record<string, unknown>)
      .map(([key, one]) => `${key}: ${shown(one)}`)
      .join(', ');
  return String(value);
};

function textOf(content: Record<string, unknown>, { key, kind }: Cell): string {
  if (kind === 'range' && Array.isArray(content.range))
    return content.range.map(shown).join(' to ');
  if (kind === 'fitted') return content.fitted === false ? 'no' : '';
  return shown(content[key]);
}

/** The rows of a table as the sheet has them; none where the text cannot be read. */
export function rowsOf(text: string, table: SheetTable): SheetRow[] {
  const content = contentOf(text, table);
  return Object.entries(content).map(([id, value]) => {
    const of = (value ?? {}) as Record<string, unknown>;
    const cells = (tables[table] as Cell[]).map((one) => [
      one.key,
      one.kind === 'name' ? id : textOf(of, one),
    ]);
    return { was: id, ...Object.fromEntries(cells) } as SheetRow;
  });
}

export function pinRowsOf(text: string): SheetRow[] {
  const content = contentOf(text, 'chips');
  return Object.entries(content).flatMap(([chip, value]) => {
    const { pins = {}, numbers = {} } = (value ?? {}) as Record<
      'pins' | 'numbers',
      Record<string, unknown> | undefined
    >;
    return Object.entries(pins).map(([pin, net]) => ({
      was: `${chip}.${pin}`,
      chip,
      number: shown(numbers[pin]),
      pin,
      net: shown(net),
    }));
  });
}

/** The last text that was read: all tables of it are asked for, one after another. */
let last: { text: string; document: Document } | null = null;

/** The document of a text, to be changed: nobody else reads it any more. Null where the text cannot be read. */
function taken(text: string): Document | null {
  const document = last?.text === text ? last.document : parseDocument(text, { uniqueKeys: false });
  if (document.errors.length > 0) return null;
  last = null;
  return document;
}

/** The text of a changed document, which is read from it the next time. */
function given(document: Document): string {
  const text = write(document);
  last = { text, document };
  return text;
}

/** Not to be changed by anybody: it is what the next one reads. */
function contentOf(text: string, room: string): Record<string, unknown> {
  if (last?.text !== text) last = { text, document: parseDocument(text, { uniqueKeys: false }) };
  const { document } = last;
  if (document.errors.length > 0) return {};
  const node = document.get(room);
  return isMap(node) ? (node.toJS(document) as Record<string, unknown>) : {};
}

/**
 * The text with a table as its rows say: cells that differ are set, rows that are gone taken out, new
 * ones put at the end; all else, comments too, stays. Rows without a name are not there yet. The text
 * may then hold what cannot be used: lint says so, nothing typed is refused here.
 */
export function withRows(
  text: string,
  table: SheetTable,
  rows: readonly SheetRow[],
): Result<string, string[]> {
  const before = new Map(rowsOf(text, table).map((row) => [row.was as string, row]));
  const names = rows.map((row) => (row.name ?? '').trim()).filter((one) => one !== '');
  const twice = names.find((one, at) => names.indexOf(one) < at);
  if (twice) return fail([`${twice} is there twice.`]);
  const document = taken(text);
  if (!document) return fail(['The text beside cannot be read: put it right first.']);
  const kept = new Set(rows.map((row) => row.was).filter((one) => one !== null));
  for (const was of before.keys()) if (!kept.has(was)) document.deleteIn([table, was]);
  for (const row of rows) {
    const id = (row.name ?? '').trim();
    if (id === '') continue;
    const old = row.was === null ? undefined : before.get(row.was);
    if (row.was !== null && old && row.was !== id) rename(document, text, table, row.was, id);
    for (const one of tables[table] as Cell[])
      if (one.kind !== 'name' && (row[one.key] ?? '') !== (old?.[one.key] ?? ''))
        setCell(document, [table, id], one, (row[one.key] ?? '').trim());
    if (!document.hasIn([table, id]))
      put(document, [table, id], document.createNode({}, { flow: true }));
  }
  return ok(given(document));
}

/** The same for the pins of chips; a chip that is not in the sheet is made. */
export function withPinRows(text: string, rows: readonly SheetRow[]): Result<string, string[]> {
  const keyOf = (row: SheetRow): string => `${(row.chip ?? '').trim()}.${(row.pin ?? '').trim()}`;
  const before = new Map(pinRowsOf(text).map((row) => [row.was as string, row]));
  const now = new Set(rows.map(keyOf));
  const document = taken(text);
  if (!document) return fail(['The text beside cannot be read: put it right first.']);
  for (const [was, row] of before)
    if (!now.has(was))
      for (const room of ['pins', 'numbers'])
        takeOut(document, ['chips', row.chip as string, room, row.pin as string]);
  for (const row of rows) {
    const [chip, pin, net] = [row.chip, row.pin, row.net].map((one) => (one ?? '').trim());
    const number = (row.number ?? '').trim();
    const old = before.get(keyOf(row));
    if (!chip || !pin || !net) continue;
    if (old?.net === net && (old.number ?? '') === number) continue;
    if (!document.hasIn(['chips', chip]))
      put(document, ['chips', chip], document.createNode({ kind: 'generic' }, { flow: true }));
    if (!document.hasIn(['chips', chip, 'pins']))
      document.setIn(['chips', chip, 'pins'], document.createNode({}, { flow: true }));
    document.setIn(['chips', chip, 'pins', pin], net);
    if (number === '') takeOut(document, ['chips', chip, 'numbers', pin]);
    else {
      if (!document.hasIn(['chips', chip, 'numbers']))
        document.setIn(['chips', chip, 'numbers'], document.createNode({}, { flow: true }));
      document.setIn(['chips', chip, 'numbers', pin], plainNumber(number));
    }
  }
  return ok(given(document));
}

/** The library takes nothing out of a room that is not there. */
function takeOut(document: Document, at: string[]): void {
  if (document.hasIn(at)) document.deleteIn(at);
}

const write = (document: Document): string =>
  document.toString({ lineWidth: 0, flowCollectionPadding: true });

function put(document: Document, [room, id]: [string, string], node: unknown): void {
  if (!isMap(document.get(room))) document.set(room, document.createNode({}));
  const map = document.get(room);
  if (isMap(map) && map.items.length === 0) map.flow = false;
  document.setIn([room, id], node);
}

function setCell(document: Document, at: [string, string], one: Cell, typed: string): void {
  const set = (key: string, value: unknown): void => {
    if (value === undefined) takeOut(document, [...at, key]);
    else if (document.hasIn(at) && isMap(document.getIn(at)))
      document.setIn([...at, key], document.createNode(value, { flow: true }));
    else put(document, at, document.createNode({ [key]: value }, { flow: true }));
  };
  const list = typed
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '');
  switch (one.kind) {
    case 'text':
    case 'name':
      return set(one.key, typed === '' ? undefined : typed);
    case 'number':
      return set(one.key, typed === '' ? undefined : plainNumber(typed));
    case 'list':
      return set(one.key, list.length === 0 ? undefined : list);
    case 'fitted':
      return set('fitted', /^(no|n|false|0)$/i.test(typed) ? false : undefined);
    case 'range': {
      const ends = typed.split(/\s*(?:to|\.\.|–)\s*/);
      const isRange = ends.length === 2;
      set('range', isRange ? ends.map(plainNumber) : undefined);
      return set('volts', isRange || typed === '' ? undefined : plainNumber(typed));
    }
    case 'pins': {
      const named = list.map((part) => /^([^:\s]+)\s*:\s*(\S+)$/.exec(part));
      if (list.length > 0 && named.every((part) => part !== null))
        return set('pins', Object.fromEntries(named.map((part) => [part![1], part![2]])));
      return set('pins', list.length === 0 ? undefined : list);
    }
  }
}

/** `3.3` and `3,3` as numbers; anything else as it was typed: `4k7`, `2m`. */
const plainNumber = (typed: string): number | string => {
  const number = Number(typed.replace(',', '.'));
  return Number.isFinite(number) && typed !== '' ? number : typed;
};

function rename(
  document: Document,
  text: string,
  table: SheetTable,
  was: string,
  to: string,
): void {
  const loaded = table === 'nets' ? loadSheet(text) : null;
  if (loaded?.ok) return renameNet(document, loaded.value, was, to);
  const map = document.get(table);
  const pair = isMap(map)
    ? map.items.find((one) => isScalar(one.key) && one.key.value === was)
    : null;
  if (pair && isScalar(pair.key)) pair.key.value = to;
}
