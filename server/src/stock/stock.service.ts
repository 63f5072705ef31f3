import type { StockUse } from '@kestfog/core/stock';
import type { StockItem, StockView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { type EntityManager, In, Repository } from 'typeorm';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal } from '../platform/errors.js';
import { once } from '../platform/once.js';
import { keptOnTop } from '../platform/revisions.js';
import { RunEntity } from '../runs/run.entity.js';
import { StockBookingEntity, StockThingEntity } from './stock.entities.js';

/** So many things are counted at most: *assumed*, well beyond what a kitchen has. */
const MOST_THINGS = 500;

/** What is in the house, and what runs took of it. */
@Injectable()
export class StockService {
  constructor(
    @InjectRepository(StockThingEntity) private readonly things: Repository<StockThingEntity>,
    @InjectRepository(StockBookingEntity) private readonly bookings: Repository<StockBookingEntity>,
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    private readonly clock: Clock,
  ) {}

  async kept(): Promise<StockView> {
    const [items, bookings] = await Promise.all([
      this.things.find({ order: { what: 'ASC' } }),
      this.bookings.find({ order: { at: 'DESC' }, take: 200 }),
    ]);
    return { items, bookings: bookings.map((b) => ({ ...b, at: b.at.toISOString() })) };
  }

  async keep({ item, ...said }: Omit<StockItem, 'revision'>, basedOn: number | undefined): Promise<void> {
    const isNew = !(await this.things.existsBy({ item }));
    if (isNew && (await this.things.count()) >= MOST_THINGS)
      throw new Refusal(409, 'too-many-things', msg`The stock counts ${MOST_THINGS} things already: take one off the list first.`);
    await keptOnTop(
      this.things,
      StockThingEntity,
      { item },
      said,
      basedOn,
      msg`How much of this there is was changed elsewhere meanwhile: look at both, and choose.`,
    );
  }

  async forget(item: string): Promise<void> {
    if (!(await this.things.delete({ item })).affected) throw notFound(msg`thing in the stock`);
  }

  /** Takes off what a run used, once; never more than there is, and only of what is counted. */
  async book(runId: string, wanted: readonly Pick<StockUse, 'item' | 'amount'>[]): Promise<void> {
    const run = await this.runs.findOne({ where: { id: runId }, relations: { order: true }, withDeleted: true });
    if (!run) throw notFound('run');
    await once(
      runId,
      (id) => this.bookings.existsBy({ runId: id }),
      () =>
        this.bookings.manager.transaction(async (m) => {
          const named = new Map(wanted.map((w) => [w.item, w.amount]));
          const lines: StockUse[] = [];
          for (const thing of await this.locked(m, [...named.keys()])) {
            const amount = Math.min(thing.amount, named.get(thing.item) as number);
            lines.push({ item: thing.item, what: thing.what, unit: thing.unit, amount });
            await m.update(StockThingEntity, { item: thing.item }, { amount: thing.amount - amount, revision: thing.revision + 1 });
          }
          await m.insert(StockBookingEntity, { runId, at: new Date(this.clock.nowMs()), orderName: run.order.name, lines });
        }),
    );
  }

  /** Puts back what was taken off for a run. */
  async putBack(runId: string): Promise<void> {
    await this.bookings.manager.transaction(async (m) => {
      const booking = await m.findOne(StockBookingEntity, { where: { runId }, lock: { mode: 'pessimistic_write' } });
      if (!booking) throw notFound(msg`booking of a run`);
      for (const thing of await this.locked(
        m,
        booking.lines.map((l) => l.item),
      )) {
        const amount = thing.amount + (booking.lines.find((l) => l.item === thing.item)?.amount ?? 0);
        await m.update(StockThingEntity, { item: thing.item }, { amount, revision: thing.revision + 1 });
      }
      await m.delete(StockBookingEntity, { runId });
    });
  }

  /** In one order for all, so that two bookings never wait for one another. */
  private locked(m: EntityManager, items: readonly string[]): Promise<StockThingEntity[]> {
    return m.find(StockThingEntity, { where: { item: In([...items]) }, order: { item: 'ASC' }, lock: { mode: 'pessimistic_write' } });
  }
}
