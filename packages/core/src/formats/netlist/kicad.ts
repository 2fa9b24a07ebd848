import {
  emptyNetlist,
  mostTroubles,
  type Netlist,
  type NetlistTrouble,
  type ReadNetlist,
} from './netlist.ts';
import { listsOf, parseSExpression, quoted, wordOf, type Node } from './s-expression.ts';

/**
 * Reads a KiCad netlist (s-expression, `(export (version ...)`): parts with value, package and "do not
 * populate", nets with their pins and what those do. Sheets, libraries and fields beside are not kept.
 */
export function parseKicadNetlist(text: string): ReadNetlist {
  const parsed = parseSExpression(text);
  const whole = (line: number, why: string): ReadNetlist => ({
    netlist: null,
    troubles: [{ line, why }],
  });
  if (!parsed.ok) return whole(parsed.line, parsed.why);
  const { root } = parsed;
  const head = 'list' in root ? root.list[0] : root;
  if (!head || !('word' in head) || head.word !== 'export')
    return whole(root.line, 'this is no KiCad netlist: it does not begin with (export');
  const netlist = emptyNetlist();
  const troubles: NetlistTrouble[] = [];
  const doubt = (line: number, why: string): void => {
    if (troubles.length < mostTroubles) troubles.push({ line, why });
  };
  const design = listsOf(root, 'design')[0];
  netlist.title = design ? (wordOf(design, 'source') ?? '').replace(/^.*[/\\]/, '') : '';
  const seen = new Set<string>();
  for (const room of listsOf(root, 'components'))
    for (const comp of listsOf(room, 'comp')) {
      const ref = wordOf(comp, 'ref');
      if (!ref) doubt(comp.line, 'a part has no reference');
      else if (!isName(ref)) doubt(comp.line, `${ref} cannot be a reference`);
      else if (seen.has(ref)) doubt(comp.line, `${ref} is there twice`);
      else {
        seen.add(ref);
        const value = wordOf(comp, 'value') ?? '';
        const dnp = listsOf(comp, 'property').some(
          (one) => wordIs(one.list[1], 'name', 'dnp') || wordOf(one, 'name') === 'dnp',
        );
        netlist.parts.push({
          ref,
          value: value === '~' ? '' : value,
          package: (wordOf(comp, 'footprint') ?? '').replace(/^.*:/, ''),
          sort: libraryPart(comp),
          isFitted: !dnp && !/^(?:DNP|DNF|NF)$/i.test(value),
        });
      }
    }
  for (const room of listsOf(root, 'nets'))
    for (const net of listsOf(room, 'net')) {
      const written = wordOf(net, 'name');
      if (!written) {
        doubt(net.line, 'a net has no name');
        continue;
      }
      const pins: Netlist['nets'][number]['pins'] = [];
      for (const node of listsOf(net, 'node')) {
        const [ref, pin] = [wordOf(node, 'ref'), wordOf(node, 'pin')];
        if (!ref || !pin) doubt(node.line, `a pin of ${written} has no part or no number`);
        else if (!seen.has(ref))
          doubt(node.line, `${written} names ${ref}, which is no part of the list`);
        else pins.push({ ref, pin, name: wordOf(node, 'pinfunction') ?? '' });
      }
      netlist.nets.push({ name: written, pins });
    }
  if (netlist.parts.length + netlist.nets.length === 0)
    return whole(root.line, 'no part and no net is in it');
  const named = sheetNames(netlist.nets.map((net) => net.name));
  netlist.nets.forEach((net, at) => {
    const name = named.names[at]!;
    if (named.doubts.has(at))
      doubt(1, `${net.name} is called ${name} here: ${named.doubts.get(at)}`);
    net.name = name;
  });
  return { netlist, troubles };
}

/** The name its part has in the library: `Device:D_Zener` says what letters do not. */
function libraryPart(comp: Node): string {
  const source = listsOf(comp, 'libsource')[0];
  return source ? (wordOf(source, 'part') ?? '') : '';
}

const wordIs = (node: unknown, ...words: string[]): boolean =>
  typeof node === 'object' && node !== null && 'word' in node && words.includes(String(node.word));

export const isName = (word: string): boolean => /^\S{1,64}$/.test(word);

const longestName = 64;

/**
 * Names of a netlist as a sheet can hold them: exact and each its own, with the path of the drawing's sheet.
 * Only a label of the first drawing loses its slash, where nothing else has that name. A sheet takes upper
 * and lower case for the same and holds no blanks and no more than 64 characters: what would fall together
 * there is kept apart by a number, and said.
 */
export function sheetNames(written: readonly string[]): {
  names: string[];
  /** By the place of the net: why it is called otherwise. */
  doubts: Map<number, string>;
} {
  const plain = written.map((name) => name.replace(/~\{([^}]*)\}/g, '$1#').replace(/\s+/g, '_'));
  const all = new Set(plain.map((name) => name.toUpperCase()));
  const taken = new Set<string>();
  const doubts = new Map<number, string>();
  const names = plain.map((name, at) => {
    const bare = /^\/[^/]+$/.test(name) ? name.slice(1) : name;
    const wished = bare !== name && all.has(bare.toUpperCase()) ? name : bare;
    const cut = wished.slice(-longestName);
    if (cut !== wished) doubts.set(at, `a sheet holds ${longestName} characters`);
    let own = cut;
    for (let number = 2; taken.has(own.toUpperCase()); number++) {
      doubts.set(at, 'another net has this name but for case, blanks or length');
      own = `${cut.slice(0, longestName - 4)}_${number}`;
    }
    taken.add(own.toUpperCase());
    return own;
  });
  return { names, doubts };
}

/**
 * Writes a KiCad netlist: parts with value and package, nets with their pins. Lost: volts, what chips do,
 * where anything is, sources, stages and goals.
 */
export function kicadNetlist({ title, parts, nets }: Netlist): string {
  const lines = [
    '(export (version "E")',
    `  (design (source ${quoted(title)}) (tool "jiko"))`,
    '  (components',
    ...parts.map(
      ({ ref, value, package: footprint, sort, isFitted }) =>
        `    (comp (ref ${quoted(ref)}) (value ${quoted(value || '~')})${
          footprint ? ` (footprint ${quoted(footprint)})` : ''
        }${sort ? ` (libsource (lib "jiko") (part ${quoted(sort)}))` : ''}${isFitted ? '' : ' (property (name "dnp"))'})`,
    ),
    '  )',
    '  (nets',
    ...nets.flatMap(({ name, pins }, at) => [
      `    (net (code "${at + 1}") (name ${quoted(name)})`,
      ...pins.map(
        ({ ref, pin, name: does }) =>
          `      (node (ref ${quoted(ref)}) (pin ${quoted(pin)})${does ? ` (pinfunction ${quoted(does)})` : ''})`,
      ),
      '    )',
    ]),
    '  )',
    ')',
  ];
  return `${lines.join('\n')}\n`;
}
