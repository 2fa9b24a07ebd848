import { type NetId, type StageId, findChip } from '../board/index.ts';
import {
  expectationText,
  pinText,
  readingText,
  valueText,
  whyText,
  type Reading,
} from '../readings/index.ts';
import { phaseFor, statusOf, type NetStatus } from './judged.ts';
import { roleText, type FirstMissing, type Known, type TracedNeed } from './known.ts';
import { outputPulledDown, pulledDownBy } from './pulled-down.ts';

// What is said of the first missing stage, from what was read of it and of what it needs.

/** USB Type-C: nothing on the bus until something is attached, then 5 V until more is agreed on. */
const undetectedVolts = 0.8;
/** Less than the 4.75 V of a source, by what a cable and a meter take (USB Type-C; the rest a guess). */
const leastFirstFive = 4.4;
const askedVolts = 5.6;

export const isCold = (status: NetStatus): boolean =>
  status.kind === 'bad' && status.reading.reading.phase === 'cold';

/** There at one pin of the net and not at another. */
export const isBroken = (status: NetStatus): boolean =>
  status.kind === 'bad' && status.there !== undefined;

/** More than it should be, or there when it should not: nothing pulls it down. */
export const isTooHigh = (status: NetStatus): boolean =>
  status.kind === 'bad' &&
  (status.reading.verdict.kind === 'high' || status.reading.verdict.kind === 'present');

export function describeMissing(
  known: Known,
  net: NetId,
  needs: TracedNeed[],
  certain: boolean,
): FirstMissing {
  const stage = known.healthy.stageOfNet(net) ?? stageFedBy(known, net);
  const status = known.status(net);
  const read = status.kind === 'unread' ? 'not read' : readingText(status.reading.reading);
  const there = needs
    .filter((one) => one.status.kind === 'good')
    .map((one) => `${roleText[one.role]} ${one.net}`);
  const unread = needs
    .filter((one) => one.status.kind !== 'good' && one.status.kind !== 'bad')
    .map((one) => one.net);
  const dragged = needs.filter((one) => one.status.kind === 'bad').map((one) => one.net);
  const ohms = statusOf(known.readings, net, 'cold', 'ohms');
  const pulledDown = outputPulledDown(known, net);
  const isHigh = isTooHigh(status);
  const makers = [
    ...new Set(known.healthy.upstream.of(net).map((one) => maker(known, one.via))),
  ].join(', ');
  if (status.kind === 'bad' && status.there) {
    const [there, missing] = [status.there, status.reading].map(({ reading }) => reading) as [
      Reading,
      Reading,
    ];
    return {
      stage: stage?.id ?? ('' as StageId),
      title: stage?.title ?? net,
      net,
      certain,
      why: `${net} reads ${valueText(there.value, 'volts')} at ${pinText(there.at)} and ${valueText(missing.value, 'volts')} at ${pinText(missing.at)}: it is one net, so the copper or a joint between the two is broken, or one of the two was a slip.`,
      needs,
      pulledDown: null,
    };
  }
  if (isCold(status))
    return {
      stage: stage?.id ?? ('' as StageId),
      title: stage?.title ?? net,
      net,
      certain,
      why: `${net} was read at ${read} with nothing connected: ${pulledDown && ohms.kind !== 'unread' ? whyText(ohms.reading.verdict) : 'a short.'} No volts need to be read before it is found.`,
      needs,
      pulledDown: pulledDown ?? 'surely',
    };
  const usb = usbWords(known, net);
  const why = [
    `${net} reads ${read}, expected ${expectationText(
      // Against the phase it was read in.
      status.kind === 'unread'
        ? known.healthy.expect(net, 'volts', phaseFor(known.healthy, net))
        : status.reading.expectation,
    )}.`,
    there.length > 0 ? `There: ${there.join(', ')}.` : '',
    unread.length > 0 ? `Not proven yet: ${unread.join(', ')}.` : '',
    usb,
    dragged.length > 0 ? `${dragged.join(', ')} being wrong can follow from it.` : '',
    ohms.kind === 'unread' || pulledDown === null
      ? ''
      : pulledDown === 'surely'
        ? `Its output is shorted: ${whyText(ohms.reading.verdict)}`
        : `Its output is likely shorted: ${valueText(ohms.reading.reading.value, 'ohms')} is little even for a core rail. Large graphics may read so: hold it against a sister rail or a good board before a chip comes off.`,
    certain && pulledDown === null && needs.length > 0
      ? `So the trouble sits at ${makers}, or something ${isHigh ? 'holds' : 'pulls'} ${net} ${isHigh ? 'up' : 'down'}.`
      : '',
    isHigh ? pullDownWords(known, net) : '',
    certain && needs.length === 0 && status.kind !== 'good' && !usb
      ? known.healthy.board.sources.some((one) => one.net === net)
        ? 'Nothing on the board stands before it: look at the source and its lead.'
        : `The sheet does not say what feeds ${net}.`
      : '',
  ];
  return {
    stage: stage?.id ?? ('' as StageId),
    title: stage?.title ?? net,
    net,
    certain,
    why: why.filter(Boolean).join(' '),
    needs,
    pulledDown,
  };
}

export function isUndetected(known: Known, net: NetId): boolean {
  const status = known.status(net);
  return (
    known.healthy.board.sources.some((one) => one.kind === 'usb-c' && one.net === net) &&
    status.kind === 'bad' &&
    status.reading.reading.value.kind === 'number' &&
    status.reading.reading.value.value < undetectedVolts
  );
}

/** Volts of a USB-C bus that nobody asked for more on; null where it is none, or reads as it should. */
function unaskedVolts({ healthy: { board }, status }: Known, net: NetId): number | null {
  const read = status(net);
  if (read.kind !== 'bad' || read.reading.reading.value.kind !== 'number') return null;
  const volts = read.reading.reading.value.value;
  const isBus = board.sources.some((source) => source.kind === 'usb-c' && source.net === net);
  return isBus && volts < askedVolts ? volts : null;
}

/** A USB-C bus that stands at its first 5 V: nothing pulls it down. */
export const isAtFirstFive = (known: Known, net: NetId): boolean =>
  (unaskedVolts(known, net) ?? 0) >= leastFirstFive;

/** What the volts of a USB-C bus say of who is there and who asks. */
function usbWords(known: Known, net: NetId): string {
  const { board } = known.healthy;
  if (isUndetected(known, net))
    return 'The source does not see the board: its plug and contacts, and the pull-downs that show it is there, which work without any supply.';
  const asks = board.chips.find((chip) =>
    chip.behaviours.some(
      (one) => one.do === 'sequence' && one.steps.some((step) => step.kind === 'ask'),
    ),
  );
  return unaskedVolts(known, net) !== null && asks
    ? `The board is seen, but nobody asks for more than 5 V: look at ${asks.ref} and its own supply.`
    : '';
}

/** What is to hold a net low, and does not. */
function pullDownWords(known: Known, net: NetId): string {
  const by = pulledDownBy(known.healthy.board, net)
    .filter((one) => !known.gone.includes(one.ref))
    .map(({ ref, pin, through }) =>
      [maker(known, ref), pin && ` pin ${pin}`, through && ` through ${through}`].join(''),
    );
  return by.length > 0 ? `What should pull it down: ${[...new Set(by)].join(', ')}.` : '';
}

/** A part by its reference; a regulator known only by its stage, by that stage. */
function maker(known: Known, ref: string): string {
  const chip = findChip(known.healthy.board, ref);
  return chip?.virtual ? `the regulator of "${chip.title}"` : ref;
}

/** A net of no stage belongs to the first stage that needs it. */
function stageFedBy(known: Known, net: NetId): { id: StageId; title: string } | null {
  const seen = new Set<NetId>();
  for (const { stage } of known.healthy.stages) {
    const queue = [...stage.gives];
    for (let here = queue.shift(); here !== undefined; here = queue.shift()) {
      if (here === net) return stage;
      if (seen.has(here)) continue;
      seen.add(here);
      for (const up of known.healthy.upstream.of(here)) {
        if (up.net === net) return stage;
        if (!known.healthy.stageOfNet(up.net)) queue.push(up.net);
      }
    }
  }
  return null;
}
