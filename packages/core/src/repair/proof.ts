import { isBad, isGood } from '../readings/index.ts';
import type { FailureWay, Job, proofs } from '../record/index.ts';
import { traceJob } from '../trace/index.ts';
import type { GoalId } from '../board/index.ts';
import { effectsOf } from './effect.ts';
import { failedHow } from './failed-how.ts';
import type { Timeline } from './timeline.ts';

export type Proof = (typeof proofs)[number];

export interface ProofStep {
  text: string;
  holds: boolean;
}

/** How well the record proves a cause, and by what. */
export interface Grade {
  proof: Proof;
  /** Parts it was, by the record; empty where nothing points at one. */
  parts: string[];
  /** How they had failed, where the record says it. */
  how: FailureWay | null;
  steps: ProofStep[];
  /** What would make it better; empty where it is proven. */
  wanting: string;
}

/**
 * The grade beside how the job was closed: whoever closed it as not found has looked again, and nothing that
 * was proven before stands beside that.
 */
export function proofBeside(grade: Grade, close: Job['close']): Grade {
  if (close?.body.proof !== 'not-found' || grade.proof === 'not-found') return grade;
  return {
    proof: 'not-found',
    parts: [],
    how: null,
    steps: grade.steps,
    wanting: `It was closed as not found. By its readings alone the record would name ${grade.parts.join(', ') || 'what was changed last'}.`,
  };
}

/**
 * proven: the fault was measured on the part, or went with it and nothing else was changed, and the part
 * does not read off any more. supported: one part was changed and the board works. several-changed: more
 * than one between wrong and right. by-elimination: a part is named, and nothing of the record says more.
 */
export function gradeProof(timeline: Timeline): Grade {
  const { job, healthy, readings, changes } = timeline;
  const works = traceJob(healthy, job, (job.intake?.goal ?? '') as GoalId).goalReached;
  const effects = effectsOf(timeline);
  const effect = effects.findLast((one) => one.did === 'fixed') ?? null;
  // Without a point read both ways the last change is what is named.
  const change = effect?.change ?? changes.at(-1) ?? null;
  const lifted = wentWithLift(timeline);
  const parts = change ? [...new Set(change.body.parts)] : lifted ? [lifted] : [];
  if (parts.length === 0 && !change)
    return {
      proof: 'not-found',
      parts: [],
      how: null,
      steps: [{ text: 'Something was changed on the board', holds: false }],
      wanting: 'Nothing was changed, and no fault was measured on a part.',
    };

  const first = effect?.fixed[0];
  const placeOf = (id: string): number => readings.find((one) => one.judged.id === id)?.place ?? 0;
  const [from, to] = first ? [placeOf(first.before), placeOf(first.after)] : [-1, Infinity];
  const between = changes.filter((one) => one.place > from && one.place < to);
  // What did nothing by itself is not what helped, but it was changed all the same.
  const changed = new Set(between.flatMap((one) => one.body.parts));
  const isAlone = changed.size <= 1 && between.length <= 1;
  const named = parts.join(', ') || change?.body.text || (change?.body.action ?? '');
  const end = change?.place ?? Infinity;
  const onPart = readings.filter(
    ({ judged: { reading } }) =>
      reading.reference !== null && reading.at.part !== null && parts.includes(reading.at.part),
  );
  const measured =
    onPart.some((one) => one.place < end && isBad(one.judged.verdict)) ||
    (lifted !== null && parts.includes(lifted));
  const now = onPart.filter((one) => one.place > end).at(-1);
  const stillOff = now !== undefined && isBad(now.judged.verdict);
  const isRight = effect !== null;

  const steps: ProofStep[] = [
    { text: 'A point was read wrong before and right after', holds: isRight },
    { text: `Between the two only ${named} was changed`, holds: isRight && isAlone },
    { text: `The fault was measured on ${named} itself`, holds: measured },
    { text: `${named} does not read off any more`, holds: !stillOff },
    { text: 'The goal of the job was read as reached', holds: works },
  ];
  const helped = isRight || works;
  const proof: Proof =
    parts.length > 1 || !isAlone
      ? measured && parts.length === 1 && helped && !stillOff
        ? 'proven'
        : 'several-changed'
      : stillOff
        ? helped
          ? 'supported'
          : 'by-elimination'
        : (measured && helped) || (isRight && isAlone)
          ? 'proven'
          : helped || measured
            ? 'supported'
            : 'by-elimination';
  const how = failedHow(healthy.board, parts, {
    change,
    lifted: lifted !== null && parts.includes(lifted),
    onPart: onPart.filter((one) => one.place < end),
    before: first ? (readings.find((one) => one.judged.id === first.before) ?? null) : null,
  });
  return { proof, parts, how, steps, wanting: wantingOf(proof, steps, named, stillOff) };
}

function wantingOf(
  proof: Proof,
  steps: readonly ProofStep[],
  named: string,
  stillOff: boolean,
): string {
  if (proof === 'proven') return '';
  if (stillOff)
    return `The board works, but ${named} itself still reads off: read it once more before it is called proven.`;
  if (proof === 'several-changed')
    return 'More than one thing was changed between wrong and right: which of them it was stays open.';
  return steps[0]!.holds
    ? `Measure ${named} itself, off the board if need be.`
    : 'Read the points again that were wrong before.';
}

/** The part whose lifting took a wrong reading to a right one, nothing else being off; null where none did. */
function wentWithLift({ readings }: Timeline): string | null {
  for (const gone of readings) {
    const { reading, verdict } = gone.judged;
    if (reading.lifted.length === 0 || reading.mode !== 'ohms' || !isGood(verdict)) continue;
    const there = readings.find(
      (one) =>
        one.judged.reading.at.net === reading.at.net &&
        one.judged.reading.mode === 'ohms' &&
        isBad(one.judged.verdict) &&
        one.judged.reading.lifted.length === reading.lifted.length - 1 &&
        one.judged.reading.lifted.every((ref) => reading.lifted.includes(ref)),
    );
    const [part] = there
      ? reading.lifted.filter((ref) => !there.judged.reading.lifted.includes(ref))
      : [];
    if (part) return part;
  }
  return null;
}
