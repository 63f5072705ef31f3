import { Column, Entity, ManyToOne, PrimaryColumn, type Relation } from 'typeorm';
import { OrderEntity } from './order.entity.js';

/** What was really mixed and counted for one bag of an order, named by its colour and intended count. */
@Entity('bag')
export class BagEntity {
  @PrimaryColumn({ type: 'uuid' }) orderId: string;
  @PrimaryColumn({ type: 'text' }) colour: string;
  @PrimaryColumn({ type: 'double precision' }) seconds: number;
  @ManyToOne(() => OrderEntity, { onDelete: 'CASCADE' }) order: Relation<OrderEntity>;
  @Column({ type: 'double precision', nullable: true }) mixedG: number | null;
  @Column({ type: 'double precision', nullable: true }) countedS: number | null;
  @Column({ type: 'text', nullable: true }) word: string | null;
  /** counts its changes */
  @Column({ type: 'integer', default: 1 }) revision: number;
}
