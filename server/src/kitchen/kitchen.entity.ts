import type { Kitchen } from '@kestfog/core/wire';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One row: how the decorator counts, and what stands in the kitchen. */
@Entity('kitchen')
export class KitchenEntity {
  @PrimaryColumn({ type: 'integer' }) id: number;
  @Column({ type: 'jsonb' }) kitchen: Kitchen;
  /** counts its changes */
  @Column({ type: 'integer', default: 1 }) revision: number;
  /** the revision each of its fields was changed in last; those that were not since this is counted are missing */
  @Column({ type: 'jsonb', default: {} }) changedIn: Partial<Record<string, number>>;
}
