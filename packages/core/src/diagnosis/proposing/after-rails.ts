import type { Board, Chip } from '../../board/index.ts';
import { triedTexts, triedWord, type TriedText, type TriedThing } from '../../record/index.ts';
import { cautionText, type Deed } from '../../safety/index.ts';
import type { Lack, Lacking } from '../../trace/index.ts';

// All rails are good and it still does not start, show, store or charge: what is tried then, and in which
// order. All of it is common practice, no source.

export interface CheckAfterRails extends TriedText {
  thing: TriedThing;
  /** What to do, in at most twelve words. */
  order: string;
  /** Where on this board; null where the sheet does not say. */
  at: string | null;
  minutes: number;
  caution: string | null;
  /** What was answered; null: not tried since the board was last changed. */
  answer: 'no-change' | 'helped' | 'cannot' | null;
  /** The two answers in words. */
  helpedWord: string;
  noChangeWord: string;
}

interface Way {
  order: string;
  minutes: number;
  /** What is done then: each with its caution. */
  deeds: readonly Deed[];
}
const ways = {
  'other-panel': {
    order: 'Try another panel and cable, or an outer screen.',
    minutes: 5,
    deeds: ['plug'],
  },
  light: {
    order: 'Hold a torch flat to the panel, look for a faint picture.',
    minutes: 1,
    deeds: [],
  },
  'panel-cable': {
    order: 'Look at the panel cable and its plug.',
    minutes: 10,
    deeds: ['plug'],
  },
  memory: { order: 'Reseat the memory, one module at a time.', minutes: 5, deeds: ['plug'] },
  settings: {
    order: 'Clear the settings: coin cell out for minutes.',
    minutes: 10,
    deeds: ['plug'],
  },
  'needed-only': {
    order: 'Start it with only what it needs.',
    minutes: 5,
    // The fan is off then: a processor stays under its cooler all the same.
    deeds: ['plug', 'test-fan'],
  },
  clock: { order: 'Look for every clock with a scope.', minutes: 10, deeds: ['test-rails'] },
  flash: {
    order: 'Read the flash, keep its contents, compare them.',
    minutes: 20,
    deeds: ['test-firmware'],
  },
  firmware: {
    order: 'Write known good firmware of this board, read it back.',
    minutes: 20,
    deeds: ['reprogrammed'],
  },
  'other-storage': { order: 'Try other storage, or none.', minutes: 5, deeds: ['plug'] },
  'other-battery': { order: 'Try another battery.', minutes: 5, deeds: ['plug'] },
  'battery-contacts': {
    order: 'Check the contacts and data lines of the battery.',
    minutes: 10,
    deeds: ['plug'],
  },
  processor: {
    order: 'See whether the processor warms within a minute.',
    minutes: 5,
    deeds: ['test-heat'],
  },
} satisfies Partial<Record<TriedThing, Way>>;
type CheckThing = keyof typeof ways;

const contents: CheckThing[] = ['clock', 'flash', 'firmware'];
const screen: CheckThing[] = ['other-panel', 'light', 'panel-cable'];
/** What costs little comes first, the processor last. */
const orders: Record<Lack, { code: CheckThing[]; noCode: CheckThing[]; notKnown: CheckThing[] }> = {
  picture: {
    code: [...screen, 'memory', 'settings', 'other-storage', 'flash', 'firmware', 'processor'],
    noCode: ['memory', 'settings', ...contents, 'needed-only', 'other-panel', 'processor'],
    notKnown: [...screen, 'memory', 'settings', ...contents, 'needed-only', 'processor'],
  },
  start: {
    code: ['other-storage', 'memory', 'settings', 'flash', 'firmware', 'needed-only', 'processor'],
    noCode: ['memory', 'settings', ...contents, 'needed-only', 'processor'],
    notKnown: ['memory', 'settings', 'needed-only', ...contents, 'other-storage', 'processor'],
  },
  storage: {
    code: ['other-storage', 'settings', 'flash', 'firmware', 'processor'],
    noCode: ['memory', 'settings', ...contents, 'other-storage', 'processor'],
    notKnown: ['other-storage', 'settings', ...contents, 'processor'],
  },
  charge: {
    code: ['other-battery', 'battery-contacts', 'settings', 'flash', 'firmware'],
    noCode: ['other-battery', 'battery-contacts', 'settings', 'flash', 'firmware'],
    notKnown: ['other-battery', 'battery-contacts', 'settings', 'flash', 'firmware'],
  },
};

/** What is tried while all rails are good, in order; those that were answered are among them. */
export function checksAfterRails(board: Board, lacking: Lacking): CheckAfterRails[] {
  const { what, runsCode, isFaint, answers } = lacking;
  const { code, noCode, notKnown } = orders[what];
  const order = runsCode === null ? notKnown : runsCode ? code : noCode;
  // The torch has answered already, and the panel's own lamps are what is left.
  const things = order.filter(
    (thing) => !(isFaint && thing === 'light') && !(thing === 'memory' && isSoldered(board)),
  );
  return things.map((thing) => {
    const way: Way = ways[thing];
    return {
      thing,
      ...triedTexts[thing],
      order: way.order,
      at: placeOf(board, thing),
      minutes: way.minutes,
      caution: way.deeds.map((deed) => cautionText(deed)).join(' ') || null,
      answer: answers.get(thing) ?? null,
      helpedWord: triedWord(thing, 'helped'),
      noChangeWord: triedWord(thing, 'no-change'),
    };
  });
}

/** Memory that is soldered down cannot be reseated. */
const isSoldered = ({ attachments }: Board): boolean =>
  attachments.length > 0 && !attachments.some(({ id }) => id === 'memory');

/** What was found to be it, else the first that was not tried; null where all was. */
export function nextAfterRails(board: Board, lacking: Lacking): CheckAfterRails | null {
  const all = checksAfterRails(board, lacking);
  return all.find(({ answer }) => answer === 'helped') ?? all.find(({ answer }) => !answer) ?? null;
}

/** The chips a check is about. */
const chipsOf: Partial<Record<CheckThing, Chip['kind']>> = {
  clock: 'clock',
  flash: 'flash',
  firmware: 'flash',
  memory: 'memory',
  'other-storage': 'storage',
};

function placeOf(board: Board, thing: CheckThing): string | null {
  const chips = board.chips.filter(({ kind }) => kind === chipsOf[thing]);
  const crystals = board.parts.filter(({ kind }) => thing === 'clock' && kind === 'crystal');
  const places = [
    ...chips.map(({ ref, title }) => `${ref} (${title})`),
    ...crystals.map(({ ref }) => `${ref} (crystal)`),
  ];
  return places.length === 0 ? null : places.join(', ');
}
