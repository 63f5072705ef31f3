import { migratedSchool, type School } from '@kestfog/core/steps';
import { Column, CreateDateColumn, DeleteDateColumn, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A school of the user's own, begun as a copy of another. */
@Entity('school')
export class SchoolEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  /** one kept before every row was a parameter goes on meaning what it meant */
  @Column({
    type: 'jsonb',
    transformer: { to: (school: object) => school, from: (kept: Readonly<Record<string, unknown>>) => migratedSchool(kept) },
  })
  school: Omit<School, 'id'>;
  @CreateDateColumn({ type: 'timestamptz' }) createdAt: Date;
  /** counts its changes */
  @Column({ type: 'integer', default: 1 }) revision: number;
  /** when it was put into the trash */
  @DeleteDateColumn({ type: 'timestamptz' }) deletedAt: Date | null;
}
