import { type Plan, planUpToDate } from '@kestfog/core/formats';
import { Column, CreateDateColumn, Entity, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { OrderEntity } from '../orders/order.entity.js';

/** A stored plan is *the* plan: with the hash of what it was made from and the model that made it. */
@Entity('plan')
export class PlanEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'uuid' }) orderId: string;
  @ManyToOne(() => OrderEntity, { onDelete: 'CASCADE' }) order: Relation<OrderEntity>;
  @Column({ type: 'text' }) inputHash: string;
  @Column({ type: 'text' }) modelVersion: string;
  /** one kept by an earlier release is brought up to date as it is read */
  @Column({ type: 'jsonb', transformer: { to: (plan: Plan) => plan, from: planUpToDate } }) plan: Plan;
  @CreateDateColumn({ type: 'timestamptz' }) createdAt: Date;
}
