import { msg } from '@kestfog/core/words';
import { Injectable, Logger, type OnModuleDestroy, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DataSource } from 'typeorm';
import { OrdersService } from '../orders/orders.service.js';
import { Clock } from './clock.js';

const DAY_MS = 86_400_000;
/** So long what was deleted can be put back. */
export const TRASH_DAYS = 30;

/** Empties the trash of what has lain in it long enough: at the start, and once a day. */
@Injectable()
export class TrashService implements OnModuleInit, OnModuleDestroy {
  private readonly log = new Logger('trash');
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor(
    @InjectDataSource() private readonly db: DataSource,
    private readonly orders: OrdersService,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    const empty = () => void this.empty().catch((error: Error) => this.log.warn(msg`it could not be emptied: ${error.message}`));
    empty();
    this.timer = setInterval(empty, DAY_MS).unref();
  }
  onModuleDestroy(): void {
    clearInterval(this.timer);
  }

  async empty(): Promise<void> {
    const before = new Date(this.clock.nowMs() - TRASH_DAYS * DAY_MS);
    const orders: { id: string }[] = await this.db.query('SELECT "id" FROM "order" WHERE "deletedAt" < $1', [before]);
    for (const { id } of orders) await this.orders.removeForGood(id);
    for (const table of ['run', 'school', 'leftover', 'touch', 'thinning_step'])
      await this.db.query(`DELETE FROM "${table}" WHERE "deletedAt" < $1`, [before]);
    // What an order in the trash still uses goes with that.
    await this.db.query(
      'DELETE FROM "design" d WHERE d."deletedAt" < $1 AND NOT EXISTS (SELECT 1 FROM "order_design" od WHERE od."designId" = d."id")',
      [before],
    );
  }
}
