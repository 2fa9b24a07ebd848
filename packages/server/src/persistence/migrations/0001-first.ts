import type { MigrationInterface, QueryRunner } from 'typeorm';

export class First1767225600000 implements MigrationInterface {
  name = 'First1767225600000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE board_version (
        id text NOT NULL,
        hash text NOT NULL,
        title text NOT NULL,
        revision text NOT NULL,
        depth text NOT NULL,
        text text NOT NULL,
        saved_at timestamptz NOT NULL,
        CONSTRAINT pk_board_version PRIMARY KEY (id, hash)
      )`);
    await runner.query(`
      CREATE TABLE job (
        id uuid NOT NULL,
        intake jsonb NOT NULL,
        closed text,
        created_at timestamptz NOT NULL,
        updated_at timestamptz NOT NULL,
        CONSTRAINT pk_job PRIMARY KEY (id)
      )`);
    await runner.query(`
      CREATE TABLE job_event (
        id uuid NOT NULL,
        job_id uuid NOT NULL,
        seq bigserial NOT NULL,
        who text NOT NULL,
        at timestamptz NOT NULL,
        body jsonb NOT NULL,
        recorded_at timestamptz NOT NULL DEFAULT now(),
        CONSTRAINT pk_job_event PRIMARY KEY (id),
        CONSTRAINT fk_job_event_job FOREIGN KEY (job_id) REFERENCES job (id)
      )`);
    await runner.query('CREATE INDEX ix_job_event_job_seq ON job_event (job_id, seq)');
    // What was recorded is struck out or superseded by a later event, never changed.
    await runner.query(`
      CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN RAISE EXCEPTION 'job events are only ever added'; END $$`);
    await runner.query(`
      CREATE TRIGGER job_event_append_only BEFORE UPDATE ON job_event
      FOR EACH ROW EXECUTE FUNCTION refuse_change()`);
    await runner.query(`
      CREATE TABLE attachment (
        id uuid NOT NULL,
        job_id uuid NOT NULL,
        name text NOT NULL,
        type text NOT NULL,
        bytes integer NOT NULL,
        content bytea NOT NULL,
        added_at timestamptz NOT NULL DEFAULT now(),
        CONSTRAINT pk_attachment PRIMARY KEY (id),
        CONSTRAINT fk_attachment_job FOREIGN KEY (job_id) REFERENCES job (id)
      )`);
    await runner.query('CREATE INDEX ix_attachment_job ON attachment (job_id)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE attachment, job_event, job, board_version');
    await runner.query('DROP FUNCTION refuse_change');
  }
}
