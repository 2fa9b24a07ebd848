import type { Board } from '../board/index.ts';
import type { Job } from '../record/index.ts';
import { simpleThings } from '../record/index.ts';

export type SimpleThing = (typeof simpleThings)[number];

/** Something to try before the board is opened, and what each answer tells. */
export interface SimpleStep {
  thing: SimpleThing;
  title: string;
  why: string;
  /** What it tells when it helped, and when nothing changed. */
  helped: string;
  noChange: string;
}

const texts: Record<SimpleThing, Omit<SimpleStep, 'thing'>> = {
  'other-source': {
    title: 'Another source and another lead',
    why: 'The source and its lead fail more often than the board.',
    helped: 'The board is well: the source or its lead was at fault.',
    noChange: 'The source is out of question.',
  },
  'meter-zero': {
    title: 'Leads shorted together',
    why: 'Low ohms are read with it in mind: it stands beside the entry line.',
    helped: '',
    noChange: 'The zero of the meter is known.',
  },
  settings: {
    title: 'Settings cleared: all power off, coin cell out for minutes',
    why: 'A controller or chipset that hangs on bad settings looks like a dead one.',
    helped: 'Settings or a hanging controller: see whether it comes back.',
    noChange: 'Bad settings are less likely.',
  },
  memory: {
    title: 'Memory reseated, one module at a time, slots wiped clean',
    why: 'A bad contact there stops the board after the memory rails.',
    helped: 'The module or its slot: try each alone.',
    noChange: 'Memory is less likely.',
  },
  'needed-only': {
    title: 'Only what it needs: panel, storage, fan and radio off',
    why: 'A short in what is plugged in pulls down a rail of the board.',
    helped: 'What was unplugged is at fault: plug in one after another.',
    noChange: 'The fault is on the board itself.',
  },
  'other-panel': {
    title: 'Another panel and another cable, or the picture on an outer screen',
    why: 'The cable of a panel breaks at the hinge more often than the board fails; a torch shows a picture without its light.',
    helped: 'The panel or its cable, not the board.',
    noChange: 'Panel and cable are out of question.',
  },
  'other-battery': {
    title: 'Another battery, or none with the adapter alone',
    why: 'A pack whose own board has shut it off looks like a board that does not charge.',
    helped: 'The battery, not the board.',
    noChange: 'The battery is out of question.',
  },
  'button-pads': {
    title: 'Button stood in for by its two pads',
    why: 'The button and its cable wear out; the pads on the board do not.',
    helped: 'The button or its cable.',
    noChange: 'Button and cable are out of question.',
  },
};

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
    .map((thing) => ({ thing, ...texts[thing] }));
}

/** What the leads read shorted together, in ohms; null where nobody looked. */
export const leadOhms = (job: Job): number | null =>
  job.tried.find((one) => one.body.thing === 'meter-zero')?.body.ohms ?? null;
