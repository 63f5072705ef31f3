import type { MigrationInterface, QueryRunner } from 'typeorm';

export class IcingPlace1795563383229 implements MigrationInterface {
  name = 'IcingPlace1795563383229';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `CREATE TABLE "thinning_step" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "at" TIMESTAMP WITH TIME ZONE NOT NULL, "recipe" text NOT NULL, "grams" double precision NOT NULL, "addedG" double precision NOT NULL, "fromS" double precision NOT NULL, "toS" double precision NOT NULL, CONSTRAINT "PK_ac1fc194c0b7c4849a66ce2e33b" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "touch" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "at" TIMESTAMP WITH TIME ZONE NOT NULL, "state" text NOT NULL, "seconds" double precision NOT NULL, "depthMm" double precision NOT NULL, "on" text NOT NULL, "tempC" double precision NOT NULL, "humidityPct" double precision NOT NULL, "airMPerS" double precision NOT NULL, "notYetMin" double precision, "reachedMin" double precision, CONSTRAINT "PK_5d52f71c80748320a3219814c5b" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "colour_mix" ("colour" text NOT NULL, "parts" jsonb NOT NULL, "note" text NOT NULL, CONSTRAINT "PK_1c329a4bcff68f12dba2d3f76d1" PRIMARY KEY ("colour"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "leftover" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "at" TIMESTAMP WITH TIME ZONE NOT NULL, "colour" text NOT NULL, "seconds" double precision NOT NULL, "grams" double precision NOT NULL, "orderId" uuid, CONSTRAINT "PK_0a4f62a2365dd0de41c4071d915" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "kitchen" ("id" integer NOT NULL, "kitchen" jsonb NOT NULL, CONSTRAINT "PK_c79a8f2cdbce1ce12d7198fe344" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(`ALTER TABLE "order" ADD "merges" jsonb NOT NULL DEFAULT '[]'`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "order" DROP COLUMN "merges"`);
    await queryRunner.query(`DROP TABLE "kitchen"`);
    await queryRunner.query(`DROP TABLE "leftover"`);
    await queryRunner.query(`DROP TABLE "colour_mix"`);
    await queryRunner.query(`DROP TABLE "touch"`);
    await queryRunner.query(`DROP TABLE "thinning_step"`);
  }
}
