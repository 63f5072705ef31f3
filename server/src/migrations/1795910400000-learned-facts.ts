import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What a finished run's looks were about is kept as facts; what was said of them until now stays as it was written. */
export class LearnedFacts1795910400000 implements MigrationInterface {
  name = 'LearnedFacts1795910400000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `UPDATE "learned_run" SET "touches" = (SELECT coalesce(jsonb_agg((t - 'reason') || jsonb_build_object('about',
        jsonb_build_object('kind', 'in-words', 'reason', t->'reason', 'consequence', ''))), '[]') FROM jsonb_array_elements("touches") t)
        WHERE "touches" IS NOT NULL`,
    );
  }

  /** Facts have no words here: only those that came as words go back to them. */
  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(
      `UPDATE "learned_run" SET "touches" = (SELECT coalesce(jsonb_agg((t - 'about') || jsonb_build_object('reason',
        coalesce(t->'about'->>'reason', ''))), '[]') FROM jsonb_array_elements("touches") t)
        WHERE "touches" IS NOT NULL`,
    );
  }
}
