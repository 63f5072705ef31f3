import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Every device that was let in has a name and a pass of its own, which can be taken from it. */
export class Devices1796860800000 implements MigrationInterface {
  name = 'Devices1796860800000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `CREATE TABLE "device" ("id" uuid NOT NULL, "name" text NOT NULL, "passSha256" text NOT NULL, "letInAt" TIMESTAMP WITH TIME ZONE NOT NULL, "seenAt" TIMESTAMP WITH TIME ZONE NOT NULL, CONSTRAINT "PK_device" PRIMARY KEY ("id"))`,
    );
    await queryRunner.query(`CREATE UNIQUE INDEX "IDX_device_passSha256" ON "device" ("passSha256")`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`DROP TABLE "device"`);
  }
}
