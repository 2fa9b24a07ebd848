import { isBad, isGood, phases } from '../readings/index.ts';
import type { JudgedReading } from '../trace/index.ts';
import type { Timeline } from './timeline.ts';

export type RetestVerdict = 'fixed' | 'better' | 'unchanged' | 'worse' | 'still-good';

/** A point that was read before the last change, to be read again after it. */
export interface RetestPoint {
  key: string;
  before: JudgedReading;
  after: JudgedReading | null;
  verdict: RetestVerdict | null;
  /** Why the reading after is not the last word; null where it is. */
  provisional: string | null;
}

export interface Retest {
  /** Wrong ones first, cold before powered; empty before anything was changed. */
  points: RetestPoint[];
  draw: { before: number; after: number | null; shape: string } | null;
  /** What the change did, by all that was read again; null while nothing was. */
  overall: 'fixed' | 'better' | 'unchanged' | 'worse' | null;
}

/** A board is warm from hot air for about so long: common practice, no source. */
export const coolingMinutes = 10;
/** Nearer to what is expected by this part is better, farther is worse. */
const changedPart = 0.3;

export function retestOf({ job, changes, readings, minutes }: Timeline): Retest {
  const last = changes.at(-1);
  if (!last) return { points: [], draw: null, overall: null };
  const before = new Map<string, JudgedReading>();
  const after = new Map<string, JudgedReading>();
  for (const { place, judged, key } of readings)
    (place < last.place ? before : after).set(key, judged);
  const heated = job.repairs.findLast(
    (one) => one.struck === null && heats.includes(one.body.action),
  );
  const points = [...before].map(([key, was]): RetestPoint => {
    const is = after.get(key) ?? null;
    return {
      key,
      before: was,
      after: is,
      verdict: is === null ? null : compare(was, is),
      provisional: is !== null && heated ? warmthOf(minutes(heated.at, is.at)) : null,
    };
  });
  // After a short the ohms come before the source; then with the fewest turns of the strip.
  points.sort((a, b) => orderOf(a) - orderOf(b));
  const draws = job.signs.filter(
    (one) => one.struck === null && one.body.drawAmps !== null && one.body.phase !== 'cold',
  );
  const [drawBefore, drawAfter] = [
    draws.findLast((one) => one.beforeRepair),
    draws.findLast((one) => !one.beforeRepair),
  ];
  return {
    points,
    draw: drawBefore
      ? {
          before: drawBefore.body.drawAmps!,
          after: drawAfter?.body.drawAmps ?? null,
          shape: drawAfter?.body.drawShape ?? drawBefore.body.drawShape ?? '',
        }
      : null,
    overall: overallOf(points),
  };
}

/** Wrong ones first; of each, cold before standby before what comes after the press. */
const orderOf = ({ before: { reading, verdict } }: RetestPoint): number =>
  (isBad(verdict) ? 0 : 10) + phases.indexOf(reading.phase);

const heats: readonly string[] = ['replaced', 'reflowed', 'removed', 'refitted', 'jumper'];

function warmthOf(minutes: number): string | null {
  if (minutes < 0 || minutes >= coolingMinutes) return null;
  return `read ${Math.round(minutes)} min after heat: once more when it is cold`;
}

function compare(before: JudgedReading, after: JudgedReading): RetestVerdict {
  const [was, is] = [isBad(before.verdict), isBad(after.verdict)];
  if (!was && !is) return isGood(before.verdict) ? 'still-good' : 'unchanged';
  if (was && !is) return 'fixed';
  if (!was) return 'worse';
  const [from, to] = [awayOf(before), awayOf(after)];
  if (from === null || to === null) return 'unchanged';
  if (to < from * (1 - changedPart)) return 'better';
  return to > from * (1 + changedPart) ? 'worse' : 'unchanged';
}

/** How far a reading is from what is expected; ohms by their ratio. Null where it cannot be said. */
function awayOf({ reading, expectation }: JudgedReading): number | null {
  if (reading.value.kind !== 'number' || expectation.kind !== 'value') return null;
  return reading.mode === 'ohms'
    ? Math.abs(Math.log((reading.value.value + 1) / (expectation.value + 1)))
    : Math.abs(reading.value.value - expectation.value);
}

function overallOf(points: readonly RetestPoint[]): Retest['overall'] {
  const read = points.filter((one) => one.verdict !== null);
  if (read.length === 0) return null;
  const has = (verdict: RetestVerdict): boolean => read.some((one) => one.verdict === verdict);
  if (has('worse')) return 'worse';
  const wrong = points.filter((one) => isBad(one.before.verdict));
  if (wrong.length > 0 && wrong.every((one) => one.verdict === 'fixed')) return 'fixed';
  return has('fixed') || has('better') ? 'better' : 'unchanged';
}
