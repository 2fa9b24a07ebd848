import { spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ESLint } from 'eslint';
import { describe, expect, it } from 'vitest';

// The project's own rules, asked as `npm run check` asks them.

const root = fileURLToPath(new URL('..', import.meta.url));
/** The rules of oxlint broken by a file of this name. @param {string} code @param {string} name */
function foundByOxlint(code, name) {
  const folder = mkdtempSync(join(tmpdir(), 'jiko-lint-'));
  try {
    copyFileSync(join(root, '.oxlintrc.json'), join(folder, '.oxlintrc.json'));
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), code);
    const program = join(root, 'node_modules/oxlint/bin/oxlint');
    const { stdout } = spawnSync(process.execPath, [program, '--format', 'json', name], {
      cwd: folder,
      encoding: 'utf8',
    });
    /** @type {{ diagnostics: { code: string }[] }} */
    const { diagnostics } = JSON.parse(stdout);
    return diagnostics.map(({ code: rule }) => rule);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const eslint = new ESLint({ cwd: new URL('..', import.meta.url).pathname });
/** @param {string} code */
async function found(code, filePath = 'packages/web/src/pages/probe.tsx') {
  const results = await eslint.lintText(code, { filePath });
  return results.flatMap(({ messages }) => messages.map(({ ruleId }) => ruleId));
}
/** @param {string} inside */
const component = (inside) => `
  import { useState } from 'react';
  export function View({ net }: { net: string }) {
    const [seen, setSeen] = useState('');
    ${inside}
    return <button onClick={() => setSeen(net)}>{seen}</button>;
  }`;

describe('lint forbids', () => {
  it('setting state while drawing, and lets handlers set it', async () => {
    expect(await found(component(''))).toEqual([]);
    expect(await found(component('if (seen !== net) setSeen(net);'))).toContain(
      'jiko/no-state-while-drawing',
    );
  });
  it('a choice of several that a screen reader cannot name', async () => {
    const choice = (/** @type {string} */ name) =>
      `export const View = () => <Segmented ${name} options={['a']} />;\n`;
    expect(await found(choice(''))).toEqual(['no-restricted-syntax']);
    expect(await found(choice('aria-label="Side"'))).toEqual([]);
    expect(await found(choice('aria-labelledby="side"'))).toEqual([]);
  });
  it('local storage without its guard', () => {
    const code = "export const read = () => localStorage.getItem('a');\n";
    expect(foundByOxlint(code, 'packages/web/src/pages/probe.tsx')).toEqual([
      'eslint(no-restricted-globals)',
    ]);
    expect(foundByOxlint(code, 'packages/web/src/data/kept.ts')).toEqual([]);
  });
  it.each([
    ['chance', 'export const chance = () => Math.random();\n', 'eslint(no-restricted-properties)'],
    ['the clock', 'export const now = () => Date.now();\n', 'eslint(no-restricted-globals)'],
    [
      'what only Node has',
      "import { readFileSync } from 'node:fs';\nexport const read = () => readFileSync('a');\n",
      'eslint(no-restricted-imports)',
    ],
  ])('%s in the core, where it is no harm elsewhere', (_, code, rule) => {
    expect(foundByOxlint(code, 'packages/core/src/play/probe.ts')).toEqual([rule]);
    expect(foundByOxlint(code, 'packages/server/src/probe.ts')).toEqual([]);
  });
  it('values of any type, and names nobody uses', () => {
    const code = "const left: any = JSON.parse('1');\n";
    const rules = foundByOxlint(code, 'packages/bench/src/probe.ts');
    expect(rules.sort()).toEqual(['eslint(no-unused-vars)', 'typescript(no-explicit-any)']);
  });
  it('saving a sheet without the version it was made from', async () => {
    const code = `
      import { api } from '@jiko/contract';
      declare const request: (...all: unknown[]) => unknown;
      export const list = () => request(1, api.boards);
      export const save = (body: unknown) => request(1, api.boards, body);`;
    expect(await found(code)).toEqual(['no-restricted-syntax']);
    expect(await found(code, 'packages/web/src/data/save-sheet.ts')).toEqual([]);
  });
});
