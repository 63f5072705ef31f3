import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What a run tells is kept with it, and outlives it; lessons, and moments that were put right. */
export class Notebook1796342400000 implements MigrationInterface {
  name = 'Notebook1796342400000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    for (const table of ['run', 'learned_run']) await queryRunner.query(`ALTER TABLE "${table}" ADD "account" jsonb`);
    await queryRunner.query(`ALTER TABLE "learned_run" ADD "simulated" boolean NOT NULL DEFAULT false`);
    await queryRunner.query(
      `CREATE TABLE "lesson" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "at" TIMESTAMP WITH TIME ZONE NOT NULL, "text" text NOT NULL, "runId" uuid, "design" text, "step" text, PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(`CREATE INDEX "IDX_lesson_run" ON "lesson" ("runId")`);
    await queryRunner.query(
      `CREATE TABLE "run_correction" ("eventId" uuid NOT NULL, "runId" uuid NOT NULL, "at" TIMESTAMP WITH TIME ZONE NOT NULL, "was" TIMESTAMP WITH TIME ZONE NOT NULL, PRIMARY KEY ("eventId"))`,
    );
    await queryRunner.query(`CREATE INDEX "IDX_correction_run" ON "run_correction" ("runId")`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`DROP TABLE "run_correction"`);
    await queryRunner.query(`DROP TABLE "lesson"`);
    await queryRunner.query(`ALTER TABLE "learned_run" DROP COLUMN "simulated"`);
    for (const table of ['run', 'learned_run']) await queryRunner.query(`ALTER TABLE "${table}" DROP COLUMN "account"`);
  }
}
