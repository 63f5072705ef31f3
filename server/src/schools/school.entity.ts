import type { School } from '@kestfog/core';
import { Column, CreateDateColumn, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A school of the user's own, begun as a copy of another. */
@Entity('school')
export class SchoolEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'jsonb' }) school: Omit<School, 'id'>;
  @CreateDateColumn({ type: 'timestamptz' }) createdAt: Date;
}
