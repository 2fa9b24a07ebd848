import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Documents1795737600000 implements MigrationInterface {
  name = 'Documents1795737600000';

  /** PDFs of boards, and what was read of their pages. One that was taken back is shown no more, and stays. */
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE board_document (
        id uuid NOT NULL,
        board text NOT NULL,
        kind text NOT NULL,
        name text NOT NULL,
        bytes integer NOT NULL,
        page_count integer NOT NULL,
        pages_with_text integer NOT NULL,
        troubles jsonb NOT NULL,
        pages jsonb NOT NULL,
        content bytea NOT NULL,
        added_at timestamptz NOT NULL DEFAULT now(),
        taken_back_at timestamptz,
        CONSTRAINT pk_board_document PRIMARY KEY (id)
      )`);
    await runner.query('CREATE INDEX ix_board_document_board ON board_document (board)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE board_document');
  }
}
