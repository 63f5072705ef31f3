import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The log keeps what a finger found, not when to look again: that follows from it. */
export class Looks1795903200000 implements MigrationInterface {
  name = 'Looks1795903200000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `UPDATE "run_event" SET "data" = jsonb_build_object('taskId', "data"->'taskId', 'cookie', NULL, 'part', NULL, 'state', NULL,
        'found', CASE "type" WHEN 'stillWet' THEN 'not-yet' ELSE 'reached' END), "type" = 'touched'
        WHERE "type" IN ('stillWet', 'crustedAlready')`,
    );
  }

  /**
   * When to look again is not kept any more: at once. What was found to have gone past is left out, since the earlier log knew no such
   * thing.
   */
  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `UPDATE "run_event" SET "type" = CASE "data"->>'found' WHEN 'not-yet' THEN 'stillWet' ELSE 'crustedAlready' END,
        "data" = jsonb_build_object('taskId', "data"->'taskId') || CASE "data"->>'found' WHEN 'not-yet' THEN '{"untilS":0}'::jsonb ELSE '{}'::jsonb END
        WHERE "type" = 'touched' AND "data"->>'found' <> 'past'`,
    );
    await queryRunner.query(`UPDATE "run_event" SET "type" = 'boxOff', "data" = '{}' WHERE "type" = 'touched'`);
  }
}
