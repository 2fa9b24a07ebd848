import '../scripts/shared-plays.mjs';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { contentHash } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { benchSetup } from '@jiko/core/play';
import { sharedDictionary } from '@jiko/testing';

// What pages of the browser tests would each play anew, played once: benches most tests stand on. One
// test plays in the browser all the same (play.spec.ts). The plays lie in JIKO_PLAYS.

const [folder = '.'] = process.argv.slice(2);
const benches = [
  ['cairn-14', 'adapter'],
  ['fell-13', 'usb-c'],
  ['beck-mini', 'adapter'],
] as const;
const list = [];
for (const [id, source] of benches) {
  const loaded = loadSheet(readFileSync(new URL(`../sheets/${id}.yaml`, import.meta.url), 'utf8'));
  if (!loaded.ok) throw new Error(`${id} does not load`);
  const board = loaded.value;
  if (!board.sources.some(({ id: name }) => name === source)) throw new Error(`no ${source}`);
  const dictionary = sharedDictionary(
    board,
    benchSetup(board, { source, attached: [], lifted: [] }),
  );
  const name = contentHash(dictionary.key);
  list.push({
    name,
    file: join(folder, `${name}.dictionary`),
    of: {
      board: id,
      hash: board.hash,
      bench: JSON.stringify({ source, attached: [], lifted: [] }),
    },
  });
}
writeFileSync(join(folder, 'dictionaries.json'), JSON.stringify(list));
