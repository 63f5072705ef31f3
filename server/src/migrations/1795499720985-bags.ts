import type { MigrationInterface, QueryRunner } from 'typeorm';

export class Bags1795499720985 implements MigrationInterface {
  name = 'Bags1795499720985';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `CREATE TABLE "bag" ("orderId" uuid NOT NULL, "colour" text NOT NULL, "seconds" double precision NOT NULL, "mixedG" double precision, "countedS" double precision, "word" text, CONSTRAINT "PK_45b3bc3ff3b905b7171bd2339ce" PRIMARY KEY ("orderId", "colour", "seconds"))`,
    );
    await queryRunner.query(
      `ALTER TABLE "bag" ADD CONSTRAINT "FK_3cd5c845a0590ea7431960b3dfb" FOREIGN KEY ("orderId") REFERENCES "order"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "bag" DROP CONSTRAINT "FK_3cd5c845a0590ea7431960b3dfb"`);
    await queryRunner.query(`DROP TABLE "bag"`);
  }
}
