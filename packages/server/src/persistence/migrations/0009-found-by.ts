import type { MigrationInterface, QueryRunner } from 'typeorm';

export class FoundBy1796256000000 implements MigrationInterface {
  name = 'FoundBy1796256000000';

  /**
   * Words a job is found by, kept beside it like its summary and worked out anew with that after each entry.
   * Summaries go once, so that the words are there as soon as somebody asks.
   */
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE job ADD COLUMN words tsvector');
    await runner.query('CREATE INDEX ix_job_words ON job USING gin (words)');
    await runner.query(`CREATE INDEX ix_job_board ON job ((intake->>'board'), created_at)`);
    await runner.query('UPDATE job SET summary = NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX ix_job_board');
    await runner.query('DROP INDEX ix_job_words');
    await runner.query('ALTER TABLE job DROP COLUMN words');
  }
}
