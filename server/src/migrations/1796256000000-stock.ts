import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What is in the house, and what runs took of it. */
export class Stock1796256000000 implements MigrationInterface {
  name = 'Stock1796256000000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `CREATE TABLE "stock_thing" ("item" text NOT NULL, "what" text NOT NULL, "unit" text NOT NULL, "usedUp" boolean NOT NULL, "amount" double precision NOT NULL, "revision" integer NOT NULL DEFAULT 1, PRIMARY KEY ("item"))`,
    );
    await queryRunner.query(
      `CREATE TABLE "stock_booking" ("runId" uuid NOT NULL, "at" TIMESTAMP WITH TIME ZONE NOT NULL, "orderName" text NOT NULL, "lines" jsonb NOT NULL, PRIMARY KEY ("runId"))`,
    );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`DROP TABLE "stock_booking"`);
    await queryRunner.query(`DROP TABLE "stock_thing"`);
  }
}
