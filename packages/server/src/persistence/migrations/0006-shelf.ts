import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Shelf1795824000000 implements MigrationInterface {
  name = 'Shelf1795824000000';

  /** Donor boards and loose parts of the shop. What was used up stays, with a count of none. */
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE shelf_item (
        id uuid NOT NULL,
        item jsonb NOT NULL,
        updated_at timestamptz NOT NULL DEFAULT now(),
        CONSTRAINT pk_shelf_item PRIMARY KEY (id)
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE shelf_item');
  }
}
