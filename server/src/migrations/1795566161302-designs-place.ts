import type { MigrationInterface, QueryRunner } from 'typeorm';

export class DesignsPlace1795566161302 implements MigrationInterface {
  name = 'DesignsPlace1795566161302';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `CREATE TABLE "design_version" ("designId" uuid NOT NULL, "version" integer NOT NULL, "document" jsonb NOT NULL, CONSTRAINT "PK_a2f9c72ab411af2f795af78c7b9" PRIMARY KEY ("designId", "version"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "school" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "school" jsonb NOT NULL, "createdAt" TIMESTAMP WITH TIME ZONE NOT NULL DEFAULT now(), CONSTRAINT "PK_57836c3fe2f2c7734b20911755e" PRIMARY KEY ("id"))`,
    );
    // Drawings that are there become the first version of their design.
    await queryRunner.query(
      `INSERT INTO "design_version" ("designId", "version", "document") SELECT "id", 1, jsonb_build_object('format', 'kestfog-design/1', 'name', "name", 'svg', "svg", 'edits', '[]'::jsonb) FROM "design"`,
    );
    await queryRunner.query(`ALTER TABLE "design" DROP COLUMN "svg"`);
    await queryRunner.query(`ALTER TABLE "design" ADD "version" integer`);
    await queryRunner.query(`UPDATE "design" SET "version" = 1`);
    await queryRunner.query(`ALTER TABLE "design" ALTER COLUMN "version" SET NOT NULL`);
    await queryRunner.query(`ALTER TABLE "design" ADD "updatedAt" TIMESTAMP WITH TIME ZONE NOT NULL DEFAULT now()`);
    await queryRunner.query(`ALTER TABLE "order_design" ADD "version" integer NOT NULL DEFAULT '1'`);
    await queryRunner.query(
      `ALTER TABLE "design_version" ADD CONSTRAINT "FK_c659df19ddd17ba9244f063561e" FOREIGN KEY ("designId") REFERENCES "design"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "design_version" DROP CONSTRAINT "FK_c659df19ddd17ba9244f063561e"`);
    await queryRunner.query(`ALTER TABLE "order_design" DROP COLUMN "version"`);
    await queryRunner.query(`ALTER TABLE "design" DROP COLUMN "updatedAt"`);
    await queryRunner.query(`ALTER TABLE "design" DROP COLUMN "version"`);
    await queryRunner.query(`ALTER TABLE "design" ADD "svg" text`);
    await queryRunner.query(
      `UPDATE "design" SET "svg" = (SELECT "document"->>'svg' FROM "design_version" v WHERE v."designId" = "design"."id" AND v."version" = 1)`,
    );
    await queryRunner.query(`ALTER TABLE "design" ALTER COLUMN "svg" SET NOT NULL`);
    await queryRunner.query(`DROP TABLE "school"`);
    await queryRunner.query(`DROP TABLE "design_version"`);
  }
}
