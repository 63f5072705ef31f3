import { type Plan, planIndex, planUpToDate } from '@kestfog/core/formats';
import { Column, CreateDateColumn, Entity, Index, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { OrderEntity } from '../orders/order.entity.js';

export interface PlanSummary {
  /** ISO times */
  readonly startsAt: string;
  readonly endsAt: string;
  readonly handsOnS: number;
  readonly lateS: number;
  /** when the last pieces of each guest are lifted, by the guest's name */
  readonly lifts: Readonly<Record<string, string>>;
}

export function planSummary(plan: Plan): PlanSummary {
  const index = planIndex(plan);
  const at = (s: number) => new Date(index.msOf(s)).toISOString();
  const lifts = new Map<string, number>();
  for (const t of plan.tasks) {
    const design = t.kind === 'pack' ? index.designOf(t) : undefined;
    if (design?.pieces && design.for) lifts.set(design.for, Math.max(lifts.get(design.for) ?? 0, t.endS));
  }
  return {
    startsAt: at(plan.tasks[0]?.startS ?? 0),
    endsAt: at(plan.endS),
    handsOnS: plan.handsOnS,
    lateS: plan.late?.byS ?? 0,
    lifts: Object.fromEntries([...lifts].map(([guest, s]) => [guest, at(s)])),
  };
}

/** A stored plan is *the* plan: with the hash of what it was made from and the model that made it. */
@Entity('plan')
@Index('IDX_plan_order', ['orderId', 'createdAt'])
export class PlanEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'uuid' }) orderId: string;
  @ManyToOne(() => OrderEntity, { onDelete: 'CASCADE' }) order: Relation<OrderEntity>;
  @Column({ type: 'text' }) inputHash: string;
  @Column({ type: 'text' }) modelVersion: string;
  /** one kept by an earlier release is brought up to date as it is read */
  @Column({ type: 'jsonb', transformer: { to: (plan: Plan) => plan, from: planUpToDate } }) plan: Plan;
  /** its times, for lists; null where an earlier release kept it */
  @Column({ type: 'jsonb', nullable: true }) summary: PlanSummary | null;
  @CreateDateColumn({ type: 'timestamptz' }) createdAt: Date;
}
