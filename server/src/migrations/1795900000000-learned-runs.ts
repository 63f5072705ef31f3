import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What a run taught is kept apart from its order, and a run can be left out of the learning. */
export class LearnedRuns1795900000000 implements MigrationInterface {
  name = 'LearnedRuns1795900000000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `CREATE TABLE "learned_run" ("runId" uuid NOT NULL, "orderName" text NOT NULL, "startedAt" TIMESTAMP WITH TIME ZONE NOT NULL, "touches" jsonb, "leftOut" boolean NOT NULL DEFAULT false, CONSTRAINT "PK_learned_run" PRIMARY KEY ("runId"))`,
    );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`DROP TABLE "learned_run"`);
  }
}
