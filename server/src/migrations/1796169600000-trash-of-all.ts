import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What counts its changes from now on. */
const COUNTED = ['school', 'kitchen', 'bag', 'colour_mix'] as const;

/** Schools and runs lie in the trash first too; everything that is changed counts its changes. */
export class TrashOfAll1796169600000 implements MigrationInterface {
  name = 'TrashOfAll1796169600000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    for (const table of ['school', 'run']) await queryRunner.query(`ALTER TABLE "${table}" ADD "deletedAt" TIMESTAMP WITH TIME ZONE`);
    for (const table of COUNTED) await queryRunner.query(`ALTER TABLE "${table}" ADD "revision" integer NOT NULL DEFAULT 1`);
    await queryRunner.query(`ALTER TABLE "kitchen" ADD "changedIn" jsonb NOT NULL DEFAULT '{}'`);
    // Beside a run in the trash work on its order can begin anew.
    await queryRunner.query(`DROP INDEX "IDX_e9e068d8ac3238bf3f40a6864f"`);
    await queryRunner.query(`CREATE UNIQUE INDEX "IDX_run_order" ON "run" ("orderId") WHERE "deletedAt" IS NULL`);
  }

  /** Without a trash, what lies in it is gone. */
  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`DROP INDEX "IDX_run_order"`);
    for (const table of ['school', 'run']) await queryRunner.query(`DELETE FROM "${table}" WHERE "deletedAt" IS NOT NULL`);
    await queryRunner.query(`CREATE UNIQUE INDEX "IDX_e9e068d8ac3238bf3f40a6864f" ON "run" ("orderId")`);
    await queryRunner.query(`ALTER TABLE "kitchen" DROP COLUMN "changedIn"`);
    for (const table of COUNTED) await queryRunner.query(`ALTER TABLE "${table}" DROP COLUMN "revision"`);
    for (const table of ['school', 'run']) await queryRunner.query(`ALTER TABLE "${table}" DROP COLUMN "deletedAt"`);
  }
}
