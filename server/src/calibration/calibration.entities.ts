import type { BenchTouch } from '@kestfog/core/bench';
import type { VisitPace } from '@kestfog/core/calibration';
import type { DryingState } from '@kestfog/core/drying';
import type { RunAccount } from '@kestfog/core/notebook';
import { Column, DeleteDateColumn, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

/** A weighed step: so much icing at one count, so much water, counted again. */
@Entity('thinning_step')
export class ThinningStepEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'timestamptz' }) at: Date;
  @Column({ type: 'text' }) recipe: string;
  @Column({ type: 'double precision' }) grams: number;
  @Column({ type: 'double precision' }) addedG: number;
  @Column({ type: 'double precision' }) fromS: number;
  @Column({ type: 'double precision' }) toS: number;
  /** taken away; it can be put back while it is here */
  @DeleteDateColumn({ type: 'timestamptz', select: false }) deletedAt: Date | null;
}

/** What a finger found, with the icing and the air it was found in. */
@Entity('touch')
export class TouchEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'timestamptz' }) at: Date;
  @Column({ type: 'text' }) state: DryingState;
  @Column({ type: 'double precision' }) seconds: number;
  @Column({ type: 'double precision' }) depthMm: number;
  @Column({ type: 'text' }) on: 'cookie' | 'parchment';
  @Column({ type: 'double precision' }) tempC: number;
  @Column({ type: 'double precision' }) humidityPct: number;
  @Column({ type: 'double precision' }) airMPerS: number;
  @Column({ type: 'double precision', nullable: true }) notYetMin: number | null;
  @Column({ type: 'double precision', nullable: true }) reachedMin: number | null;
  /** taken away; it can be put back while it is here */
  @DeleteDateColumn({ type: 'timestamptz', select: false }) deletedAt: Date | null;
}

/** What is kept of a run for learning alone. It outlives the run: no key ties the two. */
@Entity('learned_run')
export class LearnedRunEntity {
  @PrimaryColumn({ type: 'uuid', primaryKeyConstraintName: 'PK_learned_run' }) runId: string;
  @Column({ type: 'text' }) orderName: string;
  @Column({ type: 'timestamptz' }) startedAt: Date;
  /** what it taught, once its order was deleted; null while the run itself can be asked */
  @Column({ type: 'jsonb', nullable: true }) touches: BenchTouch[] | null;
  /** how long its visits took, likewise */
  @Column({ type: 'jsonb', nullable: true }) visits: VisitPace[] | null;
  /** its account against its plan, likewise; large, so it is read only where it is shown */
  @Column({ type: 'jsonb', nullable: true, select: false }) account: RunAccount | null;
  /** an evening of the demo that nobody worked: shown until there is a real one, and never learned from */
  @Column({ type: 'boolean', default: false }) simulated: boolean;
  /** nothing is learned from it */
  @Column({ type: 'boolean', default: false }) leftOut: boolean;
}
