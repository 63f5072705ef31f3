import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How long visits took is kept beside what was touched, once a run's order is gone. */
export class VisitPaces1795906800000 implements MigrationInterface {
  name = 'VisitPaces1795906800000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "learned_run" ADD "visits" jsonb`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "learned_run" DROP COLUMN "visits"`);
  }
}
