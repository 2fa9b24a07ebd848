import fc from 'fast-check';
import MarkdownIt from 'markdown-it';
import { describe, expect, it } from 'vitest';
import { printedMarkdown, printedSchema, type Block, type Printed } from './printed.ts';

// Held against a reader of CommonMark with tables that is not ours.
const reader = new MarkdownIt({ html: true });

/** The blocks a reader sees, and the words in each. */
function seen(printed: Printed): { kinds: string[]; words: string[] } {
  const tokens = reader.parse(printedMarkdown(printed), {});
  return {
    kinds: tokens.map((token) => token.type),
    words: tokens
      .filter((token) => token.type === 'inline')
      .map((token) =>
        (token.children ?? [])
          .map((child) =>
            child.type === 'text' || child.type === 'text_special'
              ? child.content
              : child.type.startsWith('strong')
                ? ''
                : `<${child.type}>`,
          )
          .join(''),
      ),
  };
}
/** Every place a word of a user can come to stand in. */
const everywhere = (word: string): Printed => ({
  title: 'Report',
  blocks: [
    { kind: 'title', text: word },
    { kind: 'heading', text: word },
    { kind: 'text', text: word },
    { kind: 'text', text: word, lead: 'Lead' },
    { kind: 'small', text: word },
    { kind: 'list', items: [word, word] },
    { kind: 'facts', facts: [{ name: 'Name', value: word }] },
    { kind: 'table', head: ['A', 'B'], widths: [0.5, 0.5], rows: [['x', word]] },
  ] satisfies Block[],
});
const calm = seen(everywhere('word')).kinds;

describe('a report as Markdown cannot be broken out of', () => {
  it.each([
    '# heading',
    '- item',
    '+ item',
    '1. item',
    '2) item',
    '---',
    '===',
    '&lt;script&gt;',
    '<script>alert(1)</script>',
    'a\r# b',
    'a\u2028# b',
    'a | b',
    '[a](javascript:x)',
    '![a](http://x)',
    '    code',
    '``` code',
    '> quote',
    'a\\',
    '~~gone~~',
    '**bold**',
  ])('%j', (word) => {
    const { kinds, words } = seen(everywhere(word));
    expect(kinds).toEqual(calm);
    const flat = word.replace(/\s+/g, ' ').trim();
    expect(words[0]).toBe(flat);
    expect(
      words.filter((one) => one === flat || one === `Lead ${flat}` || one === `Name: ${flat}`),
    ).toHaveLength(9);
  });
  it('any words', () => {
    const word = fc
      .array(fc.constantFrom(...'#-+=*_`[]()<>|~&\\!:.1 ab\n\r\t"\'{}'), {
        minLength: 1,
        maxLength: 12,
      })
      .map((all) => `${all.join('')}x`);
    fc.assert(
      fc.property(word, (text) => {
        expect(seen(everywhere(text)).kinds).toEqual(calm);
      }),
      { numRuns: 300 },
    );
  });
});

describe('a report to print', () => {
  const table = (rows: string[][], widths = [0.5, 0.5]): unknown => ({
    title: 'Report',
    blocks: [{ kind: 'table', head: ['A', 'B'], widths, rows }],
  });
  it.each([
    ['a full row', table([['1', '2']]), true],
    ['no row', table([]), true],
    ['a row that is short', table([['1', '2'], ['1']]), false],
    ['an empty row', table([[]]), false],
    ['a width too few', table([['1', '2']], [1]), false],
  ])('%s', (_what, printed, isTaken) => {
    expect(printedSchema.safeParse(printed).success).toBe(isTaken);
  });
});
