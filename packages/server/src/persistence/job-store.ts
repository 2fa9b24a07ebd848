import type { DataSource, EntityManager } from 'typeorm';
import type { Appended, JobRow } from '@jiko/contract';
import { deriveJob, summaryOf, type JobEvent, type JobSummary } from '@jiko/core/record';
import type { JobStore } from '../jobs/jobs.ts';
import { JobEventTable, JobTable, type JobEventEntity } from './entities.ts';

interface ListedJob {
  id: string;
  intake: JobRow['intake'];
  closed: JobRow['closed'];
  created_at: Date;
  updated_at: Date;
  board_title: string | null;
  summary: JobSummary | null;
}

export function makeJobStore(source: DataSource): JobStore {
  /** Works out what the list says of jobs something was added to, and keeps it for the next time. */
  const summarise = async (ids: readonly string[]): Promise<Map<string, JobSummary>> => {
    const made = new Map<string, JobSummary>();
    for (const id of ids) {
      const events = await source
        .getRepository(JobEventTable)
        .find({ where: { jobId: id }, order: { seq: 'ASC' } });
      const summary = summaryOf(deriveJob(events.map(eventOf)));
      made.set(id, summary);
      // Only if nothing was added meanwhile.
      await source.query(
        `UPDATE job SET summary = $2 WHERE id = $1 AND summary IS NULL
           AND (SELECT max(seq) FROM job_event WHERE job_id = $1) = $3`,
        [id, JSON.stringify(summary), events.at(-1)?.seq ?? null],
      );
    }
    return made;
  };
  return {
    async list() {
      const rows: ListedJob[] = await source.query(`
        SELECT j.id, j.intake, j.closed, j.created_at, j.updated_at, j.summary,
          (SELECT b.title FROM board_version b WHERE b.id = j.intake->>'board'
            ORDER BY b.saved_at DESC LIMIT 1) AS board_title
        FROM job j ORDER BY j.closed IS NOT NULL, j.updated_at DESC`);
      const made = await summarise(rows.filter((row) => row.summary === null).map(({ id }) => id));
      return rows.map((row) => ({
        id: row.id,
        intake: row.intake,
        closed: row.closed,
        createdAt: row.created_at.toISOString(),
        updatedAt: row.updated_at.toISOString(),
        boardTitle: row.board_title ?? row.intake.board,
        summary: row.summary ?? made.get(row.id) ?? summaryOf(deriveJob([])),
      }));
    },
    async find(id) {
      const job = await source.getRepository(JobTable).findOneBy({ id });
      if (!job) return null;
      const events = await source
        .getRepository(JobEventTable)
        .find({ where: { jobId: id }, order: { seq: 'ASC' } });
      return {
        id,
        createdAt: job.createdAt.toISOString(),
        events: events.map(eventOf),
      };
    },
    async closedOn(board) {
      const events = await source
        .getRepository(JobEventTable)
        .createQueryBuilder('e')
        .innerJoin(JobTable.options.name, 'j', 'j.id = e.job_id')
        .where("j.closed IS NOT NULL AND j.intake->>'board' = :board", { board })
        .orderBy('e.seq')
        .getMany();
      const byJob = new Map<string, JobEvent[]>();
      for (const event of events)
        byJob.set(event.jobId, [...(byJob.get(event.jobId) ?? []), eventOf(event)]);
      return [...byJob.values()];
    },
    create: (id, events) =>
      source.transaction(async (manager) => {
        const first = events[0]?.body;
        if (first?.type !== 'intake') throw new Error('a job starts with its intake');
        const opened = new Date(events[0]?.at ?? 0);
        await manager
          .createQueryBuilder()
          .insert()
          .into(JobTable)
          .values({
            id,
            intake: first.intake,
            closed: null,
            summary: null,
            createdAt: opened,
            updatedAt: opened,
          })
          .orIgnore()
          .execute();
        return addEvents(manager, id, events);
      }),
    append: (id, events) =>
      source.transaction(async (manager) => {
        // The row lock keeps the order of events of one job the order of their arrival.
        const job = await manager.getRepository(JobTable).findOne({
          where: { id },
          lock: { mode: 'pessimistic_write' },
        });
        if (!job) return 'no-job';
        const strangers = await manager
          .getRepository(JobEventTable)
          .createQueryBuilder('e')
          .where('e.id IN (:...ids) AND e.job_id <> :id', { ids: events.map((one) => one.id), id })
          .getCount();
        if (strangers > 0) return 'other-job';
        return addEvents(manager, id, events);
      }),
  };
}

const eventOf = ({ id, who, at, body }: JobEventEntity): JobEvent => ({
  id,
  who,
  at: at.toISOString(),
  body,
});

async function addEvents(
  manager: EntityManager,
  jobId: string,
  events: readonly JobEvent[],
): Promise<Appended> {
  const recorded: string[] = [];
  const known: string[] = [];
  for (const { id, who, at, body } of events) {
    const result: unknown[] = await manager.query(
      `INSERT INTO job_event (id, job_id, who, at, body) VALUES ($1, $2, $3, $4, $5)
       ON CONFLICT (id) DO NOTHING RETURNING id`,
      [id, jobId, who, at, JSON.stringify(body)],
    );
    (result.length > 0 ? recorded : known).push(id);
  }
  const fresh = events.filter((one) => recorded.includes(one.id));
  if (fresh.length > 0) {
    const intake = fresh.findLast((one) => one.body.type === 'intake')?.body;
    const closing = fresh.findLast((one) => one.body.type === 'close')?.body;
    await manager.getRepository(JobTable).update(
      { id: jobId },
      {
        updatedAt: new Date(fresh.at(-1)?.at ?? 0),
        summary: () => 'NULL',
        ...(intake?.type === 'intake' ? { intake: intake.intake } : {}),
        ...(closing?.type === 'close' ? { closed: closing.outcome } : {}),
      },
    );
  }
  return { recorded, known };
}
