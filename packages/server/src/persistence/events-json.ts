import type { DataSource, EntityManager } from 'typeorm';

/** Moments that JavaScript writes with a sign (years past 9999) are kept within what clients read. */
const moment = `CASE WHEN at >= '10000-01-01Z' THEN '9999-12-31T23:59:59.999Z'
  ELSE to_char(at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') END`;

/** All entries of a job as they lie there. */
export interface WrittenEvents {
  /** A JSON array in the order of the record. */
  json: string;
  count: number;
  /** Number of the last entry in the order of all entries; null where there is none. */
  last: string | null;
}

/** Written as JSON by the database: ten thousand entries are not taken apart and put together here. */
export async function eventsJson(
  manager: Pick<DataSource | EntityManager, 'query'>,
  job: string,
): Promise<WrittenEvents> {
  const rows: { json: string | null; count: string; last: string | null }[] = await manager.query(
    `SELECT string_agg(
        json_build_object('id', id, 'who', who, 'at', ${moment}, 'body', body)::text, ','
        ORDER BY seq) AS json,
      count(*) AS count, max(seq) AS last
     FROM job_event WHERE job_id = $1`,
    [job],
  );
  const { json = null, count = '0', last = null } = rows[0] ?? {};
  return { json: `[${json ?? ''}]`, count: Number(count), last };
}
