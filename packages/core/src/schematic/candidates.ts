import { byName, readNetName, type NetNameMeaning, type PartKind } from '../board/index.ts';
import { netKindByName, netRoleByName, partKindByLetters } from './guess-kind.ts';
import { foldName } from './names.ts';
import type { Box, PageContent } from './page.ts';
import { readPage, type ReadPage, type ReadPart } from './read-page.ts';

/** Where something was found. */
export interface Place {
  page: number;
  box: Box;
}

/** A net a document speaks of. */
export interface NetCandidate {
  /** As it is written most often. */
  name: string;
  /** Other spellings of it. */
  also: string[];
  places: Place[];
  /** 0 to 1: how sure it is that it is a net, and so written. */
  sure: number;
  kind: 'rail' | 'signal' | 'switch' | 'ground';
  volts: number | null;
  domain: NetNameMeaning['domain'];
  role: 'enable' | 'power-good' | 'reset' | null;
}

/** A part or chip a document draws. */
export interface PartCandidate {
  ref: string;
  /** Null: its letters do not tell, or what it is stands nowhere. */
  kind: PartKind | 'chip' | null;
  value: string;
  isFitted: boolean;
  /** Nets are names of candidates; null where nothing is written. */
  pins: { name: string; number: string; net: string | null }[];
  places: Place[];
  sure: number;
}

/** All that was understood of a document, and where it says what it is about. */
export interface Candidates {
  nets: NetCandidate[];
  parts: PartCandidate[];
  about: { page: number; what: Exclude<ReadPage['about'], null> }[];
}

/** Below this a candidate is no more than a word in capitals. */
const leastSure = 0.5;

export function candidatesOf(pages: readonly PageContent[]): Candidates {
  const read = pages.map(readPage);
  const nets = netsOf(read);
  const nameOf = new Map<string, string>();
  for (const one of nets)
    for (const name of [one.name, ...one.also]) nameOf.set(foldName(name), one.name);
  const parts = partsOf(read, (net) => (net === null ? null : (nameOf.get(foldName(net)) ?? net)));
  markRails(nets, parts);
  return {
    nets: nets.sort((a, b) => byName(a.name, b.name)),
    parts: parts.sort((a, b) => byName(a.ref, b.ref)),
    about: read.flatMap(({ page, about }) => (about ? [{ page, what: about }] : [])),
  };
}

interface Found {
  spellings: Map<string, number>;
  places: (Place & { onWire: boolean })[];
}

function netsOf(read: readonly ReadPage[]): NetCandidate[] {
  const found = new Map<string, Found>();
  for (const { page, names } of read)
    for (const { text, box, onWire } of names) {
      const key = foldName(text);
      const one: Found = found.get(key) ?? { spellings: new Map(), places: [] };
      one.spellings.set(text, (one.spellings.get(text) ?? 0) + (onWire ? 2 : 1));
      one.places.push({ page, box, onWire });
      found.set(key, one);
    }
  // Ground is often drawn by its figure alone.
  const hasGround = read.some((one) =>
    one.parts.some((part) => part.pins.some(({ net }) => net === 'GND')),
  );
  if (hasGround && !found.has('GND')) {
    const places = read.flatMap(({ page, parts }) =>
      parts
        .filter((part) => part.pins.some(({ net }) => net === 'GND'))
        .map(({ box }) => ({ page, box, onWire: true })),
    );
    found.set('GND', { spellings: new Map([['GND', 1]]), places });
  }
  const hasWires = read.some((one) => one.names.some(({ onWire }) => onWire));
  return [...found.values()].flatMap(({ spellings, places }): NetCandidate[] => {
    const [name, ...also] = [...spellings.entries()]
      .sort((a, b) => b[1] - a[1] || byName(a[0], b[0]))
      .map(([text]) => text) as [string, ...string[]];
    const { volts, domain } = readNetName(name);
    const role = netRoleByName(name);
    const onWires = places.filter((one) => one.onWire);
    const isTelling = volts !== null || role !== null || /[_#]/.test(name);
    const sure =
      onWires.length > 0
        ? onWires.length > 1 || isTelling
          ? 0.97
          : 0.85
        : !hasWires && isTelling && places.length > 1
          ? 0.7
          : isTelling && places.length > 1
            ? 0.4
            : 0.2;
    if (sure < leastSure) return [];
    return [
      {
        name,
        also,
        // Where it is drawn; a list of names is no such place.
        places: (onWires.length > 0 ? onWires : places).map(({ page, box }) => ({ page, box })),
        sure,
        kind: netKindByName(name),
        volts,
        domain,
        role,
      },
    ];
  });
}

function partsOf(
  read: readonly ReadPage[],
  netOf: (net: string | null) => string | null,
): PartCandidate[] {
  const found = new Map<string, (ReadPart & { page: number })[]>();
  for (const { page, parts } of read)
    for (const part of parts)
      found.set(part.ref, [...(found.get(part.ref) ?? []), { ...part, page }]);
  const anyBody = [...found.values()].some((all) => all.some((one) => one.hasBody));
  return [...found].flatMap(([ref, all]): PartCandidate[] => {
    const drawn = all.filter((one) => one.hasBody);
    const sure = drawn.length > 0 ? 0.97 : anyBody ? 0.3 : 0.6;
    if (sure < leastSure) return [];
    const best = drawn[0] ?? all[0]!;
    // A chip drawn in several pieces has the pins of all of them.
    const pins = (drawn.length > 0 ? drawn : all).flatMap((one) => one.pins);
    return [
      {
        ref,
        kind: partKindByLetters(ref),
        value: all.find((one) => one.value !== '')?.value ?? '',
        isFitted: best.isFitted,
        pins: pins.map((pin) => ({ ...pin, net: netOf(pin.net) })),
        places: (drawn.length > 0 ? drawn : all).map(({ page, box }) => ({ page, box })),
        sure,
      },
    ];
  });
}

/** A net behind a coil or with capacitors to ground carries power, whatever its name says. */
function markRails(nets: readonly NetCandidate[], parts: readonly PartCandidate[]): void {
  const byNet = new Map(nets.map((one) => [one.name, one]));
  const grounds = new Set(nets.filter((one) => one.kind === 'ground').map((one) => one.name));
  const heavy = new Map<string, number>();
  for (const { kind, pins } of parts) {
    const [a, b] = pins.map((pin) => pin.net);
    if (kind !== 'capacitor' || pins.length !== 2 || !a || !b) continue;
    const other = grounds.has(a) ? b : grounds.has(b) ? a : null;
    if (other) heavy.set(other, (heavy.get(other) ?? 0) + 1);
  }
  for (const [name, count] of heavy) {
    const net = byNet.get(name);
    if (net && count >= 2 && net.kind === 'signal' && net.role === null) net.kind = 'rail';
  }
}
