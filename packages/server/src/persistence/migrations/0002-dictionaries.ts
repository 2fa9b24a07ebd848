import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Dictionaries1795478400000 implements MigrationInterface {
  name = 'Dictionaries1795478400000';

  /** A cache: what browsers made once, by content. It may be emptied at any time. */
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE dictionary (
        name text NOT NULL,
        content bytea NOT NULL,
        used_at timestamptz NOT NULL DEFAULT now(),
        CONSTRAINT pk_dictionary PRIMARY KEY (name)
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE dictionary');
  }
}
