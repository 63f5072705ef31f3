import type { StockUnit, StockUse } from '@kestfog/core/stock';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A thing the kitchen counts, and how much of it there is. */
@Entity('stock_thing')
export class StockThingEntity {
  /** "sugar", "gel navy", "tip round 2" */
  @PrimaryColumn({ type: 'text' }) item: string;
  @Column({ type: 'text' }) what: string;
  @Column({ type: 'text' }) unit: StockUnit;
  @Column({ type: 'boolean' }) usedUp: boolean;
  @Column({ type: 'double precision' }) amount: number;
  /** counts its changes */
  @Column({ type: 'integer', default: 1 }) revision: number;
}

/** What a run used, taken off once; kept as plain ids and words, since sugar that is gone outlives its order. */
@Entity('stock_booking')
export class StockBookingEntity {
  @PrimaryColumn({ type: 'uuid' }) runId: string;
  @Column({ type: 'timestamptz' }) at: Date;
  @Column({ type: 'text' }) orderName: string;
  /** what was really taken off: never more than there was */
  @Column({ type: 'jsonb' }) lines: StockUse[];
}
