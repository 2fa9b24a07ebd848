import type { Board } from '../board/index.ts';
import { simpleThings, triedTexts, type Job, type TriedText } from '../record/index.ts';

export type SimpleThing = (typeof simpleThings)[number];

/** Something to try before the board is opened, and what each answer tells. */
export interface SimpleStep extends TriedText {
  thing: SimpleThing;
}

/** What is worth trying on this board, in the order it costs least. */
export function simpleSteps(board: Board): SimpleStep[] {
  const has = (id: string): boolean => board.attachments.some((one) => one.id === id);
  return simpleThings
    .filter((thing) => {
      if (thing === 'memory') return has('memory');
      if (thing === 'other-panel') return has('panel');
      if (thing === 'other-battery')
        return has('battery') || board.sources.some((source) => source.kind === 'battery');
      if (thing === 'needed-only') return board.attachments.length > 0;
      if (thing === 'button-pads') return board.button !== null;
      return true;
    })
    .map((thing) => ({ thing, ...triedTexts[thing] }));
}

/** What the leads read shorted together, in ohms; null where nobody looked. */
export const leadOhms = (job: Job): number | null =>
  job.tried.find((one) => one.body.thing === 'meter-zero')?.body.ohms ?? null;
