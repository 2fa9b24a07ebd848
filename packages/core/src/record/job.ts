import type { Reading } from '../readings/index.ts';
import type { EventBody, Intake, KeptEvent } from './event.ts';
import { gracesOf, isInGrace, type PowerLoss } from './grace.ts';

export type Standing =
  /** `wasBefore`: taken before a repair that touched nothing it hangs on. */
  | { kind: 'stands'; wasBefore?: true }
  | { kind: 'struck'; reason: string; by: string }
  | { kind: 'superseded'; by: string }
  /**
   * Taken before a repair: it tells of the board as it was then. `repairs` are those that came after it, by
   * their ids.
   */
  | { kind: 'before-repair'; repairs: readonly string[] }
  /** Taken while the job stood on another board's sheet, by its id: its points are not those of this one. */
  | { kind: 'other-board'; board: string };

export interface KeptReading {
  id: string;
  who: string;
  at: string;
  reading: Reading;
  standing: Standing;
}

type Of<T extends EventBody['type']> = Extract<EventBody, { type: T }>;
export interface Happened<T extends EventBody['type']> {
  id: string;
  who: string;
  at: string;
  body: Of<T>;
  /** Why it does not count: struck out, or written down of a part of another board's sheet. */
  struck: string | null;
  /** Recorded before the last repair, in the order of the record: no clock is asked. */
  beforeRepair: boolean;
}

/** Something that waits, or waited, for the world outside the bench. */
export interface Wait extends Happened<'wait'> {
  over: string | null;
}
export interface Order extends Happened<'order'> {
  step: 'to-order' | Of<'order-step'>['step'];
}
export interface Approval extends Happened<'approval'> {
  answer: { yes: boolean; text: string; at: string; who: string } | null;
}
export interface Found extends Happened<'finding'> {
  /** Marked at no part: `part` of its body, or `net`, is what it was said to belong to since. */
  isSpot: boolean;
  net: string | null;
  /** Why it does no harm; null while it is under suspicion. */
  harmless: string | null;
}

export interface Sign extends Happened<'sign'> {
  /** Seen in the minutes after all power was gone, when nothing is as usual: it weighs nothing. */
  inGrace: boolean;
}

/** A job as its events tell it. */
export interface Job {
  /** When all power was last gone, and by what; null where nobody wrote of it. */
  powerLoss: PowerLoss | null;
  intake: Intake | null;
  /** The version of its board's sheet it stands on; null: the present one, whichever that is. */
  sheet: string | null;
  readings: KeptReading[];
  signs: Sign[];
  findings: Found[];
  /** The last word on each of the simple things. */
  tried: Happened<'tried'>[];
  /** The last word on each item of the safety list. */
  safety: Happened<'safety'>[];
  waits: Wait[];
  orders: Order[];
  approvals: Approval[];
  times: Happened<'time'>[];
  powered: Happened<'power'>[];
  repairs: Happened<'repair'>[];
  fed: Happened<'fed'>[];
  warm: Happened<'warm'>[];
  drops: Happened<'drop'>[];
  partsSeen: Happened<'part-seen'>[];
  slips: Happened<'slip'>[];
  /** The last word on each line of the list before it goes back; what was changed since starts it anew. */
  verified: Happened<'verify'>[];
  firmware: Happened<'firmware'>[];
  /** When it went back to its owner; null while it is here. */
  handedOver: Happened<'handed-over'> | null;
  /** That it teaches the next jobs: false once it was taken out. */
  teaches: boolean;
  notes: Happened<'note'>[];
  pictures: Happened<'picture'>[];
  /** Null while it is open, or open again. */
  close: Happened<'close'> | null;
  reopened: Happened<'reopen'>[];
  /** When personal words were taken out. */
  erased: Happened<'erased'>[];
  /** Entries of kinds this version does not know. */
  strange: { id: string; who: string; at: string; was: string }[];
}

/** Whether a line of the repair log changed the board: lifting a part to see did not, nor did a new cell. */
export const isChange = (action: Of<'repair'>['action']): boolean =>
  action !== 'removed' && action !== 'refitted' && action !== 'beside';

/** Derives a job's state from its events, in the order they were recorded. */
export function deriveJob(events: readonly KeptEvent[]): Job {
  const struck = new Map<string, string>();
  const superseded = new Map<string, string>();
  const harmless = new Map<string, string>();
  const tied = new Map<string, Of<'tied'>>();
  const over = new Map<string, string>();
  const steps = new Map<string, Order['step']>();
  const answers = new Map<string, Approval['answer']>();
  for (const { body } of events) {
    if (body.type === 'strike') struck.set(body.event, body.reason);
  }
  const boards = boardsOf(events, struck);
  const board = boards.at(-1) ?? '';
  /** What changed the board, by id and place in the record. */
  const changes: { id: string; index: number }[] = [];
  events.forEach(({ id, at, who, body }, index) => {
    if (struck.has(id)) return;
    if (body.type === 'harmless') harmless.set(body.finding, body.reason);
    if (body.type === 'tied') tied.set(body.finding, body);
    if (body.type === 'wait-over') over.set(body.wait, at);
    if (body.type === 'order-step') steps.set(body.order, body.step);
    if (body.type === 'answer')
      answers.set(body.approval, { yes: body.yes, text: body.text, at, who });
    if (body.type === 'reading') body.supersedes.forEach((old) => superseded.set(old, id));
    // Lifting a part to see is no repair: what was read before speaks of the board with it on.
    if (body.type === 'repair' && isChange(body.action) && boards[index] === board)
      changes.push({ id, index });
  });
  const lastRepair = changes.at(-1)?.index ?? -1;
  const graces = gracesOf(events, struck);

  const job: Job = {
    powerLoss: graces.at(-1) ?? null,
    intake: null,
    sheet: null,
    readings: [],
    signs: [],
    findings: [],
    tried: [],
    safety: [],
    waits: [],
    orders: [],
    approvals: [],
    times: [],
    powered: [],
    repairs: [],
    fed: [],
    warm: [],
    drops: [],
    partsSeen: [],
    slips: [],
    verified: [],
    firmware: [],
    handedOver: null,
    teaches: true,
    notes: [],
    pictures: [],
    close: null,
    reopened: [],
    erased: [],
    strange: [],
  };
  events.forEach((event, index) => {
    const { id, who, at, body } = event;
    const of = boards[index] ?? '';
    const reason =
      struck.get(id) ??
      (of !== board && isOfParts(body) ? `written down of a part of ${of}` : null);
    const base = { id, who, at, struck: reason, beforeRepair: index < lastRepair };
    switch (body.type) {
      case 'intake':
        if (reason === null) job.intake = body.intake;
        break;
      case 'sheet':
        if (reason === null && of === board) job.sheet = body.hash;
        break;
      case 'reading': {
        const over = superseded.get(id);
        const standing: Standing =
          reason !== null
            ? { kind: 'struck', reason, by: who }
            : over !== undefined
              ? { kind: 'superseded', by: over }
              : of !== board
                ? { kind: 'other-board', board: of }
                : index < lastRepair
                  ? {
                      kind: 'before-repair',
                      repairs: changes.filter((one) => one.index > index).map((one) => one.id),
                    }
                  : { kind: 'stands' };
        job.readings.push({ id, who, at, reading: body.reading, standing });
        break;
      }
      case 'sign':
        job.signs.push({ ...base, body, inGrace: isInGrace(graces, index, at) });
        break;
      case 'finding':
        job.findings.push({
          ...base,
          body: { ...body, part: tied.get(id)?.part ?? body.part },
          isSpot: body.part === null,
          net: tied.get(id)?.net ?? null,
          harmless: harmless.get(id) ?? null,
        });
        break;
      case 'tried':
        if (reason !== null) break;
        job.tried = job.tried.filter((one) => one.body.thing !== body.thing);
        job.tried.push({ ...base, body });
        break;
      case 'safety':
        if (reason !== null) break;
        job.safety = job.safety.filter((one) => one.body.item !== body.item);
        job.safety.push({ ...base, body });
        break;
      case 'wait':
        job.waits.push({ ...base, body, over: over.get(id) ?? null });
        break;
      case 'order':
        job.orders.push({ ...base, body, step: steps.get(id) ?? 'to-order' });
        break;
      case 'approval':
        job.approvals.push({ ...base, body, answer: answers.get(id) ?? null });
        break;
      case 'time':
        job.times.push({ ...base, body });
        break;
      case 'power':
        job.powered.push({ ...base, body });
        break;
      case 'repair':
        job.repairs.push({ ...base, body });
        break;
      case 'fed':
        job.fed.push({ ...base, body });
        break;
      case 'warm':
        job.warm.push({ ...base, body });
        break;
      case 'drop':
        job.drops.push({ ...base, body });
        break;
      case 'part-seen':
        job.partsSeen.push({ ...base, body });
        break;
      case 'slip':
        job.slips.push({ ...base, body });
        break;
      case 'firmware':
        job.firmware.push({ ...base, body });
        break;
      case 'verify':
        if (reason !== null) break;
        job.verified = job.verified.filter((one) => one.body.item !== body.item);
        job.verified.push({ ...base, body });
        break;
      case 'handed-over':
        if (reason === null) job.handedOver = { ...base, body };
        break;
      case 'lesson':
        if (reason === null) job.teaches = body.counts;
        break;
      case 'note':
        job.notes.push({ ...base, body });
        break;
      case 'picture':
        job.pictures.push({ ...base, body });
        break;
      case 'close':
        if (reason === null) job.close = { ...base, body };
        break;
      case 'reopen':
        job.reopened.push({ ...base, body });
        // It is on the bench again.
        if (reason === null) job.close = job.handedOver = null;
        break;
      case 'erased':
        job.erased.push({ ...base, body });
        break;
      case 'strange':
        job.strange.push({ id, who, at, was: body.was });
        break;
      case 'strike':
      case 'harmless':
      case 'tied':
      case 'wait-over':
      case 'order-step':
      case 'answer':
        // Taken in above: they change what was said before.
        break;
      default:
        // Of a kind nobody checked: kept by another version.
        job.strange.push({ id, who, at, was: String((body as { type?: unknown }).type) });
    }
  });
  return job;
}

/**
 * The board a job stood on at each of its events. One chosen by mistake is corrected by another intake:
 * names of parts and nets, and the version of the sheet, belong to the board they were written down for.
 * What came before the first intake is of its board.
 */
function boardsOf(events: readonly KeptEvent[], struck: ReadonlyMap<string, string>): string[] {
  let now: string | null = null;
  const boards = events.map(({ id, body }) => {
    if (body.type === 'intake' && !struck.has(id)) now = body.intake.board;
    return now;
  });
  const first = boards.find((one) => one !== null) ?? '';
  return boards.map((one) => one ?? first);
}

/** What is said of parts or nets by their names; signs, notes and the like are of the device. */
function isOfParts(body: KeptEvent['body']): boolean {
  switch (body.type) {
    case 'repair':
    case 'fed':
    case 'warm':
    case 'drop':
    case 'part-seen':
    case 'slip':
    case 'firmware':
      return true;
    case 'finding':
      return body.part !== null;
    default:
      return false;
  }
}

/** Parts that are not there to be measured: off the board, or seen missing and not replaced since. */
export function goneParts(job: Job): string[] {
  const gone = new Set(liftedParts(job));
  const put = new Set(
    job.repairs
      .filter(({ struck, body }) => struck === null && body.action !== 'removed')
      .flatMap(({ body }) => body.parts),
  );
  for (const { body, struck, harmless } of job.findings)
    if (body.kind === 'missing' && body.part && struck === null && harmless === null)
      if (!put.has(body.part)) gone.add(body.part);
  return [...gone];
}

/** Readings that stand. */
export const standingOf = ({ readings }: Job): readonly KeptReading[] =>
  readings.filter(({ standing }) => standing.kind === 'stands');

/** Parts that are off the board now: removed, and neither refitted nor replaced since. */
export function liftedParts(job: Job): string[] {
  const off = new Set<string>();
  for (const { body, struck } of job.repairs) {
    if (struck !== null) continue;
    for (const part of body.parts) {
      if (body.action === 'removed') off.add(part);
      else if (body.action === 'refitted' || body.action === 'replaced') off.delete(part);
    }
  }
  return [...off];
}
