// One part of docs/figures.md, between two marks: each command writes its own and leaves the others alone.
import { readFileSync, writeFileSync } from 'node:fs';

/**
 * The part between the marks of `name`, without them; empty where there is none yet.
 * @param {string} file
 * @param {string} name
 */
export function figuresPart(file, name) {
  const text = readFileSync(file, 'utf8');
  const from = text.indexOf(`<!-- ${name} -->`);
  return from < 0 ? '' : text.slice(from + `<!-- ${name} -->`.length, text.indexOf(endOf(name)));
}

/**
 * Writes the part of `name` anew, at the end of the file.
 * @param {string} file
 * @param {string} name
 * @param {readonly string[]} lines
 */
export function writeFiguresPart(file, name, lines) {
  const [begin, end] = [`<!-- ${name} -->`, endOf(name)];
  const text = readFileSync(file, 'utf8');
  const from = text.indexOf(begin);
  const kept =
    from < 0 ? text : text.slice(0, from) + text.slice(text.indexOf(end) + end.length + 1);
  const part = [begin, '', ...lines, '', end, ''].join('\n');
  writeFileSync(file, `${kept.trimEnd()}\n\n${part}`);
}

/** @param {string} name */
const endOf = (name) => `<!-- /${name} -->`;
