import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Photos and spoken words of an evening. */
export class Recordings1796688000000 implements MigrationInterface {
  name = 'Recordings1796688000000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`CREATE TABLE "recording" ("id" uuid NOT NULL, "runId" uuid NOT NULL, "at" TIMESTAMP WITH TIME ZONE NOT NULL,
      "kind" text NOT NULL, "design" text, "step" text, "school" text, "type" text NOT NULL, "sizeBytes" integer NOT NULL,
      "file" bytea NOT NULL, PRIMARY KEY ("id"))`);
    await queryRunner.query(`CREATE INDEX "IDX_recording_run" ON "recording" ("runId")`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`DROP TABLE "recording"`);
  }
}
