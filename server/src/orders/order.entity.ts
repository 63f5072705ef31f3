import type { Margin } from '@kestfog/core/drying';
import { type Decorator, HAND_GAP_MM, type OrderTray } from '@kestfog/core/formats';
import type { School } from '@kestfog/core/steps';
import type { OrderAir, OrderDehydrator, OrderFan, PinInput } from '@kestfog/core/wire';
import {
  Column,
  CreateDateColumn,
  DeleteDateColumn,
  Entity,
  Index,
  ManyToOne,
  OneToMany,
  PrimaryColumn,
  PrimaryGeneratedColumn,
  type Relation,
  UpdateDateColumn,
} from 'typeorm';
import { DesignEntity } from '../designs/design.entity.js';

@Entity('order')
@Index('IDX_order_pack_by', ['packBy', 'createdAt'])
export class OrderEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'text' }) name: string;
  @OneToMany(
    () => OrderDesignEntity,
    (d) => d.order,
    { cascade: true },
  )
  designs: Relation<OrderDesignEntity>[];
  @Column({ type: 'jsonb' }) trays: OrderTray[];
  @Column({ type: 'jsonb' }) openingHours: { from: string; to: string }[];
  @Column({ type: 'jsonb' }) air: OrderAir;
  @Column({ type: 'jsonb', nullable: true }) fan: OrderFan | null;
  @Column({ type: 'jsonb', nullable: true }) dehydrator: OrderDehydrator | null;
  @Column({ type: 'real', default: HAND_GAP_MM }) handGapMm: number;
  @Column({ type: 'jsonb', default: [{ id: 'me', pace: 1 }] }) decorators: Decorator[];
  @Column({ type: 'integer', nullable: true }) openBags: number | null;
  @Column({ type: 'jsonb', default: [] }) pins: PinInput[];
  @Column({ type: 'text', default: '' }) notes: string;
  @Index('IDX_order_host') @Column({ type: 'uuid', nullable: true }) hostId: string | null;
  @ManyToOne(() => OrderEntity, { onDelete: 'SET NULL', nullable: true }) host: Relation<OrderEntity> | null;
  /** the order its pieces are made for */
  @Index('IDX_order_transfers_for') @Column({ type: 'uuid', nullable: true }) transfersForId: string | null;
  @ManyToOne(() => OrderEntity, { onDelete: 'SET NULL', nullable: true }) transfersFor: Relation<OrderEntity> | null;
  @Column({ type: 'text' }) school: string;
  @Column({ type: 'text' }) margin: Margin;
  @Column({ type: 'timestamptz' }) packBy: Date;
  @Column({ type: 'jsonb', default: [] }) merges: { from: string; to: string }[];
  /** counts its changes */
  @Column({ type: 'integer', default: 1 }) revision: number;
  /** the school of one's own it was made with, kept where that was deleted */
  @Column({ type: 'jsonb', nullable: true }) schoolKept: School | null;
  @CreateDateColumn({ type: 'timestamptz' }) createdAt: Date;
  /** when it was put into the trash: nothing finds it then but who asks for the trash */
  @DeleteDateColumn({ type: 'timestamptz' }) deletedAt: Date | null;
  @UpdateDateColumn({ type: 'timestamptz' }) updatedAt: Date;
}

/** How many of which design. */
@Entity('order_design')
@Index('IDX_order_design_design', ['designId', 'version'])
export class OrderDesignEntity {
  @PrimaryColumn({ type: 'uuid' }) orderId: string;
  @PrimaryColumn({ type: 'integer' }) position: number;
  @ManyToOne(
    () => OrderEntity,
    (o) => o.designs,
    { onDelete: 'CASCADE' },
  )
  order: Relation<OrderEntity>;
  @Column({ type: 'uuid' }) designId: string;
  @ManyToOne(() => DesignEntity, { onDelete: 'RESTRICT' }) design: Relation<DesignEntity>;
  @Column({ type: 'integer' }) count: number;
  @Column({ type: 'integer', default: 0 }) spares: number;
  /** the version it was ordered with; the newer is offered, never slipped in */
  @Column({ type: 'integer', default: 1 }) version: number;
}
