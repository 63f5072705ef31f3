import { Column, CreateDateColumn, Entity, PrimaryGeneratedColumn } from 'typeorm';

@Entity('design')
export class DesignEntity {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'text' }) name: string;
  /** the drawing as it was brought, checked before it was stored */
  @Column({ type: 'text' }) svg: string;
  @CreateDateColumn({ type: 'timestamptz' }) createdAt: Date;
}
