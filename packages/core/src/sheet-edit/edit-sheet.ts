import { Document, isMap, parseDocument } from 'yaml';
import { fail, ok, type Result } from '../base/index.ts';
import { loadSheet, sheetIssueText, type Board, netById } from '../board/index.ts';
import type { SheetEdit } from './edits.ts';
import { renameNet } from './rename-net.ts';
import { wordsOf } from './words.ts';

/** A sheet after a change: its text, the board it gives, and the change in words. */
export interface EditedSheet {
  text: string;
  board: Board;
  /** The point, part or net that was added or touched. */
  id: string;
  words: string;
}

/**
 * Makes a change in the text of a sheet; comments and everything else stay as they are. What cannot be
 * done, or would leave a sheet that does not load, is said and not done.
 */
export function editSheet(
  text: string,
  edit: SheetEdit,
  /** The board of `text`, where it was read before. */
  known: Board | null = null,
): Result<EditedSheet, string[]> {
  const before = known ? ok(known) : loadSheet(text);
  if (!before.ok) return fail(before.error.map(sheetIssueText));
  const document = parseDocument(text);
  const done = change(document, before.value, edit);
  if (!done.ok) return done;
  const after = document.toString({ lineWidth: 0, flowCollectionPadding: true });
  const board = loadSheet(after);
  if (!board.ok) return fail(board.error.map(sheetIssueText));
  return ok({ text: after, board: board.value, id: done.value, words: wordsOf(edit, done.value) });
}

function change(document: Document, board: Board, edit: SheetEdit): Result<string, string[]> {
  const { netNamed, isTaken } = namesOf(board);
  const needNet = (name: string): Result<string, string[]> => {
    const net = netNamed(name);
    return net ? ok(net) : fail([`There is no net ${name} on this sheet.`]);
  };
  switch (edit.do) {
    case 'add-point': {
      const title = edit.title.trim();
      if (title === '') return fail(['Say where the point is.']);
      const id = freeName('P', isTaken);
      let net = id;
      if (edit.net === null) put(document, ['nets', id], { kind: 'signal', unnamed: true, title });
      else {
        const known = needNet(edit.net);
        if (!known.ok) return known;
        net = known.value;
      }
      put(document, ['points', id], { net, title, ...(edit.side ? { side: edit.side } : {}) });
      return ok(id);
    }
    case 'join': {
      const point = board.points.find((one) => one.id === edit.point);
      if (!point) return fail([`There is no point ${edit.point} on this sheet.`]);
      const net = needNet(edit.net);
      if (!net.ok) return net;
      if (net.value === point.net) return fail([`${edit.point} is on ${net.value} already.`]);
      const own = netById(board, point.net);
      if (own?.isUnnamed && board.points.filter((one) => one.net === own.id).length === 1)
        document.deleteIn(['nets', own.id]);
      // A name of the net's own, so that what was typed under it is found.
      const aliases = netById(board, net.value)?.aliases ?? [];
      if (own?.isUnnamed && !document.hasIn(['nets', own.id]))
        put(document, ['nets', net.value, 'aliases'], [...aliases, own.id]);
      document.setIn(['points', edit.point, 'net'], net.value);
      return ok(edit.point);
    }
    case 'split': {
      const point = board.points.find((one) => one.id === edit.point);
      if (!point) return fail([`There is no point ${edit.point} on this sheet.`]);
      const net = netById(board, point.net);
      if (net?.isUnnamed) return fail([`${edit.point} has a net of its own already.`]);
      const rest = (net?.aliases ?? []).filter((one) => one !== edit.point);
      if (net && rest.length < net.aliases.length) {
        if (rest.length > 0) put(document, ['nets', net.id, 'aliases'], rest);
        else document.deleteIn(['nets', net.id, 'aliases']);
      }
      put(document, ['nets', edit.point], {
        kind: 'signal',
        unnamed: true,
        title: point.title || edit.point,
      });
      document.setIn(['points', edit.point, 'net'], edit.point);
      return ok(edit.point);
    }
    case 'rename-net': {
      const net = needNet(edit.net);
      if (!net.ok) return net;
      const to = edit.to.trim();
      if (!/^\S{1,64}$/.test(to)) return fail(['A name has no spaces and at most 64 characters.']);
      const taken = netNamed(to);
      if (taken !== null && taken !== net.value)
        return fail([`${to} is the name of another net: join the two instead.`]);
      renameNet(document, board, net.value, to);
      return ok(to);
    }
    case 'alias': {
      const net = needNet(edit.net);
      if (!net.ok) return net;
      const alias = edit.alias.trim();
      if (!/^\S{1,64}$/.test(alias))
        return fail(['A name has no spaces and at most 64 characters.']);
      if (netNamed(alias) !== null) return fail([`${alias} is taken already.`]);
      const aliases = netById(board, net.value)?.aliases ?? [];
      put(document, ['nets', net.value, 'aliases'], [...aliases, alias]);
      return ok(net.value);
    }
    case 'add-net': {
      const net = edit.net.trim();
      if (!/^\S{1,64}$/.test(net)) return fail(['A name has no spaces and at most 64 characters.']);
      if (netNamed(net) !== null) return fail([`${net} is on this sheet already.`]);
      put(document, ['nets', net], {
        kind: edit.kind,
        ...(edit.volts ? { volts: edit.volts } : {}),
        ...(edit.title ? { title: edit.title } : {}),
      });
      return ok(net);
    }
    case 'set-net': {
      const net = needNet(edit.net);
      if (!net.ok) return net;
      const set = (key: string, value: unknown): void => {
        if (value === undefined) return;
        if (value === null || value === '') document.deleteIn(['nets', net.value, key]);
        else put(document, ['nets', net.value, key], value);
      };
      set('kind', edit.kind);
      set('title', edit.title);
      set('volts', edit.volts);
      set('range', edit.range);
      // A value takes the place of a range, and the other way round.
      if (edit.volts) set('range', null);
      if (edit.range) set('volts', null);
      set('load', edit.load);
      set('origin', edit.origin);
      return ok(net.value);
    }
    case 'feed': {
      const net = needNet(edit.net);
      if (!net.ok) return net;
      const named = [edit.feed, edit.enable, edit.powerGood].filter((one) => one !== null);
      for (const one of named) {
        const known = needNet(String(one).split(/\s*[<>]/)[0] as string);
        if (!known.ok) return known;
        if (known.value === net.value) return fail([`${net.value} cannot feed or enable itself.`]);
      }
      const stage = board.stages.find((one) => one.gives.includes(net.value as never));
      if (stage && stage.by.length > 0)
        return fail([
          `${net.value} is made by ${stage.by.join(', ')} on this sheet: change its pins in Edit.`,
        ]);
      const id = stage?.id ?? idFrom(net.value, (one) => board.stages.some(({ id }) => id === one));
      if (!stage) put(document, ['stages', id], { title: net.value, gives: [net.value] });
      const before = document.getIn(['stages', id, 'enable']);
      // The same net keeps its threshold.
      const isKept = typeof before === 'string' && before.split(/\s*[<>]/)[0] === edit.enable;
      const set = (key: string, value: unknown): void => {
        if (value === null) document.deleteIn(['stages', id, key]);
        else put(document, ['stages', id, key], value);
      };
      set('feed', edit.feed);
      if (!isKept)
        set(
          'enable',
          edit.enable && (/[<>]/.test(edit.enable) ? edit.enable : `${edit.enable} > 1.5`),
        );
      if (edit.after !== undefined) set('after', edit.after.length > 0 ? edit.after : null);
      set('powerGood', edit.powerGood);
      return ok(net.value);
    }
    case 'add-part': {
      if (isTaken(edit.ref)) return fail([`${edit.ref} is on this sheet already.`]);
      put(document, ['parts', edit.ref], {
        kind: edit.kind,
        pins: edit.pins,
        ...(edit.value ? { value: edit.value } : {}),
      });
      return ok(edit.ref);
    }
    case 'add-chip': {
      if (isTaken(edit.ref)) return fail([`${edit.ref} is on this sheet already.`]);
      if (edit.pins.length === 0) return fail(['A chip needs at least one pin.']);
      const twice = edit.pins.find(
        ({ pin }, at) => edit.pins.findIndex((one) => one.pin === pin) < at,
      );
      if (twice)
        return fail([`Pin ${twice.pin} is there twice: write a number behind one of them.`]);
      put(document, ['chips', edit.ref], {
        kind: edit.kind,
        ...(edit.title ? { title: edit.title } : {}),
        ...(edit.volts ? { volts: edit.volts } : {}),
        pins: Object.fromEntries(edit.pins.map(({ pin, net }) => [pin, net])),
        ...numbersOf(edit.pins),
      });
      return ok(edit.ref);
    }
    case 'fitted': {
      const room = board.parts.some((one) => one.ref === edit.ref)
        ? 'parts'
        : board.chips.some((one) => one.ref === edit.ref && !one.virtual)
          ? 'chips'
          : null;
      if (room === null) return fail([`${edit.ref} is not drawn on this sheet.`]);
      if (edit.fitted) document.deleteIn([room, edit.ref, 'fitted']);
      else document.setIn([room, edit.ref, 'fitted'], false);
      return ok(edit.ref);
    }
  }
}

function numbersOf(pins: readonly { pin: string; number?: string }[]): {
  numbers?: Record<string, string | number>;
} {
  const known = pins.flatMap(({ pin, number }) =>
    number ? [[pin, /^\d+$/.test(number) ? Number(number) : number]] : [],
  );
  return known.length > 0 ? { numbers: Object.fromEntries(known) as never } : {};
}

/** Sets a value, one line for what was not there; rooms that are missing are made. */
function put(document: Document, path: (string | number)[], value: unknown): void {
  const node = document.createNode(value, { flow: path.length > 1 });
  for (let length = 1; length < path.length; length++) {
    const above = path.slice(0, length);
    if (isMap(document.getIn(above))) continue;
    document.setIn(above, document.createNode({}));
    // "points: {}" would stay on one line for good.
    const made = document.getIn(above);
    if (isMap(made)) made.flow = false;
  }
  const room = document.getIn(path.slice(0, -1));
  if (isMap(room) && path.length === 2 && room.items.length === 0) room.flow = false;
  document.setIn(path, node);
}

function namesOf(board: Board): {
  netNamed: (name: string) => string | null;
  isTaken: (name: string) => boolean;
} {
  const nets = new Map<string, string>();
  for (const net of board.nets)
    for (const name of [net.id, ...net.aliases]) nets.set(name.toUpperCase(), net.id);
  const others = new Set(
    [...board.parts, ...board.chips].map((one) => one.ref.toUpperCase() as string),
  );
  for (const { id } of board.points) others.add(id.toUpperCase());
  return {
    netNamed: (name) => nets.get(name.trim().toUpperCase()) ?? null,
    isTaken: (name) => nets.has(name.toUpperCase()) || others.has(name.toUpperCase()),
  };
}

function freeName(letter: string, isTaken: (name: string) => boolean): string {
  for (let number = 1; ; number++) if (!isTaken(`${letter}${number}`)) return `${letter}${number}`;
}

function idFrom(net: string, isTaken: (id: string) => boolean): string {
  const plain =
    net
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'stage';
  for (let number = 1; ; number++) {
    const id = number === 1 ? plain : `${plain}-${number}`;
    if (!isTaken(id)) return id;
  }
}
