import type { Appended, BoardHistory, FoundJobs, JobRow, NewJob } from '@jiko/contract';
import {
  habitsElsewhere,
  habitsOf,
  knownGoodOf,
  type Habit,
  type Intake,
  type JobEvent,
  type Taught,
} from '@jiko/core/record';
import { withoutWordsAside } from './record-aside.ts';
import { boardProblem, jobProblem, type Outcome, type Refusal } from '../outcome.ts';

/** What became of entries that were to be stored; all of them or none. */
export type Stored =
  | { kind: 'stored'; recorded: string[]; known: string[] }
  | { kind: 'no-job' | 'job-taken' | 'closed' }
  /** The id is that of another entry, or of the same with other content. */
  | { kind: 'event-taken'; event: string };

/** What the job use cases need of the world. */
export interface JobStore {
  list(): Promise<JobRow[]>;
  search(search: JobSearch): Promise<FoundJobs>;
  /** With its entries as they lie there: who asked reads each as far as it knows its kind. */
  find(id: string): Promise<FoundJob | null>;
  /** Changes with every entry and erasure; null where there is no such job. */
  version(id: string): Promise<string | null>;
  /** What teaches of closed jobs on other boards of a scheme: how each ended and what was mended. */
  lessonsOfScheme(scheme: string, butBoard: string): Promise<Taught[]>;
  /** What each closed job on a board teaches; kept beside the job, so that its entries are not read. */
  closedOn(board: string): Promise<{ id: string; taught: Taught }[]>;
  /** Adds the job unless it is there, then its events; one transaction. */
  create(id: string, events: readonly JobEvent[]): Promise<Stored>;
  /** Adds events in the order given; those already there are left alone. One transaction. */
  append(id: string, events: readonly JobEvent[]): Promise<Stored>;
  /**
   * Takes pictures out, and of every entry what `without` says; writes down that it was done; one
   * transaction. `without` is given all entries as JSON and their number, and answers with JSON of those
   * that lose something.
   */
  eraseWords(
    id: string,
    event: JobEvent,
    without: (events: string, count: number) => Promise<string>,
  ): Promise<Stored>;
}
/** What is asked for; null where anything will do. Every word begins a word of the job. */
export interface JobSearch {
  words: readonly string[];
  board: string | null;
  state: 'open' | 'closed' | null;
  /** Worked on since, and taken in before, as moments. */
  from: string | null;
  until: string | null;
}
export interface FoundJob {
  createdAt: string;
  /** JSON of its entries, in the order of the record. */
  events: string;
}
export interface KnownBoards {
  has(id: string): Promise<boolean>;
}

export interface JobUseCases {
  list(): Promise<JobRow[]>;
  search(search: JobSearch): Promise<FoundJobs>;
  /** A job with its entries, as JSON (`JobDetail` of the contract). */
  find(id: string): Promise<Outcome<string>>;
  version(id: string): Promise<string | null>;
  open(job: NewJob): Promise<Outcome<Appended>>;
  record(id: string, events: readonly JobEvent[]): Promise<Outcome<Appended>>;
  /** Takes a customer's words, name and pictures out of a job; its technical record stays. */
  erase(id: string, event: JobEvent): Promise<Outcome<string>>;
  /** Where closed jobs on a board ended, and those on others of its scheme. */
  habits(board: string, scheme: string | null): Promise<Habit[]>;
  /** Closed jobs of a board, and what good boards read there. */
  history(board: string): Promise<BoardHistory>;
}

export function makeJobs(store: JobStore, boards: KnownBoards): JobUseCases {
  const unknownBoard = async (events: readonly JobEvent[]): Promise<Intake | null> => {
    for (const { body } of events) {
      if (body.type === 'intake' && !(await boards.has(body.intake.board))) return body.intake;
    }
    return null;
  };
  const outcomeOf = (id: string, stored: Stored): Outcome<Appended> => {
    switch (stored.kind) {
      case 'stored':
        return { ok: true, value: { recorded: stored.recorded, known: stored.known } };
      case 'no-job':
        return jobProblem(id);
      case 'job-taken':
        return conflict('A job with this id is there already', 'id', 'must be new');
      case 'event-taken':
        return conflict(
          'An entry with this id is there already, and is another one',
          'events',
          `${stored.event} belongs to another job, or holds something else`,
        );
      case 'closed':
        return conflict(
          'The job is closed',
          'events',
          'reopen the job first, then send this again',
        );
    }
  };
  const find: JobUseCases['find'] = async (id) => {
    const job = await store.find(id);
    if (!job) return jobProblem(id);
    const { createdAt, events } = job;
    return {
      ok: true,
      value: `{"id":${JSON.stringify(id)},"createdAt":${JSON.stringify(createdAt)},"events":${events}}`,
    };
  };
  return {
    list: () => store.list(),
    search: (search) => store.search(search),
    version: (id) => store.version(id),
    find,
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
      return outcomeOf(id, await store.create(id, events));
    },
    async record(id, events) {
      // It would say that words are gone which are there.
      if (events.some(({ body }) => body.type === 'erased'))
        return conflict('Words are taken out by their own request', 'events', 'must not be erased');
      const unknown = await unknownBoard(events);
      if (unknown) return boardProblem(unknown.board, 'events');
      return outcomeOf(id, await store.append(id, events));
    },
    async erase(id, event) {
      if (event.body.type !== 'erased')
        return conflict(
          'Only an entry of its own says that words were taken out',
          'event',
          'must be erased',
        );
      const done = outcomeOf(id, await store.eraseWords(id, event, withoutWordsAside));
      return done.ok ? find(id) : done;
    },
    habits: async (board, scheme) => [
      ...habitsOf((await store.closedOn(board)).map((one) => one.taught)),
      ...(scheme === null
        ? []
        : habitsElsewhere(await store.lessonsOfScheme(scheme, board), scheme)),
    ],
    async history(board) {
      const closed = await store.closedOn(board);
      return {
        lessons: closed.map(({ id, taught }) => {
          const { device, at, outcome, proof, parts, how, cause, teaches } = taught;
          return { job: id, device, at, outcome, proof, parts, how, cause, teaches };
        }),
        known: knownGoodOf(closed.map((one) => one.taught)),
      };
    },
  };
}

function conflict(title: string, field: string, message: string): { ok: false; problem: Refusal } {
  return { ok: false, problem: { status: 409, title, errors: [{ field, message }] } };
}
