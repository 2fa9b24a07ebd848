// npm run drills: what could lose entries or let somebody in, done on purpose; counts into docs/figures.md.
// ONLY="starts E7" runs those alone; DRILL_ROOT=FOLDER drills another clone, and writes no figures.
import { join } from 'node:path';
import * as backupEdges from './edges/backups.ts';
import * as folderEdges from './edges/data-folder.ts';
import * as jobFileEdges from './edges/job-files.ts';
import * as requestEdges from './edges/requests.ts';
import { writeFiguresPart } from '../figures-part.mjs';
import { backups, fullDisk, hostile, kills, starts, type Say } from './entries.ts';
import { answers, removeFolders, root, type Row } from './jiko.ts';

const rows: Row[] = [];
const say: Say = (name, aim, measured, isMet) => {
  rows.push({ name, aim, measured, isMet });
  console.log(`${isMet === null ? 'not run' : isMet ? 'met' : 'NOT MET'}: ${name}: ${measured}`);
};
const edges = { ...backupEdges, ...folderEdges, ...jobFileEdges, ...requestEdges };
const all: Record<string, (say: Say) => Promise<void>> = {
  starts,
  hostile,
  backups,
  ...Object.fromEntries(
    Object.entries(edges).sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true })),
  ),
  fullDisk,
  kills,
};
const only = process.env['ONLY']?.split(' ');
try {
  for (const [name, drill] of Object.entries(all)) {
    if (only && !only.includes(name)) continue;
    try {
      await drill(say);
    } catch (error) {
      say(name, 'runs to its end', String((error as Error).message).slice(0, 300), false);
    }
  }
  const { sent, of500 } = answers;
  say('answers of 500 in all drills', '0', `${of500} of ${sent} requests`, of500 === 0);
  if (!only && !process.env['DRILL_ROOT']) write();
} finally {
  removeFolders();
}
process.exit(rows.every((row) => row.isMet !== false) ? 0 : 1);

/** Its own part of the figures. */
function write(): void {
  writeFiguresPart(join(root, 'docs/figures.md'), 'drills', [
    '## Drills',
    '',
    `What could lose entries or let somebody in, done on purpose by \`npm run drills\` on Node.js ${process.versions.node}.`,
    '',
    '| drill | aim | measured | met |',
    '| --- | --- | --- | --- |',
    ...rows.map(({ name, aim, measured, isMet }) => {
      const met = isMet === null ? 'not run' : isMet ? 'yes' : 'NO';
      return `| ${[name, aim, measured, met].map((cell) => cell.replaceAll('|', '\\|')).join(' | ')} |`;
    }),
  ]);
}
