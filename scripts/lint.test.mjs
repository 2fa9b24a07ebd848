import { ESLint } from 'eslint';
import { describe, expect, it } from 'vitest';

// The project's own rules, asked as `npm run check` asks them.

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
  it('local storage without its guard', async () => {
    const code = "export const read = () => localStorage.getItem('a');\n";
    expect(await found(code)).toContain('no-restricted-globals');
    expect(await found(code, 'packages/web/src/data/kept.ts')).toEqual([]);
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
