import { isMap, parseDocument } from 'yaml';
import { fail, ok, type Result } from '../../base/index.ts';
import {
  chipKinds,
  findNet,
  loadSheet,
  partKinds,
  readNetName,
  sheetIssueText,
  type Board,
  type PartKind,
} from '../../board/index.ts';
import {
  netKindByName,
  netRoleByName,
  partKindByLetters,
  takeIn,
  type Candidates,
  type Taken,
} from '../../schematic/index.ts';
import type { Netlist } from './netlist.ts';

/** A sheet with nothing in it but ground, to take something into. */
export const blankSheet = (id: string, title: string): string =>
  `format: jiko-board/1
id: ${id}
title: ${JSON.stringify(title.slice(0, 80) || id)}
depth: full

nets:
  GND: { kind: ground }

parts: {}
chips: {}
stages: {}
sources: {}
goals: {}
`;

/** Parts and nets of a file as candidates: what a name tells of a net, what letters tell of a part. */
export function netlistCandidates({ parts, nets }: Netlist): Candidates {
  const pins = new Map<string, { name: string; number: string; net: string | null }[]>();
  for (const net of nets)
    for (const { ref, pin, name } of net.pins)
      pins.set(ref, [
        ...(pins.get(ref) ?? []),
        // A number is one only where the pin has a name beside it, or is nothing else.
        {
          name: name || (/^\d/.test(pin) ? '' : pin),
          number: /^[A-Z]{0,2}\d+$/.test(pin) ? pin : '',
          net: net.name,
        },
      ]);
  return {
    nets: nets.map(({ name }) => {
      const { volts, domain } = readNetName(name);
      return {
        name,
        also: [],
        places: [],
        sure: 1,
        kind: netKindByName(name),
        volts,
        domain,
        role: netRoleByName(name),
      };
    }),
    parts: parts.map(({ ref, value, sort, isFitted }) => ({
      ref,
      kind:
        kindBySort(sort) ??
        partKindByLetters(ref) ??
        ((pins.get(ref)?.length ?? 0) > 3 ? ('chip' as const) : null),
      value,
      isFitted,
      pins: (pins.get(ref) ?? []).toSorted((a, b) => Number(a.number) - Number(b.number) || 0),
      places: [],
      sure: 1,
    })),
    about: [],
  };
}

/** What libraries call their parts, by the habits of the trade; common practice, no source. */
const sorts: readonly (readonly [RegExp, PartKind | 'chip'])[] = [
  [/zener/i, 'zener'],
  [/schottky/i, 'schottky'],
  [/tvs/i, 'tvs'],
  [/(^|_)led($|_)/i, 'led'],
  [/pmos|pfet|^q_p/i, 'pfet'],
  [/nmos|nfet|^q_n(mos|fet)/i, 'nfet'],
  [/npn/i, 'npn'],
  [/pnp/i, 'pnp'],
  [/ferrite/i, 'ferrite'],
  [/fuse/i, 'fuse'],
  [/^conn|connector/i, 'connector'],
  [/crystal/i, 'crystal'],
];

function kindBySort(sort: string): PartKind | 'chip' | null {
  if ((partKinds as readonly string[]).includes(sort)) return sort as PartKind;
  if ((chipKinds as readonly string[]).includes(sort)) return 'chip';
  return sorts.find(([words]) => words.test(sort))?.[1] ?? null;
}

/**
 * Takes parts, nets and places of a file into a sheet. What the sheet says already stays; places are
 * filled in where it has none. Test points become points.
 */
export function takeNetlist(text: string, netlist: Netlist): Result<Taken, string[]> {
  const { nets, parts } = netlistCandidates(netlist);
  const before = loadSheet(text);
  if (!before.ok) return fail(before.error.map(sheetIssueText));
  const known = new Set(
    [...before.value.parts, ...before.value.chips].map((one) => one.ref as string),
  );
  const points = new Set(before.value.points.map((one) => one.id));
  const isPoint = (ref: string): boolean => points.has(ref) || isTestPoint(ref);
  const taken = takeIn(text, {
    joins: [],
    isExact: true,
    nets,
    // What is there already is there: a netlist that says it again says nothing new.
    parts: parts.filter((one) => !known.has(one.ref) && !isPoint(one.ref)),
  });
  if (!taken.ok) return taken;
  return placed(taken.value, netlist);
}

const isTestPoint = (ref: string): boolean => /^TP\d/.test(ref);

function placed(taken: Taken, { places }: Netlist): Result<Taken, string[]> {
  if (places.length === 0) return ok(taken);
  const document = parseDocument(taken.text);
  const done = [...taken.done];
  const byRef = new Map<string, typeof places>();
  for (const one of places) byRef.set(one.ref, [...(byRef.get(one.ref) ?? []), one]);
  let count = 0;
  for (const [ref, pins] of byRef) {
    const middle = (of: 'x' | 'y'): number =>
      Math.round((pins.reduce((sum, one) => sum + one[of], 0) / pins.length) * 100) / 100;
    const at = { side: pins[0]?.side ?? 'top', x: middle('x'), y: middle('y') };
    const room = roomOf(taken.board, ref);
    if (room !== null) {
      const node = document.getIn([room, ref]);
      if (!isMap(node) || node.has('x')) continue;
      for (const [key, value] of Object.entries(at)) document.setIn([room, ref, key], value);
      count++;
    } else if (isTestPoint(ref) && !taken.board.points.some((one) => one.id === ref)) {
      const net = findNet(taken.board, pins[0]?.net ?? '')?.id;
      if (!net) continue;
      const rooms = document.get('points');
      if (!isMap(rooms)) document.set('points', document.createNode({}));
      document.setIn(
        ['points', ref],
        document.createNode({ net, title: ref, ...at }, { flow: true }),
      );
      done.push(`${ref} added (point on ${net})`);
    }
  }
  if (count > 0) done.push(`${count} parts have their places`);
  const after = document.toString({ lineWidth: 0, flowCollectionPadding: true });
  const board = loadSheet(after);
  return board.ok
    ? ok({ ...taken, text: after, board: board.value, done })
    : fail(board.error.map(sheetIssueText));
}

const roomOf = (board: Board, ref: string): 'parts' | 'chips' | null =>
  board.parts.some((one) => one.ref === ref)
    ? 'parts'
    : board.chips.some((one) => one.ref === ref && !one.virtual)
      ? 'chips'
      : null;
