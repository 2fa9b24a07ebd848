import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { contentHash } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { benchSetup, dictionaryBytes, wholeDictionary } from '@jiko/core/powerup';

// What pages of the browser tests would each play anew, played once: benches most tests stand on. One
// test plays in the browser all the same (play.spec.ts).

const [folder = '.'] = process.argv.slice(2);
const benches = [
  ['cairn-14', { source: 'adapter', attached: [], lifted: [] }],
  ['fell-13', { source: 'usb-c', attached: [], lifted: [] }],
  ['beck-mini', { source: 'adapter', attached: [], lifted: [] }],
  ['cairn-14', { source: 'bench', attached: [], lifted: [] }],
] as const;
const list = [];
for (const [id, bench] of benches) {
  const loaded = loadSheet(readFileSync(new URL(`../sheets/${id}.yaml`, import.meta.url), 'utf8'));
  if (!loaded.ok) throw new Error(`${id} does not load`);
  const board = loaded.value;
  if (!board.sources.some((one) => one.id === bench.source)) throw new Error(`no ${bench.source}`);
  const dictionary = wholeDictionary(
    board,
    benchSetup(board, { ...bench, attached: [], lifted: [] }),
  );
  const name = contentHash(dictionary.key);
  const file = join(folder, `${name}.dictionary`);
  writeFileSync(file, dictionaryBytes(dictionary));
  list.push({ name, file, of: { board: id, hash: board.hash, bench: JSON.stringify(bench) } });
}
writeFileSync(join(folder, 'dictionaries.json'), JSON.stringify(list));
