import type { MigrationInterface, QueryRunner } from 'typeorm';

export class WholeBench1795574400000 implements MigrationInterface {
  name = 'WholeBench1795574400000';

  /** Plans made before are those of the bench they were made for: one pair of hands, a fan at most. They are stale, and say so. */
  private static readonly OLD_PLANS = `
    UPDATE "plan" p SET "plan" = p."plan" || jsonb_build_object(
      'boxAir', NULL,
      'arrangement', '{"way":"as-listed","tried":[]}'::jsonb,
      'tasks', (SELECT coalesce(jsonb_agg(t || '{"by":"me"}' ORDER BY n), '[]') FROM jsonb_array_elements(p."plan"->'tasks') WITH ORDINALITY AS x(t, n)),
      'stays', (
        SELECT coalesce(jsonb_agg(s || jsonb_build_object('where', 'fan', 'forS', (s->>'endS')::numeric - (s->>'startS')::numeric) ORDER BY n), '[]')
        FROM jsonb_array_elements(p."plan"->'stays') WITH ORDINALITY AS x(s, n)),
      'designs', (
        SELECT coalesce(jsonb_agg(d || '{"spares":0,"packBy":null,"for":null}' ORDER BY n), '[]')
        FROM jsonb_array_elements(p."plan"->'designs') WITH ORDINALITY AS x(d, n)),
      'order', jsonb_build_object(
        'format', 'kestfog-order/1', 'epoch', p."plan"->'epoch', 'handGapMm', 10, 'box', NULL, 'openBags', NULL,
        'pins', '[]'::jsonb, 'bags', '[]'::jsonb, 'merges', '[]'::jsonb, 'decorators', '[{"id":"me","pace":1}]'::jsonb,
        'bench', p."plan"->'bench', 'margin', p."plan"->'margin', 'packBy', p."plan"->'packBy', 'factors', p."plan"->'factors',
        'air', jsonb_build_object('tempC', p."plan"#>'{air,tempC}', 'airMPerS', p."plan"#>'{air,airMPerS}',
          'humidityPct', (p."plan"#>>'{air,humidityFrac}')::numeric * 100),
        'school', jsonb_build_object('id', p."plan"->'school', 'label', p."plan"->'school'),
        'fan', (SELECT o."fan" FROM "order" o WHERE o."id" = p."orderId"),
        'trays', (SELECT coalesce(jsonb_agg(t - 'lots' ORDER BY n), '[]') FROM jsonb_array_elements(p."plan"->'trays') WITH ORDINALITY AS x(t, n)),
        'designs', (
          SELECT coalesce(jsonb_agg(jsonb_build_object('file', d->'file', 'count', d->'count', 'spares', 0, 'packBy', NULL, 'for', NULL) ORDER BY n), '[]')
          FROM jsonb_array_elements(p."plan"->'designs') WITH ORDINALITY AS x(d, n))))
    WHERE NOT (p."plan" ? 'order')`;

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
    await queryRunner.query(WholeBench1795574400000.OLD_PLANS);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "order" DROP CONSTRAINT "FK_7da1ab8b2a50017aa99ea0ffe2a"`);
    for (const column of ['hostId', 'notes', 'pins', 'openBags', 'decorators', 'handGapMm', 'box'])
      await queryRunner.query(`ALTER TABLE "order" DROP COLUMN "${column}"`);
    await queryRunner.query(`ALTER TABLE "order_design" DROP COLUMN "spares"`);
  }
}
