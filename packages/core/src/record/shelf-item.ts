import { z } from 'zod';

const words = (most: number) => z.string().trim().max(most);

/** A donor board, or loose parts of one kind. */
export const shelfItemSchema = z.strictObject({
  kind: z.enum(['board', 'part']),
  /** What it is, in words: `capacitor 10 µF`, `Cairn 14 with a cracked corner`. */
  what: words(120).min(1, 'is empty'),
  /** The sheet a donor board is described by; null where it has none. */
  board: words(64).nullable(),
  marking: words(60),
  /** Value as it is written: 10u, 4k7, 7A. */
  value: words(40),
  package: words(40),
  /** Drawer, box, bag. */
  place: words(80),
  count: z.number().int().min(0).max(100_000),
  /** Parts of a donor that are known to be gone. */
  gone: z.array(words(64)).max(200),
  note: words(400),
});
export type ShelfItem = z.output<typeof shelfItemSchema>;
