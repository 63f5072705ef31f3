import type { RecordingKind } from '@kestfog/core/notebook';
import { Column, Entity, Index, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

/** Something learned, in the decorator's own words, and what it is about; it outlives its run and its order. */
@Entity('lesson')
export class LessonEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'timestamptz' }) at: Date;
  @Column({ type: 'text' }) text: string;
  /** the run it was written in; a plain id, since it outlives that */
  @Index('IDX_lesson_run') @Column({ type: 'uuid', nullable: true }) runId: string | null;
  /** what it comes back with: null where it is for any of them */
  @Column({ type: 'text', nullable: true }) design: string | null;
  @Column({ type: 'text', nullable: true }) step: string | null;
  /** by its label */
  @Column({ type: 'text', nullable: true }) school: string | null;
}

/** A photo or spoken words of an evening; it outlives its run and its order. */
@Entity('recording')
export class RecordingEntity {
  @PrimaryColumn({ type: 'uuid' }) id: string;
  @Index('IDX_recording_run') @Column({ type: 'uuid' }) runId: string;
  @Column({ type: 'timestamptz' }) at: Date;
  @Column({ type: 'text' }) kind: RecordingKind;
  /** what it is about, as a lesson's */
  @Column({ type: 'text', nullable: true }) design: string | null;
  @Column({ type: 'text', nullable: true }) step: string | null;
  @Column({ type: 'text', nullable: true }) school: string | null;
  @Column({ type: 'text' }) type: string;
  @Column({ type: 'integer' }) sizeBytes: number;
  /** read only where the file itself is asked for */
  @Column({ type: 'bytea', select: false }) file: Buffer;
}

/** A moment that was entered wrongly, put right; the log itself keeps what was said. */
@Entity('run_correction')
export class RunCorrectionEntity {
  @PrimaryColumn({ type: 'uuid' }) eventId: string;
  @Index('IDX_correction_run') @Column({ type: 'uuid' }) runId: string;
  @Column({ type: 'timestamptz' }) at: Date;
  /** what the log says */
  @Column({ type: 'timestamptz' }) was: Date;
}
