import type { Plan } from '@kestfog/core';
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
  @Column({ type: 'jsonb' }) plan: Plan;
  @CreateDateColumn({ type: 'timestamptz' }) createdAt: Date;
}
