import type { DataSource } from 'typeorm';
import type { JobFileStore, KeptPicture, RawEvent, SheetVersion } from '../jobs/job-file.ts';

interface EventRow {
  id: string;
  who: string;
  at: Date;
  body: RawEvent['body'];
}

const toRaw = ({ id, who, at, body }: EventRow): RawEvent => ({
  id,
  who,
  at: at.toISOString(),
  body,
});

export function makeJobFileStore(source: DataSource): JobFileStore {
  return {
    async whole(id) {
      const [job] = (await source.query('SELECT created_at, intake FROM job WHERE id = $1', [
        id,
      ])) as { created_at: Date; intake: { board?: string } }[];
      if (!job) return null;
      const events = (await source.query(
        'SELECT id, who, at, body FROM job_event WHERE job_id = $1 ORDER BY seq',
        [id],
      )) as EventRow[];
      const pictures = (await source.query(
        'SELECT id, name, type, content FROM attachment WHERE job_id = $1 ORDER BY id',
        [id],
      )) as KeptPicture[];
      const boards = new Set([
        job.intake.board,
        ...events.map(({ body }) => (body['intake'] as { board?: string } | undefined)?.board),
      ]);
      const sheets = (await source.query(
        `SELECT id, hash, title, revision, depth, text, saved_at FROM board_version
         WHERE id = ANY($1) ORDER BY saved_at`,
        [[...boards].filter(Boolean)],
      )) as (Omit<SheetVersion, 'savedAt'> & { saved_at: Date })[];
      return {
        createdAt: job.created_at.toISOString(),
        events: events.map(toRaw),
        pictures,
        sheets: sheets.map(({ saved_at, ...one }) => ({ ...one, savedAt: saved_at.toISOString() })),
      };
    },
    takeOver: ({ id, createdAt, closed, events, pictures, sheets }) =>
      source
        .transaction(async (manager) => {
          const made: unknown[] = await manager.query(
            `INSERT INTO job (id, intake, closed, summary, created_at, updated_at)
           VALUES ($1, $2, $5, NULL, $3, $4) ON CONFLICT (id) DO NOTHING RETURNING id`,
            [id, JSON.stringify(events[0]?.body['intake']), createdAt, events.at(-1)?.at, closed],
          );
          if (made.length === 0) {
            const [{ same } = { same: false }] = (await manager.query(
              `SELECT count(*) = $3 AND bool_and(e.id IS NOT NULL) AS same
             FROM job_event j LEFT JOIN jsonb_to_recordset($2::jsonb) AS e(id uuid, body jsonb)
               ON e.id = j.id AND e.body = j.body
             WHERE j.job_id = $1`,
              [id, JSON.stringify(events), events.length],
            )) as { same: boolean }[];
            return same ? 'same' : 'differs';
          }
          for (const { id: of, who, at, body } of events) {
            const added: unknown[] = await manager.query(
              `INSERT INTO job_event (id, job_id, who, at, body) VALUES ($1, $2, $3, $4, $5)
             ON CONFLICT (id) DO NOTHING RETURNING id`,
              [of, id, who, at, JSON.stringify(body)],
            );
            if (added.length === 0) throw new TakenEvent();
          }
          for (const { id: of, name, type, content } of pictures)
            await manager.query(
              `INSERT INTO attachment (id, job_id, name, type, bytes, content)
             VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT (id) DO NOTHING`,
              [of, id, name, type, content.length, content],
            );
          for (const one of sheets)
            await manager.query(
              `INSERT INTO board_version (id, hash, title, revision, depth, text, saved_at)
             VALUES ($1, $2, $3, $4, $5, $6, $7) ON CONFLICT (id, hash) DO NOTHING`,
              [one.id, one.hash, one.title, one.revision, one.depth, one.text, one.savedAt],
            );
          return 'added' as const;
        })
        .catch((error: unknown) => {
          if (error instanceof TakenEvent) return 'event-taken' as const;
          throw error;
        }),
  };
}

class TakenEvent extends Error {}
