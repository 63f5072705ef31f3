import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Keys that were looked up row by row. */
const INDEXES: readonly (readonly [string, string, string])[] = [
  ['IDX_order_host', 'order', '"hostId"'],
  ['IDX_order_transfers_for', 'order', '"transfersForId"'],
  ['IDX_order_pack_by', 'order', '"packBy", "createdAt"'],
  ['IDX_order_design_design', 'order_design', '"designId", "version"'],
  ['IDX_plan_order', 'plan', '"orderId", "createdAt"'],
  ['IDX_run_plan', 'run', '"planId"'],
];

/** What lists show is kept beside what it follows from: of a version its drawing, of a plan its times, of a run how far it is. */
export class Projections1795996800000 implements MigrationInterface {
  name = 'Projections1795996800000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "design_version" ADD "edits" integer NOT NULL DEFAULT 0, ADD "name" text NOT NULL DEFAULT '',
      ADD "derivedBy" text, ADD "drawing" jsonb, ADD "summary" jsonb`);
    await queryRunner.query(`UPDATE "design_version" v SET "edits" = jsonb_array_length(v."document"->'edits'), "name" = d."name"
      FROM "design" d WHERE d."id" = v."designId"`);
    await queryRunner.query(`ALTER TABLE "plan" ADD "summary" jsonb`);
    await queryRunner.query(`ALTER TABLE "run" ADD "lastSeq" integer NOT NULL DEFAULT 0, ADD "factsBy" text, ADD "factsSeq" integer,
      ADD "done" integer NOT NULL DEFAULT 0, ADD "total" integer NOT NULL DEFAULT 0, ADD "finished" boolean NOT NULL DEFAULT false,
      ADD "liftedAt" timestamptz, ADD "taught" jsonb`);
    await queryRunner.query(`UPDATE "run" r SET "lastSeq" = coalesce((SELECT max("seq") FROM "run_event" e WHERE e."runId" = r."id"), 0)`);
    await queryRunner.query(`ALTER TABLE "order" ADD "revision" integer NOT NULL DEFAULT 1, ADD "schoolKept" jsonb`);
    for (const [name, table, columns] of INDEXES) await queryRunner.query(`CREATE INDEX "${name}" ON "${table}" (${columns})`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    for (const [name] of INDEXES) await queryRunner.query(`DROP INDEX "${name}"`);
    await queryRunner.query(`ALTER TABLE "order" DROP COLUMN "schoolKept", DROP COLUMN "revision"`);
    await queryRunner.query(`ALTER TABLE "run" DROP COLUMN "taught", DROP COLUMN "liftedAt", DROP COLUMN "finished", DROP COLUMN "total", DROP COLUMN "done",
      DROP COLUMN "factsSeq", DROP COLUMN "factsBy", DROP COLUMN "lastSeq"`);
    await queryRunner.query(`ALTER TABLE "plan" DROP COLUMN "summary"`);
    await queryRunner.query(
      `ALTER TABLE "design_version" DROP COLUMN "summary", DROP COLUMN "drawing", DROP COLUMN "derivedBy", DROP COLUMN "name", DROP COLUMN "edits"`,
    );
  }
}
