import type { Board } from '../../board/index.ts';
import { attachedIn, benchSetup, type PlaySetup } from '../../play/index.ts';
import type { Reading } from '../../readings/index.ts';

/** What a reading was taken with: each wants plays of its own. */
export interface BenchOf {
  /** Null for cold readings: no source was on. */
  source: string | null;
  attached: readonly string[];
  lifted: readonly string[];
}

/** `here` is the source on the bench now: what nobody named was fed by it. */
export function benchOfReading(
  board: Board,
  here: string | null,
  { phase, source, attached, lifted }: Reading,
): BenchOf {
  const fed = phase === 'cold' ? null : (source?.id ?? null);
  // A board that its battery feeds has it plugged in, whatever was ticked.
  const setup = benchSetup(board, { source: fed ?? here ?? undefined, attached });
  return { source: fed, attached: attachedIn(board, setup), lifted };
}

export const benchOfSetup = (board: Board, setup: PlaySetup): BenchOf => ({
  source: setup.source,
  attached: attachedIn(board, setup),
  lifted: setup.lifted ?? [],
});

/** Whether plays of `bench` speak of what was taken as `taken` says. A source nobody named is the bench's own. */
export function speaksOf(bench: BenchOf, taken: BenchOf): boolean {
  const same = (a: readonly string[], b: readonly string[]): boolean =>
    [...a].sort().join() === [...b].sort().join();
  return (
    (taken.source === null || taken.source === bench.source) &&
    same(bench.attached, taken.attached) &&
    same(bench.lifted, taken.lifted)
  );
}

/** `with the battery plugged in, on usb-c, PL7 off the board`, against the bench as it stands. */
export function benchText(board: Board, taken: BenchOf, now: BenchOf): string {
  const title = (id: string): string =>
    (board.attachments.find((attachment) => attachment.id === id)?.title ?? id).toLowerCase();
  const source = board.sources.find(({ id }) => id === taken.source);
  const more = taken.attached.filter((id) => !now.attached.includes(id)).map(title);
  const less = now.attached.filter((id) => !taken.attached.includes(id)).map(title);
  return [
    ...(source && source.id !== now.source ? [`on the ${source.title}`] : []),
    ...(more.length > 0 ? [`with ${more.join(', ')} plugged in`] : []),
    ...(less.length > 0 ? [`without ${less.join(', ')}`] : []),
    ...(taken.lifted.length > 0 ? [`with ${taken.lifted.join(', ')} off the board`] : []),
    ...(taken.lifted.length === 0 && now.lifted.length > 0
      ? [`with ${now.lifted.join(', ')} still on`]
      : []),
  ].join(', ');
}
