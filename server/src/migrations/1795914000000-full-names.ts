import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A dehydrator was a box, opening hours were the bench, a carton was a pack box. */
export class FullNames1795914000000 implements MigrationInterface {
  name = 'FullNames1795914000000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await this.rename(queryRunner, ['bench', 'openingHours'], ['box', 'dehydrator']);
    await this.pins(queryRunner, 'box', 'dehydrator');
    await queryRunner.query(`UPDATE "run_event" SET "type" = 'dehydratorOff' WHERE "type" = 'boxOff'`);
    await this.carried(queryRunner, 'box', 'dehydrator');
    await queryRunner.query(
      `UPDATE "kitchen" SET "kitchen" = ("kitchen" - 'box' - 'packBox') || jsonb_strip_nulls(jsonb_build_object('dehydrator', "kitchen"->'box',
        'carton', "kitchen"->'packBox', 'prices', CASE WHEN "kitchen"->'prices' IS NULL THEN NULL ELSE
        ("kitchen"->'prices') - 'boxEach' || jsonb_build_object('cartonEach', "kitchen"->'prices'->'boxEach') END))`,
    );
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await this.rename(queryRunner, ['openingHours', 'bench'], ['dehydrator', 'box']);
    await this.pins(queryRunner, 'dehydrator', 'box');
    await queryRunner.query(`UPDATE "run_event" SET "type" = 'boxOff' WHERE "type" = 'dehydratorOff'`);
    await this.carried(queryRunner, 'dehydrator', 'box');
    await queryRunner.query(
      `UPDATE "kitchen" SET "kitchen" = ("kitchen" - 'dehydrator' - 'carton') || jsonb_strip_nulls(jsonb_build_object('box', "kitchen"->'dehydrator',
        'packBox', "kitchen"->'carton', 'prices', CASE WHEN "kitchen"->'prices' IS NULL THEN NULL ELSE
        ("kitchen"->'prices') - 'cartonEach' || jsonb_build_object('boxEach', "kitchen"->'prices'->'cartonEach') END))`,
    );
  }

  private async rename(queryRunner: QueryRunner, ...columns: (readonly [string, string])[]): Promise<void> {
    for (const [from, to] of columns) await queryRunner.query(`ALTER TABLE "order" RENAME COLUMN "${from}" TO "${to}"`);
  }
  private async pins(queryRunner: QueryRunner, from: string, to: string): Promise<void> {
    await queryRunner.query(
      `UPDATE "order" SET "pins" = (SELECT coalesce(jsonb_agg(CASE WHEN p->>'where' = $1 THEN p || jsonb_build_object('where', $2::text) ELSE p END), '[]')
        FROM jsonb_array_elements("pins") p)`,
      [from, to],
    );
  }
  private async carried(queryRunner: QueryRunner, from: string, to: string): Promise<void> {
    await queryRunner.query(
      `UPDATE "run_event" SET "data" = "data" || jsonb_build_object('where', $2::text) WHERE "type" = 'carried' AND "data"->>'where' = $1`,
      [from, to],
    );
  }
}
