import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A lesson can be about a school, and comes back with it. */
export class LessonSchool1796601600000 implements MigrationInterface {
  name = 'LessonSchool1796601600000';

  public async up(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "lesson" ADD "school" text`);
  }

  public async down(queryRunner: QueryRunner): Promise<void> {
    await queryRunner.query(`ALTER TABLE "lesson" DROP COLUMN "school"`);
  }
}
