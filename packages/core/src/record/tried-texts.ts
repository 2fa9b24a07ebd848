import type { simpleResults, TriedThing } from './kinds.ts';

/** Something to try that takes no reading, and what each answer tells. */
export interface TriedText {
  title: string;
  why: string;
  /** What it tells when it helped or was found wrong, and when nothing changed. */
  helped: string;
  noChange: string;
  /** The two answers in words, where "helped" and "no change" do not say them. */
  words?: { helped: string; noChange: string };
}

/** All of it is common practice, no source. */
export const triedTexts: Record<TriedThing, TriedText> = {
  'other-source': {
    title: 'Another source and another lead',
    why: 'The source and its lead fail more often than the board.',
    helped: 'The board is well: the source or its lead was at fault.',
    noChange: 'The source is ruled out.',
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
    noChange: 'Panel and cable are ruled out.',
  },
  'other-battery': {
    title: 'Another battery, or none with the adapter alone',
    why: 'A pack whose own board has shut it off looks like a board that does not charge.',
    helped: 'The battery, not the board.',
    noChange: 'The battery is ruled out.',
  },
  'button-pads': {
    title: 'Button stood in for by its two pads',
    why: 'The button and its cable wear out; the pads on the board do not.',
    helped: 'The button or its cable.',
    noChange: 'Button and cable are ruled out.',
  },
  clock: {
    title: 'Clocks and crystals, with a scope',
    why: 'Without its clock a chip has its rails and its reset and does nothing. The tip of a hand meter may stop a crystal.',
    helped:
      'The crystal, its two capacitors or the clock chip: check these before the chip behind them.',
    noChange: 'The clocks are ruled out.',
    words: { helped: 'a clock is missing', noChange: 'all clocks run' },
  },
  flash: {
    title: 'Contents of the firmware flash: read, kept, compared',
    why: 'With wrong or half-written contents the board has every rail and runs no code.',
    helped: 'The contents: write good ones, with the serial number and address of this board.',
    noChange: 'The contents read as they should be.',
    words: { helped: 'the contents are wrong', noChange: 'the contents are right' },
  },
  firmware: {
    title: 'Known good firmware of this very board, written and read back',
    why: 'Contents that read well may still be of another version or damaged where nobody compared.',
    helped: 'The firmware: it is mended by what was written.',
    noChange: 'Firmware is ruled out.',
  },
  'panel-cable': {
    title: 'Cable and plug of the panel, under the microscope',
    why: 'A bent pin, a burnt contact or a cable worn at the hinge takes the picture and no rail.',
    helped: 'The cable or its plug, not the panel.',
    noChange: 'Cable and plug look as they should.',
    words: { helped: 'found damaged', noChange: 'looks as it should' },
  },
  light: {
    title: 'A torch held flat to the panel',
    why: 'A picture that shows under a torch is there and has no light.',
    helped:
      'The light is missing, not the picture: read the rails of the light from its fuse on; where they are there, it is the lamps in the panel.',
    noChange: 'It is not the light alone.',
    words: { helped: 'a faint picture', noChange: 'no picture at all' },
  },
  'other-storage': {
    title: 'Other storage, or none',
    why: 'A dead drive has its rail and its reset and is not found; a hanging one stops the start.',
    helped: 'The storage, not the board. What is to be kept on it is read first.',
    noChange: 'The storage is ruled out.',
  },
  'battery-contacts': {
    title: 'Contacts of the battery and its two data lines',
    why: 'A charger waits for a battery that answers on its data lines.',
    helped: 'The contacts or the data lines, not the charger.',
    noChange: 'Contacts and data lines are as they should be.',
    words: { helped: 'found wrong', noChange: 'as they should be' },
  },
  processor: {
    title: 'Processor: does it warm within a minute?',
    why: 'Last, because nothing proves it but that all else was tried: one that stays cold with its core volts there runs nothing.',
    helped: 'The processor or its joints, by elimination: ask the owner before any more is spent.',
    noChange: 'It runs: what was tried before stays in question.',
    words: { helped: 'stays cold', noChange: 'gets warm' },
  },
};

/** An answer in words. */
export function triedWord(thing: TriedThing, result: (typeof simpleResults)[number]): string {
  const { words = { helped: 'helped', noChange: 'no change' } } = triedTexts[thing];
  return result === 'cannot'
    ? 'cannot be done'
    : result === 'helped'
      ? words.helped
      : words.noChange;
}
