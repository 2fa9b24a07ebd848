import { z } from 'zod';

// What is printed, as data: the page, the PDF and the Markdown are made from the same blocks.

const words = z.string().max(4000);
const tableSchema = z
  .strictObject({
    kind: z.literal('table'),
    head: z.array(words).min(1).max(8),
    /** Parts of the page's width, one for each column. */
    widths: z.array(z.number().min(0.02).max(1)).min(1).max(8),
    rows: z.array(z.array(words).max(8)).max(2000),
  })
  .refine(
    ({ head, widths, rows }) =>
      widths.length === head.length && rows.every((row) => row.length === head.length),
    'has a row, or widths, of another number of columns than its head',
  );
export const blockSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.enum(['title', 'heading', 'small']), text: words }),
  /** `lead` stands out before the rest. */
  z.strictObject({ kind: z.literal('text'), text: words, lead: words.optional() }),
  z.strictObject({ kind: z.literal('list'), items: z.array(words).max(400) }),
  z.strictObject({
    kind: z.literal('facts'),
    facts: z.array(z.strictObject({ name: words, value: words })).max(60),
  }),
  /** A picture of the job, by its id. */
  z.strictObject({ kind: z.literal('picture'), attachment: z.uuid(), caption: words }),
  tableSchema,
]);
export type Block = z.output<typeof blockSchema>;
export const printedSchema = z.strictObject({
  title: z.string().trim().min(1).max(200),
  blocks: z.array(blockSchema).max(400),
});
export type Printed = z.output<typeof printedSchema>;

export const heading = (text: string): Block => ({ kind: 'heading', text });
export const paragraph = (text: string, lead?: string): Block => ({
  kind: 'text',
  text,
  ...(lead === undefined ? {} : { lead }),
});
/** A heading with its list; nothing where the list is empty. */
export const titledList = (title: string, items: readonly string[]): Block[] =>
  items.length > 0 ? [heading(title), { kind: 'list', items: [...items] }] : [];
/** A heading with its table; nothing where it has no rows. */
export const titledTable = (
  title: string,
  columns: readonly (readonly [head: string, width: number])[],
  rows: readonly string[][],
): Block[] =>
  rows.length > 0
    ? [
        heading(title),
        {
          kind: 'table',
          head: columns.map(([head]) => head),
          widths: columns.map(([, width]) => width),
          rows: [...rows],
        },
      ]
    : [];

/** Blocks as Markdown (CommonMark with the usual pipe tables). */
export function printedMarkdown({ blocks }: Printed): string {
  return blocks
    .flatMap((block): string[] => {
      switch (block.kind) {
        case 'title':
          return [`# ${inline(block.text)}`, ''];
        case 'heading':
          return [`## ${inline(block.text)}`, ''];
        case 'text':
          return [
            [block.lead && `**${inline(block.lead)}**`, inline(block.text)]
              .filter(Boolean)
              .join(' '),
            '',
          ];
        case 'small':
          return [inline(block.text), ''];
        case 'list':
          return [...block.items.map((one) => `- ${inline(one)}`), ''];
        case 'picture':
          return [`Picture: ${inline(block.caption || 'of the board')}`, ''];
        case 'facts':
          return [
            ...block.facts.map((one) => `- **${inline(one.name)}:** ${inline(one.value)}`),
            '',
          ];
        case 'table':
          return [
            `| ${block.head.map(inline).join(' | ')} |`,
            `| ${block.head.map(() => '---').join(' | ')} |`,
            ...block.rows.map((row) => `| ${row.map(inline).join(' | ')} |`),
            '',
          ];
      }
    })
    .join('\n');
}

/**
 * Keeps what a user typed from being read as markup, wherever in a line it comes to stand (CommonMark:
 * any ASCII punctuation may be escaped; a line break within would begin a block of its own).
 */
export const inline = (text: string): string =>
  text
    .replace(/\s*[\r\n\v\f\u0085\u2028\u2029]\s*/g, ' ')
    .trim()
    .replace(/([\\`*_[\]<>|~&#])/g, '\\$1')
    .replace(/^([-+=])(?=[-+=\s]|$)/, '\\$1')
    .replace(/^(\d+)([.)])(?=\s|$)/, '$1\\$2');
