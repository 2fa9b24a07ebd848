import { findChip, findPart, netById, type Board } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { valueText } from '../readings/index.ts';
import { besideText, isMended, timeOf, type KeptEvent, type Outcome } from '../record/index.ts';
import { isSaidToWork, retestOf, timelineOf, verifyList, type Timeline } from '../repair/index.ts';
import { dayText } from './day-text.ts';
import { heading, paragraph, titledList, titledTable, type Printed } from './printed.ts';

/** Half a page for who owns the device: plain words, no names of parts. */
export function ownerReport(
  studied: HealthyBoard,
  events: readonly KeptEvent[],
  /** The day of a moment (both in ISO 8601) where the shop is. */
  dayOf: (at: string) => string,
): Printed {
  const timeline = timelineOf(studied, events, () => 0);
  const { job, healthy } = timeline;
  const { intake, close } = job;
  const verify = verifyList(healthy, job);
  const passed = verify.filter((one) => one.state === 'passed');
  const leftOut = verify.filter(
    (one) => one.state === 'left-out' || (isSaidToWork(job) && one.state === 'open'),
  );
  const failed = verify.filter((one) => one.state === 'failed');
  const rows = beforeAndAfter(timeline);
  const { minutes } = timeOf(job);
  const title = intake?.device ?? 'Device';
  const done = doneWords(timeline);
  const watch = watchWords(timeline);
  return {
    title,
    blocks: [
      { kind: 'title', text: title },
      {
        kind: 'facts',
        facts: [
          { name: 'Brought in', value: events[0] ? dayText(dayOf(events[0].at)) : '' },
          { name: 'Brought in for', value: intake?.complaint ?? '' },
          {
            name: 'Result',
            value: close ? resultWords[close.body.outcome] : 'Still being worked on.',
          },
          ...(close ? [{ name: 'Finished', value: dayText(dayOf(close.at)) }] : []),
          ...(close && close.body.cause && isMended(close.body.outcome)
            ? [{ name: 'What it was', value: close.body.cause }]
            : []),
          ...(close?.body.reason ? [{ name: 'Why', value: close.body.reason }] : []),
          ...(minutes > 0 ? [{ name: 'Time', value: timeWords(minutes) }] : []),
        ].filter((one) => one.value !== ''),
      },
      ...(done.length > 0
        ? titledList('What was done', done)
        : [heading('What was done'), paragraph('Nothing was changed on the device.')]),
      ...titledTable(
        'Before and after',
        [
          ['What was measured', 0.5],
          ['Before', 0.25],
          ['After', 0.25],
        ],
        rows,
      ),
      ...titledList('Checked before it left', [
        ...passed.map((one) => one.title),
        ...failed.map(
          (one) => `${one.title}: not as it should be${one.text ? `, ${one.text}` : ''}`,
        ),
      ]),
      ...(leftOut.length > 0
        ? [
            paragraph(
              `Not checked: ${leftOut.map((one) => `${one.title.toLowerCase()}${one.text ? ` (${one.text})` : ''}`).join('; ')}.`,
            ),
          ]
        : []),
      ...titledList('Keep an eye on', watch),
    ],
  };
}

const resultWords: Record<Outcome, string> = {
  fixed: 'It works again.',
  repaired: 'It works again.',
  partly: 'It works in part.',
  'data-saved': 'The data were saved; the device was not repaired.',
  'not-found': 'The cause was not found.',
  'not-repaired': 'It was not repaired.',
  'not-worth': 'A repair would cost more than it is worth.',
  declined: 'It was not repaired, as agreed.',
  returned: 'It goes back as it came.',
};

const timeWords = (minutes: number): string =>
  minutes < 60 ? `${minutes} minutes` : `${Number((minutes / 60).toFixed(1))} hours`;

/** Up to three rails that were wrong and are right: pins and signals tell an owner nothing. */
function beforeAndAfter(timeline: Timeline): string[][] {
  const { nets } = timeline.healthy.board;
  const isRail = (id: string): boolean => nets.find((net) => net.id === id)?.kind === 'rail';
  return retestOf(timeline)
    .points.filter(
      (one) => one.verdict === 'fixed' && one.after !== null && isRail(one.before.reading.at.net),
    )
    .slice(0, 3)
    .map(({ before, after }) => [
      railWords(timeline.healthy, before.reading.at.net, before.reading.mode),
      valueText(before.reading.value, before.reading.mode),
      valueText(after!.reading.value, after!.reading.mode),
    ]);
}

function railWords(healthy: HealthyBoard, id: string, mode: string): string {
  const net = netById(healthy.board, id);
  const stage = net && healthy.stageOfNet(net.id);
  const name = net?.title || stage?.title || 'A line of the board';
  const what = mode === 'volts' ? 'volts' : mode === 'ohms' ? 'resistance' : mode;
  return `${name.charAt(0).toUpperCase()}${name.slice(1)}, ${what}`;
}

const kindWords: Record<string, string> = {
  capacitor: 'capacitor',
  resistor: 'resistor',
  coil: 'coil',
  ferrite: 'filter',
  fuse: 'fuse',
  jumper: 'link',
  diode: 'diode',
  schottky: 'diode',
  zener: 'diode',
  tvs: 'surge protector',
  led: 'light',
  pfet: 'power switch',
  nfet: 'power switch',
  npn: 'transistor',
  pnp: 'transistor',
  crystal: 'clock crystal',
  fan: 'fan',
  button: 'button',
  connector: 'connector',
};

function partWords(board: Board, ref: string): string {
  const part = findPart(board, ref);
  if (part) return kindWords[part.kind] ?? 'part';
  const chip = findChip(board, ref);
  return chip?.title ? `chip (${chip.title})` : 'chip';
}

function doneWords({ job, healthy, changes }: Timeline): string[] {
  const { board } = healthy;
  const words = changes.map(({ body }) => {
    const counted = new Map<string, number>();
    for (const ref of body.parts) {
      const word = partWords(board, ref);
      counted.set(word, (counted.get(word) ?? 0) + 1);
    }
    const parts = [...counted]
      .map(([word, count]) => (count > 1 ? `${count} ${word}s` : word))
      .join(', ');
    switch (body.action) {
      case 'replaced':
        return `Replaced: ${parts || body.text}${body.from === 'donor' ? ', from another board' : ''}.`;
      case 'reflowed':
        return `Soldered anew: ${parts || body.text}.`;
      case 'cleaned':
        return `Cleaned${parts ? `: ${parts}` : ''}.`;
      case 'jumper':
        return 'A broken connection bridged with a wire.';
      case 'reprogrammed':
        return 'Firmware written anew; the old contents were saved first.';
      default:
        return body.text || `${body.action}: ${parts}`;
    }
  });
  const off = job.repairs.filter((one) => one.struck === null && one.body.action === 'removed');
  const back = new Set(
    job.repairs
      .filter((one) => one.struck === null && one.body.action !== 'removed')
      .flatMap(({ body }) => body.parts),
  );
  const left = [...new Set(off.flatMap(({ body }) => body.parts))].filter((ref) => !back.has(ref));
  const beside = job.repairs.flatMap(({ struck, body }) =>
    struck === null && body.action === 'beside'
      ? [
          `Beside the board: ${besideText[body.beside ?? 'else']}${body.text ? `, ${body.text}` : ''}.`,
        ]
      : [],
  );
  return [
    ...new Set([...words, ...beside]),
    ...(left.length > 0
      ? [`Left off: ${left.map((ref) => partWords(board, ref)).join(', ')}.`]
      : []),
  ];
}

/** Common practice, no source. */
function watchWords({ job, healthy, changes }: Timeline): string[] {
  const happened = job.intake?.happened ?? [];
  const kinds = new Set(
    changes.flatMap(({ body }) => body.parts.map((ref) => findPart(healthy.board, ref)?.kind)),
  );
  const isReflow = changes.some((one) => one.body.action === 'reflowed');
  return [
    ...(happened.some((one) => one === 'liquid' || one === 'frost')
      ? [
          'Moisture leaves corrosion that can go on unseen for months: save what matters, and bring it at the first sign.',
        ]
      : []),
    ...(happened.includes('lightning') || kinds.has('tvs')
      ? ['Have the adapter and what else hung on the same socket tested before they are used.']
      : []),
    ...(happened.includes('bite') ? ['Do not use the damaged cable again.'] : []),
    ...(isReflow ? ['A joint that broke once can break again: keep a copy of what matters.'] : []),
    ...(kinds.has('fuse')
      ? ['The fuse blew for a reason: if it goes off again, unplug it and bring it back.']
      : []),
    ...(job.intake?.keep ? [`Asked to be kept: ${job.intake.keep}.`] : []),
  ];
}
