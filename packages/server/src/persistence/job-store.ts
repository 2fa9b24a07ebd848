import type { DataSource, EntityManager } from 'typeorm';
import type { JobRow } from '@jiko/contract';
import {
  deriveJob,
  intakeSchema,
  keptEventSchema,
  summaryOf,
  type Intake,
  type JobEvent,
  type JobSummary,
  type KeptEvent,
  type Taught,
  allOutcomes,
} from '@jiko/core/record';
import type { JobStore, Stored } from '../jobs/jobs.ts';
import { tellAside } from '../jobs/record-aside.ts';
import { JobTable } from './entities.ts';
import { eventsJson } from './events-json.ts';
import { inTransaction } from './transaction.ts';

interface ListedJob {
  id: string;
  intake: unknown;
  closed: string | null;
  created_at: Date;
  updated_at: Date;
  board_title: string | null;
  summary: JobSummary | null;
  /** Null while it is open, and until it was worked out with the summary. */
  taught: Taught | null;
}

interface EventRow {
  id: string;
  job_id: string;
  seq: string;
  who: string;
  at: Date;
  body: unknown;
}

/** Moments that JavaScript writes with a sign (years past 9999) are kept within what clients read. */
const moment = (date: Date): string =>
  date.getUTCFullYear() > 9999 ? '9999-12-31T23:59:59.999Z' : date.toISOString();

/** As far as this version can read it. */
const eventOf = ({ id, who, at, body }: EventRow): KeptEvent =>
  keptEventSchema.parse({ id, who, at: moment(at), body });

/** What the list shows in place of an intake this version cannot read. */
const unreadable: Intake = intakeSchema.parse({
  board: 'unknown',
  device: 'A job that cannot be read',
  complaint: 'It was kept by another version of Jiko.',
  history: '',
  goal: 'unknown',
  source: 'unknown',
  keep: '',
  promised: null,
});

const outcomes: readonly unknown[] = allOutcomes;

/** Whoever finds more asks for more words. */
const mostFound = 100;

export function makeJobStore(source: DataSource): JobStore {
  /** Works out what the list says of jobs something was added to, and keeps it for the next time. */
  const refreshed = async (row: ListedJob): Promise<ListedJob> => {
    if (row.summary !== null) return row;
    const events = await eventsJson(source, row.id);
    const told = await tellAside(events.json, events.count);
    const { summary, closed, taught, words } = told;
    const intake = told.intake ?? row.intake;
    await inTransaction(source, async (manager) => {
      // Whoever adds holds this lock: only behind it is it known that nothing was added meanwhile.
      await manager.query('SELECT id FROM job WHERE id = $1 FOR UPDATE', [row.id]);
      await manager.query(
        `UPDATE job SET summary = $2, intake = $4, closed = $5, taught = $6,
           words = array_to_tsvector($7::text[]) WHERE id = $1
           AND (SELECT max(seq) FROM job_event WHERE job_id = $1) = $3`,
        [
          row.id,
          JSON.stringify(summary),
          events.last,
          JSON.stringify(intake),
          closed,
          taught && JSON.stringify(taught),
          words,
        ],
      );
    });
    return { ...row, summary, intake, closed, taught };
  };

  const rowOf = (row: ListedJob): JobRow => {
    const intake = intakeSchema.safeParse(row.intake);
    const isKnown = row.closed === null || outcomes.includes(row.closed);
    return {
      id: row.id,
      intake: intake.success ? intake.data : unreadable,
      trouble: intake.success && isKnown ? null : 'kept by another version of Jiko',
      closed: isKnown ? (row.closed as JobRow['closed']) : 'returned',
      createdAt: moment(row.created_at),
      updatedAt: moment(row.updated_at),
      boardTitle: row.board_title ?? (intake.success ? intake.data.board : ''),
      summary: row.summary ?? summaryOf(deriveJob([])),
    };
  };

  /** What closed jobs teach that a condition on the table `job` names, the first one first. */
  const taughtWhere = async (
    condition: string,
    values: readonly string[],
  ): Promise<{ id: string; taught: Taught }[]> => {
    const rows: ListedJob[] = await source.query(
      `SELECT id, intake, closed, created_at, updated_at, summary, taught, NULL AS board_title
       FROM job WHERE closed IS NOT NULL AND ${condition} ORDER BY created_at, id`,
      [...values],
    );
    const found: { id: string; taught: Taught }[] = [];
    for (const row of rows) {
      const { taught } = await refreshed(row);
      if (taught) found.push({ id: row.id, taught });
    }
    return found;
  };

  /** Soon after an entry, so that whoever asks for the list next need not wait for it. */
  const soon = new Map<string, NodeJS.Timeout>();
  const refreshSoon = (id: string): void => {
    clearTimeout(soon.get(id));
    const timer = setTimeout(() => {
      soon.delete(id);
      void source
        .query('SELECT *, NULL AS board_title FROM job WHERE id = $1', [id])
        .then(([row]: ListedJob[]) => row && refreshed(row))
        .catch(() => undefined); // the list does it then
    }, 150);
    soon.set(id, timer.unref());
  };

  return {
    async list() {
      const rows: ListedJob[] = await source.query(`
        SELECT j.id, j.intake, j.closed, j.created_at, j.updated_at, j.summary,
          NULL AS taught, b.title AS board_title
        FROM job j LEFT JOIN LATERAL (
          SELECT title FROM board_version WHERE id = j.intake->>'board'
          ORDER BY saved_at DESC LIMIT 1) b ON true
        ORDER BY j.updated_at DESC`);
      const fresh: ListedJob[] = [];
      for (const row of rows) {
        try {
          fresh.push(await refreshed(row));
        } catch {
          // One job that cannot be read does not hide the others.
          fresh.push({ ...row, intake: null });
        }
      }
      return fresh.map(rowOf).sort((a, b) => Number(a.closed !== null) - Number(b.closed !== null));
    },
    async search({ words, board, state, from, until }) {
      // What something was just added to is worked out first: its words are not there before.
      const waiting: ListedJob[] = await source.query(
        'SELECT *, NULL AS board_title FROM job WHERE summary IS NULL',
      );
      for (const row of waiting) await refreshed(row).catch(() => row);
      const asked = words.map((word) => `'${word.replace(/['\\]/g, '$&$&')}':*`).join(' & ');
      const rows: (ListedJob & { total: string })[] = await source.query(
        `SELECT j.id, j.intake, j.closed, j.created_at, j.updated_at, j.summary, NULL AS taught,
           b.title AS board_title, j.total
         FROM (
           SELECT *, count(*) OVER () AS total FROM job
           WHERE ($1 = '' OR words @@ $1::tsquery)
             AND ($2::text IS NULL OR intake->>'board' = $2)
             AND ($3::text IS NULL OR (closed IS NULL) = ($3 = 'open'))
             AND ($4::timestamptz IS NULL OR updated_at >= $4)
             AND ($5::timestamptz IS NULL OR created_at < $5)
           ORDER BY updated_at DESC LIMIT ${mostFound}) j
         LEFT JOIN LATERAL (
           SELECT title FROM board_version WHERE id = j.intake->>'board'
           ORDER BY saved_at DESC LIMIT 1) b ON true
         ORDER BY j.updated_at DESC`,
        [asked, board, state, from, until],
      );
      return { total: Number(rows[0]?.total ?? 0), rows: rows.map(rowOf) };
    },
    async find(id) {
      const job = await source.getRepository(JobTable).findOneBy({ id });
      if (!job) return null;
      const { json } = await eventsJson(source, id);
      return { createdAt: moment(job.createdAt), events: json };
    },
    async version(id) {
      const [row] = (await source.query(
        `SELECT max(seq) || '.' || count(*) FILTER (WHERE body->>'type' = 'erased') AS version
         FROM job_event WHERE job_id = $1`,
        [id],
      )) as { version: string | null }[];
      return row?.version ?? null;
    },
    closedOn: (board) => taughtWhere("intake->>'board' = $1", [board]),
    async lessonsOfScheme(scheme, butBoard) {
      const all = await taughtWhere(
        `intake->>'board' <> $2 AND (summary IS NULL OR taught->>'scheme' = $1)`,
        [scheme, butBoard],
      );
      return all.map((one) => one.taught).filter((one) => one.scheme === scheme);
    },
    create: (id, events) =>
      inTransaction(source, async (manager): Promise<Stored> => {
        const first = events[0]?.body;
        if (first?.type !== 'intake') throw new Error('a job starts with its intake');
        const opened = new Date(events[0]?.at ?? 0);
        const made = await manager
          .createQueryBuilder()
          .insert()
          .into(JobTable)
          .values({
            id,
            intake: first.intake,
            closed: null,
            summary: null,
            taught: null,
            createdAt: opened,
            updatedAt: opened,
          })
          .orIgnore()
          .returning('id')
          .execute();
        const isNew = (made.raw as unknown[]).length > 0;
        // Sent again it is known; another job under the same id is not this one.
        if (!isNew) {
          const [there] = (await manager.query(
            'SELECT id FROM job_event WHERE job_id = $1 ORDER BY seq LIMIT 1',
            [id],
          )) as { id: string }[];
          if (there && there.id !== events[0]?.id) return { kind: 'job-taken' };
        }
        return addEvents(manager, id, events, null);
      }).catch(whatWasRefused),
    append: async (id, events) => {
      const stored = await inTransaction(source, async (manager): Promise<Stored> => {
        // The row lock keeps the order of events of one job the order of their arrival.
        const job = await manager.getRepository(JobTable).findOne({
          where: { id },
          lock: { mode: 'pessimistic_write' },
        });
        return job ? addEvents(manager, id, events, job.closed) : { kind: 'no-job' };
      }).catch(whatWasRefused);
      if (stored.kind === 'stored') refreshSoon(id);
      return stored;
    },
    eraseWords: (id, event, without) =>
      inTransaction(source, async (manager): Promise<Stored> => {
        const [job] = (await manager.query('SELECT closed FROM job WHERE id = $1 FOR UPDATE', [
          id,
        ])) as { closed: string | null }[];
        if (!job) return { kind: 'no-job' };
        await manager.query('DELETE FROM attachment WHERE job_id = $1', [id]);
        const events = await eventsJson(manager, id);
        await manager.query('SELECT take_words_out($1, $2)', [
          id,
          await without(events.json, events.count),
        ]);
        return addEvents(manager, id, [event], job.closed);
      }).catch(whatWasRefused),
  };
}

async function insertEvent(
  manager: EntityManager,
  jobId: string,
  { id, who, at, body }: JobEvent,
): Promise<'recorded' | 'known' | 'taken'> {
  const text = JSON.stringify(body);
  const made: unknown[] = await manager.query(
    `INSERT INTO job_event (id, job_id, who, at, body) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (id) DO NOTHING RETURNING id`,
    [id, jobId, who, at, text],
  );
  if (made.length > 0) return 'recorded';
  const same: unknown[] = await manager.query(
    `SELECT id FROM job_event WHERE id = $1 AND job_id = $2 AND who = $3 AND at = $4
       AND (body = $5::jsonb
         OR (body->>'type' = $5::jsonb->>'type' AND body::text LIKE '%(erased)%'))`,
    [id, jobId, who, at, text],
  );
  return same.length > 0 ? 'known' : 'taken';
}

/** What may still be written to a closed job: that it is open again, and what takes something back. */
const writtenWhenClosed: readonly string[] = [
  'reopen',
  'strike',
  'erased',
  'lesson',
  'handed-over',
];

/** Refused as a whole where one of the events is: thrown to roll the transaction back. */
class Refused extends Error {
  readonly stored: Stored;
  constructor(stored: Stored) {
    super(stored.kind);
    this.stored = stored;
  }
}
function whatWasRefused(error: unknown): Stored {
  if (error instanceof Refused) return error.stored;
  throw error;
}

async function addEvents(
  manager: EntityManager,
  jobId: string,
  events: readonly JobEvent[],
  wasClosed: string | null,
): Promise<Stored> {
  const recorded: string[] = [];
  const known: string[] = [];
  let closed = wasClosed;
  let intake: Intake | null = null;
  for (const event of events) {
    const { body } = event;
    const done = await insertEvent(manager, jobId, event);
    if (done === 'taken') throw new Refused({ kind: 'event-taken', event: event.id });
    if (done === 'known') {
      known.push(event.id);
      continue;
    }
    recorded.push(event.id);
    if (closed !== null && !writtenWhenClosed.includes(body.type))
      throw new Refused({ kind: 'closed' });
    if (body.type === 'intake') intake = body.intake;
    if (body.type === 'close') closed = body.outcome;
    if (body.type === 'reopen') closed = null;
    // A close taken back opens the job; the list works it out from all entries.
    if (body.type === 'strike') closed = await closedAfter(manager, jobId, closed);
  }
  const last = events.findLast((one) => recorded.includes(one.id));
  if (last)
    await manager.getRepository(JobTable).update(
      { id: jobId },
      {
        updatedAt: new Date(last.at),
        summary: () => 'NULL',
        taught: () => 'NULL',
        words: () => 'NULL',
        closed,
        ...(intake ? { intake } : {}),
      },
    );
  return { kind: 'stored', recorded, known };
}

async function closedAfter(
  manager: EntityManager,
  jobId: string,
  closed: string | null,
): Promise<string | null> {
  const rows: EventRow[] = await manager.query(
    `SELECT id, seq, who, at, body FROM job_event
     WHERE job_id = $1 AND body->>'type' IN ('close', 'reopen', 'strike') ORDER BY seq`,
    [jobId],
  );
  return rows.length > 0 ? (deriveJob(rows.map(eventOf)).close?.body.outcome ?? null) : closed;
}
