import type { GoalId } from '@jiko/core/board';
import { nextStep, noEvidence } from '@jiko/core/diagnosis';
import type { Fault } from '@jiko/core/faults';
import { plainEvents, plainIntake, plainReading } from '@jiko/testing';
import type { HiddenBoard } from '@jiko/bench';
import { deriveJob } from '@jiko/core/record';
import { traceJob } from '@jiko/core/trace';
import { drawOf, isNamed, sureEnough, type Run } from './closed-loop.ts';
import type { Bench } from './hidden-faults.ts';

const mostQuestions = 20;

/** How a run stands once Trace has asked all it asks. */
export interface InTrace {
  /** Readings taken after the run had ended. */
  more: number;
  right: boolean;
  /** Above 95 % of what is not there. */
  confidentlyWrong: boolean;
}

/**
 * Goes on where no reading tells the suspects apart any more, as Trace does: with what the missing stage
 * needs (feed, enable, chip supply, output), in order, before anybody is sent to a part.
 */
export function goOnInTrace(
  { board, healthy, diagnoser, setup }: Bench,
  hidden: HiddenBoard,
  listed: readonly Fault[],
  goal: GoalId,
  run: Pick<Run, 'readings'>,
): InTrace {
  const on = { id: setup.source, volts: null, limitAmps: null };
  const events = plainEvents(
    plainIntake({ board: board.id, source: setup.source, goal }),
    ...run.readings.map((reading) => ({
      type: 'reading' as const,
      reading: { ...reading, source: reading.phase === 'cold' ? null : on },
      supersedes: [],
    })),
  );
  let phase = run.readings.at(-1)?.phase ?? 'standby';
  for (let more = 0; ; more++) {
    const job = deriveJob(events);
    const trace = traceJob(healthy, job, goal);
    const diagnosis = diagnoser.diagnose(
      { ...noEvidence, readings: job.readings, signs: drawOf(hidden), goal },
      { phase, side: 'top' },
    );
    const step = nextStep(board, trace, diagnosis, 'shortest', []);
    const probe =
      step.kind === 'in-order'
        ? { ...step.probe, reference: null }
        : step.kind === 'telling'
          ? step.proposal
          : null;
    if (!probe || more === mostQuestions) {
      const [leading] = diagnosis.suspects;
      const right = listed.some((fault) => isNamed(leading ?? null, fault));
      return { more, right, confidentlyWrong: !right && (leading?.probability ?? 0) > sureEnough };
    }
    // After the press a board that goes off again is read while it tries.
    phase = probe.phase === 'run' && hidden.offAfterSeconds !== null ? 'trying' : probe.phase;
    const mode = probe.mode as 'volts' | 'ohms' | 'diode';
    const value = hidden.read(probe.net, mode, phase, probe.reference);
    const reading = {
      ...plainReading(probe.net, mode, phase, value, {
        attached: hidden.attached,
        against: probe.reference,
      }),
      source: phase === 'cold' ? null : on,
    };
    events.push(...plainEvents({ type: 'reading', reading, supersedes: [] }));
  }
}
