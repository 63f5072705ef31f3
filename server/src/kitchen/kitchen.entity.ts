import type { Kitchen } from '@kestfog/core/wire';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One row: how the decorator counts, and what stands in the kitchen. */
@Entity('kitchen')
export class KitchenEntity {
  @PrimaryColumn({ type: 'integer' }) id: number;
  @Column({ type: 'jsonb' }) kitchen: Kitchen;
}
