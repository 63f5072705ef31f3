import type { MigrationInterface, QueryRunner } from 'typeorm';

export class WholeBench1795574400000 implements MigrationInterface {
  name = 'WholeBench1795574400000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "order_design" ADD "spares" integer NOT NULL DEFAULT '0'`);
    await queryRunner.query(`ALTER TABLE "order" ADD "box" jsonb`);
    await queryRunner.query(`ALTER TABLE "order" ADD "handGapMm" real NOT NULL DEFAULT '10'`);
    await queryRunner.query(`ALTER TABLE "order" ADD "decorators" jsonb NOT NULL DEFAULT '[{"id":"me","pace":1}]'`);
    await queryRunner.query(`ALTER TABLE "order" ADD "openBags" integer`);
    await queryRunner.query(`ALTER TABLE "order" ADD "pins" jsonb NOT NULL DEFAULT '[]'`);
    await queryRunner.query(`ALTER TABLE "order" ADD "notes" text NOT NULL DEFAULT ''`);
    await queryRunner.query(`ALTER TABLE "order" ADD "hostId" uuid`);
    await queryRunner.query(
      `ALTER TABLE "order" ADD CONSTRAINT "FK_7da1ab8b2a50017aa99ea0ffe2a" FOREIGN KEY ("hostId") REFERENCES "order"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
    );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "order" DROP CONSTRAINT "FK_7da1ab8b2a50017aa99ea0ffe2a"`);
    for (const column of ['hostId', 'notes', 'pins', 'openBags', 'decorators', 'handGapMm', 'box'])
      await queryRunner.query(`ALTER TABLE "order" DROP COLUMN "${column}"`);
    await queryRunner.query(`ALTER TABLE "order_design" DROP COLUMN "spares"`);
  }
}
