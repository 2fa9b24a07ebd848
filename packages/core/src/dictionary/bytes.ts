import type { Dictionary } from './dictionary.ts';

// A dictionary as bytes, to be kept on a server: four bytes with the length of a JSON head, the head
// filled up to a multiple of four, then the lists one after the other as they lie in memory (little
// endian, as every browser has it).

const lists = [
  'volts',
  'amps',
  'offAfter',
  'islandVolts',
  'ohms',
  'diode',
  'lit',
  'rowOf',
] as const;
const small = ['turning', 'startsItself', 'heat'] as const;
type ListName = (typeof lists)[number] | (typeof small)[number];

interface Head {
  dictionary: Omit<Dictionary, ListName | 'swings' | 'invalid'>;
  swings: [number, readonly [number, number]][];
  invalid: [number, string][];
  lengths: Record<ListName, number>;
}

export function dictionaryBytes(dictionary: Dictionary): Uint8Array<ArrayBuffer> {
  const { key, nets, off, goneRow, faults, rows, lights, swings, invalid } = dictionary;
  const { codeless, dark, goalNets, heated } = dictionary;
  const names = [...lists, ...small];
  const head: Head = {
    dictionary: { key, nets, off, goneRow, faults, rows, lights, codeless, dark, goalNets, heated },
    swings: [...swings],
    invalid: [...invalid],
    lengths: Object.fromEntries(
      names.map((name) => [name, dictionary[name].length]),
    ) as Head['lengths'],
  };
  const text = new TextEncoder().encode(JSON.stringify(head));
  const start = 4 + Math.ceil(text.length / 4) * 4;
  const total = names.reduce((sum, name) => sum + dictionary[name].byteLength, start);
  const bytes = new Uint8Array(total).fill(0x20, 4, start);
  new DataView(bytes.buffer).setUint32(0, text.length, true);
  bytes.set(text, 4);
  let at = start;
  for (const name of names) {
    const { buffer, byteOffset, byteLength } = dictionary[name];
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at);
    at += byteLength;
  }
  return bytes;
}

/** The dictionary with this key; null where the bytes hold another one, or none. */
export function dictionaryFrom(bytes: Uint8Array<ArrayBuffer>, key: string): Dictionary | null {
  try {
    const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
    const text = new TextDecoder().decode(bytes.subarray(4, 4 + length));
    const { dictionary, swings, invalid, lengths } = JSON.parse(text) as Head;
    if (dictionary.key !== key) return null;
    let at = 4 + Math.ceil(length / 4) * 4;
    // A copy begins at nothing, so that four-byte lists lie where they must.
    const cut = (count: number, size: number): ArrayBuffer => {
      const part = bytes.slice(at, at + count * size);
      at += count * size;
      if (part.length !== count * size) throw new Error('too short');
      return part.buffer;
    };
    const floats = (name: ListName): Float32Array => new Float32Array(cut(lengths[name], 4));
    return {
      ...dictionary,
      volts: floats('volts'),
      amps: floats('amps'),
      offAfter: floats('offAfter'),
      islandVolts: floats('islandVolts'),
      ohms: floats('ohms'),
      diode: floats('diode'),
      lit: new Uint32Array(cut(lengths.lit, 4)),
      rowOf: new Int32Array(cut(lengths.rowOf, 4)),
      turning: new Uint8Array(cut(lengths.turning, 1)),
      startsItself: new Uint8Array(cut(lengths.startsItself, 1)),
      heat: new Uint8Array(cut(lengths.heat, 1)),
      swings: new Map(swings),
      invalid: new Map(invalid),
    };
  } catch {
    return null;
  }
}
