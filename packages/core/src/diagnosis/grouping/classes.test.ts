import { describe, expect, it } from 'vitest';
import { loadSheet } from '../../board/index.ts';
import { faultName } from '../../faults/index.ts';
import { outlineDictionary } from '../../dictionary/index.ts';
import { usualSetup } from '../../play/index.ts';
import { classTitle, makeClasses } from './classes.ts';

const sheets = import.meta.glob<string>('../../../../../sheets/*.yaml', {
  query: '?raw',
  import: 'default',
  eager: true,
});

function titlesOf(name: string): Map<string, string[]> {
  const loaded = loadSheet(sheets[`../../../../../sheets/${name}.yaml`]!);
  if (!loaded.ok) throw new Error(`${name} does not load`);
  const board = loaded.value;
  const { dictionary } = outlineDictionary(board, usualSetup(board));
  return new Map(
    makeClasses(board, dictionary).map((one) => [classTitle(one), one.faults.map(faultName)]),
  );
}

describe('what a technician would name', () => {
  it('is called in whole words, each once, on every sheet', () => {
    for (const path of Object.keys(sheets)) {
      const name = path.replace(/^.*\/|\.yaml$/g, '');
      for (const title of titlesOf(name).keys()) {
        expect([name, title]).toEqual([name, expect.stringMatching(/^\S+( \S+)+$/)]);
        expect([name, title]).toEqual([name, expect.not.stringMatching(/\b(\S+) \1\b|undefined/)]);
      }
    }
  });

  it('a chip of several outputs is dead as a whole, or at one of them', () => {
    const titles = titlesOf('heron-15');
    expect(titles.get('U2 dead')).toEqual(['U2 dead', 'U2 dead, its power-good let go']);
    expect(titles.get('U2 output SW1 dead, weak or off its volts')).toContain(
      'U2 output SW1 weak (5 % of its current)',
    );
  });
});
