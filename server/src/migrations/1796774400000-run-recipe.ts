import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A run keeps by which recipe its icing was mixed, so that counts can be told apart by it. */
export class RunRecipe1796774400000 implements MigrationInterface {
  name = 'RunRecipe1796774400000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "run" ADD "recipe" text`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "run" DROP COLUMN "recipe"`);
  }
}
