import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** A tablet or telephone that was let in on the kitchen's network. */
@Entity('device')
export class DeviceEntity {
  @PrimaryColumn({ type: 'uuid' }) id: string;
  /** as its people call it */
  @Column({ type: 'text' }) name: string;
  /** SHA-256 of its pass, hex: whoever reads the table cannot use it */
  @Index('IDX_device_passSha256', { unique: true })
  @Column({ type: 'text' })
  passSha256: string;
  @Column({ type: 'timestamptz' }) letInAt: Date;
  @Column({ type: 'timestamptz' }) seenAt: Date;
}
