import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Look1795564800000 implements MigrationInterface {
  name = 'Look1795564800000';

  /** Photos of boards with the places of their parts, and what the list of jobs says of each. */
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE board_picture (
        id uuid NOT NULL,
        board text NOT NULL,
        side text NOT NULL,
        name text NOT NULL,
        type text NOT NULL,
        bytes integer NOT NULL,
        content bytea NOT NULL,
        added_at timestamptz NOT NULL DEFAULT now(),
        CONSTRAINT pk_board_picture PRIMARY KEY (id)
      )`);
    await runner.query('CREATE INDEX ix_board_picture_board ON board_picture (board, side)');
    await runner.query(`
      CREATE TABLE board_place (
        board text NOT NULL,
        ref text NOT NULL,
        frame text NOT NULL,
        side text NOT NULL,
        u double precision NOT NULL,
        v double precision NOT NULL,
        who text NOT NULL,
        placed_at timestamptz NOT NULL,
        CONSTRAINT pk_board_place PRIMARY KEY (board, ref, frame)
      )`);
    await runner.query('ALTER TABLE job ADD COLUMN summary jsonb');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE job DROP COLUMN summary');
    await runner.query('DROP TABLE board_place, board_picture');
  }
}
