import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Transfer orders know what they are for, left-overs where they went, and colours the recipe they were mixed into. */
export class Hands1795898400000 implements MigrationInterface {
  name = 'Hands1795898400000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "order" ADD "transfersForId" uuid`);
    await queryRunner.query(
      `ALTER TABLE "order" ADD CONSTRAINT "FK_59c82b9ab48df426649ebcd9167" FOREIGN KEY ("transfersForId") REFERENCES "order"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
    );
    await queryRunner.query(`ALTER TABLE "leftover" ADD "uses" jsonb NOT NULL DEFAULT '[]'`);
    await queryRunner.query(`ALTER TABLE "colour_mix" ADD "gelGPer100G" double precision`);
    await queryRunner.query(`ALTER TABLE "colour_mix" ADD "recipe" text NOT NULL DEFAULT 'my icing'`);
    // Colours that are there were mixed into the recipe the kitchen names.
    await queryRunner.query(
      `UPDATE "colour_mix" SET "recipe" = coalesce((SELECT "kitchen"->>'recipe' FROM "kitchen" WHERE "id" = 1), 'my icing')`,
    );
    await queryRunner.query(`ALTER TABLE "colour_mix" DROP CONSTRAINT "PK_1c329a4bcff68f12dba2d3f76d1"`);
    await queryRunner.query(`ALTER TABLE "colour_mix" ADD CONSTRAINT "PK_eff14422cda522d441690932b78" PRIMARY KEY ("recipe", "colour")`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    // Of a colour mixed into several recipes only one can stay.
    await queryRunner.query(`DELETE FROM "colour_mix" a USING "colour_mix" b WHERE a."colour" = b."colour" AND a."recipe" > b."recipe"`);
    await queryRunner.query(`ALTER TABLE "colour_mix" DROP CONSTRAINT "PK_eff14422cda522d441690932b78"`);
    await queryRunner.query(`ALTER TABLE "colour_mix" DROP COLUMN "recipe"`);
    await queryRunner.query(`ALTER TABLE "colour_mix" ADD CONSTRAINT "PK_1c329a4bcff68f12dba2d3f76d1" PRIMARY KEY ("colour")`);
    await queryRunner.query(`ALTER TABLE "colour_mix" DROP COLUMN "gelGPer100G"`);
    await queryRunner.query(`ALTER TABLE "leftover" DROP COLUMN "uses"`);
    await queryRunner.query(`ALTER TABLE "order" DROP CONSTRAINT "FK_59c82b9ab48df426649ebcd9167"`);
    await queryRunner.query(`ALTER TABLE "order" DROP COLUMN "transfersForId"`);
  }
}
