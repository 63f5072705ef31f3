import type { ColourMix, LeftoverUse } from '@kestfog/core/wire';
import { Column, DeleteDateColumn, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

/** How a colour was mixed into a recipe, whatever order it was for. */
@Entity('colour_mix')
export class ColourMixEntity {
  @PrimaryColumn({ type: 'text', default: 'my icing' }) recipe: string;
  @PrimaryColumn({ type: 'text' }) colour: string;
  @Column({ type: 'double precision', nullable: true }) gelGPer100G: number | null;
  @Column({ type: 'jsonb' }) parts: ColourMix['parts'];
  @Column({ type: 'text' }) note: string;
  /** counts its changes */
  @Column({ type: 'integer', default: 1 }) revision: number;
}

/** Icing left over after an order. */
@Entity('leftover')
export class LeftoverEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'timestamptz' }) at: Date;
  @Column({ type: 'text' }) colour: string;
  @Column({ type: 'double precision' }) seconds: number;
  @Column({ type: 'double precision' }) grams: number;
  /** the order it was left from; kept as a plain id, since icing outlives its order */
  @Column({ type: 'uuid', nullable: true }) orderId: string | null;
  /** bags of later orders it went into */
  @Column({ type: 'jsonb', default: [] }) uses: LeftoverUse[];
  @Column({ type: 'boolean', default: false }) frozen: boolean;
  /** when it was last kneaded or stirred again */
  @Column({ type: 'timestamptz', nullable: true }) kneadedAt: Date | null;
  /** thrown away; it can be put back while it is here */
  @DeleteDateColumn({ type: 'timestamptz', select: false }) deletedAt: Date | null;
}
