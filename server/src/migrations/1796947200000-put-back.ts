import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = ['leftover', 'touch', 'thinning_step'];

/** Icing left over, touches and weighed steps that are taken away can be put back. */
export class PutBack1796947200000 implements MigrationInterface {
  name = 'PutBack1796947200000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    for (const table of TABLES) await queryRunner.query(`ALTER TABLE "${table}" ADD "deletedAt" TIMESTAMP WITH TIME ZONE`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    for (const table of TABLES) {
      // Taken away is gone where nothing can be put back.
      await queryRunner.query(`DELETE FROM "${table}" WHERE "deletedAt" IS NOT NULL`);
      await queryRunner.query(`ALTER TABLE "${table}" DROP COLUMN "deletedAt"`);
    }
  }
}
