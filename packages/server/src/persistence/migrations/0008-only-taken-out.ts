import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Erasing could put any entry in the place of another of its kind. Now it can only take texts out of the
 * entries of one job, and takes them out of all of them in one statement.
 */
export class OnlyTakenOut1796169600000 implements MigrationInterface {
  name = 'OnlyTakenOut1796169600000';

  async up(runner: QueryRunner): Promise<void> {
    // What `wordless` says is erased goes, text by text; all else stays as it was kept.
    await runner.query(`
      CREATE FUNCTION without_words(kept jsonb, wordless jsonb) RETURNS jsonb
      LANGUAGE plpgsql IMMUTABLE SET search_path = public, pg_temp AS $$
      BEGIN
        CASE jsonb_typeof(kept)
          WHEN 'string' THEN
            RETURN CASE WHEN wordless IN ('"(erased)"', 'null') THEN wordless ELSE kept END;
          WHEN 'object' THEN
            RETURN coalesce((
              SELECT jsonb_object_agg(key, CASE WHEN key = 'type' THEN value
                ELSE without_words(value, wordless->key) END)
              FROM jsonb_each(kept)), kept);
          WHEN 'array' THEN
            RETURN coalesce((
              SELECT jsonb_agg(without_words(value, wordless->(at::int - 1)) ORDER BY at)
              FROM jsonb_array_elements(kept) WITH ORDINALITY AS one(value, at)), kept);
          ELSE RETURN kept;
        END CASE;
      END $$`);
    await runner.query('DROP FUNCTION take_words_out(uuid, jsonb)');
    await runner.query(`
      CREATE FUNCTION take_words_out(job uuid, entries jsonb) RETURNS void
      LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
      BEGIN
        PERFORM set_config('jiko.change', 'knowingly', true);
        UPDATE job_event SET body = without_words(job_event.body, one.body)
          FROM jsonb_to_recordset(entries) AS one(id uuid, body jsonb)
          WHERE job_event.id = one.id AND job_event.job_id = take_words_out.job;
        PERFORM set_config('jiko.change', '', true);
      END $$`);
    await runner.query('REVOKE ALL ON FUNCTION without_words, take_words_out FROM PUBLIC');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP FUNCTION take_words_out(uuid, jsonb), without_words(jsonb, jsonb)');
    await runner.query(`
      CREATE FUNCTION take_words_out(event uuid, wordless jsonb) RETURNS void
      LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
      BEGIN
        PERFORM set_config('jiko.change', 'knowingly', true);
        UPDATE job_event SET body = wordless
          WHERE id = event AND body->>'type' = wordless->>'type';
        PERFORM set_config('jiko.change', '', true);
      END $$`);
    await runner.query('REVOKE ALL ON FUNCTION take_words_out FROM PUBLIC');
  }
}
