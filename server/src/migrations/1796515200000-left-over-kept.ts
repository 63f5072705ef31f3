import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How left-over icing is kept; and what the accounts of deleted runs have not got: drawings of what was seen, and icing. */
export class LeftOverKept1796515200000 implements MigrationInterface {
  name = 'LeftOverKept1796515200000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "leftover" ADD "frozen" boolean NOT NULL DEFAULT false, ADD "kneadedAt" TIMESTAMP WITH TIME ZONE`);
    await queryRunner.query(
      `UPDATE "learned_run" SET "account" = jsonb_set(jsonb_set("account" || '{"drawings":[]}', '{summary,icing}', 'null'), '{summary,defects}',
          (SELECT coalesce(jsonb_agg(d || '{"partId":null}'), '[]') FROM jsonb_array_elements("account"->'summary'->'defects') d))
        WHERE "account" IS NOT NULL AND NOT "account" ? 'drawings'`,
    );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "leftover" DROP COLUMN "kneadedAt", DROP COLUMN "frozen"`);
    await queryRunner.query(
      `UPDATE "learned_run" SET "account" = jsonb_set(("account" - 'drawings') #- '{summary,icing}', '{summary,defects}',
          (SELECT coalesce(jsonb_agg(d - 'partId'), '[]') FROM jsonb_array_elements("account"->'summary'->'defects') d))
        WHERE "account" IS NOT NULL`,
    );
  }
}
