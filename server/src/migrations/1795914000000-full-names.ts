import type { MigrationInterface, QueryRunner } from 'typeorm';

interface Names {
  readonly hours: string;
  readonly dehydrator: string;
  readonly off: string;
  readonly carton: string;
  readonly cartonEach: string;
}
const EARLIER: Names = { hours: 'bench', dehydrator: 'box', off: 'boxOff', carton: 'packBox', cartonEach: 'boxEach' };
const FULL: Names = { hours: 'openingHours', dehydrator: 'dehydrator', off: 'dehydratorOff', carton: 'carton', cartonEach: 'cartonEach' };

/** A dehydrator was a box, opening hours were the bench, a carton was a pack box. */
export class FullNames1795914000000 implements MigrationInterface {
  name = 'FullNames1795914000000';

  public up(queryRunner: QueryRunner): Promise<void> {
    return renamed(queryRunner, EARLIER, FULL);
  }
  public down(queryRunner: QueryRunner): Promise<void> {
    return renamed(queryRunner, FULL, EARLIER);
  }
}

async function renamed(queryRunner: QueryRunner, from: Names, to: Names): Promise<void> {
  for (const column of ['hours', 'dehydrator'] as const)
    await queryRunner.query(`ALTER TABLE "order" RENAME COLUMN "${from[column]}" TO "${to[column]}"`);
  const places = [from.dehydrator, to.dehydrator];
  await queryRunner.query(
    `UPDATE "order" SET "pins" = (SELECT coalesce(jsonb_agg(CASE WHEN p->>'where' = $1 THEN p || jsonb_build_object('where', $2::text) ELSE p END), '[]')
      FROM jsonb_array_elements("pins") p)`,
    places,
  );
  await queryRunner.query(
    `UPDATE "run_event" SET "data" = "data" || jsonb_build_object('where', $2::text) WHERE "type" = 'carried' AND "data"->>'where' = $1`,
    places,
  );
  await queryRunner.query(`UPDATE "run_event" SET "type" = $2 WHERE "type" = $1`, [from.off, to.off]);
  await queryRunner.query(
    `UPDATE "kitchen" SET "kitchen" = ("kitchen" - '${from.dehydrator}' - '${from.carton}') || jsonb_strip_nulls(jsonb_build_object(
      '${to.dehydrator}', "kitchen"->'${from.dehydrator}', '${to.carton}', "kitchen"->'${from.carton}',
      'prices', CASE WHEN "kitchen"->'prices' IS NULL THEN NULL ELSE
        ("kitchen"->'prices') - '${from.cartonEach}' || jsonb_build_object('${to.cartonEach}', "kitchen"->'prices'->'${from.cartonEach}') END))`,
  );
}
