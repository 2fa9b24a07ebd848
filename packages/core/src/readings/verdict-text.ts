import { formatAmps, formatOhms, formatQuantity, formatVolts } from '../units/index.ts';
import { unitOf } from './entry-line.ts';
import { expectationText, originText } from './expectation.ts';
import type { Because, Held, LoadBehind, Verdict } from './verdict.ts';

// The words of every verdict, and nothing that decides.

type Words = {
  [Is in Because['is']]: (because: Extract<Because, { is: Is }>) => string;
};

const wanted = (held: Held): string =>
  `expected ${expectationText(held)}, from the ${originText[held.origin]}`;
const lowerFirst = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
const above = (limit: number, mode: Held['mode']): string =>
  `Above ${formatQuantity(limit, unitOf[mode])}`;

/** A part that lets nothing through is only to blame where what hangs behind it is no short. */
const loadWords: Record<LoadBehind, string> = {
  clear: 'it does not conduct.',
  shorted:
    'what hangs behind it is shorted, which comes first: the part may be whole, or gone by it.',
  unread:
    'it does not conduct, or what hangs behind it pulls all down: source off, read ohms there before the part is blamed.',
};

const unplugged = (volts: number): string => `${formatVolts(volts)} unplugged`;

/** What lies beside a resistor on the board. */
const besideWords = (ohms: number): string =>
  Number.isFinite(ohms) ? ` with ${formatOhms(Number(ohms.toPrecision(2)))} beside it` : '';

/** What a charger is set to, where it is known, and where it is not. */
const charger = (most: number, isGuess: boolean): string =>
  isGuess
    ? `chargers of such boards are mostly set to ${formatAmps(most)} (a guess)`
    : `the charger is set to ${formatAmps(most)}`;

const words: Words = {
  'not-reached': () => 'The point was not reached.',
  'no-sense': () => 'Such a display makes no sense here.',
  'not-judged': () => 'Recorded, not judged.',
  'across-not-judged': () => 'Read against another point: kept, not judged.',
  'other-point': () => 'Read against another point: kept, not judged by the rail.',
  'not-on-sheet': ({ net }) => `${net} is not on the sheet any more.`,
  recorded: ({ because }) => `Recorded, not judged: ${because}.`,
  'no-expected': ({ mode }) => `No expected ${mode} are known here.`,
  swings({ low, high, mode, held }) {
    const span = `${formatQuantity(low, unitOf[mode])} and ${formatQuantity(high, unitOf[mode])}`;
    return held
      ? `Swings between ${span}; a steady ${expectationText(held)} is expected. Something tries and gives up.`
      : `Swings between ${span}: it comes and goes.`;
  },
  'not-settled': ({ yet }) => `Not settled yet; ${lowerFirst(textOf(yet))}`,

  'over-charge': ({ amps, most, isGuess }) =>
    `${formatAmps(amps)} with the battery, and ${charger(most, isGuess)} at most: unplug the battery now, keep away from it, and follow your local rules. Something bypasses the charger.`,
  'no-charge': ({ most, isGuess }) => `Nothing flows; ${charger(most, isGuess)}.`,
  precharge: ({ amps, most }) =>
    `${formatAmps(amps)} is a pre-charge: watch whether it rises to about ${formatAmps(most)} within minutes.`,
  charging: ({ amps, most, isGuess }) =>
    isGuess
      ? `${formatAmps(amps)}; ${charger(most, true)}. Watch it, and the warmth of the cell.`
      : `${formatAmps(amps)}, within the ${formatAmps(most)} the charger is set to.`,

  off: ({ held }) => `Off as it should be; ${wanted(held)}.`,
  within: ({ held }) => `Within tolerance: ${wanted(held)}.`,
  negative: ({ held }) => `Negative: leads swapped, or the wrong reference; ${wanted(held)}.`,
  'not-there': ({ held }) => `Not there; ${wanted(held)}.`,
  'may-float': ({ volts, held }) =>
    `${formatVolts(volts)} may float on a net that nobody feeds; ${wanted(held)}.`,
  'too-early': ({ volts, held }) =>
    `${formatVolts(volts)} where nothing should be yet; ${wanted(held)}.`,
  'too-low': ({ by, held, isRail }) =>
    `${formatVolts(by)} too low; ${wanted(held)}.${isRail ? ' Dragged down or not regulating.' : ''}`,
  'too-high': ({ by, held }) => `${formatVolts(by)} too high; ${wanted(held)}.`,

  'idle-source': ({ volts, held }) =>
    `${formatVolts(volts)} is what this source gives until it sees a load; ${wanted(held)}. It is no fault of its own: nothing draws from it yet, so read on behind it.`,
  'may-idle': ({ volts, held }) =>
    `${formatVolts(volts)}, ${wanted(held)}. Dragged down by what hangs on it, weak, or one that idles low until it sees a load: read it off the board, then with a load, or try another.`,
  'usb-not-asked': ({ volts, held }) =>
    `${formatVolts(volts)} is what a USB-C source gives to who is attached and asks for no more; ${wanted(held)}.`,
  'worn-cell': ({ volts }) =>
    `${formatVolts(volts)}: a coin cell below 2.7 V is worn (common practice). Change it before settings and clock are trusted.`,
  cell: ({ volts }) => `${formatVolts(volts)}: a coin cell is good down to about 2.7 V.`,

  'usb-idle': ({ volts }) =>
    `${unplugged(volts)}: a USB-C source gives nothing until something is plugged in. Check it with a load that asks.`,
  'usb-live': ({ volts }) =>
    `${unplugged(volts)}: a USB-C source gives nothing until something is plugged in. This one does not keep to it.`,
  'source-good': ({ volts, usual }) => `${unplugged(volts)}, ${formatVolts(usual)} expected.`,
  'source-dead': ({ volts }) =>
    `${unplugged(volts)}: dead, or its lead is broken. Try another before the board is opened.`,
  'source-low': ({ volts, usual }) =>
    `${unplugged(volts)}, ${formatVolts(usual)} expected. Some idle low until they see a load: try one.`,
  'source-high': ({ volts, usual }) =>
    `${unplugged(volts)}, ${formatVolts(usual)} expected: do not connect it.`,
  'source-idles': ({ volts, wakesAtAmps }) =>
    `${unplugged(volts)} is how it idles: read it again under a load of more than ${formatAmps(wakesAtAmps)}.`,
  'draw-guessed': ({ amps, then }) =>
    then
      ? `${formatAmps(amps)}. ${then}`
      : `${formatAmps(amps)}: nobody knows what a good one of these draws. Write it down and go on.`,
  draw: ({ amps, usual, then }) =>
    `${formatAmps(amps)}, about ${formatAmps(Number(usual.toPrecision(2)))} when healthy.${then && ` ${then}`}`,

  'may-be-body-diode': ({ volts, part, from }) =>
    `${formatVolts(volts)} could be ${part} on, or off and leaking through its body diode. Read ${from} before it: the drop decides.`,
  'drop-decides': ({ part, from }) =>
    `Looks right, but ${part} before it is judged by its drop: read ${from} too.`,
  'nothing-before': ({ part, from }) =>
    `Nothing here, and nothing at ${from} before ${part} either.`,
  'fed-elsewhere': ({ volts, from }) =>
    `${formatVolts(volts)} here but nothing at ${from}: fed from elsewhere.`,
  'above-before': ({ by, part, from }) =>
    `${formatVolts(by)} higher than ${from} before ${part}: fed from elsewhere, or a bad contact.`,
  through: ({ part, held }) => `There, so ${part} before it conducts: ${wanted(held)}.`,
  conducts: ({ drop, part, usual }) =>
    `${formatVolts(drop)} across ${part}: it conducts (a healthy one drops about ${formatVolts(usual)}).`,
  'conducts-low': ({ part, held }) =>
    `${part} conducts, but what comes in is low already: ${expectationText(held)} expected.`,
  'conducts-high': ({ part, held }) =>
    `${part} conducts, but what comes in is too high: ${expectationText(held)} expected.`,
  blocks: ({ part, before, load, isFuse }) =>
    `Nothing after ${part}, ${formatVolts(before)} before it: ${loadWords[load]}${isFuse && load !== 'unread' ? ' Before a new one goes in, read what stands next in line behind it for the short that blew it.' : ''}`,
  'diode-drop': ({ drop, part }) =>
    `${formatVolts(drop)} across ${part} is a diode's drop: it is off, and what is here leaks through its body diode.`,
  'follows-gate': ({ part, below, gate, before }) =>
    `${formatVolts(below)} below the gate of ${part} (${formatVolts(gate)}): it only follows its gate, which has to stand about 5 V above the ${formatVolts(before)} before it. Look at what drives the gate.`,
  'drops-too-much': ({ drop, part, usual }) =>
    `${formatVolts(drop)} across ${part}, about ${formatVolts(usual)} when healthy: it does not conduct as it should.`,

  'no-junction': ({ held }) => `OL: no junction seen; expected ${expectationText(held)}.`,
  'open-to-ground': ({ held }) => `Open to ground; expected ${expectationText(held)}.`,
  leaks: ({ held }) => `Lower than expected ${expectationText(held)}: something leaks to ground.`,
  'path-broken': ({ held }) =>
    `Higher than expected ${expectationText(held)}: a path is broken or a part is gone.`,
  'as-expected': ({ held }) => `As expected: ${expectationText(held)}.`,
  'over-unknown': () => 'OL recorded: nothing known to hold it against.',
  'core-diode': () => 'A core rail reads near nothing in diode-mode by nature: take ohms.',
  'no-drop': () => 'Next to no drop to ground: shorted, or nearly so. Take ohms to be sure.',
  'nothing-known': ({ shortOhms }) =>
    `Recorded: nothing known to hold it against.${shortOhms === null ? '' : ` Not a short for what feeds it (${formatOhms(shortOhms)} or less would be).`}`,
  'cannot-hold': ({ ohms, isBound, amps, volts, least }) =>
    `${isBound ? 'Below ' : ''}${formatOhms(ohms)}: the regulator gives at most ${formatAmps(amps)} and cannot hold ${formatVolts(volts)} into less than ${formatOhms(least)}.`,
  below: ({ ohms, held }) =>
    held
      ? `Below ${formatOhms(ohms)}, expected ${expectationText(held)}, and how much was not read.`
      : `Below ${formatOhms(ohms)}: how much was not read.`,
  'core-buzz': ({ ohms }) => `Below ${formatOhms(ohms)}: normal for a core rail. Read it in ohms.`,
  buzz: ({ ohms }) => `Below ${formatOhms(ohms)} by the buzzer: a possible short. Read it in ohms.`,
  'near-nothing': ({ ohms }) =>
    `${formatOhms(ohms)}: no rail but a core reads that little, whoever feeds it.`,

  'far-below': ({ ohms, held }) =>
    `${formatOhms(ohms)} where a good one reads ${formatOhms(held.value)}: no leak is so low.`,

  'ground-joined': ({ ohms }) => `${formatOhms(ohms)}: joined to ground, as this pin is to be.`,
  'ground-open': () => 'Not joined to ground: its joint is open, or the trace to it.',

  'bound-may-be-short': ({ limit, mode }) =>
    `${above(limit, mode)}, which leaves a short possible: type the figure.`,
  'bound-no-short': ({ limit, mode, held }) =>
    held
      ? `${above(limit, mode)}, so no short; expected ${expectationText(held)}, and how much was not read.`
      : `${above(limit, mode)}, so no short; how much was not read.`,
  'bound-too-high': ({ limit, mode, held }) =>
    `${above(limit, mode)}, expected ${expectationText(held)}: a path is broken or a part is gone.`,

  'bound-through': ({ part }) => `A bound through ${part}: type what the meter shows.`,
  'part-conducts': ({ part }) => `${part} conducts.`,
  'part-whole': ({ part, ohms }) => `${part} is whole: ${formatOhms(ohms)} through it.`,
  'part-open': ({ part, own }) =>
    `${part} does not conduct: ${formatOhms(own)} expected through it.`,
  'part-high': ({ part, own }) =>
    `More than ${formatOhms(own)} and the leads: a bad joint, or ${part} is on its way to open.`,
  'channel-short': ({ part }) =>
    `${part} conducts without its gate: shorted from drain to source, or what lies beside it is.`,
  'channel-leaks': ({ part }) =>
    `Lower than the healthy play: ${part} or what lies beside it leaks.`,
  'channel-blocks': ({ part }) => `${part} does not conduct without its gate.`,
  'junction-gone': ({ part }) =>
    `No junction left in ${part}: shorted from drain to source, or what lies beside it is.`,
  'blocks-this-way': () => 'Blocks this way round, as the healthy play does.',
  'no-body-diode': ({ part }) =>
    `No body diode seen: the leads are the other way round, or ${part} is open.`,
  'junction-leaks': ({ part }) =>
    `Less than a junction drops: ${part} leaks, or something beside it does.`,
  'junction-high': ({ part }) =>
    `More than its body diode drops: not all of ${part} is there, or a bad contact.`,
  'body-diode': ({ part, volts }) =>
    `${formatVolts(volts)} is the body diode of ${part}. Whether it turns on is seen powered.`,
  'part-drop': ({ part, volts }) =>
    `${formatVolts(volts)} across ${part}: it conducts, or nothing comes in at all.`,
  'part-diode-drop': ({ part, volts }) =>
    `${formatVolts(volts)} across ${part} is a diode's drop: it is off.`,
  'part-drops-too-much': ({ part, volts, usual }) =>
    `${formatVolts(volts)} across ${part}, about ${formatVolts(usual)} when healthy: it does not conduct as it should.`,

  junction: ({ part, volts }) => `${formatVolts(volts)} is the junction of ${part}.`,
  'junction-open': ({ part }) => `No junction seen: ${part} is open, or its joint is.`,

  'in-circuit-good': ({ part, in: { ohms, beside, expected } }) =>
    `${part} is good: ${formatOhms(ohms)}${besideWords(beside)} read ${formatOhms(expected)} here.`,
  'in-circuit-high': ({ part, read, in: { ohms, expected } }) =>
    `${part} has gone high: a good one of ${formatOhms(ohms)} reads ${formatOhms(expected)} here, and what lies beside it can only lower ${formatOhms(read)}.`,
  'in-circuit-open': ({ part, in: { ohms, expected, beside } }) =>
    `${part} is open: a good one of ${formatOhms(ohms)} reads ${formatOhms(expected)} here${Number.isFinite(beside) ? ', and this is what lies beside it' : ''}.`,
  'in-circuit-low': ({ part, in: { ohms, expected, lift } }) =>
    `Too low: a good ${part} of ${formatOhms(ohms)} reads ${formatOhms(expected)} here. It, or something beside it, is low: lift its end on ${lift.net} and read it alone before it is blamed.`,
  'in-circuit-hidden': ({ part, in: { ohms, beside, expected, lift } }) =>
    `Not to be told in circuit: ${part} of ${formatOhms(ohms)}${besideWords(beside)} reads about ${formatOhms(expected)} when good, and may when it is not. Lift its end on ${lift.net} and read it alone.`,

  'take-ohms': ({ chip }) => `Take ohms through ${chip}.`,
  'switch-shorted': ({ chip, rail, feedVolts }) =>
    `Next to nothing through ${chip}: its upper switch is gone, and ${formatVolts(feedVolts)} would stand on ${rail} and destroy what hangs there. No source and no battery before it is changed and ${rail} was read for shorts.`,
  'switch-little': ({ chip }) =>
    `Little through ${chip} for a switch that is off: read it again with the leads the other way round before any source.`,
  'switch-blocks': ({ chip, rail }) => `${chip} blocks from its feed to ${rail}.`,
};

function textOf<Is extends Because['is']>(because: Extract<Because, { is: Is }>): string {
  return (words[because.is as Is] as (because: Extract<Because, { is: Is }>) => string)(because);
}

/** Why a reading is judged as it is, in one line or two. */
export const whyText = ({ because }: Verdict): string => textOf(because);
