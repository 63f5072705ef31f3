import type { BenchTouch, RunEvent } from '@kestfog/core/bench';
import type { VisitPace } from '@kestfog/core/calibration';
import type { RunAccount } from '@kestfog/core/notebook';
import {
  Column,
  DeleteDateColumn,
  Entity,
  Index,
  ManyToOne,
  OneToMany,
  PrimaryColumn,
  PrimaryGeneratedColumn,
  type Relation,
} from 'typeorm';
import { OrderEntity } from '../orders/order.entity.js';
import { PlanEntity } from '../plans/plan.entity.js';

@Entity('run')
export class RunEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Index('IDX_run_order', { unique: true, where: '"deletedAt" IS NULL' }) @Column({ type: 'uuid' }) orderId: string;
  @ManyToOne(() => OrderEntity, { onDelete: 'CASCADE' }) order: Relation<OrderEntity>;
  @Index('IDX_run_plan') @Column({ type: 'uuid' }) planId: string;
  @ManyToOne(() => PlanEntity, { onDelete: 'CASCADE' }) plan: Relation<PlanEntity>;
  @Column({ type: 'timestamptz' }) startedAt: Date;
  /** name of the recipe its icing is mixed by; null of runs begun before it was kept */
  @Column({ type: 'text', nullable: true }) recipe: string | null;
  /** when it was put into the trash: work on its order can begin anew from then on */
  @DeleteDateColumn({ type: 'timestamptz' }) deletedAt: Date | null;
  @OneToMany(
    () => RunEventEntity,
    (e) => e.run,
  )
  events: Relation<RunEventEntity>[];
  /** of its latest event */
  @Column({ type: 'integer', default: 0 }) lastSeq: number;
  /** what follows from its log up to `factsSeq`, as `factsBy` folded it; asked of RunFacts, which brings it up to date */
  @Column({ type: 'text', nullable: true }) factsBy: string | null;
  @Column({ type: 'integer', nullable: true }) factsSeq: number | null;
  @Column({ type: 'integer', default: 0 }) done: number;
  @Column({ type: 'integer', default: 0 }) total: number;
  @Column({ type: 'boolean', default: false }) finished: boolean;
  /** when the last of what it makes is packed or lifted, as it was done or is meant to be */
  @Column({ type: 'timestamptz', nullable: true }) liftedAt: Date | null;
  /** what a finished run taught; null while it goes on */
  @Column({ type: 'jsonb', nullable: true, select: false }) taught: RunTaught | null;
  /** a finished run compared with its plan */
  @Column({ type: 'jsonb', nullable: true, select: false }) account: RunAccount | null;
}

/** What was found and how long it took, for learning. */
export interface RunTaught {
  readonly touches: BenchTouch[];
  readonly visits: VisitPace[];
}

/** One line of the bench's log; rows are only ever added. */
@Entity('run_event')
@Index(['runId', 'deviceId', 'deviceSeq'], { unique: true })
export class RunEventEntity {
  @PrimaryColumn({ type: 'uuid' }) runId: string;
  @PrimaryColumn({ type: 'integer' }) seq: number;
  @ManyToOne(
    () => RunEntity,
    (r) => r.events,
    { onDelete: 'CASCADE' },
  )
  run: Relation<RunEntity>;
  @Index({ unique: true }) @Column({ type: 'uuid' }) id: string;
  @Column({ type: 'uuid' }) deviceId: string;
  @Column({ type: 'integer' }) deviceSeq: number;
  @Column({ type: 'timestamptz' }) at: Date;
  @Column({ type: 'timestamptz' }) receivedAt: Date;
  @Column({ type: 'text' }) type: RunEvent['type'];
  @Column({ type: 'jsonb' }) data: RunEvent['data'];
}
