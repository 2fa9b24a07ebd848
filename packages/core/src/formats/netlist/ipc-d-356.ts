import {
  emptyNetlist,
  mostTroubles,
  type Netlist,
  type NetlistTrouble,
  type ReadNetlist,
} from './netlist.ts';

// IPC-D-356A, from memory, and held against a file another program wrote: records of 80 columns, three
// digits of kind, the net in columns 4 to 17, part and pin in 21 to 31, places by X, Y in the file's units.

const inch = 25.4;

/**
 * Reads test records 317, 327 and their continuation 017, 027; long names given by `P NNAME`. Places are
 * turned into millimetres. Vias and lines of other kinds are left out; what cannot be read is named.
 */
export function parseIpcD356(text: string): ReadNetlist {
  const netlist = emptyNetlist();
  const troubles: NetlistTrouble[] = [];
  const doubt = (line: number, why: string): void => {
    if (troubles.length < mostTroubles) troubles.push({ line, why });
  };
  const longNames = new Map<string, string>();
  const nets = new Map<string, Netlist['nets'][number]>();
  const parts = new Set<string>();
  let unit = inch / 10_000;
  let records = 0;
  text.split(/\r?\n/).forEach((row, index) => {
    const line = index + 1;
    if (row.trim() === '' || row.startsWith('C') || row.startsWith('999')) return;
    if (row.startsWith('P')) {
      const [, key = '', ...rest] = row.trim().split(/\s+/);
      const value = rest.join(' ');
      if (key === 'JOB') netlist.title = value.replace(/^.*[/\\]/, '');
      else if (key === 'UNITS') {
        const kind = /^CUST\s*([012])\b|^(SI)\b|^(INCH)\b/.exec(value);
        if (!kind)
          doubt(
            line,
            `units "${value}" are not known: thousandths of a millimetre and ten-thousandths of an inch are`,
          );
        unit = kind?.[1] === '1' || kind?.[2] ? 0.001 : inch / 10_000;
      } else if (/^NNAME\d+$/.test(key) && rest[0]) longNames.set(key, rest[0]);
      return;
    }
    const kind = /^([03])([1-7])7/.exec(row);
    if (!kind) {
      if (/^\d{3}/.test(row)) doubt(line, `records of kind ${row.slice(0, 3)} are not read`);
      else doubt(line, 'this is no record of the format');
      return;
    }
    records++;
    const short = row.slice(3, 17).trim();
    const net = longNames.get(short) ?? short;
    const ref = row.slice(20, 26).trim();
    const pin = row.slice(27, 31).trim();
    if (short === '' || net === 'N/C') return;
    const known = nets.get(net) ?? { name: net, pins: [] };
    nets.set(net, known);
    // A via stands between parts: it is no place to name.
    if (ref === '' || ref === 'VIA') return;
    const place = /X([+-]?\s*\d{1,6})Y([+-]?\s*\d{1,6})/.exec(row.slice(38));
    if (!/^\S+$/.test(ref) || (pin !== '' && !/^\S+$/.test(pin))) {
      doubt(line, `part and pin cannot be read in "${row.slice(20, 31)}"`);
      return;
    }
    parts.add(ref);
    if (!known.pins.some((one) => one.ref === ref && one.pin === pin))
      known.pins.push({ ref, pin, name: '' });
    if (!place) {
      doubt(line, `${ref}${pin ? `-${pin}` : ''} has no place`);
      return;
    }
    const access = /A(\d\d)X/.exec(row.slice(31))?.[1];
    netlist.places.push({
      net,
      ref,
      pin,
      side: access === '01' ? 'top' : access === '02' ? 'bottom' : null,
      x: Number(place[1]!.replace(/\s/g, '')) * unit,
      y: Number(place[2]!.replace(/\s/g, '')) * unit,
    });
  });
  if (records === 0)
    return { netlist: null, troubles: [{ line: 0, why: 'no test record (317, 327) is in it' }] };
  netlist.nets = [...nets.values()];
  netlist.parts = [...parts].map((ref) => ({
    ref,
    value: '',
    package: '',
    sort: '',
    isFitted: true,
  }));
  return { netlist, troubles };
}

/**
 * Writes IPC-D-356A in thousandths of a millimetre: a record for each pin that has a place. Names longer
 * than 14 letters are given short ones and stand in the head. Lost: pins without a place, values, kinds.
 */
export function ipcD356({ title, places }: Netlist): string {
  const names = [...new Set(places.map((one) => one.net))];
  const short = new Map(
    names.map((name, at) => [name, name.length <= 14 ? name : `NNAME${at + 1}`]),
  );
  const padded = (text: string, length: number): string => text.slice(0, length).padEnd(length);
  const signed = (millimetres: number): string => {
    const units = Math.round(millimetres * 1000);
    return `${units < 0 ? '-' : '+'}${String(Math.abs(units)).padStart(6, '0')}`;
  };
  const lines = [
    'C  IPC-D-356A netlist written by jiko',
    `P  JOB   ${title}`,
    'P  CODE  00',
    'P  UNITS CUST 1',
    'P  DIM   N',
    'P  VER   IPC-D-356A',
    ...names.flatMap((name) => {
      const given = short.get(name) as string;
      return given === name ? [] : [`P  ${given} ${name}`];
    }),
    ...places.map(({ net, ref, pin, side, x, y }) => {
      const access = side === 'top' ? 'A01' : side === 'bottom' ? 'A02' : 'A00';
      const head = `${side === null ? '317' : '327'}${padded(short.get(net) as string, 14)}   ${padded(ref, 6)}-${padded(pin, 4)} `;
      const hole = side === null ? 'D0800P' : '      ';
      return `${head}${hole}${access}X${signed(x)}Y${signed(y)}X0000Y0000R000S0`.padEnd(80);
    }),
    '999',
  ];
  return `${lines.join('\r\n')}\r\n`;
}
