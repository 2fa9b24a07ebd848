import { readFileSync, writeFileSync } from 'node:fs';

/** Writes a block of docs/figures.md between its marks, at the end where it is new. */
export function writeBlock(name: string, lines: readonly string[]): void {
  const [begin, end] = [`<!-- ${name} -->`, `<!-- /${name} -->`];
  const file = 'docs/figures.md';
  const text = readFileSync(file, 'utf8');
  const block = `${begin}\n${lines.join('\n')}\n${end}`;
  const start = text.indexOf(begin);
  writeFileSync(
    file,
    start < 0
      ? `${text.trimEnd()}\n\n${block}\n`
      : text.slice(0, start) + block + text.slice(text.indexOf(end) + end.length),
  );
  process.stdout.write(`${lines.join('\n')}\n`);
}

export const share = (part: number, of: number): string => `${((100 * part) / of).toFixed(1)} %`;
