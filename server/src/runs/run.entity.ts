import type { RunEvent } from '@kestfog/core/bench';
import { Column, Entity, Index, ManyToOne, OneToMany, PrimaryColumn, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { OrderEntity } from '../orders/order.entity.js';
import { PlanEntity } from '../plans/plan.entity.js';

@Entity('run')
export class RunEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Index({ unique: true }) @Column({ type: 'uuid' }) orderId: string;
  @ManyToOne(() => OrderEntity, { onDelete: 'CASCADE' }) order: Relation<OrderEntity>;
  @Column({ type: 'uuid' }) planId: string;
  @ManyToOne(() => PlanEntity, { onDelete: 'CASCADE' }) plan: Relation<PlanEntity>;
  @Column({ type: 'timestamptz' }) startedAt: Date;
  @OneToMany(
    () => RunEventEntity,
    (e) => e.run,
  )
  events: Relation<RunEventEntity>[];
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
