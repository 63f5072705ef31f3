import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Init1795494926972 implements MigrationInterface {
  name = 'Init1795494926972';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `CREATE TABLE "setting" ("key" text NOT NULL, "value" text NOT NULL, CONSTRAINT "PK_1c4c95d773004250c157a744d6e" PRIMARY KEY ("key"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "design" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "name" text NOT NULL, "svg" text NOT NULL, "createdAt" TIMESTAMP WITH TIME ZONE NOT NULL DEFAULT now(), CONSTRAINT "PK_e7a44f12414f03b7f38ff26dc8c" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "order" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "name" text NOT NULL, "trays" jsonb NOT NULL, "bench" jsonb NOT NULL, "air" jsonb NOT NULL, "fan" jsonb, "school" text NOT NULL, "margin" text NOT NULL, "packBy" TIMESTAMP WITH TIME ZONE NOT NULL, "createdAt" TIMESTAMP WITH TIME ZONE NOT NULL DEFAULT now(), "updatedAt" TIMESTAMP WITH TIME ZONE NOT NULL DEFAULT now(), CONSTRAINT "PK_1031171c13130102495201e3e20" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "order_design" ("orderId" uuid NOT NULL, "position" integer NOT NULL, "designId" uuid NOT NULL, "count" integer NOT NULL, CONSTRAINT "PK_e415bc9dc81570a1adac88e3d3a" PRIMARY KEY ("orderId", "position"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "plan" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "orderId" uuid NOT NULL, "inputHash" text NOT NULL, "modelVersion" text NOT NULL, "plan" jsonb NOT NULL, "createdAt" TIMESTAMP WITH TIME ZONE NOT NULL DEFAULT now(), CONSTRAINT "PK_54a2b686aed3b637654bf7ddbb3" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "run" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "orderId" uuid NOT NULL, "planId" uuid NOT NULL, "startedAt" TIMESTAMP WITH TIME ZONE NOT NULL, CONSTRAINT "PK_804c38ffba92002c6d2c646dd46" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(`CREATE UNIQUE INDEX "IDX_e9e068d8ac3238bf3f40a6864f" ON "run"  ("orderId") `);
    await queryRunner.query(
      `CREATE TABLE "run_event" ("runId" uuid NOT NULL, "seq" integer NOT NULL, "id" uuid NOT NULL, "deviceId" uuid NOT NULL, "deviceSeq" integer NOT NULL, "at" TIMESTAMP WITH TIME ZONE NOT NULL, "receivedAt" TIMESTAMP WITH TIME ZONE NOT NULL, "type" text NOT NULL, "data" jsonb NOT NULL, CONSTRAINT "PK_771cc747af263f56aacd5f336fc" PRIMARY KEY ("runId", "seq"))`,
    );
    await queryRunner.query(`CREATE UNIQUE INDEX "IDX_2287184bc447a7cb44cda679ae" ON "run_event"  ("id") `);
    await queryRunner.query(`CREATE UNIQUE INDEX "IDX_fcd7f54c43acf2b7c4345ba547" ON "run_event"  ("runId", "deviceId", "deviceSeq") `);
    await queryRunner.query(
      `ALTER TABLE "order_design" ADD CONSTRAINT "FK_94cd2d548ce1356afe4b91b37a6" FOREIGN KEY ("orderId") REFERENCES "order"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await queryRunner.query(
      `ALTER TABLE "order_design" ADD CONSTRAINT "FK_846881a31c819ba2eed31bf2b9e" FOREIGN KEY ("designId") REFERENCES "design"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
    );
    await queryRunner.query(
      `ALTER TABLE "plan" ADD CONSTRAINT "FK_6f758c9a5069c06270135da45c8" FOREIGN KEY ("orderId") REFERENCES "order"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await queryRunner.query(
      `ALTER TABLE "run" ADD CONSTRAINT "FK_e9e068d8ac3238bf3f40a6864f8" FOREIGN KEY ("orderId") REFERENCES "order"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await queryRunner.query(
      `ALTER TABLE "run" ADD CONSTRAINT "FK_7b87211562b04d5c432dab4ef8b" FOREIGN KEY ("planId") REFERENCES "plan"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await queryRunner.query(
      `ALTER TABLE "run_event" ADD CONSTRAINT "FK_ce218bb5aefc46d11b92405bf3c" FOREIGN KEY ("runId") REFERENCES "run"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "run_event" DROP CONSTRAINT "FK_ce218bb5aefc46d11b92405bf3c"`);
    await queryRunner.query(`ALTER TABLE "run" DROP CONSTRAINT "FK_7b87211562b04d5c432dab4ef8b"`);
    await queryRunner.query(`ALTER TABLE "run" DROP CONSTRAINT "FK_e9e068d8ac3238bf3f40a6864f8"`);
    await queryRunner.query(`ALTER TABLE "plan" DROP CONSTRAINT "FK_6f758c9a5069c06270135da45c8"`);
    await queryRunner.query(`ALTER TABLE "order_design" DROP CONSTRAINT "FK_846881a31c819ba2eed31bf2b9e"`);
    await queryRunner.query(`ALTER TABLE "order_design" DROP CONSTRAINT "FK_94cd2d548ce1356afe4b91b37a6"`);
    await queryRunner.query(`DROP INDEX "public"."IDX_fcd7f54c43acf2b7c4345ba547"`);
    await queryRunner.query(`DROP INDEX "public"."IDX_2287184bc447a7cb44cda679ae"`);
    await queryRunner.query(`DROP TABLE "run_event"`);
    await queryRunner.query(`DROP INDEX "public"."IDX_e9e068d8ac3238bf3f40a6864f"`);
    await queryRunner.query(`DROP TABLE "run"`);
    await queryRunner.query(`DROP TABLE "plan"`);
    await queryRunner.query(`DROP TABLE "order_design"`);
    await queryRunner.query(`DROP TABLE "order"`);
    await queryRunner.query(`DROP TABLE "design"`);
    await queryRunner.query(`DROP TABLE "setting"`);
  }
}
