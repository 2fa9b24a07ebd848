import type { DataSource } from 'typeorm';
import type { JobFileStore } from '../jobs/job-file.ts';
import type { KeptPicture, SheetVersion } from '../jobs/job-file-format.ts';
import { eventsJson } from './events-json.ts';
import { inTransaction } from './transaction.ts';

export function makeJobFileStore(source: DataSource): JobFileStore {
  return {
    async whole(id) {
      const [job] = (await source.query('SELECT created_at FROM job WHERE id = $1', [id])) as {
        created_at: Date;
      }[];
      if (!job) return null;
      const events = await eventsJson(source, id);
      const pictures = (await source.query(
        'SELECT id, name, type, content FROM attachment WHERE job_id = $1 ORDER BY id',
        [id],
      )) as KeptPicture[];
      const sheets = (await source.query(
        `SELECT id, hash, title, revision, depth, text, saved_at FROM board_version
         WHERE id IN (SELECT intake->>'board' FROM job WHERE id = $1
           UNION SELECT body->'intake'->>'board' FROM job_event WHERE job_id = $1)
         ORDER BY saved_at`,
        [id],
      )) as (Omit<SheetVersion, 'savedAt'> & { saved_at: Date })[];
      return {
        createdAt: job.created_at.toISOString(),
        events: events.json,
        pictures,
        sheets: sheets.map(({ saved_at, ...one }) => ({ ...one, savedAt: saved_at.toISOString() })),
      };
    },
    takeOver: ({ id, createdAt, updatedAt, closed, intake, events, entries, pictures, sheets }) =>
      inTransaction(source, async (manager) => {
        const made: unknown[] = await manager.query(
          `INSERT INTO job (id, intake, closed, summary, created_at, updated_at)
           VALUES ($1, $2, $5, NULL, $3, $4) ON CONFLICT (id) DO NOTHING RETURNING id`,
          [id, intake, createdAt, updatedAt, closed],
        );
        if (made.length === 0) {
          const [{ same } = { same: false }] = (await manager.query(
            `SELECT count(*) = $3 AND bool_and(e.id IS NOT NULL) AS same
             FROM job_event j LEFT JOIN jsonb_to_recordset($2::jsonb) AS e(id uuid, body jsonb)
               ON e.id = j.id AND e.body = j.body
             WHERE j.job_id = $1`,
            [id, events, entries],
          )) as { same: boolean }[];
          return same ? 'same' : 'differs';
        }
        const [{ added } = { added: '0' }] = (await manager.query(
          `WITH added AS (
             INSERT INTO job_event (id, job_id, who, at, body)
             SELECT (e->>'id')::uuid, $1, e->>'who', (e->>'at')::timestamptz, e->'body'
             FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY AS one(e, nth) ORDER BY nth
             ON CONFLICT (id) DO NOTHING RETURNING id)
           SELECT count(*) AS added FROM added`,
          [id, events],
        )) as { added: string }[];
        if (Number(added) < entries) throw new Taken('event-taken');
        for (const { id: of, name, type, content } of pictures) {
          const kept: unknown[] = await manager.query(
            `INSERT INTO attachment (id, job_id, name, type, bytes, content)
             VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT (id) DO NOTHING RETURNING id`,
            [of, id, name, type, content.length, asBuffer(content)],
          );
          if (kept.length === 0) throw new Taken('picture-taken');
        }
        for (const one of sheets)
          await manager.query(
            `INSERT INTO board_version (id, hash, title, revision, depth, text, saved_at)
             VALUES ($1, $2, $3, $4, $5, $6, $7) ON CONFLICT (id, hash) DO NOTHING`,
            [one.id, one.hash, one.title, one.revision, one.depth, one.text, one.savedAt],
          );
        return 'added' as const;
      }).catch((error: unknown) => {
        if (error instanceof Taken) return error.what;
        throw error;
      }),
  };
}

/** Thrown to roll the transaction back. */
class Taken extends Error {
  readonly what: 'event-taken' | 'picture-taken';
  constructor(what: Taken['what']) {
    super(what);
    this.what = what;
  }
}

/** The same bytes, as the database's driver takes them. */
const asBuffer = ({ buffer, byteOffset, byteLength }: Uint8Array): Buffer =>
  Buffer.from(buffer, byteOffset, byteLength);
