import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLES = ['run', 'learned_run'];

/**
 * Of every wait it is kept how much of it had passed when it was found not to be enough, and when it was; before, only those were counted
 * that were certain. A wait that was counted goes on as the interval it was counted by.
 */
export class WaitsKnown1796428800000 implements MigrationInterface {
  name = 'WaitsKnown1796428800000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    for (const table of TABLES)
      await queryRunner.query(
        `UPDATE "${table}" SET "account" = jsonb_set("account", '{summary,honesty}', jsonb_build_object(
            'promised', "account"->'summary'->'honesty'->'promised',
            'waits', (SELECT coalesce(jsonb_agg(w.known), '[]') FROM (
              SELECT '[0, 1]'::jsonb AS known FROM generate_series(1, ("account"->'summary'->'honesty'->>'held')::int)
              UNION ALL SELECT '[1, null]'::jsonb FROM generate_series(1, ("account"->'summary'->'honesty'->>'failed')::int)) w)))
          WHERE "account"->'summary'->'honesty' ? 'held'`,
      );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    for (const table of TABLES)
      await queryRunner.query(
        `UPDATE "${table}" SET "account" = jsonb_set("account", '{summary,honesty}', (SELECT jsonb_build_object(
            'promised', "account"->'summary'->'honesty'->'promised',
            'held', count(*) FILTER (WHERE (w->>0)::float < 1 AND (w->>1)::float <= 1.1),
            'failed', count(*) FILTER (WHERE (w->>0)::float >= 1))
          FROM jsonb_array_elements("account"->'summary'->'honesty'->'waits') w))
          WHERE "account"->'summary'->'honesty' ? 'waits'`,
      );
  }
}
