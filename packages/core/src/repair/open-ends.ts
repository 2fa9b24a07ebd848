import { findPart, type Board } from '../board/index.ts';
import { liftedParts, type Job } from '../record/index.ts';
import type { Retest } from './retest.ts';

/** Something that stands on the job until it is answered. */
export interface OpenEnd {
  kind: 'off-board' | 'missing' | 'unread' | 'slip' | 'approval' | 'order' | 'wait' | 'warm';
  text: string;
  part: string | null;
}

/** Everything that was begun and not ended, in the order it matters before the board goes back. */
export function openEnds(board: Board, job: Job, retest: Retest): OpenEnd[] {
  const stands = <T extends { struck: string | null }>(list: readonly T[]): T[] =>
    list.filter((one) => one.struck === null);
  const put = new Set(
    stands(job.repairs)
      .filter(({ body }) => body.action !== 'removed')
      .flatMap(({ body }) => body.parts),
  );
  const unreached = new Map<string, boolean>();
  for (const { reading, standing } of job.readings)
    if (standing.kind === 'stands' || standing.kind === 'before-repair')
      unreached.set(`${reading.at.net} in ${reading.mode}`, reading.value.kind === 'unreached');
  const looked = new Set([
    ...stands(job.partsSeen).map(({ body }) => body.part),
    ...job.verified.map(({ body }) => body.item.replace(/^slip-/, '')),
  ]);
  return [
    ...liftedParts(job).map((part): OpenEnd => ({
      kind: 'off-board',
      part,
      text: `${part} is off the board: refit it, replace it, or leave it off knowingly.`,
    })),
    ...stands(job.slips).flatMap(({ body, id }): OpenEnd[] =>
      job.verified.some((one) => one.body.item === `slip-${id.slice(0, 8)}`)
        ? []
        : [
            {
              kind: 'slip',
              part: body.parts[0] ?? null,
              text: `Slip: ${slipText[body.what]}${body.parts.length > 0 ? ` at ${body.parts.join(', ')}` : ''}. Look at it and at what stands beside it before power.`,
            },
          ],
    ),
    ...stands(job.findings).flatMap(({ body: { kind, part }, harmless }): OpenEnd[] =>
      kind === 'missing' && part && harmless === null && !put.has(part) && !looked.has(part)
        ? [
            {
              kind: 'missing',
              part,
              text: `${part} is missing: ${filterWords(board, part)}`,
            },
          ]
        : [],
    ),
    ...[...unreached].flatMap(([point, isOpen]): OpenEnd[] =>
      isOpen
        ? [{ kind: 'unread', part: null, text: `${point} was asked for and could not be read.` }]
        : [],
    ),
    ...retest.points.flatMap((one): OpenEnd[] =>
      one.provisional === null
        ? []
        : [
            {
              kind: 'warm',
              part: one.after?.reading.at.part ?? null,
              text: `${one.after?.reading.at.net} ${one.provisional}.`,
            },
          ],
    ),
    ...stands(job.approvals)
      .filter((one) => one.answer === null)
      .map((one): OpenEnd => ({
        kind: 'approval',
        part: null,
        text: `The owner has not answered: ${one.body.asks}`,
      })),
    ...stands(job.orders)
      .filter((one) => one.step === 'to-order' || one.step === 'ordered')
      .map((one): OpenEnd => ({
        kind: 'order',
        part: one.body.part,
        text: `${one.body.what}: ${one.step === 'ordered' ? 'on its way' : 'to be ordered'}.`,
      })),
    ...stands(job.waits)
      .filter((one) => one.over === null)
      .map((one): OpenEnd => ({
        kind: 'wait',
        part: null,
        text: `Waits: ${one.body.reason}${one.body.text ? `, ${one.body.text}` : ''}.`,
      })),
  ];
}

const slipText: Record<Job['slips'][number]['body']['what'], string> = {
  'bridged-pads': 'two pads bridged by the probe',
  'burnt-part': 'a part burnt',
  'lifted-pad': 'a pad lifted',
  'lost-part': 'a part lost',
  other: 'something went wrong',
};

/** Common practice, no source: a missing filter capacitor rarely stops a board and often shortens its life. */
function filterWords(board: Board, ref: string): string {
  const part = findPart(board, ref);
  return part?.kind === 'capacitor'
    ? 'the board may run without it, with more ripple and for less long.'
    : 'fit one, or say why it stays off.';
}
