import {
  type ExportedRun,
  foldRun,
  isObservation,
  type RunEvent,
  type RunState,
  type StoredEvent,
  whyNotUndone,
} from '@kestfog/core/bench';
import { type Plan, planIndex } from '@kestfog/core/formats';
import type { RunListItem, RunView } from '@kestfog/core/wire';
import { msg } from '@kestfog/core/words';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import PQueue from 'p-queue';
import { type EntityManager, IsNull, MoreThan, Not, Repository } from 'typeorm';
import { KitchenService } from '../kitchen/kitchen.service.js';
import { OrderEntity } from '../orders/order.entity.js';
import { OrderLoader } from '../orders/order-loader.service.js';
import { OrdersService } from '../orders/orders.service.js';
import { PlansService } from '../plans/plans.service.js';
import { Clock } from '../platform/clock.js';
import { notFound, Refusal } from '../platform/errors.js';
import { Notices } from '../platform/notices.js';
import { checkedBody } from './check-event.js';
import { RunEntity, RunEventEntity } from './run.entity.js';
import type { RunEventDto } from './run-event.dto.js';
import { RunFactsService } from './run-facts.service.js';
import { toStored } from './stored-event.js';

const inTrash = () =>
  new Refusal(404, 'run-deleted', msg`This run was put into the trash: put it back, under Orders and Trash, to go on with it.`);
/** Events that make new tasks or count waits anew. */
const changesWhatIsThere = (e: RunEvent): boolean => e.type === 'defect' || e.type === 'windowShut' || isObservation(e);

/** Nothing heard of a run for so long, nobody is at it any more: *assumed*, a night and a day beyond it. */
const LEFT_AFTER_MS = 36 * 3_600_000;

@Injectable()
export class RunsService {
  private readonly lines = new Map<string, PQueue>();

  constructor(
    @InjectRepository(RunEntity) private readonly runs: Repository<RunEntity>,
    @InjectRepository(RunEventEntity) private readonly events: Repository<RunEventEntity>,
    private readonly orders: OrdersService,
    private readonly loader: OrderLoader,
    private readonly plans: PlansService,
    private readonly kitchen: KitchenService,
    private readonly facts: RunFactsService,
    private readonly notices: Notices,
    private readonly clock: Clock,
  ) {}

  /** Begins work on an order with its latest plan; a second call finds the run that is there. */
  async begin(orderId: string): Promise<RunView> {
    const known = await this.runs.findOneBy({ orderId });
    if (known) return this.view(known.id);
    const loaded = await this.orders.loaded(orderId);
    const { plan } = loaded;
    if (!plan) throw new Refusal(404, 'no-plan', msg`This order has no plan yet: plan it first.`);
    const stale = () => new Refusal(409, 'stale-plan', msg`The order has changed since it was planned: plan it again first.`);
    if (await this.loader.isStale(loaded)) throw stale();
    const { recipe } = await this.kitchen.kept();
    await this.runs.manager.transaction(async (m) => {
      // Nothing of it may change between the look and the first step: who changes an order, or joins its bench, waits here.
      await this.orders.hold(m, [orderId]);
      const now = await m.findOneBy(OrderEntity, { id: orderId });
      const guests = await m.find(OrderEntity, { where: { hostId: orderId }, select: { id: true, revision: true } });
      const kept = new Map(loaded.guests.map((g) => [g.id, g.revision]));
      if (
        !now ||
        now.revision !== loaded.order.revision ||
        guests.length !== kept.size ||
        guests.some((g) => kept.get(g.id) !== g.revision)
      )
        throw stale();
      await m
        .createQueryBuilder()
        .insert()
        .into(RunEntity)
        .values({ orderId, planId: plan.id, startedAt: new Date(this.clock.nowMs()), recipe })
        .orIgnore()
        .execute();
    });
    const made = await this.runs.findOneByOrFail({ orderId });
    return this.view(made.id);
  }

  async view(id: string): Promise<RunView> {
    const run = await this.runs.findOne({ where: { id }, relations: { plan: true, order: true }, withDeleted: true });
    if (!run) throw notFound('run');
    if (run.deletedAt) throw inTrash();
    return {
      id,
      orderId: run.orderId,
      orderName: run.order.name,
      plan: run.plan.plan,
      events: await this.eventsAfter(id, 0),
      serverNowMs: this.clock.nowMs(),
    };
  }

  async export(id: string): Promise<ExportedRun> {
    const { plan, events } = await this.view(id);
    return { format: 'kestfog-run/4', plan, events };
  }

  /** Runs that were begun and are not finished nor left, the latest first; or those in the trash, the last deleted first. */
  async list(state: 'going' | 'trash'): Promise<RunListItem[]> {
    await this.facts.upToDate();
    const going = {
      where: { lastSeq: MoreThan(0), finished: false, order: { deletedAt: IsNull() } },
      order: { startedAt: 'DESC' },
    } as const;
    const trash = { where: { deletedAt: Not(IsNull()) }, order: { deletedAt: 'DESC' }, withDeleted: true } as const;
    const found = await this.runs.find({ ...(state === 'going' ? going : trash), relations: { order: true } });
    const rows = state === 'going' ? await this.notLeft(found) : found;
    // Of an order in the trash nobody has to be called.
    return rows.flatMap((r) => ((r.order as OrderEntity | null) ? [listed(r)] : []));
  }

  /** Those of which something was heard lately: a run that was left in the middle must not call out on every page for ever. */
  private async notLeft(runs: readonly RunEntity[]): Promise<RunEntity[]> {
    const since = new Date(this.clock.nowMs() - LEFT_AFTER_MS);
    const heard = await Promise.all(runs.map((r) => this.events.existsBy({ runId: r.id, receivedAt: MoreThan(since) })));
    return runs.filter((_, i) => heard[i]);
  }

  /** Puts a run into the trash: its order can be changed, planned and begun anew, and nothing is learned from it any more. */
  async remove(id: string): Promise<void> {
    await this.facts.upToDate();
    if (!(await this.runs.softDelete({ id })).affected) throw notFound('run');
  }

  /** Takes it out of the trash, where no other was begun meanwhile. */
  async restore(id: string): Promise<RunView> {
    const known = await this.runs.findOne({ where: { id, deletedAt: Not(IsNull()) }, withDeleted: true });
    if (!known) throw notFound(msg`run in the trash`);
    await this.runs.manager.transaction(async (m) => {
      await this.orders.hold(m, [known.orderId]);
      if (await m.existsBy(RunEntity, { orderId: known.orderId }))
        throw new Refusal(409, 'run-begun', msg`Work on this order was begun anew meanwhile: put that run into the trash first.`);
      await m.restore(RunEntity, { id });
    });
    return this.view(id);
  }

  /** Deletes what lies in the trash, for good, with all that was logged. */
  async removeForGood(id: string): Promise<void> {
    if (!(await this.runs.delete({ id, deletedAt: Not(IsNull()) })).affected) throw notFound(msg`run in the trash`);
  }

  async exists(id: string): Promise<boolean> {
    return this.runs.existsBy({ id });
  }

  async eventsAfter(runId: string, seq: number): Promise<StoredEvent[]> {
    const rows = await this.events.find({ where: { runId, seq: MoreThan(seq) }, order: { seq: 'ASC' } });
    return rows.map(toStored);
  }

  /**
   * Adds one event. Answered only after it is committed; a repeated id counts once; a gap in a device's own numbers is
   * refused, since something it said is then missing; undoing what others built on is refused with the reason.
   */
  append(runId: string, dto: RunEventDto): Promise<StoredEvent> {
    return this.oneAtATime(runId, () => this.appendNow(runId, dto));
  }

  /** Taps of one run wait for each other here, before they take a connection each and leave none for other work. */
  private async oneAtATime<T>(runId: string, work: () => Promise<T>): Promise<T> {
    const line = this.lines.get(runId) ?? new PQueue({ concurrency: 1 });
    this.lines.set(runId, line);
    try {
      return (await line.add(work)) as T;
    } finally {
      if (line.size === 0 && line.pending === 0) this.lines.delete(runId);
    }
  }

  private async appendNow(runId: string, dto: RunEventDto): Promise<StoredEvent> {
    // Within the transaction nothing is asked on another connection: with all of them in appends nobody could go on.
    const known = await this.runs.findOne({ where: { id: runId }, withDeleted: true });
    if (!known) throw notFound('run');
    const { plan } = await this.plans.get(known.planId);
    const { stored, fresh } = await this.events.manager.transaction(async (m): Promise<{ stored: StoredEvent; fresh: boolean }> => {
      // The row lock puts events of one run in line; the order they get here is the order that counts.
      const run = await m.findOne(RunEntity, { where: { id: runId }, lock: { mode: 'pessimistic_write' }, withDeleted: true });
      if (!run) throw notFound('run');
      if (run.deletedAt) throw inTrash();
      const repeated = await m.findOneBy(RunEventEntity, { id: dto.id });
      if (repeated) {
        if (repeated.runId !== runId) throw new Refusal(409, 'event-id', msg`An event with this id belongs to another run.`);
        return { stored: toStored(repeated), fresh: false };
      }
      const last = await m.findOne(RunEventEntity, { where: { runId, deviceId: dto.deviceId }, order: { deviceSeq: 'DESC' } });
      const expected = (last?.deviceSeq ?? 0) + 1;
      if (dto.deviceSeq !== expected)
        throw new Refusal(
          409,
          'device-seq',
          msg`This device's event ${dto.deviceSeq} came where ${expected} was expected: reload the page to bring both together.`,
        );
      const event = await this.check(m, runId, plan, dto);
      const top = await m.findOne(RunEventEntity, { where: { runId }, order: { seq: 'DESC' } });
      const row = m.create(RunEventEntity, {
        runId,
        seq: (top?.seq ?? 0) + 1,
        id: event.id,
        deviceId: event.deviceId,
        deviceSeq: event.deviceSeq,
        at: new Date(event.atMs),
        receivedAt: new Date(this.clock.nowMs()),
        type: event.type,
        data: event.data,
      });
      await m.insert(RunEventEntity, row);
      await m.update(RunEntity, { id: runId }, { lastSeq: row.seq });
      await this.notices.tellOthers(m, { of: 'run', id: runId });
      return { stored: toStored(row), fresh: true };
    });
    if (fresh) this.notices.tellHere({ of: 'run', id: runId });
    return stored;
  }

  private async log(m: EntityManager, runId: string): Promise<StoredEvent[]> {
    return (await m.find(RunEventEntity, { where: { runId }, order: { seq: 'ASC' } })).map(toStored);
  }

  /** The event as the core's closed union knows it, or why it cannot be one. */
  private async check(m: EntityManager, runId: string, plan: Plan, dto: RunEventDto): Promise<RunEvent> {
    let folded: Promise<RunState> | undefined;
    const state = () => {
      folded ??= this.log(m, runId).then((events) => foldRun(plan, events));
      return folded;
    };
    const body = await checkedBody(dto, {
      // What was planned, or came to it at the bench: a cookie begun again has tasks of its own.
      task: async (id) => planIndex(plan).task(id) ?? planIndex((await state()).plan).task(id),
      hasTray: async (id) => plan.trays.some((t) => t.id === id),
      lot: async (id) => planIndex(plan).lot(id) ?? planIndex((await state()).plan).lot(id),
      whyNotUndone: async (id) => whyNotUndone(plan, (await state()).standing, id),
      lastSeq: async () => (await m.findOne(RunEventEntity, { where: { runId }, order: { seq: 'DESC' } }))?.seq ?? 0,
    });
    const event = { id: dto.id, deviceId: dto.deviceId, deviceSeq: dto.deviceSeq, atMs: dto.atMs, ...body } as RunEvent;
    // What cannot be folded would stop the bench on every device: it is not let in.
    // A reading of the air is an air like any other whatever was said before it: the whole log need not be folded for each of them.
    if (event.type === 'airRead') foldRun(plan, [event]);
    else if (changesWhatIsThere(event)) foldRun(plan, [...(await this.log(m, runId)), event]);
    return event;
  }
}

const listed = ({ id, orderId, order, startedAt, done, total }: RunEntity): RunListItem => ({
  id,
  orderId,
  orderName: order.name,
  startedAt: startedAt.toISOString(),
  done,
  total,
});
