import { type Design, type DesignDocument, designFormat, openDesign } from '@kestfog/core/design';
import {
  Column,
  CreateDateColumn,
  DeleteDateColumn,
  Entity,
  ManyToOne,
  PrimaryColumn,
  PrimaryGeneratedColumn,
  type Relation,
  UpdateDateColumn,
} from 'typeorm';
import type { DrawingSummary } from './drawing-worker.js';

const upToDate = (kept: DesignDocument): DesignDocument =>
  kept.format === `${designFormat.name}/${designFormat.version}` ? kept : openDesign(kept);

/** A design; its newest version is the one being worked on. */
@Entity('design')
export class DesignEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'text' }) name: string;
  @Column({ type: 'integer' }) version: number;
  @CreateDateColumn({ type: 'timestamptz' }) createdAt: Date;
  @UpdateDateColumn({ type: 'timestamptz' }) updatedAt: Date;
  /** when it was put into the trash */
  @DeleteDateColumn({ type: 'timestamptz' }) deletedAt: Date | null;
}

/** One version: an order keeps the one it was planned with, so a kept version never changes again. */
@Entity('design_version')
export class DesignVersionEntity {
  @PrimaryColumn({ type: 'uuid' }) designId: string;
  @PrimaryColumn({ type: 'integer' }) version: number;
  @ManyToOne(() => DesignEntity, { onDelete: 'CASCADE' }) design: Relation<DesignEntity>;
  /** one kept by an earlier release is brought up to date as it is read */
  @Column({ type: 'jsonb', transformer: { to: (document: DesignDocument) => document, from: upToDate } }) document: DesignDocument;
  /** how many edits the document has */
  @Column({ type: 'integer', default: 0 }) edits: number;
  /** what follows from the document, as the core of `derivedBy` has it; null until it is asked for again */
  @Column({ type: 'text', default: '' }) name: string;
  @Column({ type: 'text', nullable: true }) derivedBy: string | null;
  @Column({ type: 'jsonb', nullable: true, select: false }) drawing: Design | null;
  @Column({ type: 'jsonb', nullable: true }) summary: DrawingSummary | null;
}
