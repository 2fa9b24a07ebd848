import type { Appended, JobDetail, JobRow, NewJob } from '@jiko/contract';
import { deriveJob, habitsOf, type Habit, type Intake, type JobEvent } from '@jiko/core/record';
import { boardProblem, jobProblem, type Outcome } from '../outcome.ts';

/** What the job use cases need of the world. */
export interface JobStore {
  list(): Promise<JobRow[]>;
  find(id: string): Promise<JobDetail | null>;
  /** Adds the job unless it is there, then its events; one transaction. */
  create(id: string, events: readonly JobEvent[]): Promise<Appended>;
  /** Adds events in the order given; those already there are left alone. One transaction. */
  /** Events of all closed jobs on a board. */
  closedOn(board: string): Promise<JobEvent[][]>;
  append(id: string, events: readonly JobEvent[]): Promise<Appended | 'no-job' | 'other-job'>;
}
export interface KnownBoards {
  has(id: string): Promise<boolean>;
}

export interface JobUseCases {
  list(): Promise<JobRow[]>;
  find(id: string): Promise<Outcome<JobDetail>>;
  open(job: NewJob): Promise<Outcome<Appended>>;
  record(id: string, events: readonly JobEvent[]): Promise<Outcome<Appended>>;
  /** Where closed jobs on a board ended. */
  habits(board: string): Promise<Habit[]>;
}

export function makeJobs(store: JobStore, boards: KnownBoards): JobUseCases {
  const unknownBoard = async (events: readonly JobEvent[]): Promise<Intake | null> => {
    for (const { body } of events) {
      if (body.type === 'intake' && !(await boards.has(body.intake.board))) return body.intake;
    }
    return null;
  };
  return {
    list: () => store.list(),
    async find(id) {
      const job = await store.find(id);
      return job ? { ok: true, value: job } : jobProblem(id);
    },
    async open({ id, events }) {
      if (events[0]?.body.type !== 'intake') {
        return {
          ok: false,
          problem: {
            status: 400,
            title: 'A job starts with its intake',
            errors: [{ field: 'events.0.body.type', message: 'must be intake' }],
          },
        };
      }
      const unknown = await unknownBoard(events);
      if (unknown) return boardProblem(unknown.board, 'events.0.body.intake.board');
      return { ok: true, value: await store.create(id, events) };
    },
    async record(id, events) {
      const unknown = await unknownBoard(events);
      if (unknown) return boardProblem(unknown.board, 'events');
      const appended = await store.append(id, events);
      if (appended === 'no-job') return jobProblem(id);
      if (appended === 'other-job') {
        return {
          ok: false,
          problem: {
            status: 409,
            title: 'An event with this id belongs to another job',
            errors: [{ field: 'events', message: 'ids must be new or of this job' }],
          },
        };
      }
      return { ok: true, value: appended };
    },
    habits: async (board) => habitsOf((await store.closedOn(board)).map(deriveJob)),
  };
}
