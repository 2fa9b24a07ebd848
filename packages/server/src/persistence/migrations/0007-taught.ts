import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Taught1796083200000 implements MigrationInterface {
  name = 'Taught1796083200000';

  /**
   * What a closed job teaches, kept beside it like its summary: worked out anew with that after each entry.
   * Summaries of closed jobs go, so that both are there once somebody asks.
   */
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE job ADD COLUMN taught jsonb');
    await runner.query('UPDATE job SET summary = NULL WHERE closed IS NOT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE job DROP COLUMN taught');
  }
}
