import type { MigrationInterface, QueryRunner } from 'typeorm';

export class NothingLost1795651200000 implements MigrationInterface {
  name = 'NothingLost1795651200000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE setting (
        name text NOT NULL,
        value text NOT NULL,
        CONSTRAINT pk_setting PRIMARY KEY (name)
      )`);
    // A photo that was taken back is not shown any more, and stays.
    await runner.query('ALTER TABLE board_picture ADD COLUMN taken_back_at timestamptz');
    // A database that holds boards had its demo, or was never to have one.
    await runner.query(`
      INSERT INTO setting (name, value)
      SELECT 'demo', 'loaded' WHERE EXISTS (SELECT FROM board_version)`);
    // Entries go only with a demo, and only personal words are ever taken out: both say so first.
    await runner.query(`
      CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        IF current_setting('jiko.change', true) = 'knowingly' THEN
          RETURN CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END;
        END IF;
        RAISE EXCEPTION 'job events are only ever added';
      END $$`);
    await runner.query('DROP TRIGGER job_event_append_only ON job_event');
    await runner.query(`
      CREATE TRIGGER job_event_append_only BEFORE UPDATE OR DELETE ON job_event
      FOR EACH ROW EXECUTE FUNCTION refuse_change()`);
    await runner.query(`
      CREATE TRIGGER job_event_never_emptied BEFORE TRUNCATE ON job_event
      EXECUTE FUNCTION refuse_change()`);
    // What takes personal words out of an entry: its kind and all that is not text stay.
    await runner.query(`
      CREATE FUNCTION take_words_out(event uuid, wordless jsonb) RETURNS void
      LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
      BEGIN
        PERFORM set_config('jiko.change', 'knowingly', true);
        UPDATE job_event SET body = wordless
          WHERE id = event AND body->>'type' = wordless->>'type';
        PERFORM set_config('jiko.change', '', true);
      END $$`);
    // Demo jobs are told by their ids; no other job can be deleted.
    await runner.query(`
      CREATE FUNCTION remove_demo_jobs() RETURNS void
      LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
      BEGIN
        PERFORM set_config('jiko.change', 'knowingly', true);
        DELETE FROM attachment WHERE job_id::text LIKE '0d0e0000-0000-4000-8000-%';
        DELETE FROM job_event WHERE job_id::text LIKE '0d0e0000-0000-4000-8000-%';
        DELETE FROM job WHERE id::text LIKE '0d0e0000-0000-4000-8000-%';
        PERFORM set_config('jiko.change', '', true);
      END $$`);
    await runner.query('REVOKE ALL ON FUNCTION take_words_out, remove_demo_jobs FROM PUBLIC');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP FUNCTION take_words_out, remove_demo_jobs');
    await runner.query('DROP TRIGGER job_event_never_emptied ON job_event');
    await runner.query('ALTER TABLE board_picture DROP COLUMN taken_back_at');
    await runner.query('DROP TABLE setting');
  }
}
