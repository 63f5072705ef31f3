import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What is deleted lies in the trash first. */
export class Trash1796083200000 implements MigrationInterface {
  name = 'Trash1796083200000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    for (const table of ['order', 'design']) await queryRunner.query(`ALTER TABLE "${table}" ADD "deletedAt" TIMESTAMP WITH TIME ZONE`);
  }

  /** Without a trash, what lies in it is gone: before it was deleted at once. */
  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`DELETE FROM "order" WHERE "deletedAt" IS NOT NULL`);
    await queryRunner.query(`DELETE FROM "design" WHERE "deletedAt" IS NOT NULL`);
    for (const table of ['design', 'order']) await queryRunner.query(`ALTER TABLE "${table}" DROP COLUMN "deletedAt"`);
  }
}
