import { isMap, isScalar, parseDocument, type Document } from 'yaml';
import { fail, ok, type Result } from '../base/index.ts';
import {
  findNet,
  loadSheet,
  partValue,
  pinNames,
  sheetIssueText,
  type Board,
  type PartKind,
  findPart,
} from '../board/index.ts';
import { mergeNets, renameNet } from '../sheet-edit/index.ts';
import type { Join } from './blanks.ts';
import type { NetCandidate, PartCandidate } from './candidates.ts';
import { foldName } from './names.ts';

/** What was ticked. */
export interface Taking {
  /** Nets of the sheet that are nets of the document under other names. */
  joins: readonly Join[];
  nets: readonly NetCandidate[];
  parts: readonly PartCandidate[];
  /** Names are exact, as a netlist's are: none is taken for another by its likeness. */
  isExact?: boolean;
}

/** A sheet with what was ticked taken in. */
export interface Taken {
  text: string;
  board: Board;
  /** What was done, a line each. */
  done: string[];
  /** What stays open, with why. */
  left: string[];
}

/**
 * Takes candidates of a document into the text of a sheet; comments and what the sheet says already stay.
 * Chips come in with their pins and do nothing of themselves: what makes a rail is said in the sheet.
 */
export function takeIn(
  text: string,
  { joins, nets, parts, isExact = false }: Taking,
): Result<Taken, string[]> {
  const done: string[] = [];
  const left: string[] = [];
  let now = text;
  for (const join of joins) {
    const board = loaded(now);
    if (!board.ok) return board;
    const from = findNet(board.value, join.net)?.id;
    if (!from) {
      left.push(`${join.net} is not on the sheet any more.`);
      continue;
    }
    const document = parseDocument(now);
    dropStandIns(document, board.value, from);
    const known = netNamed(board.value, join.to);
    if (known === from) {
      if (join.to === known) continue;
      renameNet(document, board.value, from, join.to);
      done.push(`${from} is written ${join.to}`);
    } else if (known) {
      mergeNets(document, board.value, from, known);
      done.push(`${from} is ${known}`);
    } else {
      renameNet(document, board.value, from, join.to);
      done.push(`${from} is ${join.to}`);
    }
    now = write(document);
  }
  const board = loaded(now);
  if (!board.ok) return board;
  const document = parseDocument(now);
  const nameOf = (name: string): string | null =>
    isExact ? (findNet(board.value, name)?.id ?? null) : netNamed(board.value, name);
  const fresh = new Set<string>();
  const addNet = (net: NetCandidate): void => {
    if (nameOf(net.name) || fresh.has(net.name)) return;
    fresh.add(net.name);
    put(document, ['nets', net.name], {
      kind: net.kind,
      ...(net.kind === 'rail' && net.volts !== null ? { volts: net.volts } : {}),
      origin: net.volts !== null ? 'rule-of-thumb' : 'schematic',
      ...(net.also.length > 0 ? { aliases: net.also } : {}),
    });
  };
  for (const net of nets) {
    const known = nameOf(net.name);
    if (known) continue;
    if (net.kind === 'ground') {
      if (!isExact) continue;
      // A sheet has one ground. Whether another one is joined to it is for somebody to say.
      addNet({ ...net, kind: 'signal' });
      left.push(
        `${net.name} is kept apart from ${board.value.ground}: say that they are one where the board joins them.`,
      );
      continue;
    }
    addNet(net);
    done.push(`${net.name} added (${net.kind})`);
  }
  const byFold = new Map(nets.map((one) => [foldName(one.name), one]));
  const onSheet = (name: string | null): string | null => {
    if (name === null) return null;
    const known = nameOf(name);
    if (known) return known;
    if (isExact) return fresh.has(name) ? name : null;
    const candidate = byFold.get(foldName(name));
    return candidate && fresh.has(candidate.name) ? candidate.name : null;
  };
  const taken = new Set<string>([
    ...board.value.parts.map((one) => one.ref as string),
    ...board.value.chips.map((one) => one.ref as string),
  ]);
  for (const part of parts) {
    if (taken.has(part.ref) && !makeRoom(document, board.value, part.ref)) {
      left.push(`${part.ref} is on the sheet already.`);
      continue;
    }
    const why = addPart(document, part, onSheet);
    if (why !== null) left.push(`${part.ref}: ${why}`);
    else {
      taken.add(part.ref);
      done.push(`${part.ref} added (${part.kind ?? 'chip'})`);
    }
  }
  const after = loaded(write(document));
  if (!after.ok) return after;
  return ok({ text: write(document), board: after.value, done, left });
}

/** What a first sheet guessed to lead to a converter's feed goes, once it is known where the feed comes from. */
function dropStandIns(document: Document, board: Board, net: string): void {
  const isFeed = board.stages.some(({ id }) => document.getIn(['stages', id, 'feed']) === net);
  if (!isFeed) return;
  for (const { ref, isGuess, kind, pins } of board.parts)
    if (isGuess && kind === 'resistor' && ref.startsWith('WAY_') && pins[1]?.net === net)
      document.deleteIn(['parts', ref]);
}

/** A stand-in that nobody looked up makes room for the part that has its name on the board. */
function makeRoom(document: Document, board: Board, ref: string): boolean {
  const old = findPart(board, ref);
  if (!old?.isGuess) return false;
  const parts = document.get('parts');
  const pair = isMap(parts)
    ? parts.items.find((one) => isScalar(one.key) && one.key.value === ref)
    : undefined;
  if (!pair || !isScalar(pair.key)) return false;
  pair.key.value = `GUESS_${ref}`;
  return true;
}

/** Null where it was added, else why not. */
function addPart(
  document: Document,
  part: PartCandidate,
  onSheet: (net: string | null) => string | null,
): string | null {
  const pins = part.pins.map((pin) => ({ ...pin, net: onSheet(pin.net) }));
  const common = part.isFitted ? {} : { fitted: false };
  if (part.kind === null) return 'what kind of part it is stands nowhere.';
  if (part.kind === 'connector') {
    const { pins: named } = chipPinsOf(
      pins.map((pin) => ({ ...pin, name: pin.name || pin.number })),
    );
    if (Object.keys(named).length === 0) return 'none of its pins is on a net that is known.';
    put(document, ['parts', part.ref], { kind: 'connector', pins: named, ...common });
    return null;
  }
  const ends = part.kind === 'chip' ? undefined : pinNames[part.kind];
  if (ends && ends[0] !== '1') {
    // Which way round it stands decides what it does: it is not guessed.
    const nets = ends.map((end) => pins.find((pin) => isPin(pin.name, end))?.net ?? null);
    if (nets.includes(null))
      return 'which of its pins is which is not written, or not on a known net.';
    const value = sheetValue(part.kind as PartKind, part.value);
    if (value === null) return 'it has no value.';
    put(document, ['parts', part.ref], {
      kind: part.kind,
      pins: nets,
      ...(value === '' ? {} : { value }),
      ...common,
    });
    return null;
  }
  if (part.kind === 'chip' || pins.length > 2) {
    const named = chipPinsOf(pins);
    if (Object.keys(named.pins).length === 0) return 'none of its pins is on a net that is known.';
    put(document, ['chips', part.ref], { kind: 'generic', ...named, ...common });
    return null;
  }
  const [a, b] = pins;
  if (pins.length !== 2 || !a || !b) return `${pins.length} ends were found, two are wanted.`;
  if (a.net === null || b.net === null) return 'one of its ends is on a net that is not known.';
  if (a.net === b.net) return `both its ends are on ${a.net}.`;
  const value = sheetValue(part.kind, part.value);
  if (value === null)
    return part.value === '' ? 'it has no value.' : `${part.value} is no value of a ${part.kind}.`;
  put(document, ['parts', part.ref], {
    kind: part.kind,
    pins: ends ? [a.net, b.net] : { 1: a.net, 2: b.net },
    ...(value === '' ? {} : { value }),
    ...common,
  });
  return null;
}

/** Words for the same end of a part; common practice, no source. */
const endWords: Readonly<Record<string, RegExp>> = {
  A: /^(?:A|AN|ANODE|\+)$/i,
  K: /^(?:K|C|CATHODE|-)$/i,
  G: /^(?:G|GATE)$/i,
  D: /^(?:D|DRAIN)$/i,
  S: /^(?:S|SOURCE)$/i,
  B: /^(?:B|BASE)$/i,
  C: /^(?:C|COLLECTOR)$/i,
  E: /^(?:E|EMITTER)$/i,
};

const isPin = (name: string, end: string): boolean => endWords[end]?.test(name) ?? name === end;

/** Pins by name; those that share one, or have none, by their number too. */
function chipPinsOf(pins: readonly { name: string; number: string; net: string | null }[]): {
  pins: Record<string, string>;
  numbers?: Record<string, string | number>;
} {
  const named: Record<string, string> = {};
  const numbers: Record<string, string | number> = {};
  for (const { name, number, net } of pins) {
    if (net === null) continue;
    const plain = /^[\w#+\-/]{1,32}$/.test(name) ? name : number === '' ? '' : `P${number}`;
    if (plain === '') continue;
    const key = plain in named ? `${plain}_${number || Object.keys(named).length}` : plain;
    named[key] = net;
    if (/^\d{1,4}$/.test(number)) numbers[key] = Number(number);
    else if (/^[A-Z]{1,2}\d{1,3}$/.test(number)) numbers[key] = number;
  }
  return { pins: named, ...(Object.keys(numbers).length > 0 ? { numbers } : {}) };
}

/**
 * A value as the sheet takes it: `10K_4` is 10k, `0.1U/16V` 0.1u. Empty where the kind needs none; null
 * where what is written is none.
 */
export function sheetValue(kind: PartKind, written: string): string | null {
  const bare = (written.split(/[/_@,]/)[0] ?? '')
    .replace(/[ΩFH]$|ohms?$/i, '')
    .replace(/µ|μ|U/g, 'u')
    .replace(/K/g, 'k')
    .replace(/N/g, 'n')
    .replace(/P/g, 'p');
  const value = partValue(kind, bare === '' ? undefined : bare);
  if (!value.ok) return null;
  return bare === '' || value.value === null ? '' : bare;
}

function netNamed(board: Board, name: string): string | null {
  const exact = findNet(board, name)?.id;
  if (exact) return exact;
  const folded = foldName(name);
  const found = board.nets.filter((one) =>
    [one.id as string, ...one.aliases].some((other) => foldName(other) === folded),
  );
  return found.length === 1 ? (found[0]?.id ?? null) : null;
}

function loaded(text: string): Result<Board, string[]> {
  const board = loadSheet(text);
  return board.ok ? board : fail(board.error.map(sheetIssueText));
}

const write = (document: Document): string =>
  document.toString({ lineWidth: 0, flowCollectionPadding: true });

function put(document: Document, [room, id]: [string, string], value: unknown): void {
  if (!isMap(document.get(room))) document.set(room, document.createNode({}));
  const map = document.get(room);
  if (isMap(map)) map.flow = false;
  document.setIn([room, id], document.createNode(value, { flow: true }));
}
