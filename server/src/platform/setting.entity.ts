import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What the application remembers of itself. */
@Entity('setting')
export class SettingEntity {
  @PrimaryColumn({ type: 'text' }) key: string;
  @Column({ type: 'text' }) value: string;
}
