import type { HealthyBoard } from '../expectations/index.ts';
import { deriveJob, isChange, type Job, type KeptEvent } from '../record/index.ts';
import { benchOfJob, jobNow, judgeAll, type JudgedReading } from '../trace/index.ts';

export type Change = Job['repairs'][number] & { place: number };
export interface PlacedReading {
  place: number;
  judged: JudgedReading;
  key: string;
}

/** A job in the order of its record: no clock is asked. */
export interface Timeline {
  job: Job;
  /** On the bench as it last stood. */
  healthy: HealthyBoard;
  changes: Change[];
  /** Struck and superseded ones are left out. */
  readings: PlacedReading[];
  /** Minutes from one moment to another. */
  minutes(from: string, to: string): number;
}

/** The same leads in the same mode and phase, with the same parts off. */
export const pointKey = ({ reading }: JudgedReading): string => {
  const { at, reference, mode, phase, polarity, lifted } = reading;
  return [
    at.net,
    reference === null ? '' : `${at.part} ${reference.net}`,
    mode,
    phase === 'cold' ? 'cold' : phase === 'standby' ? 'standby' : 'run',
    mode === 'diode' ? polarity : '',
    [...lifted].sort().join(),
  ].join(' ');
};

/** `millisecondsOf` reads a moment as it is written in the record. */
export function timelineOf(
  studied: HealthyBoard,
  events: readonly KeptEvent[],
  millisecondsOf: (at: string) => number,
): Timeline {
  const { board } = studied;
  const job = jobNow(studied, deriveJob(events));
  const healthy = studied.onBench(benchOfJob(board, job));
  const place = new Map(events.map((one, index) => [one.id, index]));
  const at = (id: string): number => place.get(id) ?? 0;
  return {
    job,
    healthy,
    minutes: (from, to) => (millisecondsOf(to) - millisecondsOf(from)) / 60_000,
    changes: job.repairs
      .filter((one) => one.struck === null && isChange(one.body.action))
      .map((one) => ({ ...one, place: at(one.id) })),
    readings: judgeAll(healthy, job.readings)
      .filter(({ standing }) => standing.kind === 'stands' || standing.kind === 'before-repair')
      .map((judged) => ({ place: at(judged.id), judged, key: pointKey(judged) })),
  };
}
